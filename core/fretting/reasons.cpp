#include "fretting/reasons.h"

#include "music/string_physics.h"

#include <algorithm>
#include <cstdlib>
#include <functional>
#include <iterator>

namespace wirenote {
namespace {

constexpr std::size_t kMostReasons = 3;

Reason reasoned(ReasonKind kind, int a = 0, int b = 0, double x = 0.0) {
    return {kind, Basis::Reasoned, a, b, x};
}

const LinePlacement* placedBefore(std::span<const LinePlacement> placements, std::size_t index) {
    while (index-- > 0)
        if (placements[index].possible)
            return &placements[index];
    return nullptr;
}

// How many frets the hand must move to reach a place with one finger per fret.
int shiftTo(Position place, int hand_fret) {
    if (place.fret == 0)
        return 0;
    if (place.fret < hand_fret)
        return hand_fret - place.fret;
    return std::max(0, place.fret - hand_fret - 3);
}

// What the evidence about the string says for this one against the likeliest other place, kind by
// kind, weightiest first; what says little is left out.
std::vector<Reason>
stringReasons(const Instrument& instrument, const LineNote& note, const LinePlacement& here) {
    constexpr double kSpeaks_nepers = 1.0;
    const int string = here.position.string;
    const auto other = std::ranges::find_if(
        here.places, [&](const PlaceProbability& p) { return p.position.string != string; });
    if (other == here.places.end())
        return {};
    const int rival = other->position.string;
    std::vector<std::pair<double, Reason>> found;
    for (const StringEvidence& kind : note.evidence) {
        const double speaks = kind.against(rival) - kind.against(string);
        if (speaks < kSpeaks_nepers)
            continue;
        double x = speaks;
        if (kind.kind == ReasonKind::StiffnessFits)
            x = stiffnessAt(instrument, string, instrument.capo + here.position.fret) /
                stiffnessAt(instrument, rival, instrument.capo + other->position.fret);
        found.push_back({speaks, Reason{kind.kind, kind.basis, string, rival, x}});
    }
    std::ranges::stable_sort(found, std::greater{}, &std::pair<double, Reason>::first);
    std::vector<Reason> reasons;
    for (auto& [speaks, reason] : found)
        reasons.push_back(reason);
    return reasons;
}

// The string on which the note could be open, if that one still rings open.
int openThatRings(std::span<const LineNote> line,
                  std::span<const LinePlacement> placements,
                  std::size_t index) {
    const LinePlacement& here = placements[index];
    for (const PlaceProbability& other : here.places)
        if (other.position.fret == 0)
            for (std::size_t before = index; before-- > 0;) {
                if (placements[before].possible &&
                    placements[before].position.string == other.position.string)
                    return placements[before].open() && line[before].offset_s > line[index].onset_s
                               ? other.position.string
                               : 0;
                if (line[index].onset_s - line[before].onset_s > 8.0)
                    break;
            }
    return 0;
}

// What the hand does from the note before it to this one, and on to the next.
void addHandReasons(std::span<const LineNote> line,
                    std::span<const LinePlacement> placements,
                    std::size_t index,
                    std::vector<Reason>& reasons) {
    const LinePlacement& here = placements[index];
    const LinePlacement* before = placedBefore(placements, index);
    if (line[index].slur != Slur::None && before)
        reasons.push_back(reasoned(ReasonKind::SameString, here.position.string));
    if (here.open()) {
        reasons.push_back(reasoned(ReasonKind::OpenString));
        if (index + 1 < placements.size() && placements[index + 1].possible && before &&
            placements[index + 1].hand_fret != before->hand_fret)
            reasons.push_back(reasoned(
                ReasonKind::OpenGivesTime, 0, 0, line[index + 1].onset_s - line[index].onset_s));
    } else if (const int ringing = openThatRings(line, placements, index); ringing > 0) {
        reasons.push_back(reasoned(ReasonKind::OpenRings, ringing));
    } else if (before && before->hand_fret == here.hand_fret) {
        reasons.push_back(reasoned(ReasonKind::StaysInPosition, here.hand_fret));
    } else if (before) {
        if (line[index].squeak_before)
            reasons.push_back({ReasonKind::SlideHeard, Basis::Heard, here.hand_fret, 0, 0.0});
        reasons.push_back(reasoned(ReasonKind::ShiftNeeded,
                                   before->hand_fret,
                                   here.hand_fret,
                                   line[index].onset_s - line[index - 1].onset_s));
    }
}

} // namespace

std::vector<Reason> reasonsFor(const Instrument& instrument,
                               std::span<const LineNote> line,
                               std::span<const LinePlacement> placements,
                               std::size_t index) {
    std::vector<Reason> reasons;
    const LinePlacement& here = placements[index];
    if (!here.possible)
        return {reasoned(ReasonKind::NothingFits)};
    if (line[index].harmonic && !here.open())
        return {reasoned(ReasonKind::OverNode, here.position.fret)};
    if (here.places.size() == 1 && !line[index].fixed_position)
        return {reasoned(ReasonKind::OnlyPlace, here.position.string)};
    const auto heard = stringReasons(instrument, line[index], here);
    reasons.assign(heard.begin(), heard.begin() + std::min<std::ptrdiff_t>(2, std::ssize(heard)));
    addHandReasons(line, placements, index, reasons);
    for (const PlaceProbability& other : here.places) {
        if (other.position == here.position || reasons.size() >= kMostReasons)
            continue;
        const int frets = shiftTo(other.position, here.hand_fret);
        if (frets == 1 && other.position.fret > here.hand_fret)
            reasons.push_back(
                reasoned(ReasonKind::OtherNeedsStretch,
                         other.position.string,
                         0,
                         fretPlace_mm(instrument.scale_mm, instrument.capo + other.position.fret) -
                             fretPlace_mm(instrument.scale_mm, instrument.capo + here.hand_fret)));
        else if (frets > 0)
            reasons.push_back(reasoned(ReasonKind::OtherNeedsShift, other.position.string, frets));
        break;
    }
    if (reasons.empty())
        reasons.push_back(reasoned(ReasonKind::LowPosition));
    if (reasons.size() > kMostReasons)
        reasons.resize(kMostReasons);
    return reasons;
}

} // namespace wirenote
