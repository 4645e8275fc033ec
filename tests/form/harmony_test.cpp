#include "form/harmony.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::vector<std::string> namesOf(const Piece& piece) {
    std::vector<std::string> names;
    for (const ChordSpan& span : chordsOf(piece))
        names.push_back(chordText(span.chord));
    return names;
}

TEST(Harmony, StrummedChordsAreNamedOnceEach) {
    Piece piece = test::pieceOf({{0.00, 0.9, 48},
                                 {0.01, 0.9, 52},
                                 {0.02, 0.9, 55},
                                 {1.00, 1.9, 48},
                                 {1.01, 1.9, 52},
                                 {1.02, 1.9, 55},
                                 {2.00, 2.9, 45},
                                 {2.01, 2.9, 52},
                                 {2.02, 2.9, 57},
                                 {2.03, 2.9, 60}});
    EXPECT_EQ(namesOf(piece), (std::vector<std::string>{"C", "Am"}));
    const auto spans = chordsOf(piece);
    EXPECT_NEAR(spans[0].span.start_s, 0.0, 1e-9);
    EXPECT_LE(spans[0].span.end_s, 2.0);
    EXPECT_NEAR(spans[1].span.end_s, 2.9, 1e-9);
}

TEST(Harmony, NotesThatRingIntoEachOtherAreAChord) {
    Piece ringing =
        test::pieceOf({{0.0, 2.0, 48}, {0.25, 2.0, 55}, {0.5, 2.0, 60}, {0.75, 2.0, 64}});
    ASSERT_FALSE(namesOf(ringing).empty());
    EXPECT_EQ(namesOf(ringing).back(), "C");
    Piece line = test::pieceOf({{0.0, 0.24, 48}, {0.25, 0.49, 55}, {0.5, 0.74, 60}});
    EXPECT_TRUE(namesOf(line).empty()) << "one note after the other is none";
}

TEST(Harmony, AStrokeOverDampedStringsHasNoChord) {
    Piece piece = test::pieceOf({{0.0, 0.1, 48, {0, 0}, {Technique::GhostStroke}},
                                 {0.01, 0.1, 52, {0, 0}, {Technique::Dead}}});
    EXPECT_TRUE(chordsOf(piece).empty());
}

TEST(Harmony, NotesOutsideTheKeyAreTold) {
    // The scales of C, D and B flat major (any book).
    for (const int midi : {60, 62, 64, 65, 67, 69, 71})
        EXPECT_FALSE(outsideTheKey({0}, midi)) << midi;
    for (const int midi : {61, 63, 66, 68, 70})
        EXPECT_TRUE(outsideTheKey({0}, midi)) << midi;
    EXPECT_FALSE(outsideTheKey({2}, 66));
    EXPECT_TRUE(outsideTheKey({2}, 65));
    EXPECT_FALSE(outsideTheKey({-2}, 63));
    EXPECT_TRUE(outsideTheKey({-2}, 64));
}

} // namespace
} // namespace wirenote
