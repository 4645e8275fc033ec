// How a piece is built: phrases that come again, and how they differ.
#pragma once

#include "base/job.h"
#include "piece/piece.h"
#include "score/quantise.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// What is played in one bar, on its score places.
struct BarContent {
    struct Event {
        Rational at; // within the bar
        Rational length;
        int midi = 60;
        std::size_t note = 0; // into Piece::notes
        bool operator==(const Event& o) const { return at == o.at && midi == o.midi; }
    };
    int number = 1;
    TimeRange span; // seconds
    Metre metre;
    std::vector<Event> events; // by place, then by pitch; graces and ghosts left out
};
std::vector<BarContent> contentsOf(const Piece& piece, const Quantised& quantised);

// How one bar differs from another of the same metre.
enum class DifferenceKind {
    Missing, // `a` has a note that `b` leaves out
    Added,   // `b` has one more
    Pitch,   // another pitch at the same place
    Moved,   // the same pitch earlier or later
};
struct Difference {
    DifferenceKind kind = DifferenceKind::Missing;
    Rational at;            // within the bar, where it stands in `a` (Added: in `b`)
    int semitones = 0;      // Pitch: how much higher in `b`
    Rational later;         // Moved: by how many quarter notes
    std::size_t note_a = 0; // into Piece::notes; of Added: unused
    std::size_t note_b = 0; // of Missing: unused
};
// `transposed`: semitones by which `b` as a whole lies higher; they are no difference.
std::vector<Difference> differencesOf(const BarContent& a, const BarContent& b, int transposed = 0);

// 1: the same; 0: nothing in common. Of the best transposition, which is given too.
struct BarLikeness {
    double likeness = 0.0;
    int transposed = 0;
};
BarLikeness likenessOf(const BarContent& a, const BarContent& b);

// A stretch of bars that comes more than once. The first is the one the others are compared with.
struct Occurrence {
    int first_bar = 1;
    int transposed = 0;                               // semitones higher than the first occurrence
    std::vector<std::vector<Difference>> differences; // bar by bar, against the first
    std::vector<bool> other; // bars that are altogether others: no differences are told
    bool same() const;
};
struct Phrase {
    std::string label; // "A", "B" …, in order of appearance
    int bars = 1;
    std::vector<Occurrence> occurrences; // two or more, by bar, not overlapping
};

struct FormParameters {
    double same_bar = 0.62;    // bars at least this alike are the same bar, changed a little …
    double same_phrase = 0.75; // … when all of the phrase is at least this alike
    double other_bars = 0.25;  // this share of a phrase's inner bars may be others altogether
    int longest = 16;
    int reach = 256; // bars: what lies further apart is not compared, so that hours stay possible
};

// Repeats found by comparing bars with bars (self-similarity: Foote, "Visualizing music and audio
// using self-similarity", ACM Multimedia 1999): longest first, each bar in one phrase only. Bars in
// which nothing begins belong to none. Cancelled: nothing.
std::vector<Phrase> phrasesOf(const std::vector<BarContent>& bars,
                              const FormParameters& parameters = {},
                              const JobControl& job = {});

// The form on one line: phrases in order of time, with what stands between them.
struct FormPart {
    std::string label; // "A", "A'" for a varied repeat; empty for what comes once
    int first_bar = 1;
    int bars = 1;
    std::size_t phrase = 0; // into the phrases; meaningless when the label is empty
    std::size_t occurrence = 0;
    TimeRange span; // seconds
};
std::vector<FormPart> formOf(const std::vector<BarContent>& bars,
                             const std::vector<Phrase>& phrases);

// Twelve bars of the tonic, subdominant and dominant in the order that belongs to everyone: where
// they begin, and which bars depart from it.
struct TwelveBars {
    int first_bar = 1;
    int tonic = 0;               // pitch class
    std::vector<int> departures; // numbers of the bars
};
std::vector<TwelveBars> twelveBarForms(const Piece& piece, const std::vector<BarContent>& bars);

} // namespace wirenote
