#include "plucking/school_fit.h"

#include "plucking/pick_strokes.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFewestTold = 6;
constexpr double kClear = 0.85;
constexpr std::array kSchools = {PluckingSchool::Alternate,
                                 PluckingSchool::Strum,
                                 PluckingSchool::Down,
                                 PluckingSchool::Sequence,
                                 PluckingSchool::Economy,
                                 PluckingSchool::Sweep};

std::optional<bool> toldDown(const PluckedLine& line, std::size_t attack) {
    const Pluck& pluck = line.at(attack);
    for (const std::size_t n : pluck.notes) {
        const auto& stroke = line.rows()[n].plan.stroke;
        if (stroke.isSet() && (stroke.value == Stroke::Down || stroke.value == Stroke::Up))
            return stroke.value == Stroke::Down;
    }
    if (pluck.heard && std::max(pluck.down, 1.0 - pluck.down) >= kClear)
        return pluck.down > 0.5;
    return std::nullopt;
}

} // namespace

std::vector<SchoolFit>
schoolFits(const PluckedLine& line, IndexSpan attacks, const HandMotion& motion) {
    std::vector<std::optional<bool>> told(line.size());
    int count = 0;
    for (std::size_t i = attacks.first; i < attacks.end; ++i) {
        told[i] = toldDown(line, i);
        count += told[i] ? 1 : 0;
    }
    if (count < kFewestTold)
        return {};
    const PluckedLine unheard = line.withoutOrder();
    const std::vector<std::optional<bool>> nothing(line.size());
    std::vector<SchoolFit> fits;
    for (const PluckingSchool school : kSchools) {
        const auto strokes = pickStrokes(unheard, attacks, school, motion, nothing);
        SchoolFit fit{school, count, 0, {}};
        for (std::size_t k = 0; k < strokes.size(); ++k) {
            const auto& is = told[attacks.first + k];
            if (!is)
                continue;
            if (*is == strokes[k].down)
                ++fit.agree;
            else
                fit.against.push_back(attacks.first + k);
        }
        fits.push_back(std::move(fit));
    }
    std::ranges::stable_sort(fits, std::ranges::greater{}, &SchoolFit::agree);
    return fits;
}

StrokeDeparture departureAt(const PluckedLine& line, std::size_t attack) {
    constexpr double kPhrase_s = 0.9;
    const Pluck& now = line.at(attack);
    for (const std::size_t n : now.notes)
        if (line.rows()[n].note.has(Technique::Accent))
            return StrokeDeparture::Accent;
    if (now.gap_s > kPhrase_s)
        return StrokeDeparture::LeadsIn;
    if (attack > 0 && now.single() && line.at(attack - 1).single() &&
        std::abs(line.at(attack - 1).string() - now.string()) > 1)
        return StrokeDeparture::Skips;
    if (attack + 1 < line.size()) {
        const Pluck& next = line.at(attack + 1);
        const bool on_beat = line.hasBeats() && std::abs(next.beat - std::round(next.beat)) < 0.1;
        if (on_beat && line.rows()[next.notes.front()].plan.stroke.value == Stroke::Down)
            return StrokeDeparture::LinesUp;
    }
    return StrokeDeparture::None;
}

} // namespace wirenote
