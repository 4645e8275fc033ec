// A take's recording replaced by another copy: what was decided stays and moves with the clock.
#include "piece/edits.h"
#include "support/performances.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

Take copyOf(const Take& take, double length_s) {
    Take copy = take;
    copy.path = "/elsewhere/better.flac";
    copy.sha256 = std::string(64, 'b');
    copy.length_s = length_s;
    copy.has_picture = true;
    return copy;
}

// With two takes, the first of 20 s.
Piece twoTakes() {
    Piece piece = test::richPiece();
    piece.takes.resize(2);
    for (std::size_t i = 0; i < 2; ++i) {
        piece.takes[i].name = i == 0 ? "lead" : "other";
        piece.takes[i].path = i == 0 ? "/a/lead.mp3" : "/a/other.mp3";
        piece.takes[i].length_s = 20.0;
    }
    piece.takes[0].sound_spans = {{{0.0, 0.4}, SoundKind::Talk, 0.9, Basis::Heard},
                                  {{0.4, 20.0}, SoundKind::Playing, 0.9, Basis::Heard}};
    piece.takes[1].alignment.stretches = {{{0.5, 1.0}, {4.5, 9.0}}};
    piece.takes[1].notes = {{{1.0, 2.0}, 52, 0.9, {}}};
    piece.timeline.sections = {{"A", {0.5, 2.5}}};
    piece.chord_names = {{1.0, "Em"}};
    piece.notes[0].time.set(piece.notes[0].time.value);
    return piece;
}

TEST(AnotherCopy, MovesAllThatIsSaidInSecondsOfTheLeadingTake) {
    const Piece before = twoTakes();
    Piece piece = before;
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 30.0), {2.0, 1.0}, 6.0));
    ASSERT_TRUE(checkPiece(piece).ok());
    ASSERT_EQ(piece.notes.size(), before.notes.size());
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        EXPECT_DOUBLE_EQ(piece.notes[i].onset_s(), before.notes[i].onset_s() + 2.0);
        EXPECT_DOUBLE_EQ(piece.notes[i].loudness_db, before.notes[i].loudness_db + 6.0);
        EXPECT_EQ(piece.asPlayed().plans[i], before.asPlayed().plans[i]) << "decided, and stays";
    }
    EXPECT_TRUE(piece.notes[0].time.isSet());
    EXPECT_DOUBLE_EQ(piece.notes[0].curve[0].time_s, before.notes[0].curve[0].time_s + 2.0);
    EXPECT_DOUBLE_EQ(piece.notes[1].facts.back().span.start_s, 6.5);
    EXPECT_DOUBLE_EQ(piece.timeline.beats_s[0], before.timeline.beats_s[0] + 2.0);
    EXPECT_DOUBLE_EQ(piece.timeline.sections[0].span.start_s, 2.5);
    EXPECT_DOUBLE_EQ(piece.chord_names[0].at_s, 3.0);
    EXPECT_DOUBLE_EQ(piece.misses[0].time.start_s, before.misses[0].time.start_s + 2.0);
    EXPECT_DOUBLE_EQ(piece.takes[0].sound_spans[0].span.end_s, 2.4);
    EXPECT_EQ(piece.takes[0].path, "/elsewhere/better.flac");
    EXPECT_EQ(piece.takes[0].name, "lead");
    EXPECT_TRUE(piece.takes[0].has_picture);
    // The other take lies where it lay, by its own clock.
    EXPECT_EQ(piece.takes[1].notes, before.takes[1].notes);
    EXPECT_DOUBLE_EQ(piece.takes[1].alignment.toTake({4.5}).s, 5.0);
}

TEST(AnotherCopy, OfAnotherTakeLeavesTheNotesAlone) {
    const Piece before = twoTakes();
    Piece piece = before;
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(1, copyOf(piece.takes[1], 30.0), {-0.5, 1.0}, 6.0));
    EXPECT_EQ(piece.notes, before.notes);
    EXPECT_EQ(piece.timeline, before.timeline);
    EXPECT_DOUBLE_EQ(piece.takes[1].notes[0].time.start_s, 0.5);
    EXPECT_DOUBLE_EQ(piece.takes[1].alignment.toTake({2.5}).s, 4.5);
}

// A take that ran on the clock of the piece lies where it lay.
TEST(AnotherCopy, OfATakeWithTheClockOfThePieceGivesItOneOfItsOwn) {
    Piece piece = twoTakes();
    piece.takes[1].alignment = {};
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(1, copyOf(piece.takes[1], 30.0), {2.0, 1.0}, 0.0));
    EXPECT_DOUBLE_EQ(piece.takes[1].alignment.toTake({3.0}).s, 5.0);
    EXPECT_TRUE(checkPiece(piece).ok());
}

TEST(AnotherCopy, ThatCutsAllOfAShortNoteLeavesAPieceThatCanBeWritten) {
    Piece piece = twoTakes();
    piece.notes[0].time.value = {0.5, 0.505};
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 20.0), {-0.51, 1.0}, 0.0));
    EXPECT_TRUE(checkPiece(piece).ok());
}

TEST(AnotherCopy, LosesWhatLiesOutsideOfIt) {
    Piece piece = twoTakes();
    const std::size_t before = piece.notes.size();
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 2.0), {-1.01, 1.0}, 0.0));
    ASSERT_TRUE(checkPiece(piece).ok());
    // The first note is gone, so are those from 3.01 s on; the one at 1.0 s begins with the copy.
    EXPECT_DOUBLE_EQ(piece.notes.front().onset_s(), 0.0);
    EXPECT_LT(piece.notes.back().onset_s(), 2.0);
    EXPECT_EQ(piece.notes.size(), before - 3);
    EXPECT_TRUE(piece.chord_names.empty());
    ASSERT_EQ(piece.takes[0].sound_spans.size(), 1U);
    EXPECT_EQ(piece.takes[0].sound_spans[0].span, (TimeRange{0.0, 2.0}));
    for (const Reading& reading : piece.readings)
        EXPECT_EQ(reading.plans.front().note, piece.notes.front().id);
}

TEST(AnotherCopy, ThatRunsSlowerSoundsLowerAndIsRefusedWhereNoTuningFits) {
    Piece piece = twoTakes();
    const double tempo = piece.timeline.tempo_bpm;
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 30.0), {0.0, 1.02}, 0.0));
    EXPECT_NEAR(piece.takes[0].reference.a4_hz, 440.0 / 1.02, 1e-9);
    EXPECT_NEAR(piece.timeline.tempo_bpm, tempo / 1.02, 1e-9);
    const Piece before = piece;
    EXPECT_FALSE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 30.0), {0.0, 2.0}, 0.0));
    EXPECT_FALSE(PieceEditor(piece, "").useCopy(7, copyOf(piece.takes[0], 30.0), {}, 0.0));
    EXPECT_EQ(piece, before);
}

// The demonstrations of a lesson keep their places.
TEST(AnotherCopy, KeepsWhatTheTakeShows) {
    Piece piece = test::richPiece();
    piece.takes.resize(1);
    piece.takes[0].length_s = 30.0;
    Demonstration itself;
    itself.span = {0.2, 8.0};
    itself.kind = DemonstrationKind::Piece;
    itself.moments = {{0.5, 0.5}, {7.0, 7.0}};
    Demonstration again;
    again.span = {10.0, 18.0};
    again.kind = DemonstrationKind::Part;
    again.moments = {{0.5, 10.5}, {4.0, 17.5}};
    piece.takes[0].demonstrations = {itself, again};
    ASSERT_TRUE(PieceEditor(piece, "").useCopy(0, copyOf(piece.takes[0], 30.0), {3.0, 1.0}, 0.0));
    EXPECT_TRUE(piece.takes[0].demonstrations[0].isItself());
    EXPECT_EQ(piece.takes[0].demonstrations[1].moments.front(), (SharedMoment{3.5, 13.5}));
    EXPECT_NEAR(piece.takes[0].demonstrations[1].tempoRatio(), 0.5, 1e-12);
}

} // namespace
} // namespace wirenote
