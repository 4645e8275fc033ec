#include "formats/musicxml.h"

#include "formats/musicxml_beside.h"
#include "formats/musicxml_notes.h"
#include "piece/exactness.h"
#include "piece/timeline_map.h"
#include "score/repeats.h"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace wirenote {
namespace {

using musicxml::divisions;
using musicxml::number;
using musicxml::Staff;
using musicxml::text;

class Writer {
  public:
    explicit Writer(const Piece& piece)
        : m_piece(piece), m_map(piece.timeline), m_notes(piece), m_sheet(writtenFor(piece)),
          m_score(m_sheet.score), m_beside(m_sheet) {}

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
        if (!m_piece.about.subtitle.empty())
            text(root, "movement-title", m_piece.about.subtitle);
        identification(root.append_child("identification"));
        pugi::xml_node score_part = root.append_child("part-list").append_child("score-part");
        score_part.append_attribute("id") = "P1";
        text(score_part, "part-name", m_piece.instrument.isBass() ? "Bass" : "Guitar");
        pugi::xml_node part = root.append_child("part");
        part.append_attribute("id") = "P1";
        for (std::size_t b = 0; b < m_sheet.bars.size(); ++b)
            measure(part, b);
        std::ostringstream out;
        document.save(out, " ", pugi::format_indent, pugi::encoding_utf8);
        return out.str();
    }

  private:
    // The standard knows repeat signs, but not bars by their numbers.
    static Sheet writtenFor(const Piece& piece) {
        Sheet sheet = writeSheet(piece, {}, CountSchool::Numbers);
        for (PrintedBar& bar : sheet.bars)
            bar.as_bar = 0;
        return sheet;
    }

    const Bar& barOf(std::size_t printed) const { return m_score.bars[m_sheet.bars[printed].bar]; }

    // The kinds of creators are ours to name but for the composer's.
    void identification(pugi::xml_node node) const {
        const auto creator = [&](const char* type, const std::string& who) {
            if (who.empty())
                return;
            pugi::xml_node one = node.append_child("creator");
            one.append_attribute("type") = type;
            one.text().set(who.c_str());
        };
        creator("composer", m_piece.about.composer);
        creator("performer", m_piece.about.player);
        creator("transcriber", m_piece.about.transcriber);
        text(node.append_child("encoding"), "software", "Wirenote");
        if (!m_piece.about.source.empty())
            text(node, "source", m_piece.about.source);
        pugi::xml_node more = node.append_child("miscellaneous");
        const auto field = [&](const char* name, const std::string& said) {
            if (!said.empty())
                text(more, "miscellaneous-field", said).append_attribute("name") = name;
        };
        field("date", m_piece.about.date);
        field("exactness", exactnessLine(m_piece));
    }

    void measure(pugi::xml_node part, std::size_t printed) {
        const Bar& bar = barOf(printed);
        const PrintedBar& print = m_sheet.bars[printed];
        pugi::xml_node measure = part.append_child("measure");
        measure.append_attribute("number") = bar.number;
        if (bar.number == 0)
            measure.append_attribute("implicit") = "yes";
        leftLine(measure, print);
        if (printed == 0) {
            attributes(measure);
            tempo(measure, m_score.tempo_bpm, bar.metre);
        } else if (bar.metre != barOf(printed - 1).metre) {
            time(measure.append_child("attributes"), bar.metre);
        }
        words(measure, bar);
        voice(measure, bar, Staff::Notation, printed + 1 == m_sheet.bars.size());
        backup(measure, bar);
        voice(measure, bar, Staff::Tab, false);
        rightLine(measure, print, printed + 1 == m_sheet.bars.size());
    }

    static void backup(pugi::xml_node measure, const Bar& bar) {
        number(measure.append_child("backup"), "duration", divisions(bar.length));
    }

    // Both voices of one staff; over the upper one stands what belongs to the bar. `last`: of the
    // piece.
    void voice(pugi::xml_node measure, const Bar& bar, Staff staff, bool last) {
        for (std::size_t v = 0; v < bar.values.size(); ++v) {
            const Value& value = bar.values[v];
            if (staff == Staff::Notation) {
                chords(measure, bar, value);
                const Rational from = bar.start + value.start;
                m_beside.directions(
                    measure, from, from + value.length, last && v + 1 == bar.values.size());
            }
            write(measure, bar, v, Voice::Upper, staff);
        }
        if (bar.lower.empty())
            return;
        backup(measure, bar);
        for (std::size_t v = 0; v < bar.lower.size(); ++v)
            write(measure, bar, v, Voice::Lower, staff);
    }

    void write(pugi::xml_node measure, const Bar& bar, std::size_t v, Voice voice, Staff staff) {
        const auto& values = voice == Voice::Upper ? bar.values : bar.lower;
        const pugi::xml_node before = measure.last_child();
        m_notes.write(measure, values, v, voice, staff);
        if (staff == Staff::Notation)
            m_beside.fermata(
                before ? before.next_sibling() : measure.first_child(), bar, values[v], voice);
    }

    static void leftLine(pugi::xml_node measure, const PrintedBar& print) {
        if (!print.repeat_begins && !print.ending_begins)
            return;
        pugi::xml_node line = measure.append_child("barline");
        line.append_attribute("location") = "left";
        if (print.repeat_begins)
            text(line, "bar-style", "heavy-light");
        if (print.ending_begins)
            ending(line, print.ending, "start");
        if (print.repeat_begins)
            line.append_child("repeat").append_attribute("direction") = "forward";
    }

    static void ending(pugi::xml_node line, int which, const char* type) {
        pugi::xml_node node = line.append_child("ending");
        node.append_attribute("number") = which;
        node.append_attribute("type") = type;
    }

    static void rightLine(pugi::xml_node measure, const PrintedBar& print, bool last) {
        if (!print.repeat_ends && !last && !print.ending_ends)
            return;
        pugi::xml_node line = measure.append_child("barline");
        line.append_attribute("location") = "right";
        if (print.repeat_ends || last)
            text(line, "bar-style", "light-heavy");
        if (print.ending_ends)
            ending(line, print.ending, print.ending == 1 ? "stop" : "discontinue");
        if (print.repeat_ends) {
            pugi::xml_node repeat = line.append_child("repeat");
            repeat.append_attribute("direction") = "backward";
            if (print.times > 2)
                repeat.append_attribute("times") = print.times;
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
        number(a, "divisions", musicxml::kDivisions);
        number(a.append_child("key"), "fifths", m_score.key.fifths);
        time(a, m_score.bars.front().metre);
        number(a, "staves", 2);
        pugi::xml_node clef = a.append_child("clef");
        clef.append_attribute("number") = 1;
        text(clef, "sign", instrument.isBass() ? "F" : "G");
        number(clef, "line", instrument.isBass() ? 4 : 2);
        // Guitars and basses are written an octave above their sound.
        number(clef, "clef-octave-change", -1);
        pugi::xml_node tab = a.append_child("clef");
        tab.append_attribute("number") = 2;
        text(tab, "sign", "TAB");
        number(tab, "line", 5);
        pugi::xml_node details = a.append_child("staff-details");
        details.append_attribute("number") = 2;
        number(details, "staff-lines", instrument.stringCount());
        // Line 1 is the lowest: the thickest string.
        for (int line = 1; line <= instrument.stringCount(); ++line) {
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

    static pugi::xml_node direction(pugi::xml_node measure) {
        pugi::xml_node direction = measure.append_child("direction");
        direction.append_attribute("placement") = "above";
        return direction;
    }

    static void tempo(pugi::xml_node measure, double bpm, const Metre& metre) {
        if (bpm <= 0.0)
            return;
        pugi::xml_node node = direction(measure);
        pugi::xml_node metronome = node.append_child("direction-type").append_child("metronome");
        text(metronome,
             "beat-unit",
             metre.compound() || metre.unit == 4 ? "quarter"
             : metre.unit == 2                   ? "half"
             : metre.unit == 8                   ? "eighth"
                                                 : "16th");
        if (metre.compound())
            metronome.append_child("beat-unit-dot");
        text(metronome, "per-minute", std::to_string(std::lround(bpm)));
        const double quarters = bpm * metre.beatLength().toDouble();
        node.append_child("sound").append_attribute("tempo") =
            std::round(quarters * 1000.0) / 1000.0;
    }

    // Names of sections and other tempi, where a bar begins.
    void words(pugi::xml_node measure, const Bar& bar) const {
        for (const WordSign& section : m_sheet.sections)
            if (section.at == bar.start)
                text(direction(measure).append_child("direction-type"), "rehearsal", section.text);
        for (const WordSign& sign : m_sheet.tempi)
            if (sign.at == bar.start) {
                if (sign.text.starts_with("= "))
                    tempo(measure, std::stod(sign.text.substr(2)), bar.metre);
                else
                    text(direction(measure).append_child("direction-type"), "words", sign.text);
            }
    }

    // What the piece's chords are called, from where they begin.
    void chords(pugi::xml_node measure, const Bar& bar, const Value& value) const {
        constexpr double kEarly = 0.13; // quarters: what is a little early belongs to what follows
        const double from = (bar.start + value.start).toDouble();
        const double to = from + value.length.toDouble();
        for (const NamedChord& chord : m_piece.chord_names) {
            const double at = m_map.quartersAt(chord.at_s) + kEarly;
            const auto parts = musicxml::partsOf(chord.name);
            if (at < from || at >= to || !parts)
                continue;
            pugi::xml_node harmony = measure.append_child("harmony");
            const auto note =
                [](pugi::xml_node parent, const std::string& name, const SpelledPitch& pitch) {
                    text(parent, (name + "-step").c_str(), std::string(1, pitch.step));
                    if (pitch.alter != 0)
                        number(parent, (name + "-alter").c_str(), pitch.alter);
                };
            note(harmony.append_child("root"), "root", parts->root);
            text(harmony, "kind", musicxml::kindWord(parts->kind)).append_attribute("text") =
                parts->kind.c_str();
            if (parts->bass)
                note(harmony.append_child("bass"), "bass", *parts->bass);
            if (const long late = std::lround((at - kEarly - from) * musicxml::kDivisions);
                late > 0)
                number(harmony, "offset", late);
        }
    }

    const Piece& m_piece;
    TimelineMap m_map;
    musicxml::NoteWriter m_notes;
    Sheet m_sheet;
    const Score& m_score;
    musicxml::BesideWriter m_beside;
};

} // namespace

std::string writeMusicXml(const Piece& piece) {
    return Writer(piece).run();
}

} // namespace wirenote
