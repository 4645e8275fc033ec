// One staff with what is written about it, growing upwards and downwards without anything touching.
#pragma once

#include "engraving/font_metrics.h"
#include "engraving/skyline.h"

namespace wirenote {

class Block {
  public:
    explicit Block(double width_mm) : m_skyline(width_mm) {}

    // Where x stands for.
    enum class Align { Left, Centre, Right };
    static Box glyphBox(Glyph glyph, double x, double y, double space);
    static Box
    textBox(const std::string& text, double left, double baseline, double size, bool strong);

    void glyph(Sign sign, Glyph glyph, double x, double y, double space, NoteId note = 0);
    // With the middle of its box there.
    void glyphAt(Sign sign, Glyph glyph, double x, double y, double space, NoteId note = 0);
    Box text(Sign sign,
             const std::string& text,
             double x,
             double baseline,
             double size,
             bool strong = false,
             Align align = Align::Centre,
             NoteId note = 0);
    void line(Sign sign, LineInk line, NoteId note = 0);
    void shape(Sign sign, ShapeInk shape, NoteId note = 0);
    void curve(Sign sign, const CurveInk& curve, NoteId note = 0); // takes no room
    void doubt(const Box& box, NoteId note);                       // a dashed frame round it
    void onPaper() { m_ink.back().on_paper = true; } // the last one interrupts lines behind it
    void reserve(const Box& box) { m_skyline.add(box); }

    // The bottom (top) edge for something of that width that is to stand over (under) all that is
    // there, `apart` away.
    double over(double left, double right, double apart) const;
    double under(double left, double right, double apart) const;

    void moveBy(double dx, double dy);
    const Skyline& skyline() const { return m_skyline; }
    std::vector<Ink>& ink() { return m_ink; }
    const std::vector<Ink>& ink() const { return m_ink; }

  private:
    void put(Ink ink, bool takes_room = true);
    std::vector<Ink> m_ink;
    Skyline m_skyline;
};

} // namespace wirenote
