// What a hand can take at once, and where pitches lie. The rules are common practice.
#include "hand/candidates.h"
#include "hand/reach.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

const Instrument& guitar() {
    static const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    return instrument;
}

TEST(Reach, IsWhatAHandCanTakeAtOnce) {
    EXPECT_TRUE(playableAtOnce(guitar(), {40, 47, 52, 55, 59, 64})) << "an open grip";
    EXPECT_TRUE(playableAtOnce(guitar(), {45, 57, 69})) << "octaves";
    EXPECT_FALSE(playableAtOnce(guitar(), {40, 41})) << "E and F are both on string 6 alone";
    EXPECT_FALSE(playableAtOnce(guitar(), {40, 45, 50, 55, 59, 64, 67}))
        << "seven notes, six strings";
    EXPECT_FALSE(playableAtOnce(guitar(), {41, 84})) << "fret 1 and fret 20";
}

// E4 over the frets of a guitar in standard tuning, by the names of its strings.
TEST(Candidates, AreEveryPlaceOfAPitch) {
    EXPECT_THAT(
        candidatesFor(guitar(), 64),
        ElementsAre(
            Position{1, 0}, Position{2, 5}, Position{3, 9}, Position{4, 14}, Position{5, 19}));
    EXPECT_THAT(candidatesFor(guitar(), 39), ElementsAre()) << "below the lowest string";
}

// The octave harmonic of a string lies over its middle, the twelfth fret.
TEST(Candidates, OfAHarmonicAreItsNodes) {
    EXPECT_THAT(candidatesFor(guitar(), 76, true), testing::Contains(Position{1, 12}));
    EXPECT_THAT(candidatesFor(guitar(), 76, true),
                testing::Not(testing::Contains(Position{2, 17})));
}

} // namespace
} // namespace wirenote
