// How long places and fingers of 10,000 notes take, the five cheapest ways of all of them, and
// their strokes, beside one pass of FFTW over the hour of sound that they would come from.
#include "fretting/solver.h"
#include "plucking/strokes.h"
#include "signal/fft.h"

#include <array>
#include <chrono>
#include <cmath>
#include <cstdio>

using namespace wirenote;

namespace {

constexpr std::size_t kNotes = 10000;
constexpr double kStep_s = 0.36; // an hour of them
constexpr double kRateHz = 44100.0;
constexpr std::size_t kFrame = 4096;
constexpr std::size_t kHop = 512;

double seconds(const auto& work) {
    const auto began = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
}

LineNote note(std::size_t i, int midi, double length_s) {
    LineNote note;
    note.onset_s = kStep_s * static_cast<double>(i);
    note.offset_s = note.onset_s + length_s;
    note.midi = midi;
    note.alone = length_s < kStep_s;
    return note;
}

// A line that wanders over two octaves.
std::vector<LineNote> line(std::size_t notes) {
    constexpr std::array kScale{0, 2, 4, 5, 7, 9, 11};
    std::vector<LineNote> out;
    unsigned chance = 1;
    int at = 7;
    for (std::size_t i = 0; i < notes; ++i) {
        chance = chance * 1664525U + 1013904223U;
        at = std::min(20, std::max(0, at + static_cast<int>((chance >> 24U) % 5U) - 2));
        out.push_back(note(i, 45 + 12 * (at / 7) + kScale[static_cast<std::size_t>(at % 7)], 0.33));
    }
    return out;
}

// Four chords, broken, with ringing strings.
std::vector<LineNote> broken(std::size_t notes) {
    constexpr std::array<std::array<int, 5>, 4> kChords{
        {{48, 52, 55, 60, 64}, {45, 52, 57, 60, 64}, {41, 48, 53, 57, 60}, {43, 50, 55, 59, 62}}};
    constexpr std::array<std::size_t, 8> kOrder{0, 2, 3, 4, 1, 3, 4, 2};
    std::vector<LineNote> out;
    for (std::size_t i = 0; i < notes; ++i)
        out.push_back(note(i, kChords[(i / 8) % 4][kOrder[i % 8]], 1.2));
    return out;
}

double fftwPass_s() {
    RealFft fft(static_cast<int>(kFrame));
    const auto frames = static_cast<std::size_t>(kNotes * kStep_s * kRateHz / kHop);
    return seconds([&] {
        for (std::size_t f = 0; f < frames; ++f) {
            for (std::size_t i = 0; i < kFrame; ++i)
                fft.time()[i] = static_cast<float>((f * 31 + i * 7) % 101) - 50.0F;
            fft.forward();
        }
    });
}

// Places nobody would take, but as many strings as there are.
double
strokes_s(const Instrument& guitar, const std::vector<LineNote>& line, PluckingSchool school) {
    Piece piece;
    for (std::size_t i = 0; i < line.size(); ++i) {
        Note one;
        one.time.value = {line[i].onset_s, line[i].offset_s};
        one.pitch.value = line[i].midi;
        piece.notes.push_back(one);
        NotePlan plan;
        plan.position.value = {1 + static_cast<int>(i * 7 % 6), 5};
        piece.asPlayed().plans.push_back(plan);
    }
    for (double t = 0.0; t < kStep_s * static_cast<double>(line.size() + 4); t += 2.0 * kStep_s)
        piece.timeline.beats_s.push_back(t);
    ReadingHead head;
    head.plucking_school.set(school);
    return seconds([&] { strokes(guitar, piece.timeline, piece.rows(), head); });
}

} // namespace

int main() {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const double pass_s = fftwPass_s();
    std::printf("the five cheapest ways of 10,000 notes, beside one pass of FFTW (goal: 0.5)\n");
    for (const auto& [name, make] :
         {std::pair{"line", &line}, std::pair{"broken chords", &broken}}) {
        const double whole_s = seconds([&, make = make] { cheapestWays(guitar, make(kNotes), 5); });
        const double half_s =
            seconds([&, make = make] { cheapestWays(guitar, make(kNotes / 2), 5); });
        const double one_s = seconds([&, make = make] { solveLine(guitar, make(kNotes)); });
        std::printf("  %-14s %5.2f, and %4.2f times as long for twice the notes; the cheapest with "
                    "its probabilities %5.2f\n",
                    name,
                    whole_s / pass_s,
                    whole_s / half_s,
                    one_s / pass_s);
    }
    std::printf("their strokes (goal: 0.25)\n");
    for (const auto& [name, school] : {std::pair{"a pick", PluckingSchool::Alternate},
                                       std::pair{"fingers", PluckingSchool::Pima}})
        std::printf("  %-14s %5.2f, and %4.2f times as long for twice the notes\n",
                    name,
                    strokes_s(guitar, broken(kNotes), school) / pass_s,
                    strokes_s(guitar, broken(kNotes), school) /
                        strokes_s(guitar, broken(kNotes / 2), school));
    return 0;
}
