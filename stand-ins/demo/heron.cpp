#include "demo/heron.h"

#include <array>
#include <cmath>
#include <sstream>
#include <string>

namespace wirenote::standin {
namespace {

constexpr double kTempo = 92.0;
constexpr double kStart_s = 0.6;
constexpr double kA4Hz = 438.48; // 6 cents below 440 Hz

// Each bar: string:fret:eighths[flags], h hammer-on, s slide, v vibrato, x:frets:eighths[u] a grip
// strummed downwards, or upwards with u, the thickest string first; r:eighths is a rest; @n moves
// the index finger to fret n. The thickest string is a whole step low.
constexpr std::array<const char*, 16> kBars = {
    "@1 4:2:2 3:0:1 3:2:1 2:0:2 3:2:2",
    "3:0:2 4:2:1 4:0:1 4:2:4",
    "4:2:2 3:0:1 3:2:1h 2:0:2 2:3:2",
    "2:0:2 3:2:1 3:0:1 3:2:4v",
    "1:0:2 2:3:1 2:0:1 2:3:2 2:0:2",
    "3:2:2 3:0:1 4:2:1 3:0:4",
    "4:2:1 4:0:1 5:2:1 5:0:1 5:2:2 4:0:2",
    "4:2:2 6:0:2 6:0:4",
    "@7 3:9:2 2:8:1 2:10:1 1:7:2 2:10:2",
    "2:8:2 3:9:1 3:7:1 3:9:4v",
    "3:9:2 2:8:1 @9 2:10:1s 1:10:2 @7 1:7:2",
    "2:10:2 2:8:1 3:9:1 2:8:4v",
    "1:10:2 1:7:1 2:10:1 1:7:2 2:10:2",
    "2:8:1 2:10:1h 2:8:1 3:9:1 3:7:2 3:9:2",
    "@1 3:0:1 3:2:1 2:0:2 3:2:1 3:0:1 4:2:1 4:0:1",
    "4:2:4v x:222000:2 x:xx2000:2u",
};

// A hand is never on the grid: the same small unevenness every time the demo is made.
double loose(int seed) {
    return std::sin(12.9898 * seed) * std::cos(4.1414 * seed);
}

class Tune {
  public:
    Piece make() {
        m_piece.title = "Heron at Low Water";
        m_piece.instrument.strings.back().open_midi -= 2;
        m_piece.takes = {Take{}};
        m_piece.lead()->name = "evening class, simulated";
        m_piece.lead()->reference = {kA4Hz, 0.0, Basis::Set};
        m_piece.timeline.tempo_bpm = kTempo;
        for (const char* bar : kBars) {
            std::istringstream words(bar);
            for (std::string word; words >> word;)
                play(word);
        }
        const auto bars = static_cast<int>(kBars.size());
        for (int beat = 0; beat <= bars * 4; ++beat)
            m_piece.timeline.beats_s.push_back(timeAt(2 * beat));
        m_piece.timeline.sections = {{"A", {timeAt(0), timeAt(64)}},
                                     {"B", {timeAt(64), timeAt(128)}}};
        m_piece.lead()->length_s = timeAt(128) + 1.0;
        m_piece.key = KeySignature{1}; // E minor
        return m_piece;
    }

  private:
    static double timeAt(int eighths) { return kStart_s + eighths * 30.0 / kTempo; }

    void play(const std::string& word) {
        if (word[0] == '@') {
            m_hand = std::stoi(word.substr(1));
            return;
        }
        if (word[0] == 'r') {
            m_eighths += std::stoi(word.substr(2));
            return;
        }
        if (word[0] == 'x') {
            strum(word.substr(2));
            return;
        }
        std::istringstream in(word);
        Position position;
        int length = 0;
        char colon = 0;
        in >> position.string >> colon >> position.fret >> colon >> length;
        add(position, length, in.peek() > 0 ? static_cast<char>(in.get()) : ' ');
    }

    void strum(const std::string& word) {
        constexpr double kNextString_s = 0.008;
        const std::string frets = word.substr(0, word.find(':'));
        const int length = word[word.find(':') + 1] - '0';
        const bool upwards = word.back() == 'u';
        int struck = 0;
        for (std::size_t k = 0; k < frets.size(); ++k) {
            const std::size_t at = upwards ? frets.size() - 1 - k : k;
            if (frets[at] == 'x')
                continue;
            const auto string = static_cast<int>(frets.size() - at);
            add({string, frets[at] - '0'}, length, 'c');
            m_eighths -= length;
            Note& note = m_piece.notes.back();
            note.time.value.start_s = timeAt(m_eighths) + kNextString_s * struck++;
            m_piece.asPlayed().plans.back().stroke.set(upwards ? Stroke::Up : Stroke::Down);
        }
        m_eighths += length;
    }

    void add(Position position, int length, char flag) {
        // What was added to the tune later leaves the unevenness of the rest as it was.
        const bool added = position.string == 6 || flag == 'c';
        const int seed = added ? 1000 + m_eighths + position.string : ++m_seed;
        const bool slurred = flag == 'h' || flag == 's';
        Note note;
        NotePlan plan;
        note.id = plan.note = m_piece.next_id++;
        const double start = timeAt(m_eighths) + 0.009 * loose(seed);
        if (slurred && !m_piece.notes.empty()) // the string is never let go before a slur
            m_piece.notes.back().time.value.end_s = start;
        note.time.set({start, timeAt(m_eighths + length) - 0.015 + 0.008 * loose(seed + 31)});
        note.pitch.set(m_piece.instrument.midiAt(position));
        note.velocity = 0.62 + (m_eighths % 8 == 0 ? 0.12 : 0.0) + 0.07 * loose(seed + 57);
        if (flag == 'h')
            note.techniques.push_back(Technique::HammerOn);
        if (flag == 's')
            note.techniques.push_back(Technique::Slide);
        if (flag == 'v')
            note.techniques.push_back(Technique::Vibrato);
        plan.position.set(position);
        plan.hand_fret = m_hand;
        const int finger = position.fret == 0 ? 0 : position.fret - m_hand + 1;
        plan.finger.set(position.fret == 0
                            ? Finger::Open
                            : static_cast<Finger>(static_cast<int>(Finger::Index) + finger - 1));
        plan.stroke.set(slurred ? Stroke::None : m_eighths % 2 == 0 ? Stroke::Down : Stroke::Up);
        m_piece.notes.push_back(note);
        m_piece.asPlayed().plans.push_back(plan);
        m_eighths += length;
    }

    Piece m_piece;
    int m_eighths = 0;
    int m_seed = 0; // of the line's notes
    int m_hand = 1;
};

} // namespace

Piece heronAtLowWater() {
    return Tune().make();
}

Piece heronShownSlowly() {
    constexpr double kLater_s = 1.9;
    constexpr double kSlower = 1.21;
    constexpr double kSlowA4Hz = 436.456; // 14 cents below 440 Hz
    Piece piece = Tune().make();
    // Nobody keeps a slow tempo exactly: it swells and ebbs by a few per cent over eight bars.
    const auto when = [](double t) { return kLater_s + kSlower * (t + 0.12 * std::sin(0.3 * t)); };
    for (Note& note : piece.notes)
        note.time.set({when(note.onset_s()), when(note.offset_s())});
    for (double& beat : piece.timeline.beats_s)
        beat = when(beat);
    for (Section& section : piece.timeline.sections)
        section.span = {when(section.span.start_s), when(section.span.end_s)};
    piece.timeline.tempo_bpm = kTempo / kSlower;
    for (StringSpec& string : piece.instrument.strings)
        string.open_midi -= 2;
    for (Note& note : piece.notes)
        note.pitch.set(note.pitch.value - 2.0);
    Take& take = piece.takes.front();
    take.name = "shown slowly, simulated";
    take.kind = TakeKind::Lesson;
    take.reference = {kSlowA4Hz, 0.0, Basis::Set};
    take.length_s = when(take.length_s);
    return piece;
}

} // namespace wirenote::standin
