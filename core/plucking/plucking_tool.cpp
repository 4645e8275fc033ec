#include "plucking/plucking_tool.h"

#include "base/median.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>
#include <vector>

namespace wirenote {
namespace {

constexpr double kStrumShare = 0.1;   // of the attacks: a pick
constexpr double kPinchShare = 0.08;  // of the attacks: fingers
constexpr double kRingShare = 0.35;   // of the attacks: held patterns, not a line
constexpr double kSweptShare = 0.6;   // of the attacks, quickly from string to string: a pick
constexpr double kThumbShare = 0.6;   // of the beats
constexpr double kOffBeatShare = 0.1; // of the thumb's strokes: a bass that leads in
constexpr int kFewestPinches = 2;
constexpr int kFewestThumbs = 6;
constexpr double kNotesTrust = 0.7;    // of what is played
constexpr double kSoundTrust = 0.9;    // of how it sounds, …
constexpr double kAgainstNotes = 0.65; // … where what is played says otherwise
constexpr std::size_t kFewestEdges = 8;

double share(std::ptrdiff_t count, const PluckedLine& line) {
    return line.size() == 0 ? 0.0 : static_cast<double>(count) / static_cast<double>(line.size());
}

// Two and more strings at once with others between them.
bool isPinch(const Pluck& pluck) {
    constexpr double kAtOnce_s = 0.035;
    return pluck.strings.size() > 1 && pluck.strings.size() < 5 && pluck.skips() &&
           pluck.spread_s < kAtOnce_s;
}

bool pinches(const PluckedLine& line) {
    const auto count = std::ranges::count_if(line.plucks(), isPinch);
    return count >= kFewestPinches && share(count, line) > kPinchShare;
}

bool strums(const PluckedLine& line) {
    return share(std::ranges::count_if(
                     line.plucks(),
                     [](const Pluck& p) { return p.strings.size() >= 3 && !p.skips(); }),
                 line) > kStrumShare;
}

// A bass on (nearly) every beat that goes to and fro between two strings, with more above it.
bool hasAlternatingThumb(const PluckedLine& line) {
    if (!line.hasBeats() || line.compound())
        return false;
    int thumbs = 0;
    int moved = 0;
    int above = 0;
    int off_beat = 0;
    int last = 0;
    for (const Pluck& pluck : line.plucks()) {
        const bool on_beat = std::abs(pluck.beat - std::round(pluck.beat)) < 0.12;
        above += pluck.strings.empty() || pluck.strings.back() > 3 ? 0 : 1;
        if (pluck.strings.empty() || !line.onBass(pluck.strings.front()))
            continue;
        if (!on_beat) {
            ++off_beat;
            continue;
        }
        ++thumbs;
        moved += last != 0 && last != pluck.strings.front() ? 1 : 0;
        last = pluck.strings.front();
    }
    const double beats =
        line.size() == 0 ? 0.0 : line.plucks().back().beat - line.plucks().front().beat;
    return thumbs >= kFewestThumbs && off_beat < kOffBeatShare * thumbs &&
           thumbs > kThumbShare * beats && moved > kThumbShare * thumbs && above > thumbs / 2;
}

} // namespace

PluckingTool usualTool(InstrumentKind kind) {
    const bool fingers = kind == InstrumentKind::Nylon || kind == InstrumentKind::Bass ||
                         kind == InstrumentKind::Bass5;
    return fingers ? PluckingTool::Fingers : PluckingTool::Pick;
}

namespace {

// By what is played alone.
PluckingTool toolOfNotes(const PluckedLine& line) {
    const auto& plucks = line.plucks();
    if (usualTool(line.instrument().kind) == PluckingTool::Fingers)
        return PluckingTool::Fingers;
    const auto rings = std::ranges::count_if(plucks, [](const Pluck& p) { return p.rings; });
    std::ptrdiff_t swept = 0;
    for (std::size_t i = 0; i < line.size(); ++i)
        swept += line.sweep(i) > 0 && line.at(i).gap_s < 0.13 ? 1 : 0;
    if (strums(line) || share(swept, line) > kSweptShare)
        return PluckingTool::Pick;
    if (pinches(line))
        return PluckingTool::Fingers;
    const bool acoustic = line.instrument().kind == InstrumentKind::Acoustic;
    return acoustic && share(rings, line) > kRingShare ? PluckingTool::Fingers : PluckingTool::Pick;
}

// How bright the strokes of a pick and of flesh sound on each kind, in dB (hearing/stroke_edges.h).
struct Edges {
    double pick_from = 0.0;   // brighter: a pick
    double flesh_until = 0.0; // duller: flesh
    double brightest = 0.0;   // beyond it no stroke sounds so: nothing is told
};
std::optional<Edges> edgesOf(InstrumentKind kind) {
    switch (kind) {
    case InstrumentKind::Bass:
    case InstrumentKind::Bass5:
        return Edges{-25.5, -27.5, -10.0};
    case InstrumentKind::Acoustic:
        return Edges{-16.0, -18.0, -7.0};
    case InstrumentKind::Guitar:
    case InstrumentKind::Guitar7:
        return Edges{-17.0, -21.0, -2.0};
    case InstrumentKind::Nylon:
        break;
    }
    return std::nullopt;
}

// Whether the strokes of a line sound hard (true) or soft, where enough of them were measured.
std::optional<std::pair<bool, double>> soundOfStrokes(const PluckedLine& line) {
    const auto edges = edgesOf(line.instrument().kind);
    std::vector<double> bright;
    for (const Pluck& pluck : line.plucks())
        if (const auto edge_db = line.rows()[pluck.notes.front()].note.heard().attack.edge_db)
            bright.push_back(*edge_db);
    if (!edges || bright.size() < kFewestEdges)
        return std::nullopt;
    const double middle = *median(bright);
    if (middle > edges->brightest)
        return std::nullopt;
    if (middle >= edges->pick_from)
        return std::pair(true, middle);
    if (middle <= edges->flesh_until)
        return std::pair(false, middle);
    return std::nullopt;
}

// A single line of notes is played with anything.
bool saysNothing(const PluckedLine& line) {
    const auto rings = std::ranges::count_if(line.plucks(), &Pluck::rings);
    return !pinches(line) && !strums(line) && share(rings, line) <= kRingShare;
}

// Unknown where what is played and how it sounds do not go together.
PluckingTool toolOfSound(const PluckedLine& line, bool hard) {
    if (strums(line))
        return PluckingTool::Pick; // strokes of the whole hand, whatever it holds
    if (!hard)
        return PluckingTool::Fingers;
    if (!pinches(line) || line.instrument().isBass())
        return PluckingTool::Pick;
    // Nails on steel sound as hard as a pick.
    const bool nails = line.instrument().kind == InstrumentKind::Acoustic;
    return nails ? PluckingTool::Unknown : PluckingTool::Both;
}

} // namespace

Decision<PluckingTool> likelyTool(const PluckedLine& line) {
    Decision<PluckingTool> tool{toolOfNotes(line), Basis::Reasoned, kNotesTrust, {}, {}};
    const auto sound = soundOfStrokes(line);
    if (!sound)
        return tool;
    const auto [hard, edge_db] = *sound;
    const PluckingTool heard = toolOfSound(line, hard);
    if (heard == PluckingTool::Unknown)
        return tool;
    const bool agrees = heard == tool.value || saysNothing(line);
    tool = {heard, Basis::Heard, agrees ? kSoundTrust : kAgainstNotes, {}, {}};
    tool.reasons = {{ReasonKind::StrokesSound, Basis::Heard, hard ? 1 : -1, 0, edge_db}};
    return tool;
}

PluckingSchool likelySchool(PluckingTool tool, const PluckedLine& line) {
    if (tool == PluckingTool::Both)
        return PluckingSchool::Hybrid;
    if (tool != PluckingTool::Fingers)
        return PluckingSchool::Alternate;
    if (line.instrument().isBass())
        return PluckingSchool::Im;
    return hasAlternatingThumb(line) ? PluckingSchool::Thumb : PluckingSchool::Pima;
}

} // namespace wirenote
