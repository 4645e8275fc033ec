#include "engraving/stems.h"

#include "engraving/notation.h"

#include <algorithm>
#include <cmath>
#include <span>

namespace wirenote {
namespace {

using Group = std::vector<Stemmed>;

constexpr double kBeforeNote = 5.0; // staff spaces: accidentals and graces

// A beam between two places of a line, `level` beams towards the heads from the outermost.
void beamPart(Block& block,
              const StemStyle& style,
              double x1,
              double y1,
              double x2,
              double y2,
              int level,
              NoteId note) {
    const EngravingDefaults& d = engravingDefaults();
    const double inwards = style.up ? 1.0 : -1.0;
    const double thick = d.beam * style.space * inwards;
    const double away = level * (d.beam + d.beam_gap) * style.space * inwards;
    const double half = d.stem * style.space / 2.0;
    block.shape(Sign::Beam,
                {{{x1 - half, y1 + away},
                  {x2 + half, y2 + away},
                  {x2 + half, y2 + away + thick},
                  {x1 - half, y1 + away + thick}},
                 0.0},
                note);
}

// The line of a beam: from its first to its last stem.
struct BeamLine {
    double x = 0.0, y = 0.0, slope = 0.0;
    double at(double where) const { return y + slope * (where - x); }
};

BeamLine lineOf(const Group& group, const StemStyle& style) {
    const Stemmed& a = group.front();
    const Stemmed& b = group.back();
    const double wanted = b.x > a.x ? (b.from - a.from) / (b.x - a.x) : 0.0;
    BeamLine line{a.x, a.from, std::clamp(wanted * 0.5, -style.slope, style.slope)};
    int most = 1;
    for (const Stemmed& one : group)
        most = std::max(most, beamsOf(one.value->type));
    const EngravingDefaults& d = engravingDefaults();
    const double length = style.least + (most - 1) * (d.beam + d.beam_gap) * style.space;
    const double thick = (most * d.beam + (most - 1) * d.beam_gap) * style.space;
    // Every stem is long enough.
    double y = style.up ? 1e9 : -1e9;
    for (const Stemmed& one : group) {
        const double end = one.from + (style.up ? -length : length);
        const double at_first = end - line.slope * (one.x - a.x);
        y = style.up ? std::min(y, at_first) : std::max(y, at_first);
        const auto keep = [&](double edge, double x) {
            const double there = edge - line.slope * (x - a.x);
            y = style.up ? std::min(y, there) : std::max(y, there);
        };
        if (one.reach)
            keep(*one.reach, one.x);
        if (one.clear) { // of the innermost beam; and what stands before a note, too
            const double edge = *one.clear + (style.up ? -thick : thick);
            keep(edge, one.x);
            keep(edge, one.x - kBeforeNote * style.space);
        }
    }
    line.y = y;
    return line;
}

void drawBeams(Block& block, Group& group, const StemStyle& style) {
    const BeamLine line = lineOf(group, style);
    for (Stemmed& one : group)
        one.to = line.at(one.x);
    const NoteId note = group.front().note;
    beamPart(block,
             style,
             group.front().x,
             line.at(group.front().x),
             group.back().x,
             line.at(group.back().x),
             0,
             note);
    const double stub = 1.1 * style.space;
    for (int level = 1; level < 3; ++level)
        for (std::size_t k = 0; k < group.size(); ++k) {
            const auto has = [&](std::size_t i) { return beamsOf(group[i].value->type) > level; };
            if (!has(k))
                continue;
            const double x = group[k].x;
            if (k + 1 < group.size() && has(k + 1)) {
                const double next = group[k + 1].x;
                beamPart(block, style, x, line.at(x), next, line.at(next), level, note);
            } else if (k == 0 || !has(k - 1)) { // by itself: a short one, back where it can
                const double other = k > 0 ? std::max(x - stub, (x + group[k - 1].x) / 2.0)
                                           : std::min(x + stub, (x + group[k + 1].x) / 2.0);
                beamPart(block,
                         style,
                         std::min(x, other),
                         line.at(std::min(x, other)),
                         std::max(x, other),
                         line.at(std::max(x, other)),
                         level,
                         note);
            }
        }
}

void drawStem(Block& block, const Stemmed& one, const StemStyle& style) {
    if (one.value->type == NoteType::Whole)
        return;
    block.line(Sign::Stem,
               {one.x, one.root, one.x, one.to, engravingDefaults().stem * style.space, false},
               one.note);
}

} // namespace

int beamsOf(NoteType type) {
    switch (type) {
    case NoteType::Eighth:
        return 1;
    case NoteType::Sixteenth:
        return 2;
    case NoteType::ThirtySecond:
        return 3;
    default:
        return 0;
    }
}

void drawStems(Block& block, std::vector<Stemmed> stems, const StemStyle& style) {
    for (std::size_t from = 0; from < stems.size();) {
        const int beam = stems[from].value->beam;
        std::size_t to = from + 1;
        while (beam > 0 && to < stems.size() && stems[to].value->beam == beam)
            ++to;
        if (to - from > 1) {
            Group group(stems.begin() + static_cast<std::ptrdiff_t>(from),
                        stems.begin() + static_cast<std::ptrdiff_t>(to));
            drawBeams(block, group, style);
            for (const Stemmed& one : group)
                drawStem(block, one, style);
        } else {
            const double hangs = 2.8 * style.space; // a flag, back towards its head
            if (stems[from].clear && beamsOf(stems[from].value->type) > 0)
                stems[from].to = style.up ? std::min(stems[from].to, *stems[from].clear - hangs)
                                          : std::max(stems[from].to, *stems[from].clear + hangs);
            drawStem(block, stems[from], style);
            if (const auto flag = flagGlyph(stems[from].value->type, style.up))
                block.glyph(Sign::Flag,
                            *flag,
                            stems[from].x - engravingDefaults().stem * style.space / 2.0,
                            stems[from].to,
                            style.space,
                            stems[from].note);
        }
        from = to;
    }
}

namespace {

using Tuplet = std::span<const TupletPlace>;

bool onOneBeam(Tuplet tuplet) {
    const int beam = tuplet.front().value->beam;
    return beam > 0 && tuplet.size() > 1 && std::ranges::all_of(tuplet, [beam](const auto& place) {
               return place.value->beam == beam;
           });
}

void drawTuplet(Block& block, Tuplet tuplet, bool over, double space) {
    constexpr double kNumber = 0.75; // of the space
    constexpr double kHook = 0.6;    // spaces
    const Glyph number = digitOf(Glyph::Tuplet0, std::clamp(tuplet.front().value->actual, 0, 9));
    const double left = tuplet.front().x - 0.6 * space;
    const double right = tuplet.back().x + 0.6 * space;
    const double height = metricsOf(number).height() * kNumber * space;
    const double middle = over ? block.over(left, right, 0.5) - height / 2.0
                               : block.under(left, right, 0.5) + height / 2.0;
    const double x = (left + right) / 2.0;
    block.glyphAt(Sign::TupletNumber, number, x, middle, kNumber * space);
    if (onOneBeam(tuplet))
        return;
    const double width = engravingDefaults().tuplet * space;
    const double room = metricsOf(number).width() * kNumber * space / 2.0 + 0.4;
    const double hook = (over ? 1.0 : -1.0) * kHook * space;
    for (const auto& [a, b] : {std::pair{left, x - room}, std::pair{x + room, right}})
        if (b - a > 0.3)
            block.line(Sign::TupletBracket, {a, middle, b, middle, width, false});
    for (const double end : {left, right})
        block.line(Sign::TupletBracket, {end, middle, end, middle + hook, width, false});
}

} // namespace

void drawTuplets(Block& block, const std::vector<TupletPlace>& places, bool over, double space) {
    for (std::size_t from = 0; from < places.size();) {
        const int bracket = places[from].value->bracket;
        std::size_t to = from + 1;
        while (bracket > 0 && to < places.size() && places[to].value->bracket == bracket)
            ++to;
        if (places[from].value->tuplet())
            drawTuplet(block, Tuplet(places).subspan(from, to - from), over, space);
        from = to;
    }
}

} // namespace wirenote
