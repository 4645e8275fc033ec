// Readings that depart from what was played, and the log of who decided what.
#include "piece/doubts.h"
#include "piece/edits.h"
#include "piece/in_reading.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr const char* kNow = "2026-01-01T00:00:00Z";

// Four notes on the second string, and a second reading of them.
Piece twoReadings() {
    Piece piece = test::pieceOf({{0.0, 0.4, 60, {2, 1}},
                                 {0.5, 0.9, 62, {2, 3}},
                                 {1.0, 1.4, 64, {2, 5}},
                                 {1.5, 1.9, 65, {2, 6}}});
    EXPECT_TRUE(PieceEditor(piece, kNow).addReading("other", "").ok());
    return piece;
}

TEST(InReading, LeavesOutAddsAndSoundsElsewhere) {
    Piece piece = twoReadings();
    Reading& other = piece.readings[1];
    other.plans[1].departure = {DepartureWhy::MayGo, true, 0, {}};
    other.plans[2].departure = {DepartureWhy::Person, false, -12, std::vector{Technique::Vibrato}};
    other.head.semitones = 3;
    Note more = piece.notes[0];
    more.id = piece.next_id++;
    more.time.value = {0.6, 0.8};
    more.pitch.value = 70;
    other.head.added.push_back({more, NotePlan{more.id, {}, {}, {}, 0}});
    other.head.added.front().plan.position.value = {1, 6};
    piece.readings[1].plans[0].position.value = {1, 0}; // off its pitch, which no check forbids
    ASSERT_TRUE(checkPiece(piece).ok()) << checkPiece(piece).error().message;
    EXPECT_FALSE(sameNotes(other));

    const Piece view = inReading(piece, 1);
    ASSERT_EQ(view.notes.size(), 4U);
    EXPECT_EQ(view.notes[0].midi(), 63);
    EXPECT_EQ(view.notes[1].id, more.id) << "in its place in time";
    EXPECT_EQ(view.notes[1].midi(), 70) << "what only this reading has is as it says";
    EXPECT_EQ(view.notes[2].midi(), 64 + 3 - 12);
    EXPECT_TRUE(view.notes[2].has(Technique::Vibrato));
    EXPECT_EQ(view.key, transposed(piece.key, 3));
    EXPECT_TRUE(checkPiece(view).ok());
    EXPECT_EQ(inReading(piece, 0).notes, piece.notes) << "as played stays";
}

TEST(InReading, TheFirstReadingNeverDeparts) {
    Piece piece = twoReadings();
    piece.readings[0].plans[0].departure = {DepartureWhy::Person, true, 0, {}};
    EXPECT_FALSE(checkPiece(piece).ok());
}

TEST(InReading, KeysMoveByFifths) {
    // The circle of fifths: a semitone up from C is D flat (five flats); from G, A flat.
    EXPECT_EQ(transposed({0}, 1).fifths, -5);
    EXPECT_EQ(transposed({1}, 1).fifths, -4);
    EXPECT_EQ(transposed({0}, 2).fifths, 2);
    EXPECT_EQ(transposed({-1}, -2).fifths, -3);
    EXPECT_EQ(transposed({4}, 12).fifths, 4);
    for (int fifths = -5; fifths <= 6; ++fifths)
        for (int up = -24; up <= 24; ++up) {
            const KeySignature there = transposed({fifths}, up);
            EXPECT_LE(std::abs(there.fifths), 6);
            EXPECT_EQ((7 * there.fifths - 7 * fifths - up) % 12, 0) << fifths << " " << up;
        }
}

// An edit of a view, put back.
Status fold(Piece& piece, const std::function<Status(PieceEditor&)>& edit) {
    const Piece before = inReading(piece, 1);
    Piece after = before;
    PieceEditor editor(after, kNow);
    if (const Status edited = edit(editor); !edited)
        return edited;
    return foldReading(before, after, piece, 1);
}

TEST(FoldReading, WhatIsEditedThereStaysThere) {
    Piece piece = twoReadings();
    piece.readings[1].head.semitones = 2;
    const std::vector<Note> played = piece.notes;
    const std::vector<NotePlan> plans = piece.asPlayed().plans;
    const NoteId first = piece.notes[0].id;
    NoteId added = 0;
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) { return editor.remove(first); }).ok());
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) {
                    return editor.setPitch(piece.notes[1].id, 66);
                }).ok());
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) {
                    return editor.toggleTechnique(piece.notes[2].id, Technique::Accent);
                }).ok());
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) {
                    const auto id = editor.add({2.0, 2.3}, 69, Position{1, 5});
                    added = id ? *id : 0;
                    return id ? Status{} : Status{id.error()};
                }).ok());
    EXPECT_EQ(piece.notes, played);
    EXPECT_EQ(piece.asPlayed().plans, plans);
    const Reading& other = piece.readings[1];
    EXPECT_TRUE(other.plans[0].departure.left_out);
    EXPECT_EQ(other.plans[0].departure.why, DepartureWhy::Person);
    EXPECT_EQ(other.plans[1].departure.semitones, 66 - 62 - 2);
    EXPECT_TRUE(other.plans[2].departure.techniques);
    ASSERT_EQ(other.head.added.size(), 1U);
    EXPECT_EQ(other.head.added[0].note.id, added);
    EXPECT_EQ(piece.log.back().reading, "other");
    EXPECT_TRUE(checkPiece(piece).ok());
    // What only it has is edited and taken away like any other.
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) { return editor.setPitch(added, 70); }).ok());
    EXPECT_EQ(piece.readings[1].head.added[0].note.midi(), 70);
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) { return editor.remove(added); }).ok());
    EXPECT_TRUE(piece.readings[1].head.added.empty());
}

TEST(FoldReading, WhenANoteSoundsBelongsToWhatWasPlayed) {
    Piece piece = twoReadings();
    const Piece before = piece;
    const Status moved = fold(piece, [&](PieceEditor& editor) {
        return editor.setTime(piece.notes[0].id, {0.1, 0.3});
    });
    EXPECT_FALSE(moved.ok());
    EXPECT_EQ(piece, before);
}

TEST(FoldReading, WhatIsSaidOfANoteHoldsForAllReadings) {
    Piece piece = twoReadings();
    ASSERT_TRUE(fold(piece, [&](PieceEditor& editor) {
                    return editor.setNeed(piece.notes[3].id, {Necessity::MustLand, 0.0, ""});
                }).ok());
    EXPECT_EQ(piece.notes[3].need.kind, Necessity::MustLand);
}

TEST(Blend, AStretchComesFromAnotherReadingAndSaysSo) {
    Piece piece = twoReadings();
    ASSERT_TRUE(PieceEditor(piece, kNow).addReading("blend", "").ok());
    piece.readings[1].plans[1].position.value = {3, 7};
    piece.readings[1].plans[2].departure = {DepartureWhy::MayGo, true, 0, {}};
    PieceEditor editor(piece, kNow, 2);
    ASSERT_TRUE(editor.blend({0.45, 1.2}, 1, "sits better").ok());
    const Reading& blend = piece.readings[2];
    EXPECT_EQ(blend.plans[0], piece.asPlayed().plans[0]);
    EXPECT_EQ(blend.plans[1].position.value, (Position{3, 7}));
    EXPECT_TRUE(blend.plans[2].departure.left_out);
    ASSERT_EQ(blend.head.origins.size(), 1U);
    EXPECT_EQ(blend.head.origins[0], (Origin{{0.45, 1.2}, "other", "sits better"}));
    // A part of it as played again: three stretches, the middle one from there.
    ASSERT_TRUE(editor.blend({0.6, 0.8}, 0, "").ok());
    ASSERT_EQ(piece.readings[2].head.origins.size(), 3U);
    EXPECT_EQ(piece.readings[2].head.origins[1].of, "as played");
    EXPECT_TRUE(checkPiece(piece).ok());
    EXPECT_FALSE(PieceEditor(piece, kNow, 0).blend({0.0, 1.0}, 1, "").ok()) << "what was played";
    piece.readings[1].head.semitones = 2;
    EXPECT_FALSE(PieceEditor(piece, kNow, 2).blend({0.0, 1.0}, 1, "").ok()) << "in another key";
}

TEST(DecisionLog, SaysFromWhatToWhatAndWhy) {
    Piece piece = twoReadings();
    piece.asPlayed().plans[0].position.runners_up = {{{3, 5}, 0.08}};
    piece.asPlayed().plans[0].position.basis = Basis::Heard;
    PieceEditor editor(piece, kNow);
    editor.because({"N. N.", SetWhy::Taste, "rings longer"});
    ASSERT_TRUE(editor.moveToString(piece.notes[0].id, 4).ok());
    const LogEntry& entry = piece.log.back();
    EXPECT_EQ(entry.who, "N. N.");
    EXPECT_EQ(entry.note, piece.notes[0].id);
    EXPECT_EQ(entry.from, "string 2, fret 1");
    EXPECT_EQ(entry.to, "string 4, fret 10");
    EXPECT_EQ(entry.evidence, "place heard, 90 %");
    EXPECT_EQ(entry.rejected, "string 3, fret 5 (8 %)");
    EXPECT_EQ(entry.why, SetWhy::Taste);
    EXPECT_EQ(entry.remark, "rings longer");
    EXPECT_EQ(piece.asPlayed().plans[0].position.setWhy(), SetWhy::Taste);
    // Said afterwards, of what is set only.
    PieceEditor later(piece, kNow);
    EXPECT_FALSE(later.sayWhy({piece.notes[1].id}, SetWhy::Memory).ok());
    ASSERT_TRUE(later.sayWhy({piece.notes[0].id}, SetWhy::Misheard).ok());
    EXPECT_EQ(piece.asPlayed().plans[0].position.setWhy(), SetWhy::Misheard);
    // What is deleted is said by what it was.
    ASSERT_TRUE(later.remove(piece.notes[1].id).ok());
    EXPECT_EQ(piece.log.back().from, "D4, string 2, fret 3");
}

TEST(Doubts, LeftOpenOnPurposeAreNotAskedAgain) {
    Piece piece = twoReadings();
    piece.asPlayed().plans[1].position.probability = 0.4;
    ASSERT_EQ(openDoubts(piece).size(), 1U);
    PieceEditor editor(piece, kNow);
    const NoteId note = piece.notes[1].id;
    ASSERT_TRUE(editor.leaveOpen(note, DoubtKind::Place, "check the record").ok());
    EXPECT_TRUE(openDoubts(piece).empty());
    ASSERT_EQ(leftOpen(piece).size(), 1U);
    EXPECT_EQ(leftOpen(piece)[0].left.word, "check the record");
    piece.notes[1].pitch.probability = 0.3;
    EXPECT_EQ(openDoubts(piece).size(), 1U) << "another doubt of the same note is asked";
    ASSERT_TRUE(editor.askAgain(note).ok());
    EXPECT_TRUE(leftOpen(piece).empty());
}

TEST(Papers, PinsAreOneABarAndInOrder) {
    Piece piece = twoReadings();
    PieceEditor editor(piece, kNow);
    EXPECT_FALSE(editor.pin(0, {1, 0, 0.1, 0.1}).ok());
    ASSERT_TRUE(editor.addPaper({"old edition", "old.pdf", TakeRights::Permitted, {}}).ok());
    ASSERT_TRUE(editor.pin(0, {5, 0, 0.1, 0.4}).ok());
    ASSERT_TRUE(editor.pin(0, {1, 0, 0.1, 0.2}).ok());
    ASSERT_TRUE(editor.pin(0, {5, 1, 0.3, 0.4}).ok());
    EXPECT_FALSE(editor.pin(0, {2, 0, 1.5, 0.4}).ok());
    ASSERT_EQ(piece.papers[0].pins.size(), 2U);
    EXPECT_EQ(piece.papers[0].pins[1], (PagePin{5, 1, 0.3, 0.4}));
    ASSERT_TRUE(editor.unpin(0, 1).ok());
    EXPECT_FALSE(editor.unpin(0, 1).ok());
    EXPECT_TRUE(checkPiece(piece).ok());
    ASSERT_TRUE(editor.removePaper(0).ok());
}

} // namespace
} // namespace wirenote
