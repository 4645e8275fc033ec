// What a hand can hold, and what its movements cost. The rules are common practice.
#include "hand/candidates.h"
#include "hand/hand_costs.h"
#include "hand/reach.h"

#include <cmath>
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

LineNote noteAt(double onset_s, double length_s = 0.4) {
    LineNote note;
    note.onset_s = onset_s;
    note.offset_s = onset_s + length_s;
    return note;
}

double
step(const HandState& from, const HandState& to, double gap_s = 0.5, Slur slur = Slur::None) {
    LineNote second = noteAt(gap_s);
    second.slur = slur;
    return stepCost(HandModel{}, guitar(), noteAt(0.0, gap_s), from, second, to);
}

const HandState kFifth{{3, 5}, 5, Finger::Index};

TEST(HandCosts, StayingIsCheaperThanShiftingAndAFarShiftDearerThanANearOne) {
    const double stay = step(kFifth, {{2, 6}, 5, Finger::Middle});
    const double near = step(kFifth, {{2, 7}, 7, Finger::Index});
    const double far = step(kFifth, {{2, 12}, 12, Finger::Index});
    EXPECT_LT(stay, near);
    EXPECT_LT(near, far);
}

TEST(HandCosts, AHurriedShiftCostsMoreAndAnOpenStringGivesTimeForIt) {
    const HandState up{{2, 12}, 12, Finger::Index};
    EXPECT_GT(step(kFifth, up, 0.08), step(kFifth, up, 0.8));
    const HandState open{{3, 0}, 5, Finger::Open};
    EXPECT_LT(step(open, up), step(kFifth, up));
}

TEST(HandCosts, ASlurStaysOnItsString) {
    EXPECT_TRUE(std::isinf(step(kFifth, {{2, 7}, 5, Finger::Ring}, 0.2, Slur::Hammer)));
    const HandState above{{3, 7}, 5, Finger::Ring};
    EXPECT_LT(step(kFifth, above, 0.2, Slur::Hammer), step(above, kFifth, 0.2, Slur::Hammer))
        << "a hammer-on is done by a higher finger";
    EXPECT_LT(step(above, kFifth, 0.2, Slur::Pull), step(kFifth, above, 0.2, Slur::Pull))
        << "a pull-off uncovers a lower one";
}

TEST(HandCosts, OneFingerIsNotAtTwoFretsAtOnce) {
    const HandState index{{4, 5}, 5, Finger::Index};
    const HandState same{{3, 6}, 5, Finger::Index};
    const HandState next{{3, 6}, 5, Finger::Middle};
    EXPECT_GT(step(index, same, 0.0), step(index, next, 0.0) + 1.0);
}

TEST(HandCosts, EvidenceAgainstAStringIsAdded) {
    LineNote note = noteAt(0.0);
    const HandState state{{3, 5}, 5, Finger::Index};
    const double without = unaryCost(HandModel{}, guitar(), note, state);
    note.evidence = {{ReasonKind::StiffnessFits, Basis::Heard, {0, 0, 2.0, 0, 0, 0}},
                     {ReasonKind::CombFits, Basis::Heard, {0, 0, 0.5, 0, 0, 0}}};
    EXPECT_NEAR(unaryCost(HandModel{}, guitar(), note, state), without + 2.5, 1e-9);
}

TEST(HandCosts, ABendWantsTheRingFinger) {
    LineNote note = noteAt(0.0);
    note.drawn_semitones = 2.0;
    const auto cost = [&](Finger finger, int hand) {
        return unaryCost(HandModel{}, guitar(), note, {{3, 9}, hand, finger});
    };
    EXPECT_LT(cost(Finger::Ring, 7), cost(Finger::Index, 9));
    EXPECT_LT(cost(Finger::Ring, 7), cost(Finger::Middle, 8));
}

} // namespace
} // namespace wirenote
