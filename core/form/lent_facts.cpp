#include "form/lent_facts.h"

#include "base/median.h"
#include "form/form.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace wirenote {
namespace {

constexpr double kAgree_nepers = 0.25; // a string's neighbours are further away than this …
constexpr double kAgree_sd = 3.0;      // … and measures agree within so many deviations
constexpr std::size_t kMostBarsCompared = 400; // a piece; what is longer is a session, not a song
constexpr double kLessSure = 1.5;              // borrowed evidence is worth less

// The stiffness on which all that was measured agrees.
std::optional<HeardStiffness> agreed(const std::vector<HeardStiffness>& measured) {
    if (measured.size() < 2) // one alone does not show that the repeats are played alike
        return {};
    double weight = 0.0;
    double mean = 0.0;
    for (const HeardStiffness& m : measured) {
        const double w = 1.0 / std::max(1e-6, m.sd * m.sd);
        mean += w * m.log_b;
        weight += w;
    }
    mean /= weight;
    for (const HeardStiffness& m : measured)
        if (std::abs(m.log_b - mean) > std::max(0.5 * kAgree_nepers, kAgree_sd * m.sd) ||
            std::abs(m.log_b - mean) > kAgree_nepers)
            return {};
    return HeardStiffness{mean, kLessSure / std::sqrt(weight), true};
}

// Where the notes lie that lend what they tell.
TimeRange hullOf(const std::vector<std::size_t>& notes, const Piece& piece) {
    TimeRange hull = piece.notes[notes.front()].time.value;
    for (const std::size_t i : notes) {
        hull.start_s = std::min(hull.start_s, piece.notes[i].onset_s());
        hull.end_s = std::max(hull.end_s, piece.notes[i].offset_s());
    }
    return hull;
}

void lend(const HeardStiffness& stiffness, TimeRange from, Note& note, std::size_t take = 0) {
    NoteFacts lent;
    lent.take = take;
    lent.span = from;
    lent.heard.stiffness = stiffness;
    note.facts.push_back(std::move(lent));
}

// The same note in the piece and in another take.
struct Shared {
    Note& ours;
    const Note& theirs;
};

std::vector<Shared> sharedNotes(Piece& piece,
                                std::size_t take,
                                const std::vector<Note>& heard,
                                const std::vector<Version>& versions) {
    std::vector<Shared> shared;
    for (const Version& version : versions)
        if (version.take == take && version.demonstration && version.learn &&
            version.semitones == 0)
            for (const Version::Same& same : version.same)
                if (same.played < heard.size())
                    shared.push_back({piece.notes[same.note], heard[same.played]});
    return shared;
}

// Whether what both takes tell of their strings is the same.
bool soundAlike(const std::vector<Shared>& shared) {
    constexpr std::size_t kFewest = 6;
    std::vector<double> apart;
    for (const Shared& note : shared) {
        const HeardStiffness ours = note.ours.heard().stiffness;
        const HeardStiffness theirs = note.theirs.heard().stiffness;
        if (ours.told() && !ours.borrowed && theirs.told())
            apart.push_back(std::abs(ours.log_b - theirs.log_b));
    }
    return apart.size() >= kFewest && *median(apart) <= kAgree_nepers;
}

} // namespace

int lendStiffness(Piece& piece,
                  std::size_t take,
                  const std::vector<Note>& heard,
                  const std::vector<Version>& versions) {
    for (Note& note : piece.notes)
        std::erase_if(note.facts, [take](const NoteFacts& f) { return f.take == take; });
    const std::vector<Shared> shared = sharedNotes(piece, take, heard, versions);
    if (take == 0 || !soundAlike(shared))
        return 0;
    int helped = 0;
    for (const Shared& note : shared) {
        const HeardStiffness theirs = note.theirs.heard().stiffness;
        if (note.ours.heard().stiffness.told() || !theirs.told() ||
            note.ours.facts.size() >= kMaxFactsOfNote)
            continue;
        lend({theirs.log_b, kLessSure * theirs.sd, true}, note.theirs.time.value, note.ours, take);
        ++helped;
    }
    return helped;
}

int poolStiffness(Piece& piece, const JobControl& job) {
    const auto bars = contentsOf(piece, quantise(piece));
    if (bars.empty() || bars.size() > kMostBarsCompared)
        return 0;
    // The same note of the same phrase, wherever it comes again at its pitch.
    std::map<std::tuple<std::size_t, int, int, Rational, int>, std::vector<std::size_t>> same;
    const auto phrases = phrasesOf(bars, {}, job);
    for (std::size_t p = 0; p < phrases.size(); ++p)
        for (const Occurrence& occurrence : phrases[p].occurrences)
            for (int k = 0; k < phrases[p].bars; ++k)
                for (const BarContent::Event& event :
                     bars[static_cast<std::size_t>(occurrence.first_bar + k - bars.front().number)]
                         .events)
                    same[{p, occurrence.transposed, k, event.at, event.midi}].push_back(event.note);
    int helped = 0;
    for (const auto& [place, notes] : same) {
        std::vector<HeardStiffness> measured;
        for (const std::size_t i : notes)
            if (piece.notes[i].heard().stiffness.told())
                measured.push_back(piece.notes[i].heard().stiffness);
        const auto known = agreed(measured);
        for (const std::size_t i : notes)
            if (known && !piece.notes[i].heard().stiffness.told()) {
                lend(*known, hullOf(notes, piece), piece.notes[i]);
                ++helped;
            }
    }
    return helped;
}

} // namespace wirenote
