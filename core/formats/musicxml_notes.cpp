#include "formats/musicxml_notes.h"

#include "formats/words.h"
#include "score/marks.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::musicxml {
namespace {

// Quarter tones are halves here: 2, 1.5, -0.5.
std::string decimal(double halves) {
    const long doubled = std::lround(2.0 * halves);
    const std::string whole = std::to_string(std::abs(doubled) / 2);
    return (doubled < 0 ? "-" : "") + whole + (doubled % 2 != 0 ? ".5" : "");
}

const char* typeName(NoteType type) {
    switch (type) {
    case NoteType::Whole:
        return "whole";
    case NoteType::Half:
        return "half";
    case NoteType::Quarter:
        return "quarter";
    case NoteType::Eighth:
        return "eighth";
    case NoteType::Sixteenth:
        return "16th";
    case NoteType::ThirtySecond:
        return "32nd";
    }
    return "quarter";
}

int beamsOf(NoteType type) {
    return type >= NoteType::Eighth ? static_cast<int>(type) - static_cast<int>(NoteType::Quarter)
                                    : 0;
}

int voiceNumber(Voice voice, Staff staff) {
    return (staff == Staff::Notation ? 1 : 5) + (voice == Voice::Lower ? 1 : 0);
}

void typed(pugi::xml_node parent, const char* name, const char* type, int number_of) {
    pugi::xml_node node = parent.append_child(name);
    node.append_attribute("type") = type;
    node.append_attribute("number") = number_of;
}

// Beams of one note: level by level, whether it begins, goes on or ends there.
void beams(pugi::xml_node node, const std::vector<Value>& values, std::size_t at) {
    const Value& value = values[at];
    if (value.beam == 0)
        return;
    const auto has = [&](std::size_t i, int level) {
        return i < values.size() && values[i].beam == value.beam &&
               beamsOf(values[i].type) >= level;
    };
    for (int level = 1; level <= beamsOf(value.type); ++level) {
        const bool before = at > 0 && has(at - 1, level);
        const bool after = has(at + 1, level);
        const bool first = at == 0 || values[at - 1].beam != value.beam;
        pugi::xml_node beam = text(node,
                                   "beam",
                                   before && after ? "continue"
                                   : before        ? "end"
                                   : after         ? "begin"
                                   : first         ? "forward hook"
                                                   : "backward hook");
        beam.append_attribute("number") = level;
    }
}

void ornaments(pugi::xml_node notations, const Note& note) {
    pugi::xml_node node = notations.append_child("ornaments");
    if (note.has(Technique::Trill))
        node.append_child("trill-mark");
    if (note.has(Technique::Vibrato)) {
        typed(node, "wavy-line", "start", 1);
        typed(node, "wavy-line", "stop", 1);
    }
    if (note.has(Technique::Tremolo)) {
        pugi::xml_node tremolo = text(node, "tremolo", "3");
        tremolo.append_attribute("type") = "single";
    }
    if (!node.first_child())
        notations.remove_child(node);
}

void articulations(pugi::xml_node notations, const Note& note) {
    if (note.has(Technique::Accent) || note.has(Technique::Staccato)) {
        pugi::xml_node node = notations.append_child("articulations");
        if (note.has(Technique::Accent))
            node.append_child("accent");
        if (note.has(Technique::Staccato))
            node.append_child("staccato");
    }
    if (note.has(Technique::Roll))
        notations.append_child("arpeggiate");
}

// A damped string has a head of its own.
void head(pugi::xml_node node, const Note& note) {
    if (note.pitched())
        return;
    pugi::xml_node head = text(node, "notehead", "x");
    if (note.has(Technique::GhostStroke))
        head.append_attribute("parentheses") = "yes";
}

struct Kind {
    const char* written;
    const char* word;
};
// The standard's kinds of chords for the names of ours.
constexpr std::array<Kind, 19> kKinds = {{{"", "major"},
                                          {"m", "minor"},
                                          {"7", "dominant"},
                                          {"maj7", "major-seventh"},
                                          {"m7", "minor-seventh"},
                                          {"dim", "diminished"},
                                          {"dim7", "diminished-seventh"},
                                          {"m7♭5", "half-diminished"},
                                          {"aug", "augmented"},
                                          {"6", "major-sixth"},
                                          {"m6", "minor-sixth"},
                                          {"9", "dominant-ninth"},
                                          {"maj9", "major-ninth"},
                                          {"m9", "minor-ninth"},
                                          {"sus2", "suspended-second"},
                                          {"sus4", "suspended-fourth"},
                                          {"5", "power"},
                                          {"m(maj7)", "major-minor"},
                                          {"11", "dominant-11th"}}};

constexpr std::string_view kSharp = "♯";
constexpr std::string_view kFlat = "♭";

// A letter with its accidental off the front of a name.
std::optional<SpelledPitch> takeNote(std::string_view& name) {
    if (name.empty() || name.front() < 'A' || name.front() > 'G')
        return {};
    SpelledPitch pitch{name.front(), 0, 0};
    name.remove_prefix(1);
    for (const auto& [sign, alter] : {std::pair{kSharp, 1},
                                      {kFlat, -1},
                                      {std::string_view("#"), 1},
                                      {std::string_view("b"), -1}})
        if (name.starts_with(sign)) {
            pitch.alter = alter;
            name.remove_prefix(sign.size());
            break;
        }
    return pitch;
}

std::string noteName(const SpelledPitch& pitch) {
    return std::string(1, pitch.step) + std::string(pitch.alter > 0   ? kSharp
                                                    : pitch.alter < 0 ? kFlat
                                                                      : std::string_view());
}

} // namespace

pugi::xml_node text(pugi::xml_node parent, const char* name, const std::string& value) {
    pugi::xml_node node = parent.append_child(name);
    node.text().set(value.c_str());
    return node;
}

pugi::xml_node number(pugi::xml_node parent, const char* name, long value) {
    return text(parent, name, std::to_string(value));
}

long divisions(Rational quarters) {
    return (quarters * Rational(kDivisions)).floor();
}

std::optional<ChordParts> partsOf(const std::string& name) {
    std::string_view rest = name;
    const auto root = takeNote(rest);
    if (!root)
        return {};
    ChordParts parts{*root, {}, {}};
    const std::size_t slash = rest.rfind('/');
    if (slash != std::string_view::npos) {
        std::string_view bass = rest.substr(slash + 1);
        if (const auto note = takeNote(bass); note && bass.empty()) {
            parts.bass = note;
            rest = rest.substr(0, slash);
        }
    }
    parts.kind = rest;
    return parts;
}

std::string nameOf(const ChordParts& parts) {
    return noteName(parts.root) + parts.kind + (parts.bass ? "/" + noteName(*parts.bass) : "");
}

std::string kindWord(const std::string& kind) {
    const auto found =
        std::ranges::find_if(kKinds, [&](const Kind& k) { return k.written == kind; });
    return found == kKinds.end() ? "other" : found->word;
}

std::string kindOfWord(const std::string& word) {
    const auto found = std::ranges::find_if(kKinds, [&](const Kind& k) { return k.word == word; });
    return found == kKinds.end() ? "" : found->written;
}

void NoteWriter::write(pugi::xml_node measure,
                       const std::vector<Value>& values,
                       std::size_t at,
                       Voice voice,
                       Staff staff) const {
    const Value& value = values[at];
    if (value.rest()) {
        rest(measure, {values, at, voice, staff, 0, true});
        return;
    }
    for (const std::size_t i : value.graces)
        grace(measure, {values, at, voice, staff, i, true});
    for (std::size_t k = 0; k < value.notes.size(); ++k)
        note(measure, {values, at, voice, staff, value.notes[k], k == 0});
}

void NoteWriter::rest(pugi::xml_node measure, const Place& place) const {
    pugi::xml_node node = measure.append_child("note");
    node.append_child("rest");
    timing(node, place, nullptr);
    pugi::xml_node notations = node.append_child("notations");
    tuplet(notations, place);
    if (!notations.first_child())
        node.remove_child(notations);
}

void NoteWriter::grace(pugi::xml_node measure, const Place& place) const {
    const Note& note = m_piece.notes[place.note];
    pugi::xml_node node = measure.append_child("note");
    node.append_child("grace");
    pitch(node, note);
    number(node, "voice", voiceNumber(place.voice, place.staff));
    text(node, "type", "16th");
    head(node, note);
    number(node, "staff", static_cast<int>(place.staff));
    pugi::xml_node notations = node.append_child("notations");
    if (place.staff == Staff::Notation)
        handMarks(notations, place);
    else
        tabMarks(notations, place);
    if (!notations.first_child())
        node.remove_child(notations);
    if (note.has(Technique::PalmMute))
        text(node.append_child("play"), "mute", "palm");
}

void NoteWriter::pitch(pugi::xml_node node, const Note& note) const {
    const SpelledPitch spelled = spell(note.midi(), m_piece.key.spelling());
    pugi::xml_node pitch = node.append_child("pitch");
    text(pitch, "step", std::string(1, spelled.step));
    if (spelled.alter != 0)
        number(pitch, "alter", spelled.alter);
    number(pitch, "octave", spelled.octave);
}

void NoteWriter::note(pugi::xml_node measure, const Place& place) const {
    const Note& note = m_piece.notes[place.note];
    const Value& value = place.value();
    pugi::xml_node node = measure.append_child("note");
    if (!place.first)
        node.append_child("chord");
    pitch(node, note);
    timing(node, place, &note);
    if (place.staff == Staff::Notation && place.first)
        beams(node, place.values, place.at);
    pugi::xml_node notations = node.append_child("notations");
    if (value.tied_from_before)
        notations.append_child("tied").append_attribute("type") = "stop";
    if (value.tied_to_next)
        notations.append_child("tied").append_attribute("type") = "start";
    if (place.staff == Staff::Notation)
        handMarks(notations, place);
    else
        tabMarks(notations, place);
    if (place.first)
        tuplet(notations, place);
    if (!notations.first_child())
        node.remove_child(notations);
    if (note.has(Technique::PalmMute) && !value.tied_from_before)
        text(node.append_child("play"), "mute", "palm");
}

// Duration, ties, voice, type, dots, tuplet, head and staff, in the order the schema wants.
void NoteWriter::timing(pugi::xml_node node, const Place& place, const Note* note) const {
    const Value& value = place.value();
    number(node, "duration", divisions(value.length));
    if (value.tied_from_before)
        node.append_child("tie").append_attribute("type") = "stop";
    if (value.tied_to_next)
        node.append_child("tie").append_attribute("type") = "start";
    number(node, "voice", voiceNumber(place.voice, place.staff));
    text(node, "type", typeName(value.type));
    for (int dot = 0; dot < value.dots; ++dot)
        node.append_child("dot");
    if (value.tuplet()) {
        pugi::xml_node modification = node.append_child("time-modification");
        number(modification, "actual-notes", value.actual);
        number(modification, "normal-notes", value.normal);
    }
    if (note)
        head(node, *note);
    number(node, "staff", static_cast<int>(place.staff));
}

void NoteWriter::tuplet(pugi::xml_node notations, const Place& place) const {
    const Value& value = place.value();
    if (value.bracket == 0)
        return;
    const auto of = [&](std::size_t i) {
        return i < place.values.size() && place.values[i].bracket == value.bracket;
    };
    if (place.at == 0 || !of(place.at - 1))
        typed(notations, "tuplet", "start", 1);
    if (!of(place.at + 1))
        typed(notations, "tuplet", "stop", 1);
}

// The slur that starts at a note is that of the note after it.
const Note* NoteWriter::slurredAfter(const Place& place) const {
    constexpr std::size_t kFar = 24;
    if (place.value().tied_to_next &&
        std::ranges::find(place.value().notes, place.note) != place.value().notes.end())
        return nullptr;
    for (std::size_t i = place.note + 1; i < std::min(m_piece.notes.size(), place.note + kFar); ++i)
        if (noteBeforeOnString(m_piece, i) == place.note)
            return m_piece.notes[i].slurred() ? &m_piece.notes[i] : nullptr;
    return nullptr;
}

void NoteWriter::handMarks(pugi::xml_node notations, const Place& place) const {
    const Note& note = m_piece.notes[place.note];
    const bool begins = !place.value().tied_from_before || note.has(Technique::Grace);
    const int slur = place.voice == Voice::Lower ? 2 : 1;
    if (note.slurred() && begins && place.note > 0)
        typed(notations, "slur", "stop", slur);
    if (slurredAfter(place))
        typed(notations, "slur", "start", slur);
    if (!begins)
        return;
    ornaments(notations, note);
    const NotePlan& plan = m_piece.asPlayed().plans[place.note];
    pugi::xml_node technical = notations.append_child("technical");
    if (plan.stroke.value == Stroke::Down)
        technical.append_child("down-bow");
    if (plan.stroke.value == Stroke::Up)
        technical.append_child("up-bow");
    if (!technical.first_child())
        notations.remove_child(technical);
    articulations(notations, note);
}

void NoteWriter::bends(pugi::xml_node technical, const Note& note) const {
    if (note.has(Technique::PreBend)) {
        pugi::xml_node bend = technical.append_child("bend");
        text(bend, "bend-alter", decimal(note.midi() - note.frettedMidi()));
        bend.append_child("pre-bend");
    }
    const double amount = note.bendSemitones();
    if (note.has(Technique::Bend))
        text(technical.append_child("bend"), "bend-alter", decimal(amount));
    if (note.has(Technique::Release)) {
        pugi::xml_node back = technical.append_child("bend");
        text(back, "bend-alter", decimal(-amount));
        back.append_child("release");
    }
}

// Slides, hammer-ons and pull-offs that end and begin at a note.
void NoteWriter::tabSlurs(pugi::xml_node notations,
                          pugi::xml_node technical,
                          const Place& place) const {
    const auto mark = [&](const Note& to, bool begins) {
        const char* type = begins ? "start" : "stop";
        if (to.has(Technique::Slide)) {
            // Before what is technical, as the schema has no order but readers like one.
            pugi::xml_node slide = notations.insert_child_before("slide", technical);
            slide.append_attribute("type") = type;
            slide.append_attribute("number") = 1;
            return;
        }
        const bool hammer = to.has(Technique::HammerOn);
        const char* letter = hammer ? "H" : "P";
        pugi::xml_node node =
            text(technical, hammer ? "hammer-on" : "pull-off", begins ? letter : "");
        node.append_attribute("type") = type;
        node.append_attribute("number") = 1;
    };
    const Note& note = m_piece.notes[place.note];
    const bool starts = !place.value().tied_from_before || note.has(Technique::Grace);
    if (note.slurred() && starts && place.note > 0)
        mark(note, false);
    if (const Note* after = slurredAfter(place))
        mark(*after, true);
}

// What both hands do to it.
void NoteWriter::tabHands(pugi::xml_node technical, const Place& place) const {
    const Note& note = m_piece.notes[place.note];
    const NotePlan& plan = m_piece.asPlayed().plans[place.note];
    if (plan.finger.value >= Finger::Index)
        text(technical, "fingering", std::string(wordFor(plan.finger.value)));
    if (plan.stroke.value >= Stroke::P && plan.stroke.value <= Stroke::C)
        text(technical, "pluck", std::string(wordFor(plan.stroke.value)));
    if (note.has(Technique::Harmonic))
        technical.append_child("harmonic").append_child("natural");
    if (note.has(Technique::Tap))
        text(technical, "tap", "T");
    bends(technical, note);
    for (const auto& [technique, word] :
         {std::pair{Technique::LetRing, "let ring"}, std::pair{Technique::Rake, "rake"}})
        if (note.has(technique)) // the standard has no element for it
            text(technical, "other-technical", word);
}

void NoteWriter::tabMarks(pugi::xml_node notations, const Place& place) const {
    const NotePlan& plan = m_piece.asPlayed().plans[place.note];
    pugi::xml_node technical = notations.append_child("technical");
    tabSlurs(notations, technical, place);
    if (plan.placed()) {
        number(technical, "string", plan.position.value.string);
        number(technical, "fret", plan.position.value.fret);
    }
    if (!place.value().tied_from_before || m_piece.notes[place.note].has(Technique::Grace))
        tabHands(technical, place);
    if (!technical.first_child())
        notations.remove_child(technical);
}

} // namespace wirenote::musicxml
