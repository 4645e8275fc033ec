// Figures of several notes, from the notes alone.
#include "hearing/figures.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::vector<std::size_t> marked(const std::vector<Note>& notes, Technique technique) {
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < notes.size(); ++i)
        if (notes[i].has(technique))
            found.push_back(i);
    return found;
}

using Where = std::vector<std::size_t>;

TEST(Figures, AShortSlurredNoteIsAGraceALongerOneIsNot) {
    auto notes = test::pieceOf({{0.0, 0.06, 64},
                                {0.06, 0.6, 66, {0, 0}, {Technique::HammerOn}},
                                {1.0, 1.2, 64},
                                {1.2, 1.6, 66, {0, 0}, {Technique::HammerOn}},
                                {2.0, 2.06, 64},
                                {2.06, 2.16, 66, {0, 0}, {Technique::HammerOn}},
                                {3.0, 3.06, 64},
                                {3.06, 3.6, 66}})
                     .notes;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Grace), Where({0}));
}

TEST(Figures, ATrillGoesToAndFro) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 6; ++i)
        rows.push_back(
            {0.1 * i,
             0.1 * (i + 1),
             i % 2 == 0 ? 60 : 62,
             {0, 0},
             i == 0 ? std::vector<Technique>{} : std::vector<Technique>{Technique::HammerOn}});
    // A run of slurs that goes on upwards is none.
    for (int i = 0; i < 5; ++i)
        rows.push_back(
            {1.0 + 0.1 * i,
             1.0 + 0.1 * (i + 1),
             60 + 2 * i,
             {0, 0},
             i == 0 ? std::vector<Technique>{} : std::vector<Technique>{Technique::HammerOn}});
    auto notes = test::pieceOf(rows).notes;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Trill), Where({0, 1, 2, 3, 4, 5}));
    EXPECT_TRUE(marked(notes, Technique::Grace).empty());
}

TEST(Figures, RepeatedNotesAreATremoloWhenFastAndEven) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 8; ++i)
        rows.push_back({0.1 * i, 0.1 * i + 0.09, 64});
    for (int i = 0; i < 8; ++i) // quavers
        rows.push_back({2.0 + 0.25 * i, 2.2 + 0.25 * i, 64});
    auto notes = test::pieceOf(rows).notes;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Tremolo), Where({0, 1, 2, 3, 4, 5, 6, 7}));
}

TEST(Figures, DampedStringsInQuickSuccessionAreARake) {
    auto notes = test::pieceOf({{0.00, 0.03, 40, {0, 0}, {Technique::GhostStroke}},
                                {0.04, 0.07, 40, {0, 0}, {Technique::GhostStroke}},
                                {0.08, 0.11, 40, {0, 0}, {Technique::Dead}},
                                {0.12, 0.60, 67},
                                {1.00, 1.05, 40, {0, 0}, {Technique::GhostStroke}},
                                {1.25, 1.60, 67}})
                     .notes;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Rake), Where({0, 1, 2, 3}));
}

TEST(Figures, AChordStringAfterStringIsRolledAQuickStrumIsNot) {
    std::vector<test::Row> rows;
    const int chord[] = {48, 52, 55, 60};
    for (int i = 0; i < 4; ++i) // 40 ms apart, held
        rows.push_back({0.04 * i, 1.0, chord[i]});
    for (int i = 0; i < 4; ++i) // a stroke: 8 ms apart
        rows.push_back({1.5 + 0.008 * i, 2.5, chord[i]});
    for (int i = 0; i < 4; ++i) // semiquavers of an arpeggio
        rows.push_back({3.0 + 0.125 * i, 4.0, chord[i]});
    auto notes = test::pieceOf(rows).notes;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Roll), Where({0, 1, 2, 3}));
}

TEST(Figures, AnAccentStandsOutFromWhatIsUsual) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 20; ++i)
        rows.push_back({0.3 * i, 0.3 * i + 0.28, 60 + i % 3});
    auto notes = test::pieceOf(rows).notes;
    for (std::size_t i = 0; i < notes.size(); ++i)
        notes[i].loudness_db = -20.0 + 1.5 * static_cast<double>(i % 2);
    notes[7].loudness_db = -12.0;
    notes[12].loudness_db = -17.0; // a little louder is none
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Accent), Where({7}));
}

// Every fourth note is a bass, and basses are loud on this instrument.
TEST(Figures, ALowNoteThatIsAlwaysLoudIsNotAccented) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 32; ++i)
        rows.push_back({0.3 * i, 0.3 * i + 0.28, i % 4 == 0 ? 40 + i % 3 : 62 + i % 3});
    auto notes = test::pieceOf(rows).notes;
    for (std::size_t i = 0; i < notes.size(); ++i)
        notes[i].loudness_db = i % 4 == 0 ? -11.0 : -20.0 + 0.5 * static_cast<double>(i % 2);
    notes[18].loudness_db = -12.0;
    markFigures(notes);
    EXPECT_EQ(marked(notes, Technique::Accent), Where({18}));
}

TEST(Figures, AFewNotesSayNothingAboutWhatIsUsual) {
    auto notes = test::pieceOf({{0.0, 0.3, 60}, {0.4, 0.7, 62}, {0.8, 1.1, 64}}).notes;
    notes[1].loudness_db = 0.0;
    markFigures(notes);
    EXPECT_TRUE(marked(notes, Technique::Accent).empty());
    std::vector<Note> none;
    markFigures(none);
    EXPECT_TRUE(none.empty());
}

TEST(Figures, AnArpeggioThatIsLeftToSoundRingsALineDoesNot) {
    const std::vector<int> order{48, 55, 60, 64, 60, 55};
    std::vector<test::Row> ringing;
    std::vector<test::Row> line;
    for (int i = 0; i < 12; ++i) {
        const int midi = order[static_cast<std::size_t>(i) % order.size()];
        ringing.push_back({0.2 * i, 0.2 * i + 0.7, midi});
        line.push_back({0.2 * i, 0.2 * i + 0.19, midi});
    }
    auto left = test::pieceOf(ringing).notes;
    auto damped = test::pieceOf(line).notes;
    markLetRing(left);
    markLetRing(damped);
    EXPECT_EQ(marked(left, Technique::LetRing).size(), left.size());
    EXPECT_TRUE(marked(damped, Technique::LetRing).empty());
}

TEST(Figures, WhatIsDampedInAPassageIsNotLeftToRing) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 12; ++i)
        rows.push_back({0.2 * i, 0.2 * i + 0.7, 48 + 4 * (i % 4)});
    rows[5].techniques = {Technique::PalmMute};
    auto notes = test::pieceOf(rows).notes;
    markLetRing(notes);
    EXPECT_FALSE(notes[5].has(Technique::LetRing));
    EXPECT_EQ(marked(notes, Technique::LetRing).size(), notes.size() - 1);
}

TEST(Figures, ABassHeldUnderATuneIsNotLeftToRing) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 16; ++i) {
        if (i % 4 == 0)
            rows.push_back({0.3 * i, 0.3 * i + 1.15, 40});
        rows.push_back({0.3 * i + 0.001, 0.3 * i + 0.28, 64 + i % 3});
    }
    auto notes = test::pieceOf(rows).notes;
    markLetRing(notes);
    EXPECT_TRUE(marked(notes, Technique::LetRing).empty());
}

} // namespace
} // namespace wirenote
