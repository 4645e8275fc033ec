// Recordings in which somebody talks, from the file to the notes.
#include "session/transcribe.h"
#include "session/workspace.h"

#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "support/lesson.h"
#include "support/scratch.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

using test::kPlayFrom_s;
using test::kTalkUntil_s;
using test::lesson;

int notesBefore(const Piece& piece, double time_s) {
    return static_cast<int>(std::ranges::count_if(
        piece.notes, [time_s](const Note& note) { return note.onset_s() < time_s; }));
}

TEST(Talk, MakesNoNotes) {
    const test::Scratch scratch;
    const auto piece = transcribe(lesson(scratch / ""), {}, {});
    ASSERT_TRUE(piece.ok());
    EXPECT_EQ(notesBefore(*piece, kTalkUntil_s), 0);
    EXPECT_EQ(piece->notes.size(), 24U);
    EXPECT_NEAR(piece->notes.front().onset_s(), kPlayFrom_s, 0.05);
    ASSERT_FALSE(piece->lead()->sound_spans.empty());
    EXPECT_EQ(piece->lead()->sound_spans.front().kind, SoundKind::Talk);
}

TEST(Talk, IsHeardWhereSomebodyAsksForIt) {
    const test::Scratch scratch;
    TranscribeOptions keep;
    keep.talk = Talk::Keep;
    const auto kept = transcribe(lesson(scratch / ""), keep, {});
    ASSERT_TRUE(kept.ok());
    EXPECT_GT(notesBefore(*kept, kTalkUntil_s), 3);
    EXPECT_EQ(kept->lead()->sound_spans.front().kind, SoundKind::Talk)
        << "and is told all the same";
}

TEST(Talk, IsKeptInPieceAndNotes) {
    const test::Scratch scratch;
    const auto piece = transcribe(lesson(scratch / ""), {}, {});
    ASSERT_TRUE(piece.ok());
    const auto again = readPieceJson(writePieceJson(*piece));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->lead()->sound_spans, piece->lead()->sound_spans);
    EXPECT_NE(writeNotesJson(*piece).find("\"kind\": \"talk\""), std::string::npos);
}

// A stretch heard anew says what is going on in it; the rest stays as it was said.
TEST(Talk, HeardInAStretchStaysElsewhere) {
    const test::Scratch scratch;
    auto piece = transcribe(lesson(scratch / ""), {}, {});
    ASSERT_TRUE(piece.ok());
    const TimeRange stretch{2.0, 4.0};
    const auto heard = hearLead(*piece, stretch, {}, {}, Talk::Keep);
    ASSERT_TRUE(heard.ok());
    PieceEditor editor(*piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.adoptHearing(*heard, stretch).ok());
    EXPECT_TRUE(checkPiece(*piece).ok());
    const auto& spans = piece->lead()->sound_spans;
    for (std::size_t i = 0; i + 1 < spans.size(); ++i)
        EXPECT_NEAR(spans[i].span.end_s, spans[i + 1].span.start_s, 1e-6);
    EXPECT_EQ(spans.back().kind == SoundKind::Talk, false);
    EXPECT_GE(notesBefore(*piece, kPlayFrom_s - 0.1), 1) << "what was marked is heard";
}

} // namespace
} // namespace wirenote
