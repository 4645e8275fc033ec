#include "formats/musicxml.h"

#include "base/numbers.h"
#include "base/text.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <pugixml.hpp>

namespace wirenote {
namespace {

struct ReadNote {
    double start = 0.0; // quarters
    double length = 0.0;
    int midi = 0;
    int staff = 1;
    int string = 0;
    int fret = 0;
    std::vector<Technique> techniques;
    bool tie_stop = false;
    bool tie_start = false;
};

constexpr double kSameMoment = 1e-6; // quarters
constexpr double kLongestPickup = 64.0;

Error damaged(const std::string& how) {
    return badInput({},
                    how + "; correct it there, or export it again from the program that made it");
}

class Reader {
  public:
    // Refuses what would be written out as more than a piece may hold.
    Status readPart(const pugi::xml_node& part) {
        for (const pugi::xml_node measure : part.children("measure")) {
            const double bar_start = m_at;
            ++m_measure;
            double furthest = m_at;
            for (const pugi::xml_node item : measure.children()) {
                if (const Status read = readItem(item); !read)
                    return read;
                furthest = std::max(furthest, m_at);
            }
            if (std::string_view(measure.attribute("implicit").as_string()) == "yes" &&
                bar_start == 0.0) {
                if (furthest > kLongestPickup)
                    return damaged("begins with a pick-up bar of more than " +
                                   std::to_string(static_cast<int>(kLongestPickup)) + " quarters");
                m_pickup = furthest;
                m_measure = 0;
            }
            m_at = furthest;
            if (!(m_at <= kMostQuarters))
                return damaged("goes on for more than a piece may (" + std::to_string(kMostBars) +
                               " bars), at bar " + measure.attribute("number").as_string("?"));
        }
        return {};
    }

    Piece finish(std::string title) {
        Piece piece;
        piece.title = std::move(title);
        piece.timeline.metre = m_metre;
        const double quarter_s = 60.0 / m_quarters_per_minute;
        useTabStaff();
        for (const ReadNote& read : joinTies()) {
            Note note;
            note.id = piece.next_id++;
            note.time.value = {read.start * quarter_s, (read.start + read.length) * quarter_s};
            note.time.probability = 1.0;
            note.pitch.value = read.midi;
            note.pitch.probability = 1.0;
            note.techniques = read.techniques;
            NotePlan plan;
            plan.note = note.id;
            plan.position.value = {0, 0};
            if (read.string > 0)
                plan.position.set({read.string, read.fret});
            piece.notes.push_back(note);
            piece.asPlayed().plans.push_back(plan);
        }
        setTuning(piece);
        const double beat = m_metre.beatLength().toDouble();
        const int pickup_beats = rounded(m_pickup / beat);
        piece.timeline.first_downbeat = m_pickup > 0.0 ? pickup_beats : 0;
        piece.timeline.changes = m_changes;
        const BarGrid grid(piece.timeline);
        for (int k = 0; piece.timeline.beats_s.size() < kMaxBeats; ++k) {
            const double q = m_pickup + grid.quartersOf(k).toDouble();
            if (q > m_at + beat)
                break;
            piece.timeline.beats_s.push_back(q * quarter_s);
        }
        piece.timeline.tempo_bpm = m_quarters_per_minute / beat;
        piece.timeline.basis = Basis::Set;
        piece.key = m_key.value_or(guessKey(piece.notes));
        return piece;
    }

    bool empty() const { return m_notes.empty(); }

  private:
    Status readItem(const pugi::xml_node& item) {
        const std::string_view name = item.name();
        if (name == "attributes")
            readAttributes(item);
        else if (name == "direction" || name == "sound")
            readTempo(item);
        else if (name == "backup")
            m_at = std::max(0.0, m_at - quarters(item));
        else if (name == "forward")
            m_at += quarters(item);
        else if (name == "note")
            return readNote(item);
        return {};
    }

    double quarters(const pugi::xml_node& item) const {
        const double duration = item.child("duration").text().as_double();
        return duration >= 0.0 && duration < 1e7 ? duration / m_divisions : 0.0;
    }

    void readAttributes(const pugi::xml_node& a) {
        if (const int divisions = a.child("divisions").text().as_int();
            divisions > 0 && divisions < 100000)
            m_divisions = divisions;
        if (const pugi::xml_node key = a.child("key"); key && !m_key)
            m_key = KeySignature{std::clamp(key.child("fifths").text().as_int(), -6, 6)};
        if (const pugi::xml_node time = a.child("time"))
            if (const auto metre = parseMetre(std::string(time.child("beats").text().as_string()) +
                                              "/" + time.child("beat-type").text().as_string())) {
                const Metre before = m_changes.empty() ? m_metre : m_changes.back().metre;
                if (!m_metre_read)
                    m_metre = *metre;
                else if (*metre != before && m_measure > 1)
                    m_changes.push_back({m_measure, *metre});
                m_metre_read = true;
            }
        for (const pugi::xml_node clef : a.children("clef"))
            if (std::string_view(clef.child("sign").text().as_string()) == "TAB")
                m_tab_staff = clef.attribute("number").as_int(1);
        for (const pugi::xml_node details : a.children("staff-details")) {
            for (const pugi::xml_node tuning : details.children("staff-tuning"))
                m_tuning[tuning.attribute("line").as_int()] =
                    midiOf(tuning, "tuning-step", "tuning-alter", "tuning-octave");
            m_capo = details.child("capo").text().as_int(m_capo);
        }
    }

    static int
    midiOf(const pugi::xml_node& node, const char* step, const char* alter, const char* octave) {
        const auto natural = parsePitchName(std::string(node.child(step).text().as_string()) + "0");
        return natural ? *natural + std::clamp(node.child(alter).text().as_int(), -3, 3) +
                             12 * std::clamp(node.child(octave).text().as_int(), -1, 9)
                       : -1;
    }

    void readTempo(const pugi::xml_node& item) {
        const pugi::xml_node sound =
            std::string_view(item.name()) == "sound" ? item : item.child("sound");
        const double tempo = sound.attribute("tempo").as_double();
        if (tempo >= 10.0 && tempo <= 1000.0 && !m_tempo_read) {
            m_quarters_per_minute = tempo;
            m_tempo_read = true;
        }
    }

    Status readNote(const pugi::xml_node& item) {
        if (m_notes.size() >= kMaxNotes)
            return damaged("has more notes than a piece may have (" + std::to_string(kMaxNotes) +
                           ")");
        ReadNote note;
        note.length = item.child("grace") ? 0.0 : quarters(item);
        note.start = item.child("chord") ? m_last_start : m_at;
        note.staff = item.child("staff").text().as_int(1);
        if (!item.child("chord")) {
            m_last_start = m_at;
            m_at += note.length;
        }
        if (item.child("grace")) { // takes no time of its own: just before what follows
            constexpr double kGrace = 0.1;
            note.length = kGrace;
            note.start = std::max(0.0, m_at - kGrace);
            note.techniques.push_back(Technique::Grace);
        }
        const pugi::xml_node pitch = item.child("pitch");
        if (!pitch || note.length <= 0.0)
            return {};
        note.midi = midiOf(pitch, "step", "alter", "octave");
        if (note.midi < 0 || note.midi > 127)
            return damaged("has a note whose pitch cannot be read (bar " +
                           cleanText(item.parent().attribute("number").as_string("?"), 20) + ")");
        for (const pugi::xml_node tie : item.children("tie"))
            (std::string_view(tie.attribute("type").as_string()) == "start" ? note.tie_start
                                                                            : note.tie_stop) = true;
        readTechnical(item.child("notations"), note);
        if (std::string_view(item.child("notehead").text().as_string()) == "x")
            note.techniques.push_back(Technique::Dead);
        if (std::string_view(item.child("play").child("mute").text().as_string()) == "palm")
            note.techniques.push_back(Technique::PalmMute);
        m_notes.push_back(std::move(note));
        return {};
    }

    static void readTechnical(const pugi::xml_node& notations, ReadNote& note) {
        const pugi::xml_node technical = notations.child("technical");
        note.string = std::clamp(technical.child("string").text().as_int(), 0, kMaxStrings);
        note.fret = std::clamp(technical.child("fret").text().as_int(), 0, kMaxFrets);
        const auto stops = [](const pugi::xml_node& parent, const char* name) {
            for (const pugi::xml_node child : parent.children(name))
                if (std::string_view(child.attribute("type").as_string()) == "stop")
                    return true;
            return false;
        };
        if (stops(technical, "hammer-on"))
            note.techniques.push_back(Technique::HammerOn);
        if (stops(technical, "pull-off"))
            note.techniques.push_back(Technique::PullOff);
        if (stops(notations, "slide"))
            note.techniques.push_back(Technique::Slide);
        if (technical.child("harmonic"))
            note.techniques.push_back(Technique::Harmonic);
        if (technical.child("tap"))
            note.techniques.push_back(Technique::Tap);
        const pugi::xml_node articulations = notations.child("articulations");
        if (articulations.child("accent"))
            note.techniques.push_back(Technique::Accent);
        if (articulations.child("staccato"))
            note.techniques.push_back(Technique::Staccato);
        if (notations.child("ornaments").child("trill-mark"))
            note.techniques.push_back(Technique::Trill);
        if (notations.child("ornaments").child("tremolo"))
            note.techniques.push_back(Technique::Tremolo);
        if (notations.child("arpeggiate"))
            note.techniques.push_back(Technique::Roll);
    }

    // Where there is a tab staff, the notation staff repeats its notes; articulations may stand on
    // either.
    void useTabStaff() {
        if (m_tab_staff > 0) {
            std::map<std::pair<double, int>, std::vector<Technique>> elsewhere;
            for (const ReadNote& n : m_notes)
                if (n.staff != m_tab_staff)
                    elsewhere[{n.start, n.midi}] = n.techniques;
            std::erase_if(m_notes, [this](const ReadNote& n) { return n.staff != m_tab_staff; });
            for (ReadNote& n : m_notes)
                for (const Technique t : elsewhere[{n.start, n.midi}])
                    if (std::ranges::find(n.techniques, t) == n.techniques.end())
                        n.techniques.push_back(t);
        }
        std::stable_sort(m_notes.begin(), m_notes.end(), [](const ReadNote& a, const ReadNote& b) {
            return a.start < b.start;
        });
    }

    std::vector<ReadNote> joinTies() const {
        std::vector<ReadNote> joined;
        std::map<int, std::vector<std::size_t>> tied; // by pitch: those that wait for their next
        for (const ReadNote& note : m_notes) {
            auto& waiting = tied[note.midi];
            std::erase_if(waiting, [&](std::size_t i) { // too late for these
                return joined[i].start + joined[i].length < note.start - kSameMoment;
            });
            const auto open = std::find_if(waiting.rbegin(), waiting.rend(), [&](std::size_t i) {
                return std::abs(joined[i].start + joined[i].length - note.start) < kSameMoment;
            });
            if (note.tie_stop && open != waiting.rend()) {
                joined[*open].length += note.length;
                if (!note.tie_start)
                    waiting.erase(std::next(open).base());
                continue;
            }
            if (note.tie_start)
                waiting.push_back(joined.size());
            joined.push_back(note);
        }
        return joined;
    }

    void setTuning(Piece& piece) const {
        const int strings = static_cast<int>(m_tuning.size());
        Instrument instrument = standardInstrument(strings == 4   ? InstrumentKind::Bass
                                                   : strings == 5 ? InstrumentKind::Bass5
                                                   : strings == 7 ? InstrumentKind::Guitar7
                                                                  : InstrumentKind::Guitar);
        if (strings == instrument.stringCount()) {
            int string = strings;
            for (const auto& [line, midi] : m_tuning)
                instrument.strings[static_cast<std::size_t>(--string)].open_midi = midi;
        }
        instrument.capo = m_capo;
        if (checkInstrument(instrument))
            piece.instrument = instrument;
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            NotePlan& plan = piece.asPlayed().plans[i];
            if (plan.placed() &&
                !piece.instrument.sounds(plan.position.value,
                                         piece.notes[i].midi(),
                                         piece.notes[i].has(Technique::Harmonic))) {
                plan.position = {};
                plan.position.value = {0, 0};
            }
        }
    }

    double m_at = 0.0;
    double m_last_start = 0.0;
    double m_pickup = 0.0;
    double m_quarters_per_minute = 120.0;
    int m_divisions = 1;
    int m_measure = 0; // 1 is the first full bar
    std::vector<MetreChange> m_changes;
    int m_tab_staff = 0;
    int m_capo = 0;
    bool m_tempo_read = false;
    bool m_metre_read = false;
    Metre m_metre;
    std::optional<KeySignature> m_key;
    std::map<int, int> m_tuning; // line (1 the lowest) → MIDI
    std::vector<ReadNote> m_notes;
};

About aboutOf(const pugi::xml_node& identification) {
    const auto who = [&](const char* type) {
        return cleanText(
            identification.find_child_by_attribute("creator", "type", type).text().as_string());
    };
    return {who("composer"), who("performer"), who("transcriber")};
}

} // namespace

Result<Piece> readMusicXml(const std::string& text) {
    pugi::xml_document document;
    const auto parsed =
        document.load_buffer(text.data(), text.size()); // declared entities are not expanded
    if (!parsed)
        return damaged(std::string("is not XML: ") + parsed.description() + " at byte " +
                       std::to_string(parsed.offset));
    const pugi::xml_node root = document.child("score-partwise");
    if (!root)
        return badInput({},
                        document.child("score-timewise")
                            ? "is ordered by time; export it part by part (score-partwise)"
                            : "is not MusicXML (it has no score-partwise); choose another file, or "
                              "export it as MusicXML first");
    for (const pugi::xml_node part : root.children("part")) {
        Reader reader;
        if (const Status read = reader.readPart(part); !read)
            return read.error();
        if (reader.empty())
            continue;
        auto piece =
            reader.finish(cleanText(root.child("work").child("work-title").text().as_string()));
        piece.about = aboutOf(root.child("identification"));
        if (const Status sound = checkPiece(piece); !sound)
            return damaged("cannot be used: " + sound.error().message);
        return piece;
    }
    return damaged("has no notes");
}

} // namespace wirenote
