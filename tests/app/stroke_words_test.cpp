// What the film pane says of where strokes come from.
#include "app/benches/film/stroke_words.h"

#include <gtest/gtest.h>

namespace wirenote::app {
namespace {

SeenFacts moved(double heel_mm, double forearm_mm) {
    SeenFacts seen;
    seen.plucked_mm = 100.0;
    seen.swing_mm = 9.0;
    seen.heel_mm = heel_mm;
    seen.forearm_mm = forearm_mm;
    return seen;
}

// Half a second apart: single notes from the wrist, then strums of three strings from the arm.
Piece linesAndStrums(int lines, int strums) {
    Piece piece;
    piece.takes.emplace_back();
    for (int k = 0; k < lines + strums; ++k)
        for (int string = 0; string < (k < lines ? 1 : 3); ++string) {
            Note note;
            const double onset_s = 0.5 * k + 0.01 * string;
            note.time.value = {onset_s, onset_s + 0.3};
            note.ownSound();
            note.facts.front().seen = k < lines ? moved(5.0, 1.0) : moved(12.0, 8.4);
            piece.notes.push_back(note);
        }
    return piece;
}

TEST(StrokeWords, SayWhatMovesAtAStroke) {
    EXPECT_EQ(sourceWords(moved(0.5, 0.1)),
              "The heel of the hand rests: pick or fingers move alone.");
    EXPECT_EQ(sourceWords(moved(5.0, 1.0)), "The hand turns from the wrist; the forearm stays.");
    EXPECT_EQ(sourceWords(moved(12.0, 8.4)), "The forearm goes along, by about 8 mm.");
    EXPECT_TRUE(sourceWords(moved(5.0, 3.0)).isEmpty()) << "neither of them for sure";
    EXPECT_TRUE(sourceWords({}).isEmpty()) << "no film";
}

TEST(StrokeWords, SayTheRuleOverAFilm) {
    EXPECT_EQ(habitWords(linesAndStrums(10, 0), 0),
              "Over this film strokes come from the wrist (10 of 10).");
    EXPECT_EQ(habitWords(linesAndStrums(10, 6), 0),
              "Over this film single notes come from the wrist (10 of 10), strums from the arm (6 "
              "of 6).");
    EXPECT_TRUE(habitWords(linesAndStrums(5, 0), 0).isEmpty()) << "too few";
    EXPECT_TRUE(habitWords(linesAndStrums(10, 6), 1).isEmpty()) << "a take without one";
}

} // namespace
} // namespace wirenote::app
