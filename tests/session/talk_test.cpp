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

// Nothing but talk: no invented tab, and it is known why.
TEST(Talk, AllTheWayLeavesTheTabEmpty) {
    const test::Scratch scratch;
    const auto all = decodeSound(lesson(scratch / ""), 22050.0, {}, {});
    ASSERT_TRUE(all.ok());
    Sound talk = all->mono;
    talk.samples.resize(static_cast<std::size_t>((kTalkUntil_s - 0.3) * talk.rate_hz));
    ASSERT_TRUE(writeWav(scratch / "talk.wav", talk.view()).ok());
    const auto piece = transcribe(scratch / "talk.wav", {}, {});
    ASSERT_TRUE(piece.ok());
    EXPECT_TRUE(piece->notes.empty());
    EXPECT_TRUE(talkedThroughout(*piece));
    EXPECT_FALSE(talkedThroughout(*transcribe(lesson(scratch / ""), {}, {})));
}

// Where a person says that somebody talks over the playing, the voice makes fewer notes, and those
// that are played stay, believed less. The voice is synthetic, the instrument SIMULATED; that it is
// told without a word is measured with recorded voices (docs/accuracy.md).
TEST(Talk, OverPlayingItsNotesAreLeftOut) {
    const test::Scratch scratch;
    const auto both = decodeSound(lesson(scratch / ""), 22050.0, {}, {});
    ASSERT_TRUE(both.ok());
    const Sound& sound = both->mono;
    const auto from = static_cast<std::size_t>(kPlayFrom_s * sound.rate_hz);
    Sound over{std::vector<float>(sound.samples.begin() + static_cast<std::ptrdiff_t>(from),
                                  sound.samples.end()),
               sound.rate_hz};
    const double half_s = 0.5 * over.length_s();
    const auto half = static_cast<std::size_t>(half_s * sound.rate_hz);
    const auto power = [](auto begin, auto end) {
        double sum = 1e-12;
        for (auto at = begin; at != end; ++at)
            sum += static_cast<double>(*at) * *at;
        return sum / static_cast<double>(end - begin);
    };
    const auto talk_end =
        sound.samples.begin() + static_cast<std::ptrdiff_t>(kTalkUntil_s * sound.rate_hz);
    const auto level = static_cast<float>( // 9 dB below the playing
        std::sqrt(power(over.samples.begin(), over.samples.end()) /
                  power(sound.samples.begin(), talk_end)) *
        std::pow(10.0, -9.0 / 20.0));
    for (std::size_t i = 0; half + i < over.samples.size() && i < from; ++i)
        over.samples[half + i] += level * sound.samples[i];
    ASSERT_TRUE(writeWav(scratch / "over.wav", over.view()).ok());
    const auto under = [&](const Piece& p) {
        return std::ranges::count_if(p.notes, [&](const Note& n) { return n.onset_s() > half_s; });
    };
    const auto heardAs = [&](SoundKind kind) {
        TranscribeOptions options;
        options.said = {{{half_s, over.length_s()}, kind, 1.0, Basis::Set}};
        return transcribe(scratch / "over.wav", options, {});
    };
    const auto without = heardAs(SoundKind::Playing);
    const auto piece = heardAs(SoundKind::TalkOverPlaying);
    ASSERT_TRUE(without.ok() && piece.ok());
    EXPECT_LT(under(*piece), under(*without));
    EXPECT_GE(under(*piece), 8) << "of twelve that are played there";
}

} // namespace
} // namespace wirenote
