#include "plucking/plucking_tool.h"

#include <algorithm>
#include <cmath>

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

double share(std::ptrdiff_t count, const PluckedLine& line) {
    return line.size() == 0 ? 0.0 : static_cast<double>(count) / static_cast<double>(line.size());
}

// Two and more strings at once with others between them.
bool isPinch(const Pluck& pluck) {
    constexpr double kAtOnce_s = 0.035;
    return pluck.strings.size() > 1 && pluck.strings.size() < 5 && pluck.skips() &&
           pluck.spread_s < kAtOnce_s;
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

PluckingTool likelyTool(const PluckedLine& line) {
    const auto& plucks = line.plucks();
    if (usualTool(line.instrument().kind) == PluckingTool::Fingers)
        return PluckingTool::Fingers;
    const auto pinches = std::ranges::count_if(plucks, isPinch);
    const auto strums = std::ranges::count_if(
        plucks, [](const Pluck& p) { return p.strings.size() >= 3 && !p.skips(); });
    const auto rings = std::ranges::count_if(plucks, [](const Pluck& p) { return p.rings; });
    std::ptrdiff_t swept = 0;
    for (std::size_t i = 0; i < line.size(); ++i)
        swept += line.sweep(i) > 0 && line.at(i).gap_s < 0.13 ? 1 : 0;
    if (share(strums, line) > kStrumShare || share(swept, line) > kSweptShare)
        return PluckingTool::Pick;
    if (pinches >= kFewestPinches && share(pinches, line) > kPinchShare)
        return PluckingTool::Fingers;
    const bool acoustic = line.instrument().kind == InstrumentKind::Acoustic;
    return acoustic && share(rings, line) > kRingShare ? PluckingTool::Fingers : PluckingTool::Pick;
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
