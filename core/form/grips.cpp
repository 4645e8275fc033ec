#include "form/grips.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <map>

namespace wirenote {
namespace {

constexpr int kFewestInCommon = 2;
constexpr int kMostDiffering = 1;

// How one grip stands to a fuller one; nothing: they are different grips.
std::optional<WholeGrip> partOf(const Grip& part, const Grip& whole) {
    WholeGrip found{whole, 0, 0, 0};
    int common = 0;
    for (std::size_t s = 0; s < part.frets.size(); ++s) {
        const int has = part.frets[s];
        const int wanted = whole.frets[s];
        if (has < 0 && wanted >= 0)
            ++found.missing;
        else if (has >= 0 && has == wanted)
            ++common;
        else if (has >= 0)
            ++found.differing; // another fret, or a string that the grip leaves out
    }
    if (common < kFewestInCommon || found.differing > kMostDiffering ||
        found.missing + found.differing == 0)
        return {};
    if (found.differing > 0 && common <= kFewestInCommon)
        return {};
    return found;
}

} // namespace

std::vector<Strum> strumsOf(const Piece& piece) {
    const auto strings = static_cast<std::size_t>(piece.instrument.stringCount());
    std::vector<Strum> strums;
    for (const auto& stroke : strokesOf(piece.notes)) {
        Strum strum{{}, {std::vector<int>(strings, Grip::kSilent)}, 0.0};
        std::vector<double> believed(strings, -1.0);
        for (const std::size_t i : stroke) {
            const Note& note = piece.notes[i];
            if (!note.pitched())
                continue;
            if (strum.notes.empty())
                strum.onset_s = note.onset_s();
            strum.notes.push_back(note.id);
            const Position place = piece.asPlayed().plans[i].position.value;
            if (!piece.instrument.hasString(place.string))
                continue;
            const auto s = static_cast<std::size_t>(place.string - 1);
            if (const double belief = note.existence.probability * note.pitch.probability;
                belief > believed[s]) {
                believed[s] = belief;
                strum.grip.frets[s] = place.fret;
            }
        }
        if (strum.notes.size() > 1 && strum.grip.sounding() > 0)
            strums.push_back(std::move(strum));
    }
    return strums;
}

std::vector<WholeGrip> wholeGripsOf(const std::vector<Strum>& strums, const Grip& grip) {
    std::map<Grip, int> heard;
    for (const Strum& strum : strums)
        ++heard[strum.grip];
    const auto here = heard.find(grip);
    const int as_it_is = here == heard.end() ? 0 : here->second;
    std::vector<WholeGrip> found;
    for (const auto& [whole, times] : heard)
        if (auto one = partOf(grip, whole); one && times > as_it_is) {
            one->heard = times;
            found.push_back(std::move(*one));
        }
    std::ranges::stable_sort(found, [](const WholeGrip& a, const WholeGrip& b) {
        return a.differing != b.differing ? a.differing < b.differing : a.heard > b.heard;
    });
    return found;
}

std::vector<Strum> sameStrums(const std::vector<Strum>& strums, const Grip& grip) {
    std::vector<Strum> same;
    std::ranges::copy_if(
        strums, std::back_inserter(same), [&grip](const Strum& s) { return s.grip == grip; });
    return same;
}

} // namespace wirenote
