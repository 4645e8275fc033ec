#include "formats/musicxml.h"

#include "formats/words.h"
#include "score/bars.h"
#include "score/marks.h"

#include <cmath>
#include <cstring>
#include <pugixml.hpp>
#include <sstream>

namespace wirenote {
namespace {

// Quarter tones are halves here: 2, 1.5, -0.5.
std::string decimal(double halves) {
    const long doubled = std::lround(2.0 * halves);
    const std::string whole = std::to_string(std::abs(doubled) / 2);
    return (doubled < 0 ? "-" : "") + whole + (doubled % 2 != 0 ? ".5" : "");
}

constexpr int kDivisions = 240; // of a quarter: thirty-seconds, triplets, quintuplets all whole

enum class Staff { Notation = 1, Tab = 2 };

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

class Writer {
  public:
    explicit Writer(const Piece& piece) : m_piece(piece), m_score(writeScore(piece)) {}

    std::string run() {
        pugi::xml_document document;
        pugi::xml_node declaration = document.append_child(pugi::node_declaration);
        declaration.append_attribute("version") = "1.0";
        declaration.append_attribute("encoding") = "UTF-8";
        document.append_child(pugi::node_doctype)
            .set_value("score-partwise PUBLIC \"-//Recordare//DTD MusicXML 3.0 Partwise//EN\" "
                       "\"http://www.musicxml.org/dtds/partwise.dtd\"");
        pugi::xml_node root = document.append_child("score-partwise");
        root.append_attribute("version") = "3.0";
        text(root.append_child("work"), "work-title", m_piece.title);
        pugi::xml_node identification = root.append_child("identification");
        creators(identification);
        text(identification.append_child("encoding"), "software", "Wirenote");
        pugi::xml_node score_part = root.append_child("part-list").append_child("score-part");
        score_part.append_attribute("id") = "P1";
        text(score_part, "part-name", m_piece.instrument.isBass() ? "Bass" : "Guitar");
        pugi::xml_node part = root.append_child("part");
        part.append_attribute("id") = "P1";
        for (std::size_t b = 0; b < m_score.bars.size(); ++b)
            measure(part,
                    m_score.bars[b],
                    b == 0,
                    b > 0 && m_score.bars[b].metre != m_score.bars[b - 1].metre);
        std::ostringstream out;
        document.save(out, " ", pugi::format_indent, pugi::encoding_utf8);
        return out.str();
    }

  private:
    // The kinds of creators are ours to name but for the composer's.
    void creators(pugi::xml_node& identification) const {
        const auto add = [&](const char* type, const std::string& who) {
            if (who.empty())
                return;
            pugi::xml_node creator = identification.append_child("creator");
            creator.append_attribute("type") = type;
            creator.text().set(who.c_str());
        };
        add("composer", m_piece.about.composer);
        add("performer", m_piece.about.player);
        add("transcriber", m_piece.about.transcriber);
    }

    void measure(pugi::xml_node part, const Bar& bar, bool first, bool new_metre) {
        pugi::xml_node measure = part.append_child("measure");
        measure.append_attribute("number") = bar.number;
        if (bar.number == 0)
            measure.append_attribute("implicit") = "yes";
        if (first) {
            attributes(measure);
            tempo(measure);
        } else if (new_metre) {
            time(measure.append_child("attributes"), bar.metre);
        }
        for (const Value& value : bar.values)
            writeValue(measure, value, Staff::Notation);
        number(measure.append_child("backup"), "duration", divisions(bar.length));
        for (const Value& value : bar.values)
            writeValue(measure, value, Staff::Tab);
        if (&bar == &m_score.bars.back()) {
            pugi::xml_node line = measure.append_child("barline");
            line.append_attribute("location") = "right";
            text(line, "bar-style", "light-heavy");
        }
    }

    static void time(pugi::xml_node attributes, const Metre& metre) {
        pugi::xml_node time = attributes.append_child("time");
        number(time, "beats", metre.beats);
        number(time, "beat-type", metre.unit);
    }

    void attributes(pugi::xml_node measure) {
        const Instrument& instrument = m_piece.instrument;
        pugi::xml_node a = measure.append_child("attributes");
        number(a, "divisions", kDivisions);
        number(a.append_child("key"), "fifths", m_score.key.fifths);
        time(a, m_score.bars.front().metre);
        number(a, "staves", 2);
        pugi::xml_node clef = a.append_child("clef");
        clef.append_attribute("number") = 1;
        text(clef, "sign", instrument.isBass() ? "F" : "G");
        number(clef, "line", instrument.isBass() ? 4 : 2);
        number(clef,
               "clef-octave-change",
               -1); // guitars and basses are written an octave above their sound
        pugi::xml_node tab = a.append_child("clef");
        tab.append_attribute("number") = 2;
        text(tab, "sign", "TAB");
        number(tab, "line", 5);
        pugi::xml_node details = a.append_child("staff-details");
        details.append_attribute("number") = 2;
        number(details, "staff-lines", instrument.stringCount());
        for (int line = 1; line <= instrument.stringCount();
             ++line) { // line 1 is the lowest: the thickest string
            pugi::xml_node tuning = details.append_child("staff-tuning");
            tuning.append_attribute("line") = line;
            const SpelledPitch pitch = spell(
                instrument.string(instrument.stringCount() + 1 - line).open_midi, Spelling::Sharps);
            text(tuning, "tuning-step", std::string(1, pitch.step));
            if (pitch.alter != 0)
                number(tuning, "tuning-alter", pitch.alter);
            number(tuning, "tuning-octave", pitch.octave);
        }
        if (instrument.capo > 0)
            number(details, "capo", instrument.capo);
    }

    void tempo(pugi::xml_node measure) {
        if (m_score.tempo_bpm <= 0.0)
            return;
        pugi::xml_node direction = measure.append_child("direction");
        direction.append_attribute("placement") = "above";
        pugi::xml_node metronome =
            direction.append_child("direction-type").append_child("metronome");
        text(metronome, "beat-unit", "quarter");
        if (m_score.metre.compound())
            metronome.append_child("beat-unit-dot");
        text(metronome, "per-minute", std::to_string(std::lround(m_score.tempo_bpm)));
        const double quarters = m_score.tempo_bpm * m_score.metre.beatLength().toDouble();
        direction.append_child("sound").append_attribute("tempo") =
            std::round(quarters * 1000.0) / 1000.0;
    }

    void writeValue(pugi::xml_node measure, const Value& value, Staff staff) {
        if (value.rest()) {
            pugi::xml_node node = measure.append_child("note");
            node.append_child("rest");
            timing(node, value, staff);
            return;
        }
        for (const std::size_t grace : value.graces)
            writeGrace(measure, grace, staff);
        for (std::size_t k = 0; k < value.notes.size(); ++k)
            writeNote(measure, value, value.notes[k], k > 0, staff);
    }

    void writeGrace(pugi::xml_node measure, std::size_t index, Staff staff) {
        const Note& note = m_piece.notes[index];
        const NotePlan& plan = m_piece.asPlayed().plans[index];
        pugi::xml_node node = measure.append_child("note");
        node.append_child("grace");
        pitch(node, note);
        number(node, "voice", staff == Staff::Notation ? 1 : 5);
        text(node, "type", "16th");
        number(node, "staff", static_cast<int>(staff));
        if (staff == Staff::Notation || !plan.placed())
            return;
        pugi::xml_node technical = node.append_child("notations").append_child("technical");
        number(technical, "string", plan.position.value.string);
        number(technical, "fret", plan.position.value.fret);
    }

    void pitch(pugi::xml_node node, const Note& note) const {
        const SpelledPitch spelled = spell(note.midi(), m_score.key.spelling());
        pugi::xml_node pitch = node.append_child("pitch");
        text(pitch, "step", std::string(1, spelled.step));
        if (spelled.alter != 0)
            number(pitch, "alter", spelled.alter);
        number(pitch, "octave", spelled.octave);
    }

    void writeNote(
        pugi::xml_node measure, const Value& value, std::size_t index, bool chord, Staff staff) {
        const Note& note = m_piece.notes[index];
        pugi::xml_node node = measure.append_child("note");
        if (chord)
            node.append_child("chord");
        pitch(node, note);
        timing(node, value, staff, note.pitched() ? nullptr : "x");
        pugi::xml_node notations = node.append_child("notations");
        if (value.tied_from_before)
            notations.append_child("tied").append_attribute("type") = "stop";
        if (value.tied_to_next)
            notations.append_child("tied").append_attribute("type") = "start";
        if (staff == Staff::Notation)
            handMarks(notations, value, index);
        else
            tabMarks(notations, value, index);
        if (!notations.first_child())
            node.remove_child(notations);
        if (note.has(Technique::PalmMute) && !value.tied_from_before)
            text(node.append_child("play"), "mute", "palm");
    }

    // Duration, ties, voice, type, dots, triplet and staff, in the order the schema wants.
    static void
    timing(pugi::xml_node node, const Value& value, Staff staff, const char* notehead = nullptr) {
        number(node, "duration", divisions(value.length));
        if (value.tied_from_before)
            node.append_child("tie").append_attribute("type") = "stop";
        if (value.tied_to_next)
            node.append_child("tie").append_attribute("type") = "start";
        number(node, "voice", staff == Staff::Notation ? 1 : 5);
        text(node, "type", typeName(value.type));
        for (int dot = 0; dot < value.dots; ++dot)
            node.append_child("dot");
        if (value.tuplet()) {
            pugi::xml_node modification = node.append_child("time-modification");
            number(modification, "actual-notes", value.actual);
            number(modification, "normal-notes", value.normal);
        }
        if (notehead)
            text(node, "notehead", notehead);
        number(node, "staff", static_cast<int>(staff));
    }

    // The slur that starts at a note is that of the note after it.
    const Note* slurredAfter(std::size_t index, const Value& value) const {
        constexpr std::size_t kFar = 24;
        if (value.tied_to_next)
            return nullptr;
        for (std::size_t i = index + 1; i < std::min(m_piece.notes.size(), index + kFar); ++i)
            if (noteBeforeOnString(m_piece, i) == index)
                return m_piece.notes[i].slurred() ? &m_piece.notes[i] : nullptr;
        return nullptr;
    }

    void handMarks(pugi::xml_node notations, const Value& value, std::size_t index) {
        const Note& note = m_piece.notes[index];
        const auto slur = [&notations](const char* type) {
            pugi::xml_node node = notations.append_child("slur");
            node.append_attribute("type") = type;
            node.append_attribute("number") = 1;
        };
        if (note.slurred() && !value.tied_from_before && index > 0)
            slur("stop");
        if (slurredAfter(index, value))
            slur("start");
        if (value.tied_from_before)
            return;
        ornaments(notations, note);
        const NotePlan& plan = m_piece.asPlayed().plans[index];
        pugi::xml_node technical = notations.append_child("technical");
        if (plan.stroke.value == Stroke::Down)
            technical.append_child("down-bow");
        if (plan.stroke.value == Stroke::Up)
            technical.append_child("up-bow");
        if (plan.finger.value >= Finger::Index && plan.finger.value <= Finger::Little)
            text(technical, "fingering", std::string(wordFor(plan.finger.value)));
        if (plan.stroke.value >= Stroke::P && plan.stroke.value <= Stroke::C)
            text(technical, "pluck", std::string(wordFor(plan.stroke.value)));
        if (!technical.first_child())
            notations.remove_child(technical);
        articulations(notations, note);
    }

    static void ornaments(pugi::xml_node notations, const Note& note) {
        if (!note.has(Technique::Trill) && !note.has(Technique::Tremolo))
            return;
        pugi::xml_node node = notations.append_child("ornaments");
        if (note.has(Technique::Trill))
            node.append_child("trill-mark");
        if (note.has(Technique::Tremolo)) {
            pugi::xml_node tremolo = text(node, "tremolo", "3");
            tremolo.append_attribute("type") = "single";
        }
    }

    static void articulations(pugi::xml_node notations, const Note& note) {
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

    static const char* slurElement(const Note& note) {
        return note.has(Technique::HammerOn) ? "hammer-on" : "pull-off";
    }

    void tabMarks(pugi::xml_node notations, const Value& value, std::size_t index) {
        const Note& note = m_piece.notes[index];
        const Note* after = slurredAfter(index, value);
        const bool arrives = note.slurred() && !value.tied_from_before && index > 0;
        const auto slide = [&notations](const char* type) {
            pugi::xml_node node = notations.append_child("slide");
            node.append_attribute("type") = type;
            node.append_attribute("number") = 1;
        };
        if (arrives && note.has(Technique::Slide))
            slide("stop");
        if (after && after->has(Technique::Slide))
            slide("start");
        const NotePlan& plan = m_piece.asPlayed().plans[index];
        pugi::xml_node technical = notations.append_child("technical");
        const auto mark = [&technical](const char* element, const char* type, const char* letter) {
            pugi::xml_node node = text(technical, element, letter);
            node.append_attribute("type") = type;
            node.append_attribute("number") = 1;
        };
        if (arrives && !note.has(Technique::Slide))
            mark(slurElement(note), "stop", "");
        if (after && !after->has(Technique::Slide))
            mark(slurElement(*after), "start", after->has(Technique::HammerOn) ? "H" : "P");
        if (plan.placed()) {
            number(technical, "string", plan.position.value.string);
            number(technical, "fret", plan.position.value.fret);
        }
        if (note.has(Technique::Harmonic))
            technical.append_child("harmonic").append_child("natural");
        if (note.has(Technique::Tap))
            text(technical, "tap", "T");
        if (note.has(Technique::PreBend)) {
            pugi::xml_node bend = technical.append_child("bend");
            text(bend, "bend-alter", decimal(note.midi() - note.frettedMidi()));
            bend.append_child("pre-bend");
        }
        if (const double bend = note.bendSemitones(); bend > 0.0) {
            text(technical.append_child("bend"), "bend-alter", decimal(bend));
            if (note.has(Technique::Release)) {
                pugi::xml_node back = technical.append_child("bend");
                text(back, "bend-alter", decimal(-bend));
                back.append_child("release");
            }
        }
        if (!technical.first_child())
            notations.remove_child(technical);
    }

    const Piece& m_piece;
    Score m_score;
};

} // namespace

std::string writeMusicXml(const Piece& piece) {
    return Writer(piece).run();
}

} // namespace wirenote
