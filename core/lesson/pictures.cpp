#include "lesson/pictures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <map>

namespace wirenote {
namespace {

std::string number(double x) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f", x);
    return text;
}

// Collects shapes; ink and paper follow the page (currentColor), so that it also shows in the dark.
class Svg {
  public:
    Svg(double width, double height, const std::string& name)
        : m_text("<svg xmlns=\"http://www.w3.org/2000/svg\" role=\"img\" width=\"" + number(width) +
                 "\" height=\"" + number(height) + "\" viewBox=\"0 0 " + number(width) + " " +
                 number(height) + "\" font-family=\"sans-serif\"><title>" + escapedXml(name) +
                 "</title>") {}

    void line(double x1, double y1, double x2, double y2, double width) {
        m_text += "<line x1=\"" + number(x1) + "\" y1=\"" + number(y1) + "\" x2=\"" + number(x2) +
                  "\" y2=\"" + number(y2) + "\" stroke=\"currentColor\" stroke-width=\"" +
                  number(width) + "\"/>";
    }
    void dot(double x, double y, double radius, bool filled) {
        m_text += "<circle cx=\"" + number(x) + "\" cy=\"" + number(y) + "\" r=\"" +
                  number(radius) + "\" stroke=\"currentColor\" fill=\"" +
                  (filled ? "currentColor" : "none") + "\"/>";
    }
    void box(double x, double y, double width, double height) {
        m_text += "<rect x=\"" + number(x) + "\" y=\"" + number(y) + "\" width=\"" + number(width) +
                  "\" height=\"" + number(height) +
                  "\" rx=\"6\" fill=\"currentColor\" fill-opacity=\"0.08\" "
                  "stroke=\"currentColor\" stroke-dasharray=\"4 3\"/>";
    }
    void path(const std::string& d) {
        m_text +=
            "<path d=\"" + d + "\" fill=\"none\" stroke=\"currentColor\" stroke-width=\"1.6\"/>";
    }
    void text(double x,
              double y,
              double size,
              const std::string& said,
              const char* anchor = "middle",
              bool bold = false,
              const char* fill = "currentColor") {
        m_text += "<text x=\"" + number(x) + "\" y=\"" + number(y) + "\" font-size=\"" +
                  number(size) + "\" text-anchor=\"" + anchor + "\" fill=\"" + fill + "\"" +
                  (bold ? " font-weight=\"bold\"" : "") + ">" + escapedXml(said) + "</text>";
    }
    std::string done() && { return std::move(m_text) + "</svg>"; }

  private:
    std::string m_text;
};

std::string fingerSign(Finger finger) {
    if (finger == Finger::Thumb)
        return "T";
    const int n = static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1;
    return n >= 1 && n <= 4 ? std::to_string(n) : std::string();
}

// A pressed place: a dot with the finger's number in the colour of the paper.
void pressed(Svg& svg, double x, double y, double radius, Finger finger) {
    svg.dot(x, y, radius, true);
    if (const std::string sign = fingerSign(finger); !sign.empty())
        svg.text(x, y + radius * 0.55, radius * 1.6, sign, "middle", true, "var(--paper, #fff)");
}

// ⊓ and V as bowing signs have them (common notation).
void strokeSign(Svg& svg, double x, double y, Stroke stroke) {
    constexpr double kHalf = 5.0, kHigh = 9.0;
    const auto at = [](double a, double b) { return number(a) + " " + number(b); };
    switch (stroke) {
    case Stroke::Down:
        svg.path("M" + at(x - kHalf, y) + "L" + at(x - kHalf, y - kHigh) + "L" +
                 at(x + kHalf, y - kHigh) + "L" + at(x + kHalf, y));
        break;
    case Stroke::Up:
        svg.path("M" + at(x - kHalf, y - kHigh) + "L" + at(x, y) + "L" + at(x + kHalf, y - kHigh));
        break;
    case Stroke::Ghost:
        svg.text(x, y, 13.0, "( )");
        break;
    case Stroke::None:
        svg.text(x, y, 13.0, "–");
        break;
    case Stroke::Unknown:
        break;
    default: {
        constexpr std::array kSigns = {"p", "i", "m", "a", "c"};
        svg.text(x,
                 y,
                 13.0,
                 kSigns[static_cast<std::size_t>(stroke) - static_cast<std::size_t>(Stroke::P)]);
        break;
    }
    }
}

} // namespace

std::string escapedXml(const std::string& text) {
    std::string out;
    for (const char c : text) {
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        case '\'':
            out += "&#39;";
            break;
        default:
            out += c;
        }
    }
    return out;
}

std::string gripSvg(const Instrument& instrument,
                    const std::vector<PressedPlace>& places,
                    const std::string& name,
                    const std::string& described) {
    constexpr double kString = 16.0, kFret = 22.0, kLeft = 26.0, kTop = 34.0;
    constexpr int kLeast = 4;
    const int strings = instrument.stringCount();
    int low = kMaxFrets, high = 0;
    for (const PressedPlace& one : places)
        if (one.place.fret > 0) {
            low = std::min(low, one.place.fret);
            high = std::max(high, one.place.fret);
        }
    const int first = high <= kLeast ? 1 : low;
    const int shown = std::max(kLeast, high - first + 1);
    Svg svg(kLeft + kString * strings + 14.0,
            kTop + kFret * shown + 10.0,
            described.empty() ? name : described);
    const auto xOf = [&](int string) {
        const int from_left = instrument.left_handed ? string - 1 : strings - string;
        return kLeft + kString * from_left;
    };
    for (int s = 1; s <= strings; ++s) {
        svg.line(xOf(s), kTop, xOf(s), kTop + kFret * shown, 0.7 + 0.18 * s);
        const auto at = std::ranges::find_if(
            places, [s](const PressedPlace& one) { return one.place.string == s; });
        if (at == places.end())
            svg.text(xOf(s), kTop - 6.0, 13.0, "×");
        else if (at->place.fret == 0)
            svg.dot(xOf(s), kTop - 10.0, 4.0, false);
        else
            pressed(svg, xOf(s), kTop + kFret * (at->place.fret - first + 0.5), 7.0, at->finger);
    }
    const double left = std::min(xOf(1), xOf(strings)), right = std::max(xOf(1), xOf(strings));
    for (int f = 0; f <= shown; ++f)
        svg.line(left, kTop + kFret * f, right, kTop + kFret * f, f == 0 && first == 1 ? 3.0 : 0.8);
    if (first > 1)
        svg.text(left - 8.0, kTop + kFret * 0.7, 12.0, std::to_string(first), "end");
    svg.text((left + right) / 2.0, 14.0, 14.0, name, "middle", true);
    return std::move(svg).done();
}

std::string neckSvg(const Instrument& instrument,
                    const std::vector<PressedPlace>& places,
                    const std::string& name) {
    constexpr double kString = 18.0, kTop = 16.0, kWide = 620.0, kLeft = 30.0;
    constexpr int kLeast = 5;
    int low = instrument.highestFret(), high = 1;
    for (const PressedPlace& one : places)
        if (one.place.fret > 0) {
            low = std::min(low, one.place.fret);
            high = std::max(high, one.place.fret);
        }
    constexpr int kNearNut = 4; // from here the nut is shown too
    if (low > high)
        low = 1; // nothing is pressed
    int first = low <= kNearNut ? 0 : low - 1;
    const int last = std::min(instrument.highestFret(), std::max(high, first + kLeast));
    first = std::clamp(last - kLeast, 0, first); // at the end of the neck, too
    const auto mm = [&](int fret) {
        return fretPlace_mm(instrument.scale_mm, fret + instrument.capo);
    };
    const double scale = kWide / std::max(1.0, mm(last) - mm(first));
    const auto xOf = [&](int fret) {
        const double x = (mm(fret) - mm(first)) * scale;
        return instrument.left_handed ? kLeft + kWide - x : kLeft + x;
    };
    const int strings = instrument.stringCount();
    Svg svg(kLeft + kWide + 30.0, kTop + kString * strings + 20.0, name);
    for (int s = 1; s <= strings; ++s) {
        const double y = kTop + kString * (s - 1);
        svg.line(kLeft, y, kLeft + kWide, y, 0.6 + 0.25 * s);
        svg.text(kLeft - 12.0, y + 4.0, 11.0, std::to_string(s));
    }
    for (int f = first; f <= last; ++f)
        svg.line(xOf(f), kTop, xOf(f), kTop + kString * (strings - 1), f == 0 ? 3.0 : 1.0);
    for (int f = first + 1; f <= last; ++f)
        svg.text(
            (xOf(f) + xOf(f - 1)) / 2.0, kTop + kString * strings + 8.0, 11.0, std::to_string(f));
    for (const PressedPlace& one : places) {
        const double y = kTop + kString * (one.place.string - 1);
        if (one.place.fret == 0)
            svg.dot(instrument.left_handed ? kLeft + kWide + 10.0 : kLeft - 1.0, y, 5.0, false);
        else
            pressed(svg, (xOf(one.place.fret) + xOf(one.place.fret - 1)) / 2.0, y, 7.5, one.finger);
    }
    return std::move(svg).done();
}

namespace {

std::vector<std::size_t>
notesIn(const LessonFacts& facts, const LessonMoment& moment, const PluckingLayer& layer) {
    std::vector<std::size_t> notes;
    std::ranges::copy_if(moment.notes, std::back_inserter(notes), [&](std::size_t note) {
        return inLayer(facts, layer, moment, note);
    });
    return notes;
}

// The strokes of one moment, two of them at the most, over the strings that they meet.
void strokesOn(Svg& svg,
               const LessonFacts& facts,
               const std::vector<std::size_t>& notes,
               double x) {
    constexpr double kSigns = 44.0, kStrings = 64.0, kBeside = 12.0;
    std::vector<Stroke> drawn;
    for (const std::size_t note : notes) {
        const Stroke stroke = facts.plan(note).stroke.value;
        if (std::ranges::count(drawn, stroke) > 0 || drawn.size() >= 2)
            continue;
        drawn.push_back(stroke);
        strokeSign(svg, drawn.size() == 1 ? x : x + kBeside, kSigns, stroke);
    }
    std::string strings = std::to_string(facts.plan(notes.front()).position.value.string);
    if (notes.size() > 1)
        strings += "–" + std::to_string(facts.plan(notes.back()).position.value.string);
    svg.text(x, kStrings, 11.0, strings);
}

} // namespace

std::string strokesSvg(const LessonFacts& facts,
                       Rational from,
                       Rational to,
                       const std::string& name,
                       const PluckingLayer& layer) {
    constexpr double kColumn = 30.0, kLeft = 12.0;
    std::map<Rational, std::pair<std::string, bool>> columns; // count, sounds
    for (const CountMark& mark : facts.count())
        if (mark.quarters >= from && mark.quarters < to)
            columns[mark.quarters] = {mark.text, mark.sounds};
    const auto [first, last] = facts.momentsIn(from, to);
    for (std::size_t m = first; m < last; ++m)
        columns[facts.moments()[m].start].second =
            !notesIn(facts, facts.moments()[m], layer).empty();
    Svg svg(2.0 * kLeft + kColumn * static_cast<double>(std::max<std::size_t>(1, columns.size())),
            76.0,
            name);
    double x = kLeft + kColumn / 2.0;
    int bar = facts.placeAt(from).bar;
    for (const auto& [at, count] : columns) {
        if (const int here = facts.placeAt(at).bar; here != bar) {
            svg.line(x - kColumn / 2.0, 8.0, x - kColumn / 2.0, 70.0, 1.0);
            bar = here;
        }
        svg.text(x, 22.0, 14.0, count.first, "middle", count.second);
        const auto [m, end] = facts.momentsIn(at, at + Rational(1, 1000));
        const auto notes =
            m < end ? notesIn(facts, facts.moments()[m], layer) : std::vector<std::size_t>();
        if (!notes.empty())
            strokesOn(svg, facts, notes, x);
        x += kColumn;
    }
    return std::move(svg).done();
}

std::vector<PressedPlace> placesIn(const LessonFacts& facts, Rational from, Rational to) {
    std::vector<PressedPlace> places;
    const auto [first, last] = facts.momentsIn(from, to);
    for (std::size_t m = first; m < last; ++m)
        for (const std::size_t note : facts.moments()[m].notes) {
            const NotePlan& plan = facts.plan(note);
            const PressedPlace one{plan.position.value, plan.finger.value};
            const bool there = std::ranges::any_of(
                places, [&](const PressedPlace& other) { return other.place == one.place; });
            if (plan.placed() && !there)
                places.push_back(one);
        }
    return places;
}

std::vector<PressedPlace> placesOf(const LessonFacts& facts, TimeRange span) {
    std::vector<PressedPlace> places;
    for (const LessonMoment& moment : facts.moments()) {
        if (moment.time_s < span.start_s - 0.02 || moment.time_s >= span.end_s - 0.02)
            continue;
        for (const std::size_t note : moment.notes) {
            const NotePlan& plan = facts.plan(note);
            const bool taken = std::ranges::any_of(places, [&](const PressedPlace& other) {
                return other.place.string == plan.position.value.string;
            });
            if (plan.placed() && !taken && facts.piece().notes[note].pitched())
                places.push_back({plan.position.value, plan.finger.value});
        }
    }
    return places;
}

} // namespace wirenote
