#include "engraving/ink.h"

#include <algorithm>

namespace wirenote {
namespace {

bool isLine(Sign sign) {
    return sign == Sign::StaffLine || sign == Sign::BarLine || sign == Sign::Brace;
}

bool isCurve(Sign sign) {
    return sign == Sign::Tie || sign == Sign::Slur || sign == Sign::SlideLine ||
           sign == Sign::BendCurve || sign == Sign::Roll;
}

bool isBracket(Sign sign) {
    return sign == Sign::TupletBracket || sign == Sign::BarreLine || sign == Sign::EndingLine ||
           sign == Sign::TechniqueLine || sign == Sign::FingerLine;
}

bool isOneOf(Sign a, Sign b, Sign x, Sign y) {
    return (a == x && b == y) || (a == y && b == x);
}

} // namespace

bool overlap(const Box& a, const Box& b, double by_mm) {
    return a.left + by_mm < b.right && b.left + by_mm < a.right && a.top + by_mm < b.bottom &&
           b.top + by_mm < a.bottom;
}

bool mayTouch(const Ink& a, const Ink& b) {
    if (isCurve(a.sign) || isCurve(b.sign)) // they go over strings and round marks
        return true;
    // What is written on the lines of a staff lies on them.
    const auto on_lines = [](Sign s) {
        return s != Sign::Chord && s != Sign::Technique && s != Sign::Vibrato && s != Sign::Count &&
               s != Sign::Stroke && s != Sign::Finger && s != Sign::Section &&
               s != Sign::Position && s != Sign::Barre;
    };
    if (isLine(a.sign) || isLine(b.sign))
        return (isLine(a.sign) && isLine(b.sign)) || (on_lines(a.sign) && on_lines(b.sign));
    if (isBracket(a.sign) && isBracket(b.sign))
        return a.sign == b.sign;
    if (a.sign == Sign::Doubt || b.sign == Sign::Doubt) // a frame stands round its mark
        return true;
    const auto is = [&](Sign x, Sign y) { return isOneOf(a.sign, b.sign, x, y); };
    return is(Sign::Head, Sign::Stem) || is(Sign::Stem, Sign::Stem) || is(Sign::Stem, Sign::Beam) ||
           is(Sign::Beam, Sign::Beam) || is(Sign::Stem, Sign::Flag) ||
           is(Sign::Head, Sign::Ledger) || is(Sign::Head, Sign::Head) ||
           is(Sign::Ledger, Sign::Ledger) || is(Sign::Ledger, Sign::Accidental) ||
           is(Sign::Ledger, Sign::Stem) || is(Sign::Ledger, Sign::Dot) ||
           is(Sign::Ledger, Sign::Flag) || is(Sign::GraceHead, Sign::Stem) ||
           is(Sign::Vibrato, Sign::Vibrato) || is(Sign::TupletBracket, Sign::TupletNumber) ||
           is(Sign::Grip, Sign::Grip) || is(Sign::Section, Sign::Section) ||
           is(Sign::BendCurve, Sign::BendAmount) || is(Sign::Ledger, Sign::GraceHead) ||
           is(Sign::Basis, Sign::Basis) || is(Sign::Hairpin, Sign::Hairpin) ||
           is(Sign::Dynamic, Sign::Dynamic);
}

namespace {

void shift(Point& p, double dx, double dy) {
    p.x += dx;
    p.y += dy;
}

struct Shift {
    double dx, dy;
    void operator()(GlyphInk& g) const {
        g.x += dx;
        g.y += dy;
    }
    void operator()(TextInk& t) const {
        t.x += dx;
        t.baseline += dy;
    }
    void operator()(LineInk& l) const {
        l.x1 += dx;
        l.x2 += dx;
        l.y1 += dy;
        l.y2 += dy;
    }
    void operator()(ShapeInk& s) const {
        for (Point& p : s.points)
            shift(p, dx, dy);
    }
    void operator()(CurveInk& c) const {
        for (Point* p : {&c.from, &c.c1, &c.c2, &c.to})
            shift(*p, dx, dy);
    }
};

} // namespace

void move(Ink& ink, double dx, double dy) {
    ink.box = {ink.box.left + dx, ink.box.top + dy, ink.box.right + dx, ink.box.bottom + dy};
    std::visit(Shift{dx, dy}, ink.what);
}

} // namespace wirenote
