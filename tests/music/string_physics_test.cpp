#include "music/string_physics.h"

#include "music/pitch.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(StringPhysics, TensionOfAPlainStringMatchesPublishedTables) {
    // String makers' tension tables give 16.2 lbf (72.1 N) for plain steel .010 in at E4 on 25.5
    // in; the figure is quoted from memory.
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const double tension = tension_n(stringPhysics(guitar.string(1)), 0.648, hzFromMidi(64));
    EXPECT_NEAR(tension, 72.1, 2.0);
}

TEST(StringPhysics, StiffnessFollowsFletchersFormula) {
    // Worked by hand from B = π³·E·d⁴/(64·T·L²) (Fletcher 1964): E = 200 GPa, d = 0.254 mm, T = 72
    // N, L = 0.648 m.
    const StringBuild plain{3.98e-4, 0.254e-3, 200e9};
    EXPECT_NEAR(stiffness(plain, 72.0, 0.648), 1.334e-5, 0.01e-5);
}

TEST(StringPhysics, StiffnessDoublesEverySixFrets) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (int string = 1; string <= 6; ++string)
        EXPECT_NEAR(stiffnessAt(guitar, string, 6) / stiffnessAt(guitar, string, 0), 2.0, 1e-9);
}

TEST(StringPhysics, SamePitchOnAThickerStringIsStiffer) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    // E4: string 1 open, string 2 fret 5, string 3 fret 9.
    EXPECT_LT(stiffnessAt(guitar, 1, 0), stiffnessAt(guitar, 2, 5));
    EXPECT_LT(stiffnessAt(guitar, 2, 5), stiffnessAt(guitar, 3, 9));
}

TEST(StringPhysics, PartialsAreStretched) {
    EXPECT_DOUBLE_EQ(partial_hz(100.0, 0.0, 7), 700.0);
    EXPECT_NEAR(partial_hz(100.0, 1e-4, 10), 1000.0 * std::sqrt(1.01), 1e-9);
}

} // namespace
} // namespace wirenote
