#include "music/instrument.h"

#include "music/pitch.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Place {
    int string;
    int fret;
    const char* pitch;
};

void PrintTo(const Place& p, std::ostream* out) {
    *out << "string " << p.string << " fret " << p.fret;
}

// Facts of the fretboard in standard tuning: common practice.
class Fretboard : public ::testing::TestWithParam<Place> {};
TEST_P(Fretboard, SoundsAsEveryPlayerKnows) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const Place p = GetParam();
    EXPECT_EQ(guitar.midiAt({p.string, p.fret}), parsePitchName(p.pitch));
    EXPECT_EQ(guitar.fretFor(p.string, *parsePitchName(p.pitch)), p.fret);
}
INSTANTIATE_TEST_SUITE_P(Facts,
                         Fretboard,
                         ::testing::Values(Place{6, 3, "G2"},
                                           Place{6, 5, "A2"},
                                           Place{6, 7, "B2"},
                                           Place{5, 3, "C3"},
                                           Place{5, 5, "D3"},
                                           Place{4, 7, "A3"},
                                           Place{3, 2, "A3"},
                                           Place{3, 4, "B3"},
                                           Place{4, 4, "F#3"},
                                           Place{1, 5, "A4"},
                                           Place{2, 5, "E4"},
                                           Place{5, 11, "G#3"},
                                           Place{4, 6, "G#3"},
                                           Place{1, 10, "D5"}));

TEST(Instrument, CapoRaisesTheOpenStringsAndShortensTheNeck) {
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    ASSERT_TRUE(setCapo(guitar, 5).ok());
    // An E minor shape with the capo at fret 5 sounds A minor: common practice.
    EXPECT_EQ(guitar.midiAt({6, 0}), parsePitchName("A2"));
    EXPECT_EQ(guitar.highestFret(), guitar.frets - 5);
    EXPECT_FALSE(setCapo(guitar, 30).ok());
    EXPECT_FALSE(setCapo(guitar, -1).ok());
}

TEST(Instrument, TuningIsReadThickestFirst) {
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    ASSERT_TRUE(setTuning(guitar, "D2 A2 D3 G3 B3 E4").ok());
    EXPECT_EQ(guitar.string(6).open_midi, 38);
    EXPECT_EQ(tuningText(guitar), "D2 A2 D3 G3 B3 E4");
    const Instrument before = guitar;
    EXPECT_FALSE(setTuning(guitar, "E2 A2 D3").ok());
    EXPECT_FALSE(setTuning(guitar, "E2 A2 D3 G3 B3 X4").ok());
    EXPECT_EQ(guitar, before) << "a refused tuning must change nothing";
}

TEST(Instrument, NamesOfTheCommandLineAreRead) {
    for (const char* name : {"guitar", "guitar-7", "acoustic", "nylon", "bass", "bass-5"}) {
        const auto kind = parseInstrumentName(name);
        ASSERT_TRUE(kind.ok()) << name;
        EXPECT_EQ(instrumentName(*kind), name);
        EXPECT_TRUE(checkInstrument(standardInstrument(*kind)).ok());
    }
    EXPECT_FALSE(parseInstrumentName("banjo").ok());
    EXPECT_EQ(standardInstrument(InstrumentKind::Bass5).stringCount(), 5);
}

// Fret spacing on a 648 mm scale: fret 12 is half; frets 1–4 span 97 mm, 8–12 84 mm, 13–17 63 mm
// (common practice, from the nut side of the first to the last fret wire named).
TEST(FretPlaces, FollowTheTwelfthRootOfTwo) {
    EXPECT_NEAR(fretPlace_mm(648, 12), 324.0, 1e-9);
    EXPECT_NEAR(fretPlace_mm(648, 4) - fretPlace_mm(648, 1), 97.3, 0.5);
    EXPECT_NEAR(fretPlace_mm(648, 12) - fretPlace_mm(648, 8), 84.2, 0.5);
    EXPECT_NEAR(fretPlace_mm(648, 17) - fretPlace_mm(648, 13), 63.1, 0.5);
    // The luthier's rule of eighteen is the same thing: each fret takes 1/17.817 of what is left.
    EXPECT_NEAR(fretPlace_mm(648, 1), 648 / 17.817, 0.01);
}

// Where the first partials have their nodes, to the nearest fret: fret places by equal temperament
// (the octave at half the string, the twelfth at a third, two octaves at a quarter, the third above
// them at a fifth).
TEST(Harmonics, LieOverTheNodesOfTheString) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    struct Row {
        int above;
        int partial;
    };
    for (const Row& row : {Row{12, 2}, Row{19, 3}, Row{24, 4}, Row{28, 5}})
        for (const int fret : guitar.harmonicFrets(3, 55 + row.above)) {
            const double share = fretPlace_mm(guitar.scale_mm, fret) / guitar.scale_mm;
            const double nodes = share * row.partial;
            EXPECT_NEAR(nodes, std::round(nodes), 0.045 * row.partial)
                << row.partial << " " << fret;
            EXPECT_EQ(guitar.harmonicMidi({3, fret}), 55 + row.above) << fret;
        }
    EXPECT_EQ(guitar.harmonicFrets(3, 55 + 12), std::vector<int>{12});
    EXPECT_TRUE(guitar.harmonicFrets(3, 55 + 13).empty());
    EXPECT_TRUE(guitar.harmonicFrets(9, 67).empty()) << "there is no such string";
    EXPECT_EQ(guitar.harmonicMidi({3, 11}), -1);
    EXPECT_TRUE(guitar.sounds({3, 7}, 74, true));
    EXPECT_FALSE(guitar.sounds({3, 7}, 74, false));
    Instrument with_capo = guitar;
    ASSERT_TRUE(setCapo(with_capo, 2).ok());
    EXPECT_EQ(with_capo.harmonicFrets(3, 57 + 12), std::vector<int>{12}) << "counted from the capo";
}

} // namespace
} // namespace wirenote
