// Prints what the notes of invented rhythms say of every level the beat may have. A rhythm on
// standard input: "rhythm BEATS STROKES", its beats in seconds, then a line a stroke: seconds and
// pitches. A level is a line: its rhythm, tempo against the true one, phase, feel, figures.
#include "form/beat_levels.h"

#include <cstdio>
#include <iostream>
#include <sstream>
#include <string>

int main() {
    using namespace wirenote;
    std::string line;
    for (int number = 0; std::getline(std::cin, line); ++number) {
        std::string word;
        std::size_t beat_count = 0;
        std::size_t strokes = 0;
        if (!(std::istringstream(line) >> word >> beat_count >> strokes) || word != "rhythm")
            return 2;
        std::vector<double> beats(beat_count);
        std::getline(std::cin, line);
        std::istringstream of_beats(line);
        for (double& beat : beats)
            of_beats >> beat;
        std::vector<Note> notes;
        for (std::size_t i = 0; i < strokes && std::getline(std::cin, line); ++i) {
            std::istringstream of_stroke(line);
            Note note;
            of_stroke >> note.time.value.start_s;
            note.time.value.end_s = note.time.value.start_s + 0.1;
            while (of_stroke >> note.pitch.value)
                notes.push_back(note);
        }
        for (const BeatLevel& level : beatLevels(notes, beats)) {
            std::printf("%d %.6g %.6g %d",
                        number,
                        level.per_beat,
                        level.phase,
                        static_cast<int>(level.feel));
            for (const double figure : level.figures)
                std::printf(" %.6g", figure);
            std::printf("\n");
        }
    }
    return 0;
}
