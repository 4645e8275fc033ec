#include "formats/midi_file.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>

namespace wirenote {
namespace {

struct RawNote {
    long on = 0;
    long off = 0;
    int key = 0;
    int velocity = 0;
    std::vector<std::pair<long, double>> bends; // from a tick on, semitones
};

class Bytes {
  public:
    explicit Bytes(std::string_view bytes) : m_bytes(bytes) {}
    bool atEnd() const { return m_at >= m_bytes.size(); }
    bool failed() const { return m_failed; }
    unsigned byte() {
        if (atEnd()) {
            m_failed = true;
            return 0;
        }
        return static_cast<unsigned char>(m_bytes[m_at++]);
    }
    unsigned peek() const { return atEnd() ? 0 : static_cast<unsigned char>(m_bytes[m_at]); }
    unsigned number(int size) {
        unsigned v = 0;
        for (int i = 0; i < size; ++i)
            v = v << 8U | byte();
        return v;
    }
    unsigned variable() {
        unsigned v = 0;
        for (int i = 0; i < 4; ++i) {
            const unsigned b = byte();
            v = v << 7U | (b & 127U);
            if (!(b & 128U))
                return v;
        }
        m_failed = true;
        return v;
    }
    std::string_view take(std::size_t count) {
        if (count > m_bytes.size() - m_at) {
            m_failed = true;
            count = m_bytes.size() - m_at;
        }
        const auto part = m_bytes.substr(m_at, count);
        m_at += count;
        return part;
    }

  private:
    std::string_view m_bytes;
    std::size_t m_at = 0;
    bool m_failed = false;
};

constexpr long kLastTick = 1000000000L;
constexpr std::size_t kMostTempi = 100000;
constexpr const char* kExportAgain = "; export it again from the program that made it";

Error damaged(const std::string& how) {
    return badInput({}, how + kExportAgain);
}

struct Song {
    std::vector<RawNote> notes;
    std::map<long, double> seconds_per_quarter;
    std::map<long, Metre> metres; // by tick
    std::string title;
};

class TrackReader {
  public:
    TrackReader(std::string_view bytes, Song& song) : m_in(bytes), m_song(song) {}

    bool run() {
        while (!m_in.atEnd() && !m_in.failed() && !m_ended) {
            m_tick += static_cast<long>(m_in.variable());
            if (m_in.peek() & 128U)
                m_status = m_in.byte();
            if (m_status == 0xFF)
                meta();
            else if (m_status == 0xF0 || m_status == 0xF7)
                m_in.take(m_in.variable());
            else if (m_status >= 0x80)
                channelEvent();
            else
                return false;
            if (m_song.notes.size() > kMaxNotes || m_tick > kLastTick)
                return false;
        }
        for (auto& [key, note] : m_open) { // held to the end of the track
            note.off = m_tick;
            m_song.notes.push_back(note);
        }
        return !m_in.failed() && m_ended;
    }

  private:
    void meta() {
        const unsigned type = m_in.byte();
        Bytes data(m_in.take(m_in.variable()));
        m_status = 0;
        if (type == 0x2F)
            m_ended = true;
        if (type == 0x51 && m_song.seconds_per_quarter.size() < kMostTempi)
            m_song.seconds_per_quarter[m_tick] = std::max(1U, data.number(3)) / 1e6;
        if (type == 0x58 && m_song.metres.size() < 1000) {
            const unsigned beats = data.byte();
            const unsigned power = data.byte();
            if (const auto metre = parseMetre(std::to_string(beats) + "/" +
                                              std::to_string(1U << std::min(power, 6U))))
                m_song.metres[m_tick] = *metre;
        }
    }

    void channelEvent() {
        const unsigned kind = m_status >> 4U;
        const unsigned a = m_in.byte();
        const unsigned b = kind == 0xC || kind == 0xD ? 0 : m_in.byte();
        if (kind == 0xE || kind == 0xB)
            (kind == 0xE) ? bend(m_status & 15U, a, b) : control(m_status & 15U, a, b);
        const int key = static_cast<int>((m_status & 15U) * 128U + (a & 127U));
        const bool on = kind == 9 && b > 0;
        if (kind != 8 && kind != 9)
            return;
        if (const auto open = m_open.find(key); open != m_open.end()) {
            RawNote note = open->second;
            note.off = m_tick;
            m_song.notes.push_back(note);
            m_open.erase(open);
        }
        if (on)
            m_open[key] = {m_tick,
                           0,
                           static_cast<int>(a & 127U),
                           static_cast<int>(b & 127U),
                           {{m_tick, m_channels[m_status & 15U].bend}}};
    }

    // The wheel moves all notes that sound on its channel.
    void bend(unsigned channel, unsigned low, unsigned high) {
        constexpr double kMiddle = 8192.0;
        constexpr std::size_t kMost = 4096; // of a note
        const double value = static_cast<double>((high & 127U) << 7U | (low & 127U));
        Channel& own = m_channels[channel];
        own.bend = (value - kMiddle) / kMiddle * own.range;
        for (auto note = m_open.lower_bound(static_cast<int>(channel * 128U));
             note != m_open.end() && note->first < static_cast<int>((channel + 1) * 128U);
             ++note)
            if (note->second.bends.size() < kMost)
                note->second.bends.emplace_back(m_tick, own.bend);
    }

    // Registered parameter 0 says how far the wheel reaches.
    void control(unsigned channel, unsigned number, unsigned value) {
        Channel& own = m_channels[channel];
        if (number == 101)
            own.parameter_high = value;
        else if (number == 100)
            own.parameter_low = value;
        else if (number == 6 && own.parameter_high == 0 && own.parameter_low == 0)
            own.range = std::clamp(static_cast<double>(value & 127U), 1.0, 48.0);
    }

    struct Channel {
        double bend = 0.0;  // semitones
        double range = 2.0; // until told otherwise
        unsigned parameter_high = 127, parameter_low = 127;
    };

    Bytes m_in;
    Song& m_song;
    long m_tick = 0;
    unsigned m_status = 0;
    bool m_ended = false;
    std::map<int, RawNote> m_open;
    std::array<Channel, 16> m_channels;
};

class Clock {
  public:
    Clock(const std::map<long, double>& tempi, int ticks_per_quarter) : m_ticks(ticks_per_quarter) {
        double at_s = 0.0;
        long last = 0;
        double tempo = 0.5; // 120 beats a minute until told otherwise
        m_points[0] = {0.0, tempo};
        for (const auto& [tick, next] : tempi) {
            at_s += static_cast<double>(tick - last) / m_ticks * tempo;
            last = tick;
            tempo = next;
            m_points[tick] = {at_s, tempo};
        }
    }
    double seconds(long tick) const {
        const auto point = std::prev(m_points.upper_bound(tick));
        return point->second.first +
               static_cast<double>(tick - point->first) / m_ticks * point->second.second;
    }

  private:
    int m_ticks;
    std::map<long, std::pair<double, double>> m_points;
};

// Metres that change on a bar line; others would make bars that do not add up.
void takeMetres(const Song& song, int ticks_per_quarter, Timeline& timeline) {
    for (const auto& [tick, metre] : song.metres) {
        if (tick == 0) {
            timeline.metre = metre;
            continue;
        }
        const Rational at(tick, ticks_per_quarter);
        const GridBar bar = BarGrid(timeline).barAt(at);
        if (bar.start == at && bar.number > 1 && metre != bar.metre)
            timeline.changes.push_back({bar.number, metre});
    }
}

// A wheel that moves by a quarter tone or more while a note sounds bends it.
void takeBends(const RawNote& raw, const Clock& clock, Note& note) {
    constexpr double kLeast = 0.45; // semitones
    double lowest = 0.0;
    double highest = 0.0;
    for (const auto& [tick, bend] : raw.bends) {
        lowest = std::min(lowest, bend);
        highest = std::max(highest, bend);
    }
    if (std::max(highest, -lowest) < kLeast)
        return;
    for (const auto& [tick, bend] : raw.bends)
        if (tick < raw.off)
            note.curve.push_back({clock.seconds(tick) - note.onset_s(), 100.0 * bend});
    note.techniques.push_back(highest >= kLeast ? Technique::Bend : Technique::PreBend);
    if (highest >= kLeast && !note.curve.empty() && note.curve.back().dev_cents < 50.0 * highest)
        note.techniques.push_back(Technique::Release);
}

Result<Piece> pieceOf(Song song, int ticks_per_quarter) {
    Piece piece;
    const Clock clock(song.seconds_per_quarter, ticks_per_quarter);
    takeMetres(song, ticks_per_quarter, piece.timeline);
    long last = 0;
    for (const RawNote& raw : song.notes)
        last = std::max(last, raw.off);
    if (BarGrid(piece.timeline).barAt(Rational(last, ticks_per_quarter)).number > kMostBars)
        return damaged("goes on for more than " + std::to_string(kMostBars) + " bars");
    if (clock.seconds(last) > kLongestPiece_s)
        return damaged("goes on for more than a day");
    std::stable_sort(song.notes.begin(), song.notes.end(), [](const RawNote& a, const RawNote& b) {
        return a.on < b.on;
    });
    long end = 0;
    for (const RawNote& raw : song.notes) {
        if (raw.off <= raw.on)
            continue;
        Note note;
        note.id = piece.next_id++;
        note.time.value = {clock.seconds(raw.on), clock.seconds(raw.off)};
        note.time.probability = 1.0;
        note.pitch.value = raw.key;
        note.pitch.probability = 1.0;
        note.velocity = raw.velocity / 127.0;
        takeBends(raw, clock, note);
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = {0, 0};
        piece.notes.push_back(note);
        piece.asPlayed().plans.push_back(plan);
        end = std::max(end, raw.off);
    }
    const BarGrid grid(piece.timeline);
    for (int k = 0; piece.timeline.beats_s.size() < kMaxBeats; ++k) {
        const auto tick = std::lround(grid.quartersOf(k).toDouble() * ticks_per_quarter);
        piece.timeline.beats_s.push_back(clock.seconds(tick));
        if (tick > end)
            break;
    }
    if (piece.timeline.beats_s.size() > 1)
        piece.timeline.tempo_bpm = 60.0 / (piece.timeline.beats_s[1] - piece.timeline.beats_s[0]);
    piece.key = guessKey(piece.notes);
    if (piece.notes.empty())
        return damaged("holds no notes");
    if (const Status sound = checkPiece(piece); !sound)
        return damaged("cannot be used: " + sound.error().message);
    return piece;
}

} // namespace

Result<Piece> readMidi(const std::string& bytes) {
    Bytes in(bytes);
    if (in.take(4) != "MThd" || in.number(4) != 6)
        return badInput({}, "is not a MIDI file; choose another, or export it as MIDI first");
    const unsigned format = in.number(2);
    const unsigned tracks = in.number(2);
    const unsigned division = in.number(2);
    if (in.failed())
        return damaged("breaks off in its header");
    if (format > 1)
        return badInput({},
                        "is a MIDI file of format " + std::to_string(format) +
                            ", which holds no single piece; export it as format 1");
    if (division & 0x8000U || division == 0)
        return badInput(
            {}, "counts in film frames, not in beats; export it with ticks per quarter note");
    Song song;
    for (unsigned t = 0; t < tracks; ++t) {
        if (in.atEnd())
            return damaged("breaks off after " + std::to_string(t) + " of its " +
                           std::to_string(tracks) + " tracks");
        const std::string_view kind = in.take(4);
        const unsigned size = in.number(4);
        const std::string_view body = in.take(size);
        if (in.failed() || (kind == "MTrk" && !TrackReader(body, song).run()))
            return damaged("is damaged in track " + std::to_string(t + 1));
    }
    return pieceOf(std::move(song), static_cast<int>(division));
}

} // namespace wirenote
