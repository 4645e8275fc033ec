// Several takes of one piece: lined up by their sound, whatever was done to it.
#include "session/take_media.h"
#include "session/workspace.h"

#include "demo/heron.h"
#include "media/sound_file.h"
#include "media/time_stretch.h"
#include "session/files.h"
#include "session/transcribe.h"
#include "sounding/render.h"
#include "support/demo_files.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/tones.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kPart_s = 22.0; // half of the tune: stretching takes its time

const Sound& heron() {
    static const Sound sound = [] {
        RenderOptions options;
        options.noise_db = -62.0;
        Sound whole = *renderPiece(standin::heronAtLowWater(), options, {});
        whole.samples.resize(static_cast<std::size_t>(kPart_s * whole.rate_hz));
        return whole;
    }();
    return sound;
}

struct Change {
    const char* name;
    double offset_s;  // silence put in front
    double speed;     // by Rubber Band
    double semitones; // by Rubber Band
    double noise;
};
void PrintTo(const Change& change, std::ostream* out) {
    *out << change.name;
}

class LiningUp : public ::testing::TestWithParam<Change> {};
INSTANTIATE_TEST_SUITE_P(Takes,
                         LiningUp,
                         ::testing::Values(Change{"later", 3.21, 1.0, 0.0, 0.0},
                                           Change{"earlier", -2.4, 1.0, 0.0, 0.002},
                                           Change{"slower", 1.0, 0.8, 0.0, 0.0},
                                           Change{"faster", 0.5, 1.18, 0.0, 0.001},
                                           Change{"half_speed", 0.7, 0.55, 0.0, 0.0},
                                           Change{"slower_and_lower", 2.0, 0.85, -2.14, 0.001}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(LiningUp, IsRightWithinTwentyMilliseconds) {
    const Change change = GetParam();
    const test::Scratch scratch;
    ASSERT_TRUE(writeWav(scratch / "lead.wav", heron().view()).ok());
    MemorySource source(std::make_shared<const Sound>(heron()));
    const auto cut = static_cast<std::int64_t>(std::max(0.0, -change.offset_s) * 44100.0);
    StretchedReader reader(source, cut, change.speed, change.semitones);
    Sound other = test::silence(std::max(0.0, change.offset_s), 44100.0);
    std::vector<float> stereo(
        2 * static_cast<std::size_t>((heron().length_s() - static_cast<double>(cut) / 44100.0) /
                                     change.speed * 44100.0));
    reader.read(stereo);
    for (std::size_t i = 0; i < stereo.size(); i += 2)
        other.samples.push_back(stereo[i]);
    test::addNoise(other, change.noise);
    ASSERT_TRUE(writeWav(scratch / "other.wav", other.view()).ok());

    const auto opened = openAny(scratch / "lead.wav", {}, {});
    ASSERT_TRUE(opened.ok());
    const auto media = openTakeMedia(scratch / "other.wav");
    ASSERT_TRUE(media.ok());
    const auto study = studyTake(opened->piece, takeOf(scratch / "other.wav", media->info), {});
    ASSERT_TRUE(study.ok()) << study.error().sentence();
    ASSERT_TRUE(study->lined_up);
    EXPECT_GT(study->take.alignment.certainty, 0.7);
    EXPECT_EQ(study->take.alignment.semitones, static_cast<int>(std::lround(change.semitones)));
    for (const Note& note : standin::heronAtLowWater().notes) {
        const double expected = (note.onset_s() + std::min(0.0, change.offset_s)) / change.speed +
                                std::max(0.0, change.offset_s);
        if (expected <= std::max(0.0, change.offset_s) || note.onset_s() > kPart_s - 1.0)
            continue; // cut away
        EXPECT_NEAR(study->take.alignment.toTake({note.onset_s()}).s, expected, 0.020)
            << note.onset_s();
    }
    EXPECT_NEAR(
        study->take.reference.cents(), std::remainder(100.0 * change.semitones, 100.0), 3.0);
}

TEST(LiningUp, AnotherTuneIsNotLinedUp) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeWav(scratch / "lead.wav", heron().view()).ok());
    Sound other = test::silence(20.0, 44100.0);
    for (int k = 0; k < 19; ++k)
        test::addTone(other, {0.2 + 1.03 * k, 0.9, 233.08 * std::exp2(((k * 7) % 12) / 12.0), 0.3});
    ASSERT_TRUE(writeWav(scratch / "other.wav", other.view()).ok());
    const auto opened = openAny(scratch / "lead.wav", {}, {});
    const auto media = openTakeMedia(scratch / "other.wav");
    const auto study = studyTake(opened->piece, takeOf(scratch / "other.wav", media->info), {});
    ASSERT_TRUE(study.ok());
    EXPECT_FALSE(study->lined_up) << study->take.alignment.certainty;
    EXPECT_TRUE(study->take.alignment.sameClock()) << "what does not fit is left where it was";
}

// Nor is one of the same notes in another order, played by the same instrument.
TEST(LiningUp, TheSameNotesInAnotherOrderAreNotLinedUp) {
    const test::Scratch scratch;
    Piece other = standin::heronAtLowWater();
    const std::size_t n = other.notes.size();
    for (std::size_t i = 0; i < n; ++i) { // every fifth note from the end, and so on
        const std::size_t from = (n - 1) - (i * 29) % n;
        const Piece tune = standin::heronAtLowWater();
        other.notes[i].pitch = tune.notes[from].pitch;
        other.notes[i].techniques.clear();
        other.asPlayed().plans[i].position = tune.asPlayed().plans[from].position;
    }
    ASSERT_TRUE(writeWav(scratch / "lead.wav", heron().view()).ok());
    ASSERT_TRUE(writeWav(scratch / "other.wav", renderPiece(other, {}, {})->view()).ok());
    const auto opened = openAny(scratch / "lead.wav", {}, {});
    const auto media = openTakeMedia(scratch / "other.wav");
    const auto study = studyTake(opened->piece, takeOf(scratch / "other.wav", media->info), {});
    ASSERT_TRUE(study.ok());
    EXPECT_FALSE(study->lined_up) << study->take.alignment.certainty;
}

TEST(Demo, TheSecondTakeIsSlowerLowerFlatterAndLinedUp) {
    const DemoFiles& demo = test::demoFiles();
    const auto piece = readAny(demo.piece);
    ASSERT_TRUE(piece.ok()) << piece.error().sentence();
    ASSERT_EQ(piece->takes.size(), 2U);
    const Take& slow = piece->takes[1];
    EXPECT_NEAR(slow.reference.cents(), -14.0, 3.0);
    EXPECT_EQ(slow.alignment.semitones, -2);
    EXPECT_EQ(slow.kind, TakeKind::Lesson);
    const auto lead_truth = readAny(demo.truth);
    const auto slow_truth = readAny(demo.slow_truth);
    ASSERT_EQ(lead_truth->notes.size(), slow_truth->notes.size());
    double sum = 0.0;
    for (std::size_t i = 0; i + 1 < lead_truth->notes.size(); ++i)
        sum += std::abs(slow.alignment.toTake({lead_truth->notes[i].onset_s()}).s -
                        slow_truth->notes[i].onset_s());
    EXPECT_LT(sum / static_cast<double>(lead_truth->notes.size()), 0.020);
}

TEST(OpenAny, ARecordingOpensUnheardAndIsHeardInParts) {
    const DemoFiles& demo = test::demoFiles();
    const auto opened = openAny(demo.take, {}, {});
    ASSERT_TRUE(opened.ok());
    EXPECT_TRUE(opened->unheard);
    EXPECT_TRUE(opened->piece.notes.empty());
    const auto heard = hearLead(opened->piece, {10.0, 20.0}, {});
    ASSERT_TRUE(heard.ok());
    ASSERT_GT(heard->notes.size(), 10U);
    EXPECT_GE(heard->notes.front().onset_s(), 10.0);
    EXPECT_LE(heard->notes.back().onset_s(), 20.0);
    // They are the notes of the whole take, at their places.
    const auto truth = readAny(demo.truth);
    int found = 0;
    for (const Note& note : heard->notes)
        found += std::any_of(truth->notes.begin(), truth->notes.end(), [&](const Note& t) {
            return std::abs(t.onset_s() - note.onset_s()) < 0.05 && t.midi() == note.midi();
        });
    EXPECT_GE(found, static_cast<int>(heard->notes.size()) - 1);
}

// Thumb and fingers, then strums, by the simulated instrument: the way holds for chords too.
TEST(Transcribe, VoicesAndStrumsAreHeardAndPlaced) {
    const test::Scratch scratch;
    std::vector<test::Row> rows;
    for (int bar = 0; bar < 4; ++bar) { // C and A minor, bass on the beat, melody between
        const double t = 0.5 + 2.0 * bar;
        const bool c = bar % 2 == 0;
        const Position bass = c ? Position{5, 3} : Position{5, 0};
        rows.push_back({t, t + 0.95, c ? 48 : 45, bass});
        rows.push_back({t + 0.25, t + 1.9, c ? 55 : 57, c ? Position{3, 0} : Position{3, 2}});
        rows.push_back({t + 0.5, t + 1.9, 60, {2, 1}});
        rows.push_back({t + 0.75, t + 1.9, 64, {1, 0}});
        rows.push_back({t + 1.0, t + 1.9, c ? 48 : 45, bass});
    }
    for (int k = 0; k < 6; ++k) { // strums of D, down: the thick strings a little first
        const double t = 8.6 + 0.5 * k;
        const int midis[] = {50, 57, 62, 66};
        const Position places[] = {{4, 0}, {3, 2}, {2, 3}, {1, 2}};
        for (int s = 0; s < 4; ++s)
            rows.push_back({t + 0.006 * s, t + 0.45, midis[s], places[s]});
    }
    const Piece truth = test::pieceOf(rows);
    RenderOptions options;
    options.noise_db = -62.0;
    ASSERT_TRUE(writeWav(scratch / "v.wav", renderPiece(truth, options, {})->view()).ok());
    const auto heard = transcribe(scratch / "v.wav", {}, {});
    ASSERT_TRUE(heard.ok());
    int hit = 0;
    int placed = 0;
    for (const Note& note : truth.notes)
        for (std::size_t i = 0; i < heard->notes.size(); ++i)
            if (std::abs(heard->notes[i].onset_s() - note.onset_s()) < 0.05 &&
                heard->notes[i].midi() == note.midi()) {
                ++hit;
                placed += heard->asPlayed().plans[i].position.value ==
                          truth.plan(note.id)->position.value;
                break;
            }
    const double f1 = 2.0 * hit / static_cast<double>(truth.notes.size() + heard->notes.size());
    EXPECT_GT(f1, 0.9);
    EXPECT_GT(placed, 0.9 * hit);
}

TEST(MediaPath, DoesNotClimbOutOfTheFolder) {
    Take take;
    take.path = "../../elsewhere/secret.wav";
    EXPECT_TRUE(mediaPathOf(take, "/tmp/a/p.wirenote").empty());
    EXPECT_EQ(mediaStateOf(take, "/tmp/a/p.wirenote"), MediaState::Missing);
    take.path = "sub/../take.wav";
    EXPECT_EQ(mediaPathOf(take, "/tmp/a/p.wirenote"), std::filesystem::path("/tmp/a/take.wav"));
}

} // namespace
} // namespace wirenote
