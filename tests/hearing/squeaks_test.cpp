// A fingertip on a wound string: heard where it whistles, and nowhere else.
#include "hearing/squeaks.h"

#include "support/tones.h"

#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

// The windings pass under the fingertip: a whistle that rises or falls with the speed of the hand,
// rough, swelling and ending before the finger arrives. Invented after common practice.
void addSqueak(Sound& sound, double start_s, double length_s, double level) {
    std::mt19937 random(5);
    std::normal_distribution<double> rough(0.0, 0.15);
    double phase = 0.0;
    const auto first = static_cast<std::size_t>(start_s * kRate);
    const auto count = static_cast<std::size_t>(length_s * kRate);
    for (std::size_t i = 0; i < count && first + i < sound.samples.size(); ++i) {
        const double x = static_cast<double>(i) / static_cast<double>(count);
        const double hz = 2100.0 + 900.0 * std::sin(std::numbers::pi * x) + 100.0 * rough(random);
        phase += 2.0 * std::numbers::pi * hz / kRate;
        const double swell = std::sin(std::numbers::pi * x);
        sound.samples[first + i] += static_cast<float>(
            level * swell * (std::sin(phase) + 0.5 * std::sin(2.0 * phase) + rough(random)));
    }
}

struct Line {
    Sound sound;
    std::vector<Note> notes;
};

// Eight notes half a second apart; each is stopped before the next.
Line line() {
    Line made{test::silence(4.8, kRate), {}};
    const double hz[] = {110.0, 123.5, 146.8, 164.8, 196.0, 164.8, 146.8, 110.0};
    for (int k = 0; k < 8; ++k) {
        const double at = 0.3 + 0.5 * k;
        test::addTone(made.sound, {at, 0.4, hz[k], 0.3, 6e-5, 3.0, 0.0, 24});
        Note note;
        note.id = k + 1;
        note.time.value = {at, at + 0.4};
        made.notes.push_back(note);
    }
    return made;
}

std::vector<NoteId> marked(Line& line) {
    EXPECT_TRUE(hearSqueaks(line.sound.view(), line.notes, {}).ok());
    std::vector<NoteId> ids;
    for (const Note& note : line.notes)
        if (note.heard().squeak_before)
            ids.push_back(note.id);
    return ids;
}

TEST(Squeaks, AreHeardBeforeTheNotesTheyLeadTo) {
    for (const double level : {0.04, 0.025, 0.015}) { // 17 to 26 dB below the notes
        Line made = line();
        addSqueak(made.sound, 0.3 + 0.5 * 2 - 0.16, 0.12, level);
        addSqueak(made.sound, 0.3 + 0.5 * 5 - 0.20, 0.15, level);
        EXPECT_EQ(marked(made), (std::vector<NoteId>{3, 6})) << level;
    }
}

TEST(Squeaks, AreHeardUnderNoise) {
    Line made = line();
    test::addNoise(made.sound, 0.002);
    addSqueak(made.sound, 0.3 + 0.5 * 4 - 0.18, 0.13, 0.03);
    EXPECT_EQ(marked(made), (std::vector<NoteId>{5}));
}

TEST(Squeaks, ALineWithoutThemHasNone) {
    Line plain = line();
    EXPECT_TRUE(marked(plain).empty());
    test::addNoise(plain.sound, 0.01);
    EXPECT_TRUE(marked(plain).empty());
    Line vibrato{test::silence(3.0, kRate), {}};
    for (int k = 0; k < 2; ++k) {
        const double at = 0.3 + 1.2 * k;
        test::addTone(vibrato.sound, {at, 1.15, 196.0, 0.3, 6e-5, 1.0, 40.0, 20});
        Note note;
        note.id = k + 1;
        note.time.value = {at, at + 1.15};
        vibrato.notes.push_back(note);
    }
    EXPECT_TRUE(marked(vibrato).empty());
}

// A note that nobody wrote down is no squeak: its body grows too.
TEST(Squeaks, AnUnwrittenNoteIsNone) {
    Line made = line();
    test::addTone(made.sound, {0.3 + 0.5 * 3 - 0.2, 0.15, 220.0, 0.1, 6e-5, 3.0, 0.0, 24});
    EXPECT_TRUE(marked(made).empty());
}

TEST(Squeaks, SlursAndDampedStrokesHaveNone) {
    Line made = line();
    addSqueak(made.sound, 0.3 + 0.5 * 2 - 0.16, 0.12, 0.05);
    made.notes[2].add(Technique::Slide); // the slide itself is on its way
    EXPECT_TRUE(marked(made).empty());
}

TEST(Squeaks, CanBeStopped) {
    Line made = line();
    std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    EXPECT_FALSE(hearSqueaks(made.sound.view(), made.notes, job).ok());
}

} // namespace
} // namespace wirenote
