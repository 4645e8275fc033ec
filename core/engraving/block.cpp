#include "engraving/block.h"

#include <algorithm>

namespace wirenote {

void Block::put(Ink ink, bool takes_room) {
    if (takes_room)
        m_skyline.add(ink.box);
    m_ink.push_back(std::move(ink));
}

Box Block::glyphBox(Glyph glyph, double x, double y, double space) {
    const GlyphMetrics& m = metricsOf(glyph);
    return {x + m.left * space, y - m.top * space, x + m.right * space, y - m.bottom * space};
}

// As high as capitals are, or deeper where letters hang down.
Box Block::textBox(
    const std::string& text, double left, double baseline, double size, bool strong) {
    const bool hangs = text.find_first_of("gjpqy,;()Q") != std::string::npos;
    const TextMetrics& m = textMetrics();
    return {left,
            baseline - m.capital * size,
            left + textWidth(text, strong) * size,
            baseline + (hangs ? m.descent * size : 0.02 * size)};
}

void Block::glyph(Sign sign, Glyph glyph, double x, double y, double space, NoteId note) {
    put({sign,
         note,
         glyphBox(glyph, x, y, space),
         GlyphInk{metricsOf(glyph).code, x, y, space},
         false});
}

void Block::glyphAt(Sign sign, Glyph which, double x, double y, double space, NoteId note) {
    const GlyphMetrics& m = metricsOf(which);
    glyph(sign,
          which,
          x - (m.left + m.right) / 2.0 * space,
          y + (m.top + m.bottom) / 2.0 * space,
          space,
          note);
}

Box Block::text(Sign sign,
                const std::string& text,
                double x,
                double baseline,
                double size,
                bool strong,
                Align align,
                NoteId note) {
    const double width = textWidth(text, strong) * size;
    const double left = align == Align::Left     ? x
                        : align == Align::Centre ? x - width / 2.0
                                                 : x - width;
    double at = left;
    for (const TextRun& run : textRuns(text, strong)) {
        if (run.accidental) {
            const double space = kAccidentalInText * size;
            glyphAt(sign,
                    *run.accidental,
                    at + run.width * size / 2.0,
                    baseline - textMetrics().capital * size / 2.0,
                    space,
                    note);
        } else {
            put({sign,
                 note,
                 textBox(run.text, at, baseline, size, strong),
                 TextInk{run.text, at, baseline, size, strong},
                 false});
        }
        at += run.width * size;
    }
    return textBox(text, left, baseline, size, strong);
}

void Block::line(Sign sign, LineInk line, NoteId note) {
    const double half = line.width / 2.0;
    const bool level = line.y1 == line.y2;
    const bool upright = line.x1 == line.x2;
    const Box box{std::min(line.x1, line.x2) - (level ? 0.0 : half),
                  std::min(line.y1, line.y2) - (upright ? 0.0 : half),
                  std::max(line.x1, line.x2) + (level ? 0.0 : half),
                  std::max(line.y1, line.y2) + (upright ? 0.0 : half)};
    put({sign, note, box, line, false});
}

void Block::shape(Sign sign, ShapeInk shape, NoteId note) {
    const double half = shape.width / 2.0;
    Box box{1e9, 1e9, -1e9, -1e9};
    for (const Point& p : shape.points)
        box = {std::min(box.left, p.x - half),
               std::min(box.top, p.y - half),
               std::max(box.right, p.x + half),
               std::max(box.bottom, p.y + half)};
    put({sign, note, box, std::move(shape), false});
}

void Block::curve(Sign sign, const CurveInk& curve, NoteId note) {
    Box box{1e9, 1e9, -1e9, -1e9};
    for (const Point& p : {curve.from, curve.c1, curve.c2, curve.to})
        box = {std::min(box.left, p.x),
               std::min(box.top, p.y),
               std::max(box.right, p.x),
               std::max(box.bottom, p.y)};
    put({sign, note, box, curve, false}, false);
}

void Block::doubt(const Box& box, NoteId note) {
    constexpr double kLine_mm = 0.12;
    for (const LineInk& side :
         {LineInk{box.left, box.top, box.right, box.top, kLine_mm, true},
          LineInk{box.left, box.bottom, box.right, box.bottom, kLine_mm, true},
          LineInk{box.left, box.top, box.left, box.bottom, kLine_mm, true},
          LineInk{box.right, box.top, box.right, box.bottom, kLine_mm, true}})
        line(Sign::Doubt, side, note);
}

double Block::over(double left, double right, double apart) const {
    return m_skyline.topOver(left, right, 0.0) - apart;
}

double Block::under(double left, double right, double apart) const {
    return m_skyline.bottomOver(left, right, 0.0) + apart;
}

void Block::moveBy(double dx, double dy) {
    for (Ink& ink : m_ink)
        move(ink, dx, dy);
}

} // namespace wirenote
