#include "formats/musicxml_marks.h"

#include "formats/words.h"

#include <algorithm>
#include <cmath>

namespace wirenote::musicxml {
namespace {

constexpr double kMostBend = 24.0; // semitones

bool stops(const pugi::xml_node& parent, const char* name) {
    return std::ranges::any_of(parent.children(name), [](const pugi::xml_node& child) {
        return std::string_view(child.attribute("type").as_string()) == "stop";
    });
}

double amountOf(const pugi::xml_node& bend) {
    const double amount = bend.child("bend-alter").text().as_double();
    return std::isfinite(amount) ? std::clamp(amount, -kMostBend, kMostBend) : 0.0;
}

void readBends(const pugi::xml_node& technical, ReadMarks& marks) {
    for (const pugi::xml_node bend : technical.children("bend")) {
        const double amount = amountOf(bend);
        if (bend.child("release")) {
            marks.techniques.push_back(Technique::Release);
        } else if (bend.child("pre-bend")) {
            marks.techniques.push_back(Technique::PreBend);
            marks.pre_bend = std::max(0.0, amount);
        } else {
            marks.techniques.push_back(Technique::Bend);
            marks.bend = std::max(0.0, amount);
        }
    }
}

void readTechnical(const pugi::xml_node& technical, ReadMarks& marks) {
    marks.string = std::clamp(technical.child("string").text().as_int(), 0, kMaxStrings);
    marks.fret = std::clamp(technical.child("fret").text().as_int(), 0, kMaxFrets);
    if (const auto finger = fingerFrom(technical.child("fingering").text().as_string());
        finger && *finger >= Finger::Index)
        marks.finger = *finger;
    const auto pluck = strokeFrom(technical.child("pluck").text().as_string());
    marks.stroke = technical.child("down-bow")                           ? Stroke::Down
                   : technical.child("up-bow")                           ? Stroke::Up
                   : pluck && *pluck >= Stroke::P && *pluck <= Stroke::C ? *pluck
                                                                         : Stroke::Unknown;
    const auto add = [&marks](bool there, Technique technique) {
        if (there)
            marks.techniques.push_back(technique);
    };
    add(stops(technical, "hammer-on"), Technique::HammerOn);
    add(stops(technical, "pull-off"), Technique::PullOff);
    add(!technical.child("harmonic").empty(), Technique::Harmonic);
    add(!technical.child("tap").empty(), Technique::Tap);
    readBends(technical, marks);
    for (const pugi::xml_node other : technical.children("other-technical")) {
        const std::string_view word = other.text().as_string();
        add(word == "let ring", Technique::LetRing);
        add(word == "rake", Technique::Rake);
    }
}

} // namespace

ReadMarks marksOfNote(const pugi::xml_node& note) {
    ReadMarks marks;
    const auto add = [&marks](bool there, Technique technique) {
        if (there && std::ranges::find(marks.techniques, technique) == marks.techniques.end())
            marks.techniques.push_back(technique);
    };
    for (const pugi::xml_node notations : note.children("notations")) {
        if (const pugi::xml_node technical = notations.child("technical"))
            readTechnical(technical, marks);
        add(stops(notations, "slide"), Technique::Slide);
        const pugi::xml_node articulations = notations.child("articulations");
        add(!articulations.child("accent").empty(), Technique::Accent);
        add(!articulations.child("staccato").empty(), Technique::Staccato);
        const pugi::xml_node ornaments = notations.child("ornaments");
        add(!ornaments.child("trill-mark").empty(), Technique::Trill);
        add(!ornaments.child("wavy-line").empty() && ornaments.child("trill-mark").empty(),
            Technique::Vibrato);
        add(!ornaments.child("tremolo").empty(), Technique::Tremolo);
        add(!notations.child("arpeggiate").empty(), Technique::Roll);
    }
    const pugi::xml_node head = note.child("notehead");
    if (std::string_view(head.text().as_string()) == "x")
        add(true,
            std::string_view(head.attribute("parentheses").as_string()) == "yes"
                ? Technique::GhostStroke
                : Technique::Dead);
    add(std::string_view(note.child("play").child("mute").text().as_string()) == "palm",
        Technique::PalmMute);
    return marks;
}

void addMarks(const ReadMarks& from, ReadMarks& to) {
    for (const Technique technique : from.techniques)
        if (std::ranges::find(to.techniques, technique) == to.techniques.end())
            to.techniques.push_back(technique);
    if (to.finger == Finger::Unknown)
        to.finger = from.finger;
    if (to.stroke == Stroke::Unknown)
        to.stroke = from.stroke;
    to.bend = std::max(to.bend, from.bend);
    to.pre_bend = std::max(to.pre_bend, from.pre_bend);
}

std::vector<PitchPoint> curveOf(const ReadMarks& marks, double length_s) {
    const bool released =
        std::ranges::find(marks.techniques, Technique::Release) != marks.techniques.end();
    std::vector<PitchPoint> curve;
    if (marks.bend > 0.0) {
        curve = {{0.0, 0.0}, {0.4 * length_s, 100.0 * marks.bend}};
        if (released)
            curve.push_back({0.9 * length_s, 0.0});
    } else if (marks.pre_bend > 0.0) { // it sounds drawn, and falls to its fret
        curve = {{0.0, 0.0}, {0.9 * length_s, -100.0 * marks.pre_bend}};
    }
    return curve;
}

} // namespace wirenote::musicxml
