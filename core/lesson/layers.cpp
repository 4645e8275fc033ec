#include "lesson/layers.h"

#include <algorithm>
#include <array>

namespace wirenote {
namespace {

constexpr std::array kPick = {Stroke::Down, Stroke::Up};
constexpr std::array kFingers = {Stroke::P, Stroke::I, Stroke::M, Stroke::A, Stroke::C};

} // namespace

std::vector<PluckingLayer> layersOf(const LessonFacts& facts, Rational from, Rational to) {
    std::vector<Stroke> struck;
    const auto [first, last] = facts.momentsIn(from, to);
    for (std::size_t m = first; m < last; ++m)
        for (const std::size_t note : facts.moments()[m].notes)
            struck.push_back(facts.plan(note).stroke.value);
    const auto has = [&struck](Stroke stroke) { return std::ranges::count(struck, stroke) > 0; };
    std::vector<PluckingLayer> layers;
    std::vector<Stroke> so_far;
    std::ranges::copy_if(kPick, std::back_inserter(so_far), has);
    if (!so_far.empty())
        layers.push_back({so_far, false});
    for (const Stroke finger : kFingers)
        if (has(finger)) {
            so_far.push_back(finger);
            layers.push_back({so_far, false});
        }
    if (layers.size() < 2)
        return {{{}, true}, {}};
    layers.back() = {};
    return layers;
}

bool inLayer(const LessonFacts& facts,
             const PluckingLayer& layer,
             const LessonMoment& moment,
             std::size_t note) {
    if (layer.on_beats && moment.place.part != Rational(0))
        return false;
    return layer.strokes.empty() ||
           std::ranges::count(layer.strokes, facts.plan(note).stroke.value) > 0;
}

} // namespace wirenote
