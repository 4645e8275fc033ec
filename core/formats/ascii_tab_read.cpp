#include "base/text.h"
#include "formats/ascii_tab.h"
#include "formats/divided_beats.h"
#include "formats/words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>

namespace wirenote {
namespace {

constexpr std::size_t kLongestLine = 100000;
constexpr std::size_t kMostUnread = 200;
constexpr double kUsualTempo_bpm = 100.0;

// Lines of strings that belong together, with what stands over and under them.
struct System {
    std::size_t line = 0; // of the text, from 1
    std::vector<std::string> strings;
    std::vector<std::string> names;
    std::string numbers, rhythm, strokes, fingers;
    std::size_t offset = 0; // where the rows' characters begin, as those of the strings do
};

// What one value says.
struct Cell {
    std::size_t at = 0; // character within the bar
    Rational start, length;
    bool rest = false;
    bool tied = false;
};

bool isTabLine(const std::string& line) {
    const std::size_t bar = line.find('|');
    if (bar == std::string::npos || bar > 4)
        return false;
    const auto dashes = std::ranges::count(line, '-');
    return dashes >= 3 && dashes * 3 >= static_cast<std::ptrdiff_t>(line.size() - bar) / 2;
}

// A row with that name, from where the characters of the strings begin.
std::string afterName(const std::string& line, const char* name, std::size_t offset) {
    return line.starts_with(name) && line.size() > offset ? line.substr(offset) : "";
}

std::vector<System> systemsOf(const std::string& text) {
    std::vector<System> systems;
    std::istringstream in(text);
    std::string before;
    std::size_t number = 0;
    bool inside = false;
    for (std::string line; std::getline(in, line);) {
        ++number;
        if (!line.empty() && line.back() == '\r')
            line.pop_back();
        if (line.size() > kLongestLine)
            line.resize(kLongestLine);
        if (isTabLine(line)) {
            if (!inside) {
                systems.push_back({});
                systems.back().line = number;
                systems.back().numbers = before;
                systems.back().offset = line.find('|') + 1;
            }
            inside = true;
            systems.back().strings.push_back(line.substr(line.find('|') + 1));
            systems.back().names.push_back(line.substr(0, line.find('|')));
            continue;
        }
        if (inside || (!systems.empty() && !line.empty() && line.size() > 3 && line[1] == ':')) {
            System& system = systems.back();
            if (const auto rhythm = afterName(line, "r:", system.offset); !rhythm.empty())
                system.rhythm = rhythm;
            else if (const auto strokes = afterName(line, "s:", system.offset); !strokes.empty())
                system.strokes = strokes;
            else if (const auto fingers = afterName(line, "f:", system.offset); !fingers.empty())
                system.fingers = fingers;
        }
        inside = false;
        before = line;
    }
    return systems;
}

std::optional<Rational> lengthOf(std::string_view word) {
    static constexpr std::string_view kLetters = "whqest";
    if (word.empty())
        return {};
    const std::size_t letter = kLetters.find(word.front());
    if (letter == std::string_view::npos)
        return {};
    Rational length = Rational(4, 1 << letter);
    Rational dot = length;
    std::size_t i = 1;
    for (; i < word.size() && word[i] == '.'; ++i) {
        dot = dot / Rational(2);
        length += dot;
    }
    if (i < word.size() && word[i] == '3')
        length = length * Rational(2, 3);
    else if (i < word.size() && word[i] == '5')
        length = length * Rational(4, 5);
    return length;
}

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}

// What a letter before a fret says of how its note begins.
std::optional<Technique> before(char c) {
    switch (c) {
    case 'h':
        return Technique::HammerOn;
    case 'p':
        return Technique::PullOff;
    case '/':
    case '\\':
        return Technique::Slide;
    case '<':
        return Technique::Harmonic;
    case '(':
        return Technique::PreBend;
    default:
        return {};
    }
}

// … and one after it, of how it goes on.
std::optional<Technique> after(char c) {
    switch (c) {
    case 'b':
        return Technique::Bend;
    case 'r':
        return Technique::Release;
    case '~':
        return Technique::Vibrato;
    default:
        return {};
    }
}

// "h7", "/10b~", "<12>", "x", "(2)": frets (−1: damped) with what is done to them; nothing where a
// character means nothing.
using MarkedFret = std::pair<int, std::vector<Technique>>;
std::optional<std::vector<MarkedFret>> fretsOf(const std::string& mark) {
    std::vector<MarkedFret> frets;
    std::vector<Technique> next;
    for (std::size_t i = 0; i < mark.size(); ++i) {
        const char c = mark[i];
        if (isDigit(c)) {
            int fret = c - '0';
            if (i + 1 < mark.size() && isDigit(mark[i + 1]))
                fret = 10 * fret + (mark[++i] - '0');
            frets.emplace_back(fret, std::exchange(next, {}));
        } else if (c == 'x' || c == 'X') {
            next.push_back(Technique::Dead);
            frets.emplace_back(-1, std::exchange(next, {}));
        } else if (const auto begins = before(c)) {
            next.push_back(*begins);
        } else if (const auto goes_on = after(c); goes_on && !frets.empty()) {
            frets.back().second.push_back(*goes_on);
        } else if (c != '>' && c != ')') {
            return {};
        }
    }
    return frets;
}

class Reader {
  public:
    explicit Reader(const std::string& text) : m_text(text), m_systems(systemsOf(text)) {}

    Result<TextTab> run() {
        if (m_systems.empty())
            return badInput({},
                            "holds no tab: no lines of strings like \"e |--0--2--|\"; choose "
                            "another file");
        readHead();
        for (const System& system : m_systems)
            read(system);
        if (m_piece.notes.empty() && !m_unread.empty())
            return badInput({}, m_unread.front() + "; correct it in a text editor");
        if (m_piece.notes.empty())
            return badInput({},
                            "holds lines of strings, but no number on them; choose another file");
        finish();
        if (const Status sound = checkPiece(m_piece); !sound)
            return badInput(
                {}, "cannot be used: " + sound.error().message + "; correct it in a text editor");
        return TextTab{std::move(m_piece), std::move(m_unread)};
    }

  private:
    void cannot(std::size_t line, const std::string& what) {
        if (m_unread.size() < kMostUnread)
            m_unread.push_back("line " + std::to_string(line) + ": " + what);
    }

    // Title, tuning, metre and tempo as our own files say them; usual ones else.
    void readHead() {
        std::istringstream in(m_text);
        std::string line;
        if (std::getline(in, line) && !isTabLine(line))
            m_piece.title = cleanText(line);
        m_piece.instrument = standardInstrument(instrumentFor(m_systems.front()));
        while (std::getline(in, line) && !isTabLine(line))
            readFacts(line);
        if (m_piece.instrument.stringCount() != static_cast<int>(m_systems.front().strings.size()))
            m_piece.instrument = standardInstrument(instrumentFor(m_systems.front()));
    }

    static InstrumentKind instrumentFor(const System& system) {
        switch (system.strings.size()) {
        case 4:
            return InstrumentKind::Bass;
        case 5:
            return InstrumentKind::Bass5;
        case 7:
            return InstrumentKind::Guitar7;
        default:
            return InstrumentKind::Guitar;
        }
    }

    void readFacts(const std::string& line) {
        std::istringstream parts(line);
        bool first = true;
        for (std::string part; std::getline(parts, part, ',');) {
            part.erase(0, part.find_first_not_of(' '));
            if (const auto kind = parseInstrumentName(part); first && kind)
                m_piece.instrument = standardInstrument(*kind);
            first = false;
            if (part.starts_with("capo ") && part.size() < 8)
                static_cast<void>(setCapo(m_piece.instrument, std::atoi(part.c_str() + 5)));
            else if (const auto metre = parseMetre(part))
                m_piece.timeline.metre = *metre;
            else if (part.ends_with(" beats a minute"))
                m_bpm = std::clamp(std::atof(part.c_str()), 20.0, 400.0);
            else if (part.find_first_of("0123456789") != std::string::npos)
                static_cast<void>(setTuning(m_piece.instrument, part));
        }
    }

    void read(const System& system) {
        const int strings = m_piece.instrument.stringCount();
        const std::size_t lines = m_systems.front().strings.size();
        if (lines < 4 || lines > 7) {
            cannot(system.line,
                   "has " + std::to_string(lines) +
                       " lines; an instrument here has 4 to 7 strings");
            return;
        }
        if (static_cast<int>(system.strings.size()) != strings) {
            cannot(system.line,
                   "has " + std::to_string(system.strings.size()) +
                       " lines where the others have " + std::to_string(strings));
            return;
        }
        std::size_t longest = 0;
        for (const std::string& line : system.strings)
            longest = std::max(longest, line.size());
        for (const std::string& line : system.strings)
            if (line.size() != longest) {
                cannot(system.line,
                       "its lines are not equally long; what is missing counts as "
                       "empty");
                break;
            }
        // Bar lines are where the first string has them.
        const std::string& ruler =
            *std::ranges::max_element(system.strings, {}, &std::string::size);
        std::size_t from = 0;
        for (std::size_t at = 0; at <= ruler.size(); ++at)
            if (at == ruler.size() || ruler[at] == '|') {
                if (at > from && ruler.find('-', from) < at)
                    readBar(system, from, at);
                from = at + 1;
            }
    }

    // The metre that a line says over its first bar: "12 (3/4)".
    void metreChange(const System& system, std::size_t from) {
        if (from != 0)
            return;
        const std::size_t open = system.numbers.find('(');
        const std::size_t close = system.numbers.find(')', open);
        if (open == std::string::npos || close == std::string::npos)
            return;
        if (const auto metre = parseMetre(system.numbers.substr(open + 1, close - open - 1));
            metre && m_bar > 1)
            m_piece.timeline.changes.push_back({m_bar, *metre});
    }

    Metre metreNow() const {
        return m_piece.timeline.changes.empty() ? m_piece.timeline.metre
                                                : m_piece.timeline.changes.back().metre;
    }

    void readBar(const System& system, std::size_t from, std::size_t to) {
        const bool pickup = m_bar == 1 && m_at == Rational(0) && m_pickup == Rational(0) &&
                            system.numbers.find_first_not_of(' ') != std::string::npos &&
                            system.numbers[system.numbers.find_first_not_of(' ')] == '0';
        if (!pickup)
            metreChange(system, from);
        std::vector<Cell> cells = cellsByRhythm(system, from, to);
        Rational length = metreNow().barLength();
        if (cells.empty()) {
            cells = cellsByPlace(system, from, to, length);
        } else {
            const Rational sum = cells.back().start + cells.back().length;
            if (pickup)
                m_pickup = length = sum;
            else if (sum != length) {
                cannot(system.line,
                       "bar " + std::to_string(m_bar) + " has " + sum.toString() +
                           " quarters by its rhythm, not " + length.toString());
                length = std::max(sum, length);
            }
        }
        for (std::size_t c = 0; c < cells.size(); ++c) {
            const std::size_t end = c + 1 < cells.size() ? cells[c + 1].at : to - from;
            readCell(system, from, cells[c], end);
        }
        m_at += length;
        if (!pickup)
            ++m_bar;
    }

    // Where the words of the row under the bar stand.
    static std::vector<Cell> cellsByRhythm(const System& system, std::size_t from, std::size_t to) {
        std::vector<Cell> cells;
        Rational at;
        const std::string& row = system.rhythm;
        for (std::size_t i = from; i < std::min(to, row.size());) {
            if (row[i] == ' ') {
                ++i;
                continue;
            }
            std::size_t end = row.find(' ', i);
            end = std::min({end, to, row.size()});
            std::string_view word = std::string_view(row).substr(i, end - i);
            Cell cell{i - from, at, {}, false, false};
            if (word.starts_with("r") || word.starts_with("~")) {
                (word.front() == 'r' ? cell.rest : cell.tied) = true;
                word.remove_prefix(1);
            }
            const auto length = lengthOf(word);
            if (!length)
                return {};
            cell.length = *length;
            at += *length;
            cells.push_back(cell);
            i = end;
        }
        return cells;
    }

    // Without a rhythm: each place where a number begins, as far on as its character.
    static std::vector<Cell>
    cellsByPlace(const System& system, std::size_t from, std::size_t to, Rational length) {
        std::vector<bool> begins(to - from, false);
        for (const std::string& line : system.strings)
            for (std::size_t i = from; i < std::min(to, line.size()); ++i)
                if (line[i] != '-' && (i == from || line[i - 1] == '-'))
                    begins[i - from] = true;
        std::vector<std::size_t> places;
        for (std::size_t i = 0; i < begins.size(); ++i)
            if (begins[i])
                places.push_back(i);
        if (places.empty())
            return {};
        const std::size_t lead = std::min<std::size_t>(places.front(), 1);
        const auto share = [&](std::size_t place) {
            const double part = static_cast<double>(place - lead) /
                                static_cast<double>(std::max<std::size_t>(1, to - from - lead));
            return length * Rational(std::lround(part * 16.0), 16);
        };
        std::vector<Cell> cells;
        for (std::size_t k = 0; k < places.size(); ++k) {
            const Rational start = share(places[k]);
            Rational end = k + 1 < places.size() ? share(places[k + 1]) : length;
            if (end <= start)
                end = start + length * Rational(1, 32);
            cells.push_back({places[k], start, end - start, false, false});
        }
        return cells;
    }

    struct Sounded {
        int string = 1;
        std::string mark;
        std::size_t column = 0;
    };

    void readCell(const System& system, std::size_t from, const Cell& cell, std::size_t end) {
        if (cell.tied) {
            for (const std::size_t i : m_last) // it goes on
                m_lengths[i] += cell.length;
            return;
        }
        m_last.clear();
        if (cell.rest)
            return;
        std::vector<Sounded> marks;
        for (std::size_t s = 0; s < system.strings.size(); ++s) {
            const std::string& line = system.strings[s];
            if (from + cell.at >= line.size())
                continue;
            std::string mark = line.substr(from + cell.at, end - cell.at);
            mark = mark.substr(0, std::min(mark.find('-'), mark.find('|')));
            if (!mark.empty())
                marks.push_back({static_cast<int>(s) + 1, mark, 0});
        }
        std::vector<std::size_t> struck; // thick first, as rows have them
        for (auto mark = marks.rbegin(); mark != marks.rend(); ++mark)
            if (const auto note = readMark(*mark, cell, system.line))
                struck.push_back(*note);
        give(rowWord(system.strokes, from + cell.at, from + end), struck, true);
        give(rowWord(system.fingers, from + cell.at, from + end), struck, false);
        m_last = struck;
    }

    static std::string rowWord(const std::string& row, std::size_t from, std::size_t to) {
        if (from >= row.size() || row[from] == ' ')
            return {};
        const std::string word = row.substr(from, to - from);
        return word.substr(0, word.find(' '));
    }

    // One letter for all, or one for each.
    void give(const std::string& word, const std::vector<std::size_t>& notes, bool strokes) {
        if (word.empty())
            return;
        for (std::size_t k = 0; k < notes.size(); ++k) {
            const std::string letter(1, word[std::min(k, word.size() - 1)]);
            NotePlan& plan = m_piece.asPlayed().plans[notes[k]];
            if (strokes) {
                const auto stroke = letter == "D"   ? std::optional(Stroke::Down)
                                    : letter == "U" ? std::optional(Stroke::Up)
                                    : letter == "." ? std::nullopt
                                                    : strokeFrom(letter);
                if (stroke)
                    plan.stroke.set(*stroke);
            } else if (const auto finger = fingerFrom(letter); finger && letter != ".") {
                plan.finger.set(*finger);
            }
        }
    }

    // Every mark of a string's line, graces first: "5h7".
    std::optional<std::size_t>
    readMark(const Sounded& sounded, const Cell& cell, std::size_t line) {
        auto frets = fretsOf(sounded.mark);
        if (!frets) {
            cannot(line,
                   "\"" + cleanText(sounded.mark, 20) + "\" on string " +
                       std::to_string(sounded.string));
            return {};
        }
        std::optional<std::size_t> last;
        for (std::size_t k = 0; k < frets->size(); ++k) {
            auto& [fret, techniques] = (*frets)[k];
            if (k + 1 < frets->size())
                techniques.push_back(Technique::Grace);
            last = add(sounded.string, fret, techniques, cell, line);
        }
        return last;
    }

    std::optional<std::size_t> add(int string,
                                   int fret,
                                   const std::vector<Technique>& techniques,
                                   const Cell& cell,
                                   std::size_t line) {
        const Position place{string, std::max(0, fret)};
        if (place.fret > m_piece.instrument.highestFret() || m_piece.notes.size() >= kMaxNotes) {
            cannot(line, "fret " + std::to_string(fret) + " is not on this neck");
            return {};
        }
        Note note;
        note.id = m_piece.next_id++;
        note.existence.set(true);
        note.techniques = techniques;
        int midi = m_piece.instrument.midiAt(place);
        if (note.has(Technique::Harmonic))
            midi = std::max(midi, m_piece.instrument.harmonicMidi(place));
        note.pitch.value = midi;
        note.pitch.probability = 1.0;
        if (note.has(Technique::Bend))
            note.curve = {{0.0, 0.0}, {0.2, 200.0}};
        NotePlan plan;
        plan.note = note.id;
        plan.position.set(place);
        if (note.has(Technique::Harmonic) && !m_piece.instrument.sounds(place, midi, true))
            plan.position = {};
        m_piece.notes.push_back(note);
        m_piece.asPlayed().plans.push_back(plan);
        m_starts.push_back(m_at + cell.start);
        m_lengths.push_back(cell.length);
        return m_piece.notes.size() - 1;
    }

    // Score time becomes seconds at one tempo; graces stand just before what they lead to.
    void finish() {
        constexpr double kGrace_s = 0.06;
        Timeline& timeline = m_piece.timeline;
        timeline.tempo_bpm = m_bpm;
        timeline.basis = Basis::Set;
        const double beat = timeline.metre.beatLength().toDouble();
        const double quarter_s = 60.0 / m_bpm / beat;
        const double pickup_beats = std::ceil(m_pickup.toDouble() / beat - 1e-9);
        const double shift_s = (pickup_beats * beat - m_pickup.toDouble()) * quarter_s;
        timeline.first_downbeat = static_cast<int>(pickup_beats);
        for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
            Note& note = m_piece.notes[i];
            const double start = shift_s + m_starts[i].toDouble() * quarter_s;
            const bool grace = note.has(Technique::Grace);
            note.time.value = {grace ? std::max(0.0, start - kGrace_s) : start,
                               grace ? start : start + m_lengths[i].toDouble() * quarter_s};
            note.time.probability = 1.0;
        }
        const std::vector<double> places = placesOfNotes();
        order();
        const BarGrid grid(timeline);
        for (int k = 0; timeline.beats_s.size() < kMaxBeats; ++k) {
            const double q = grid.quartersOf(k).toDouble() + m_pickup.toDouble();
            if (q > m_at.toDouble() + beat)
                break;
            timeline.beats_s.push_back(shift_s + q * quarter_s);
        }
        divideBeats(timeline, places);
        m_piece.key = guessKey(m_piece.notes);
    }

    // Where anything begins or ends, in quarters from bar 1.
    std::vector<double> placesOfNotes() const {
        std::vector<double> places;
        for (std::size_t i = 0; i < m_starts.size(); ++i)
            if (!m_piece.notes[i].has(Technique::Grace)) {
                places.push_back((m_starts[i] - m_pickup).toDouble());
                places.push_back((m_starts[i] + m_lengths[i] - m_pickup).toDouble());
            }
        return places;
    }

    void order() {
        std::vector<std::size_t> by_time(m_piece.notes.size());
        for (std::size_t i = 0; i < by_time.size(); ++i)
            by_time[i] = i;
        std::ranges::stable_sort(
            by_time, {}, [&](std::size_t i) { return m_piece.notes[i].onset_s(); });
        std::vector<Note> notes;
        std::vector<NotePlan> plans;
        NoteId id = 1;
        for (const std::size_t i : by_time) {
            notes.push_back(m_piece.notes[i]);
            plans.push_back(m_piece.asPlayed().plans[i]);
            notes.back().id = plans.back().note = id++;
        }
        m_piece.notes = std::move(notes);
        m_piece.asPlayed().plans = std::move(plans);
    }

    const std::string& m_text;
    std::vector<System> m_systems;
    Piece m_piece;
    std::vector<std::string> m_unread;
    double m_bpm = kUsualTempo_bpm;
    int m_bar = 1; // the next one
    Rational m_at; // where it begins, from the beginning of the text
    Rational m_pickup;
    std::vector<Rational> m_starts, m_lengths; // of each note
    std::vector<std::size_t> m_last;           // struck last
};

} // namespace

Result<TextTab> readAsciiTab(const std::string& text) {
    return Reader(text).run();
}

} // namespace wirenote
