#include "formats/musicxml.h"

#include "base/numbers.h"
#include "base/text.h"
#include "formats/divided_beats.h"
#include "formats/musicxml_beside.h"
#include "formats/musicxml_marks.h"
#include "formats/musicxml_notes.h"
#include "formats/musicxml_order.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <pugixml.hpp>
#include <tuple>

namespace wirenote {
namespace {

struct ReadNote {
    double start = 0.0; // quarters
    double length = 0.0;
    int midi = 0;
    int staff = 1;
    int voice = 1;
    musicxml::ReadMarks marks;
    bool tie_stop = false;
    bool tie_start = false;
};

constexpr double kSameMoment = 1e-6; // quarters
constexpr std::size_t kMostTempi = 10000;
constexpr double kLongestPickup = 64.0;
constexpr std::size_t kMostPlayed = 60000; // measures; more is refused for its length anyway

Error damaged(const std::string& how) {
    return badInput({},
                    how + "; correct it there, or export it again from the program that made it");
}

// What cannot be read, once each.
class Unread {
  public:
    explicit Unread(std::vector<std::string>* list) : m_list(list) {}
    void add(const std::string& what) {
        constexpr std::size_t kMost = 200;
        if (m_list && m_list->size() < kMost && std::ranges::find(*m_list, what) == m_list->end())
            m_list->push_back(what);
    }

  private:
    std::vector<std::string>* m_list;
};

class Reader {
  public:
    explicit Reader(Unread& unread) : m_unread(unread) {}

    // Refuses what would be written out as more than a piece may hold.
    Status readPart(const pugi::xml_node& part) {
        for (const pugi::xml_node measure : musicxml::playedMeasures(part, kMostPlayed)) {
            const double bar_start = m_at;
            m_bar_name = "bar " + cleanText(measure.attribute("number").as_string("?"), 20);
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
            checkLength(furthest - bar_start, measure);
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
        useTabStaff();
        const bool two = hasTwoVoices();
        for (const ReadNote& read : joinTies())
            add(read, two, piece);
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
            piece.timeline.beats_s.push_back(secondsAt(q));
        }
        divideBeats(piece.timeline, placesOfNotes());
        piece.timeline.tempo_bpm = m_tempi.front().second / beat;
        sections(piece);
        for (const auto& [at, name] : m_chords)
            if (piece.chord_names.size() < kMaxNamedChords)
                piece.chord_names.push_back({secondsAt(at), name});
        std::ranges::stable_sort(piece.chord_names, {}, &NamedChord::at_s);
        for (const auto& mark : m_beside.marks())
            piece.marks.push_back({mark.kind, secondsAt(mark.from), secondsAt(mark.to), mark.text});
        std::ranges::stable_sort(piece.marks, {}, &SheetMark::at_s);
        piece.timeline.basis = Basis::Set;
        piece.key = m_key.value_or(guessKey(piece.notes));
        return piece;
    }

    bool empty() const { return m_notes.empty(); }

  private:
    // A bar that is not as long as its metre says counts as it is written.
    void checkLength(double length, const pugi::xml_node& measure) {
        constexpr double kNearly = 1e-3;
        const Metre now = m_changes.empty() ? m_metre : m_changes.back().metre;
        if (std::string_view(measure.attribute("implicit").as_string()) != "yes" &&
            std::abs(length - now.barLength().toDouble()) > kNearly)
            m_unread.add(m_bar_name + " is not as long as its metre says");
    }

    // Through all tempi before it.
    double secondsAt(double quarters) const {
        double seconds = 0.0;
        for (std::size_t k = 0; k < m_tempi.size(); ++k) {
            const double from = m_tempi[k].first;
            const double to =
                k + 1 < m_tempi.size() ? std::min(quarters, m_tempi[k + 1].first) : quarters;
            if (to > from || k == 0)
                seconds += (to - from) * 60.0 / m_tempi[k].second;
        }
        return seconds;
    }

    void add(const ReadNote& read, bool two_voices, Piece& piece) const {
        Note note;
        note.id = piece.next_id++;
        note.time.value = {secondsAt(read.start), secondsAt(read.start + read.length)};
        note.time.probability = 1.0;
        note.pitch.value = read.midi;
        note.pitch.probability = 1.0;
        note.techniques = read.marks.techniques;
        note.curve = musicxml::curveOf(read.marks, note.time.value.length_s());
        if (two_voices)
            note.voice = read.voice % 4 == 2 ? Voice::Lower : Voice::Upper;
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = {0, 0};
        if (read.marks.string > 0)
            plan.position.set({read.marks.string, read.marks.fret});
        if (read.marks.finger != Finger::Unknown)
            plan.finger.set(read.marks.finger);
        if (read.marks.stroke != Stroke::Unknown)
            plan.stroke.set(read.marks.stroke);
        piece.notes.push_back(std::move(note));
        piece.asPlayed().plans.push_back(std::move(plan));
    }

    // Voices 1 and 2 of the staff, or 5 and 6 of the tab under it.
    bool hasTwoVoices() const {
        return std::ranges::any_of(m_notes, [](const ReadNote& n) { return n.voice % 4 == 2; });
    }

    // Where anything begins or ends, in quarters from bar 1.
    std::vector<double> placesOfNotes() const {
        std::vector<double> places;
        for (const ReadNote& note : m_notes)
            if (std::ranges::find(note.marks.techniques, Technique::Grace) ==
                note.marks.techniques.end()) {
                places.push_back(note.start - m_pickup);
                places.push_back(note.start + note.length - m_pickup);
            }
        return places;
    }

    void sections(Piece& piece) const {
        for (std::size_t k = 0; k < m_sections.size() && k < kMaxSections; ++k) {
            const double end = k + 1 < m_sections.size() ? m_sections[k + 1].first : m_at;
            if (end > m_sections[k].first)
                piece.timeline.sections.push_back(
                    {m_sections[k].second, {secondsAt(m_sections[k].first), secondsAt(end)}});
        }
    }

    Status readItem(const pugi::xml_node& item) {
        const std::string_view name = item.name();
        if (name == "attributes")
            readAttributes(item);
        else if (name == "direction" || name == "sound")
            readDirection(item);
        else if (name == "harmony")
            readHarmony(item);
        else if (name == "backup")
            m_at = std::max(0.0, m_at - quarters(item));
        else if (name == "forward")
            m_at += quarters(item);
        else if (name == "note")
            return readNote(item);
        else if (name == "figured-bass")
            m_unread.add(m_bar_name + ": figured bass");
        return {};
    }

    double quarters(const pugi::xml_node& item) const {
        const double duration = item.child("duration").text().as_double();
        if (!(duration >= 0.0 && duration < 1e7))
            m_unread.add(m_bar_name + ": a duration that cannot be");
        return duration >= 0.0 && duration < 1e7 ? duration / m_divisions : 0.0;
    }

    void readAttributes(const pugi::xml_node& a) {
        if (const int divisions = a.child("divisions").text().as_int();
            divisions > 0 && divisions < 100000)
            m_divisions = divisions;
        // Written pitches of instruments that sound elsewhere.
        if (const pugi::xml_node transpose = a.child("transpose"))
            m_transpose = std::clamp(transpose.child("chromatic").text().as_int() +
                                         12 * transpose.child("octave-change").text().as_int(),
                                     -48,
                                     48);
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

    void readDirection(const pugi::xml_node& item) {
        const pugi::xml_node sound =
            std::string_view(item.name()) == "sound" ? item : item.child("sound");
        const double tempo = sound.attribute("tempo").as_double();
        if (tempo >= 10.0 && tempo <= 1000.0) {
            if (!m_tempo_read) // the first one holds from the beginning
                m_tempi.front().second = tempo;
            else if (m_at > m_tempi.back().first && m_tempi.size() < kMostTempi)
                m_tempi.emplace_back(m_at, tempo);
            m_tempo_read = true;
        }
        for (const char* jump : {"dacapo", "dalsegno", "tocoda", "fine"})
            if (sound.attribute(jump))
                m_unread.add(m_bar_name + ": a jump by word (" + jump + ") is not followed");
        const double offset = item.child("offset").text().as_double();
        m_beside.readDirection(item, m_at, std::abs(offset) < 1e7 ? offset / m_divisions : 0.0);
        const std::string label =
            cleanText(item.child("direction-type").child("rehearsal").text().as_string());
        if (!label.empty())
            m_sections.emplace_back(m_at, label);
    }

    void readHarmony(const pugi::xml_node& item) {
        const auto note = [&](const char* name) -> std::optional<SpelledPitch> {
            const pugi::xml_node node = item.child(name);
            const std::string step =
                node.child((std::string(name) + "-step").c_str()).text().as_string();
            if (step.size() != 1 || step[0] < 'A' || step[0] > 'G')
                return {};
            return SpelledPitch{
                step[0],
                std::clamp(
                    node.child((std::string(name) + "-alter").c_str()).text().as_int(), -1, 1),
                0};
        };
        const auto root = note("root");
        if (!root)
            return;
        const pugi::xml_node kind = item.child("kind");
        const std::string written = kind.attribute("text").as_string();
        const std::string name = cleanText(musicxml::nameOf(
            {*root,
             kind.attribute("text") ? written : musicxml::kindOfWord(kind.text().as_string()),
             note("bass")}));
        const double offset = item.child("offset").text().as_double();
        m_chords.emplace_back(
            std::max(0.0, m_at + (std::abs(offset) < 1e7 ? offset / m_divisions : 0.0)), name);
    }

    Status readNote(const pugi::xml_node& item) {
        if (m_notes.size() >= kMaxNotes)
            return damaged("has more notes than a piece may have (" + std::to_string(kMaxNotes) +
                           ")");
        ReadNote note;
        note.length = item.child("grace") ? 0.0 : quarters(item);
        note.start = item.child("chord") ? m_last_start : m_at;
        note.staff = item.child("staff").text().as_int(1);
        note.voice = std::clamp(item.child("voice").text().as_int(1), 1, 1000);
        if (!item.child("chord")) {
            m_last_start = m_at;
            m_at += note.length;
        }
        if (item.child("grace")) { // takes no time of its own: just before what follows
            constexpr double kGrace = 0.1;
            note.length = kGrace;
            note.start = std::max(0.0, m_at - kGrace);
        }
        m_beside.readNote(item, note.start);
        const pugi::xml_node pitch = item.child("pitch");
        if (item.child("unpitched"))
            m_unread.add(m_bar_name + ": a note without a pitch");
        if (!pitch || note.length <= 0.0)
            return {};
        note.midi = midiOf(pitch, "step", "alter", "octave");
        if (note.midi >= 0)
            note.midi += m_transpose;
        if (note.midi < 0 || note.midi > 127)
            return damaged("has a note whose pitch cannot be read (bar " +
                           cleanText(item.parent().attribute("number").as_string("?"), 20) + ")");
        for (const pugi::xml_node tie : item.children("tie"))
            (std::string_view(tie.attribute("type").as_string()) == "start" ? note.tie_start
                                                                            : note.tie_stop) = true;
        note.marks = musicxml::marksOfNote(item);
        if (item.child("grace"))
            note.marks.techniques.push_back(Technique::Grace);
        m_notes.push_back(std::move(note));
        return {};
    }

    // Where there is a tab staff, the notation staff repeats its notes; articulations may stand on
    // either.
    void useTabStaff() {
        if (m_tab_staff > 0) {
            // The same pitch on two strings at once stands in the same order on both.
            std::map<std::pair<long long, int>, std::vector<const ReadNote*>> elsewhere;
            const auto key = [](const ReadNote& n) { // sums of the same parts differ a little
                return std::pair(std::llround(n.start / kSameMoment), n.midi);
            };
            for (const ReadNote& n : m_notes)
                if (n.staff != m_tab_staff)
                    elsewhere[key(n)].push_back(&n);
            std::map<std::pair<long long, int>, std::size_t> used;
            for (ReadNote& n : m_notes) {
                if (n.staff != m_tab_staff)
                    continue;
                const auto found = elsewhere.find(key(n));
                std::size_t& k = used[key(n)];
                if (found != elsewhere.end() && k < found->second.size())
                    addMarks(found->second[k++]->marks, n.marks);
            }
            std::erase_if(m_notes, [this](const ReadNote& n) { return n.staff != m_tab_staff; });
        }
        std::stable_sort(m_notes.begin(), m_notes.end(), [](const ReadNote& a, const ReadNote& b) {
            return a.start < b.start;
        });
    }

    std::vector<ReadNote> joinTies() const {
        std::vector<ReadNote> joined;
        std::map<std::tuple<int, int, int>, std::vector<std::size_t>>
            tied; // by pitch, voice and string
        for (const ReadNote& note : m_notes) {
            auto& waiting = tied[{note.midi, note.voice, note.marks.string}];
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
                                         piece.notes[i].frettedMidi(),
                                         piece.notes[i].has(Technique::Harmonic))) {
                plan.position = {};
                plan.position.value = {0, 0};
                m_unread.add("places on strings that do not give the pitch that is written; they "
                             "are found anew");
            }
        }
    }

    Unread& m_unread;
    std::string m_bar_name;
    int m_transpose = 0; // semitones from what is written to what sounds
    double m_at = 0.0;
    double m_last_start = 0.0;
    double m_pickup = 0.0;
    std::vector<std::pair<double, double>> m_tempi = {
        {0.0, 120.0}}; // from there, quarters a minute
    std::vector<std::pair<double, std::string>> m_sections;
    std::vector<std::pair<double, std::string>> m_chords;
    musicxml::BesideReader m_beside;
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

bool saysNoteForNote(const std::string& statement) {
    return statement.starts_with("Note for note");
}

About aboutOf(const pugi::xml_node& identification) {
    const auto who = [&](const char* type) {
        return cleanText(
            identification.find_child_by_attribute("creator", "type", type).text().as_string());
    };
    return {who("composer"), who("performer"), who("transcriber"), {}, {}, {}};
}

} // namespace

Result<Piece> readMusicXml(const std::string& text, std::vector<std::string>* unread) {
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
    Unread list(unread);
    for (const pugi::xml_node part : root.children("part")) {
        Reader reader(list);
        if (const Status read = reader.readPart(part); !read)
            return read.error();
        if (reader.empty())
            continue;
        auto piece =
            reader.finish(cleanText(root.child("work").child("work-title").text().as_string()));
        const pugi::xml_node identification = root.child("identification");
        piece.about = aboutOf(identification);
        piece.about.subtitle = cleanText(root.child("movement-title").text().as_string());
        piece.about.source = cleanText(identification.child("source").text().as_string());
        const auto more = [&identification](const char* name) {
            return cleanText(identification.child("miscellaneous")
                                 .find_child_by_attribute("name", name)
                                 .text()
                                 .as_string());
        };
        piece.about.date = more("date");
        // What stood against it is not in the file, so that what was said of it goes on to hold.
        // To be note for note is for the facts to say.
        if (const std::string said = more("exactness"); !saysNoteForNote(said))
            piece.asPlayed().head.statement = said;
        if (const Status sound = checkPiece(piece); !sound)
            return damaged("cannot be used: " + sound.error().message);
        for (pugi::xml_node other = part.next_sibling("part"); other;
             other = other.next_sibling("part"))
            list.add("part " + cleanText(other.attribute("id").as_string("?"), 40) +
                     " is left out: a piece is one instrument's");
        return piece;
    }
    return damaged("has no notes");
}

} // namespace wirenote
