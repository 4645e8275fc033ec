#include "formats/musicxml_beside.h"

#include "base/text.h"
#include "formats/musicxml_notes.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace wirenote::musicxml {
namespace {

constexpr int kWedges = 6; // the standard's number-level

pugi::xml_node directionType(pugi::xml_node measure, MarkKind kind) {
    pugi::xml_node direction = measure.append_child("direction");
    direction.append_attribute("placement") =
        kind == MarkKind::Dynamic || goesOn(kind) ? "below" : "above";
    return direction.append_child("direction-type");
}

void delay(pugi::xml_node type, Rational late) {
    if (late > Rational(0))
        number(type.parent(), "offset", divisions(late));
}

// What is there, or new where the schema wants it.
pugi::xml_node notationsOf(pugi::xml_node note) {
    if (pugi::xml_node there = note.child("notations"))
        return there;
    const pugi::xml_node play = note.child("play");
    return play ? note.insert_child_before("notations", play) : note.append_child("notations");
}

int wedgeNumber(const Sheet& sheet, const MarkSign& mark) {
    return 1 + static_cast<int>(&mark - sheet.marks.data()) % kWedges;
}

} // namespace

void BesideWriter::begin(pugi::xml_node measure, const MarkSign& mark, Rational late) const {
    if (mark.kind == MarkKind::Fermata) // belongs to notes
        return;
    pugi::xml_node type = directionType(measure, mark.kind);
    switch (mark.kind) {
    case MarkKind::Dynamic:
        type.append_child("dynamics").append_child(mark.text.c_str());
        break;
    case MarkKind::Louder:
    case MarkKind::Softer: {
        pugi::xml_node wedge = type.append_child("wedge");
        wedge.append_attribute("type") = mark.kind == MarkKind::Louder ? "crescendo" : "diminuendo";
        wedge.append_attribute("number") = wedgeNumber(m_sheet, mark);
        break;
    }
    case MarkKind::Segno:
        type.append_child("segno");
        break;
    case MarkKind::Coda:
        type.append_child("coda");
        break;
    default:
        text(type, "words", mark.text);
        break;
    }
    delay(type, late);
}

void BesideWriter::directions(pugi::xml_node measure, Rational from, Rational to, bool last) const {
    const auto here = [&](Rational at) { return at >= from && (last || at < to); };
    for (const MarkSign& mark : m_sheet.marks) // what ends there makes room for what begins
        if (goesOn(mark.kind) && here(mark.to)) {
            pugi::xml_node type = directionType(measure, mark.kind);
            pugi::xml_node wedge = type.append_child("wedge");
            wedge.append_attribute("type") = "stop";
            wedge.append_attribute("number") = wedgeNumber(m_sheet, mark);
            delay(type, mark.to - from);
        }
    for (const MarkSign& mark : m_sheet.marks)
        if (here(mark.from))
            begin(measure, mark, mark.from - from);
}

void BesideWriter::fermata(pugi::xml_node first,
                           const Bar& bar,
                           const Value& value,
                           Voice voice) const {
    const auto starts = [&](const std::vector<Value>& values, Rational at) {
        return std::ranges::any_of(values,
                                   [&](const Value& one) { return bar.start + one.start == at; });
    };
    const Rational from = bar.start + value.start;
    for (const MarkSign& mark : m_sheet.marks) {
        if (mark.kind != MarkKind::Fermata || mark.from < from || mark.from >= from + value.length)
            continue;
        // The voice in which something begins there, the upper one where both do or neither does.
        const bool lower = !starts(bar.values, mark.from) && starts(bar.lower, mark.from);
        if (lower != (voice == Voice::Lower))
            continue;
        while (first && (std::string_view(first.name()) != "note" || first.child("grace")))
            first = first.next_sibling();
        if (first)
            notationsOf(first).append_child("fermata").append_attribute("type") = "upright";
        return;
    }
}

void BesideReader::add(MarkKind kind, double at, std::string text) {
    if (m_marks.size() < kMaxSheetMarks)
        m_marks.push_back({kind, at, at, std::move(text)});
}

void BesideReader::readWedge(const pugi::xml_node& wedge, double at) {
    const std::string_view type = wedge.attribute("type").as_string();
    const int number = wedge.attribute("number").as_int(1);
    if (type == "crescendo" || type == "diminuendo") {
        m_open[number] = {type == "crescendo" ? MarkKind::Louder : MarkKind::Softer, at, at, {}};
    } else if (const auto open = m_open.find(number); type == "stop" && open != m_open.end()) {
        open->second.to = at;
        if (at > open->second.from && m_marks.size() < kMaxSheetMarks)
            m_marks.push_back(open->second);
        m_open.erase(open);
    }
}

void BesideReader::readDynamics(const pugi::xml_node& dynamics, double at) {
    for (const pugi::xml_node level : dynamics.children())
        if (isDynamic(level.name()))
            add(MarkKind::Dynamic, at, level.name());
}

void BesideReader::readDirection(const pugi::xml_node& direction, double at, double late) {
    const double here = std::max(0.0, at + late);
    for (const pugi::xml_node type : direction.children("direction-type"))
        for (const pugi::xml_node item : type.children()) {
            const std::string_view name = item.name();
            if (name == "dynamics")
                readDynamics(item, here);
            else if (name == "wedge")
                readWedge(item, here);
            else if (name == "segno")
                add(MarkKind::Segno, here);
            else if (name == "coda")
                add(MarkKind::Coda, here);
            else if (name == "words")
                if (std::string words = cleanText(item.text().as_string()); !words.empty())
                    add(MarkKind::Words, here, std::move(words));
        }
}

void BesideReader::readNote(const pugi::xml_node& note, double start) {
    for (const pugi::xml_node notations : note.children("notations")) {
        if (notations.child("fermata"))
            add(MarkKind::Fermata, start);
        readDynamics(notations.child("dynamics"), start);
    }
}

std::vector<BesideReader::Read> BesideReader::marks() const {
    std::vector<Read> all = m_marks;
    const auto key = [](const Read& mark) {
        constexpr double kFine = 4800.0; // parts of a quarter: two staves may say the same
        return std::tuple(std::llround(mark.from * kFine), mark.kind, mark.text);
    };
    std::ranges::stable_sort(all, {}, key);
    const auto same = [&key](const Read& a, const Read& b) { return key(a) == key(b); };
    all.erase(std::unique(all.begin(), all.end(), same), all.end());
    return all;
}

} // namespace wirenote::musicxml
