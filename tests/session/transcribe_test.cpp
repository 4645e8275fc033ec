#include "session/resolve.h"
#include "session/transcribe.h"

#include "piece/edits.h"

#include "demo/heron.h"
#include "form/lent_facts.h"
#include "media/sound_file.h"
#include "session/files.h"
#include "sounding/render.h"
#include "support/demo_files.h"
#include "support/matching.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Transcribe, TheDemoIsHeardNearlyWhole) {
    const DemoFiles& demo = test::demoFiles();
    const auto truth = readAny(demo.truth);
    const auto heard = readAny(demo.piece);
    ASSERT_TRUE(truth.ok() && heard.ok());
    const double f1 = 2.0 * static_cast<double>(test::matched(*truth, *heard)) /
                      static_cast<double>(truth->notes.size() + heard->notes.size());
    EXPECT_GE(f1, 0.97);
    EXPECT_NEAR(heard->lead()->reference.cents(), -6.0, 3.0);
    EXPECT_NEAR(heard->timeline.tempo_bpm, 92.0, 1.0);
    EXPECT_EQ(mediaStateOf(*heard->lead(), demo.piece), MediaState::Found);
    EXPECT_EQ(heard->lead()->path, "heron-at-low-water.wav") << "stored relative to the piece";
}

// The demo's tune on other instruments and tunings, simulated: the way holds for all of them.
class OnEveryInstrument : public ::testing::TestWithParam<InstrumentKind> {};
TEST_P(OnEveryInstrument, ALineIsHeard) {
    const test::Scratch scratch;
    Piece truth = standin::heronAtLowWater();
    truth.instrument = standardInstrument(GetParam());
    const int first_string = truth.instrument.isBass() ? 2 : 0;
    std::vector<Note> notes;
    std::vector<NotePlan> plans;
    for (std::size_t i = 0; i < truth.notes.size() && truth.notes[i].onset_s() < 12.0; ++i) {
        NotePlan plan = truth.asPlayed().plans[i];
        plan.position.value.string -=
            first_string; // a bass has the four thickest strings, an octave down
        if (!truth.instrument.hasString(plan.position.value.string))
            continue;
        Note note = truth.notes[i];
        note.pitch.value = truth.instrument.midiAt(plan.position.value);
        notes.push_back(note);
        plans.push_back(plan);
    }
    truth.notes = notes;
    truth.asPlayed().plans = plans;
    truth.lead()->length_s = 13.0;
    RenderOptions render;
    render.noise_db = -60.0;
    ASSERT_TRUE(writeWav(scratch / "t.wav", renderPiece(truth, render, {})->view()).ok());
    TranscribeOptions options;
    options.instrument = truth.instrument;
    const auto heard = transcribe(scratch / "t.wav", options, {});
    ASSERT_TRUE(heard.ok());
    const double f1 = 2.0 * static_cast<double>(test::matched(truth, *heard)) /
                      static_cast<double>(truth.notes.size() + heard->notes.size());
    EXPECT_GE(f1, 0.93);
    EXPECT_TRUE(checkPiece(*heard).ok());
}
INSTANTIATE_TEST_SUITE_P(Kinds,
                         OnEveryInstrument,
                         ::testing::Values(InstrumentKind::Guitar,
                                           InstrumentKind::Acoustic,
                                           InstrumentKind::Nylon,
                                           InstrumentKind::Bass));

TEST(Transcribe, WhatAPersonSaysIsTaken) {
    const DemoFiles& demo = test::demoFiles();
    TranscribeOptions options;
    options.a4_hz = 440.0;
    options.tempo_bpm = 46.0;
    options.metre = Metre{2, 4};
    options.plucking = PluckingTool::Fingers;
    const auto piece = transcribe(demo.take, options, {});
    ASSERT_TRUE(piece.ok());
    EXPECT_DOUBLE_EQ(piece->lead()->reference.a4_hz, 440.0);
    EXPECT_DOUBLE_EQ(piece->timeline.tempo_bpm, 46.0);
    EXPECT_EQ(piece->timeline.metre, (Metre{2, 4}));
    EXPECT_EQ(piece->asPlayed().plans[0].stroke.value, Stroke::P);
}

// Watching must not change what is heard; what appears on the way is close to it.
TEST(Transcribe, NotesAppearWhileTheTakeIsHeard) {
    const DemoFiles& demo = test::demoFiles();
    TranscribeOptions options;
    const auto unwatched = transcribe(demo.take, options, {});
    std::vector<NearMiss> shown;
    std::size_t calls = 0;
    options.so_far = [&](const std::vector<NearMiss>& notes) {
        shown.insert(shown.end(), notes.begin(), notes.end());
        ++calls;
    };
    const auto watched = transcribe(demo.take, options, {});
    ASSERT_TRUE(unwatched.ok() && watched.ok());
    EXPECT_EQ(watched->notes, unwatched->notes);
    EXPECT_GT(calls, 3U);
    std::size_t right = 0;
    for (const Note& note : watched->notes)
        right += std::ranges::any_of(shown, [&](const NearMiss& n) {
            return std::abs(n.time.start_s - note.onset_s()) < 0.05 && n.midi == note.midi() &&
                   n.place.string > 0;
        });
    EXPECT_GT(static_cast<double>(right), 0.7 * static_cast<double>(watched->notes.size()));
}

// What one repeat tells of the string holds for the others where it could not be measured; repeats
// that were played on different strings are left alone.
TEST(Repeats, ShareWhatTheirNotesSayOfTheString) {
    Piece piece = test::scalePiece(32); // four times the same bar
    const HeardStiffness stiff{-9.0, 0.05, false};
    piece.notes[3].ownSound().stiffness = stiff;
    piece.notes[11].ownSound().stiffness = {-9.03, 0.05, false};
    piece.notes[4].ownSound().stiffness = stiff; // once on a thin string, once on a thick one
    piece.notes[12].ownSound().stiffness = {-7.5, 0.05, false};
    EXPECT_EQ(poolStiffness(piece), 2);
    for (const std::size_t i : {19U, 27U}) {
        EXPECT_TRUE(piece.notes[i].heard().stiffness.borrowed);
        EXPECT_NEAR(piece.notes[i].heard().stiffness.log_b, -9.015, 1e-6);
    }
    EXPECT_EQ(piece.notes[3].heard().stiffness, stiff) << "what was measured stays";
    EXPECT_FALSE(piece.notes[20].heard().stiffness.told());
    Piece once = test::scalePiece(4);
    EXPECT_EQ(poolStiffness(once), 0);
}

// A slip stays in "as played"; as meant it is another note, or none, placed where the hand is.
TEST(Slips, ArePutRightInAnotherCopyOnly) {
    Piece piece = standin::heronAtLowWater();
    const auto apply_to = [&piece](std::size_t i, std::optional<Slip> slip) {
        PieceEditor editor(piece, "2026-01-01T00:00:00Z");
        return editor.setSlip(piece.notes[i].id, slip);
    };
    const int meant = piece.notes[10].midi() + 1;
    ASSERT_TRUE(apply_to(10, Slip{meant}).ok());
    ASSERT_TRUE(apply_to(20, Slip{0}).ok());
    EXPECT_FALSE(apply_to(11, Slip{12}).ok()) << "not on this neck";
    EXPECT_FALSE(piece.notes[11].slip.has_value());
    const Piece written = asMeant(piece);
    ASSERT_EQ(written.notes.size(), piece.notes.size() - 1);
    EXPECT_EQ(written.notes[10].midi(), meant);
    const NotePlan* plan = written.plan(piece.notes[10].id);
    ASSERT_NE(plan, nullptr);
    EXPECT_TRUE(written.instrument.sounds(plan->position.value, meant, false));
    EXPECT_EQ(written.note(piece.notes[20].id), nullptr);
    EXPECT_NE(piece.note(piece.notes[20].id), nullptr) << "as played is whole";
    ASSERT_TRUE(apply_to(20, {}).ok());
    EXPECT_EQ(asMeant(piece).notes.size(), piece.notes.size());
    const auto stored = readAny([&] {
        static const test::Scratch scratch;
        EXPECT_TRUE(writeAny(piece, scratch / "slip.wirenote").ok());
        return scratch / "slip.wirenote";
    }());
    ASSERT_TRUE(stored.ok());
    EXPECT_EQ(stored->notes[10].slip, (std::optional<Slip>(Slip{meant})));
}

} // namespace
} // namespace wirenote
