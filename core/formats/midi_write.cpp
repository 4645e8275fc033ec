#include "formats/midi_file.h"

#include "piece/timeline_map.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace wirenote {
namespace {

constexpr int kTicksPerQuarter = 480;

void put16(std::string& out, unsigned v) {
    out += static_cast<char>(v >> 8U & 255U);
    out += static_cast<char>(v & 255U);
}
void put32(std::string& out, unsigned v) {
    put16(out, v >> 16U);
    put16(out, v & 65535U);
}
void putVariable(std::string& out, unsigned v) {
    std::string reversed(1, static_cast<char>(v & 127U));
    while (v >>= 7U)
        reversed += static_cast<char>((v & 127U) | 128U);
    out.append(reversed.rbegin(), reversed.rend());
}

// Events in any order; sorted by tick on output, ends of notes before starts.
class Track {
  public:
    void add(long tick, int order, std::string bytes) {
        m_events.push_back({std::max(0L, tick), order, std::move(bytes)});
    }
    void meta(long tick, int type, const std::string& data) {
        std::string bytes = {static_cast<char>(0xFF), static_cast<char>(type)};
        putVariable(bytes, static_cast<unsigned>(data.size()));
        add(tick, 0, bytes + data);
    }
    std::string bytes() {
        std::stable_sort(m_events.begin(), m_events.end(), [](const Event& a, const Event& b) {
            return a.tick != b.tick ? a.tick < b.tick : a.order < b.order;
        });
        std::string body;
        long at = 0;
        for (const Event& e : m_events) {
            putVariable(body, static_cast<unsigned>(e.tick - at));
            at = e.tick;
            body += e.bytes;
        }
        body += std::string("\x00\xFF\x2F\x00", 4);
        std::string out = "MTrk";
        put32(out, static_cast<unsigned>(body.size()));
        return out + body;
    }

  private:
    struct Event {
        long tick;
        int order;
        std::string bytes;
    };
    std::vector<Event> m_events;
};

// Score positions as ticks from the first bar line.
class Ticks {
  public:
    explicit Ticks(const Piece& piece) : m_map(piece.timeline) {
        const double first =
            piece.notes.empty() ? 0.0 : m_map.quartersAt(piece.notes.front().onset_s());
        const double bar = piece.timeline.metre.barLength().toDouble();
        m_origin = std::min(0.0, std::floor(first / bar + 1e-6) * bar);
    }
    long at(double time_s) const {
        return std::lround((m_map.quartersAt(time_s) - m_origin) * kTicksPerQuarter);
    }
    long atQuarters(double quarters) const {
        return std::lround((quarters - m_origin) * kTicksPerQuarter);
    }
    double timeAt(double quarters_from_origin) const {
        return m_map.timeAt(quarters_from_origin + m_origin);
    }

  private:
    TimelineMap m_map;
    double m_origin = 0.0;
};

std::string metreBytes(const Metre& metre) {
    const int power = metre.unit == 2 ? 1 : metre.unit == 4 ? 2 : metre.unit == 8 ? 3 : 4;
    return {static_cast<char>(metre.beats),
            static_cast<char>(power),
            static_cast<char>(metre.compound() ? 36 : 24),
            8};
}

Track tempoTrack(const Piece& piece, const Ticks& ticks) {
    Track track;
    track.meta(0, 0x03, piece.title);
    const BarGrid grid(piece.timeline);
    track.meta(0, 0x58, metreBytes(piece.timeline.metre));
    for (const MetreChange& change : piece.timeline.changes)
        track.meta(ticks.atQuarters(grid.bar(change.bar).start.toDouble()),
                   0x58,
                   metreBytes(change.metre));
    track.meta(0, 0x59, {static_cast<char>(piece.key.fifths), 0});
    const double beat = piece.timeline.metre.beatLength().toDouble();
    const double end_s = piece.notes.empty() ? 0.0 : piece.notes.back().offset_s();
    unsigned last = 0;
    for (double q = 0.0; q == 0.0 || ticks.timeAt(q) < end_s; q += beat) {
        const double seconds = (ticks.timeAt(q + beat) - ticks.timeAt(q)) / beat;
        const auto micros = static_cast<unsigned>(std::clamp(seconds * 1e6, 1.0, 16777215.0));
        if (micros != last)
            track.meta(std::lround(q * kTicksPerQuarter),
                       0x51,
                       {static_cast<char>(micros >> 16U & 255U),
                        static_cast<char>(micros >> 8U & 255U),
                        static_cast<char>(micros & 255U)});
        last = micros;
    }
    return track;
}

constexpr double kBendRange = 12.0; // semitones that the wheel of our files reaches
constexpr int kWheelMiddle = 8192;  // MIDI 1.0, pitch bend change

std::string wheel(int channel, double semitones) {
    const int value = std::clamp(
        kWheelMiddle + static_cast<int>(std::lround(semitones / kBendRange * kWheelMiddle)),
        0,
        16383);
    return {static_cast<char>(0xE0 | channel),
            static_cast<char>(value & 127),
            static_cast<char>(value >> 7 & 127)};
}

// How far the wheel of a channel reaches: registered parameter 0 (MIDI 1.0, pitch bend
// sensitivity).
void setBendRange(Track& track, int channel) {
    const auto control = [&](int number, int value) {
        track.add(0,
                  1,
                  {static_cast<char>(0xB0 | channel),
                   static_cast<char>(number),
                   static_cast<char>(value)});
    };
    control(101, 0);
    control(100, 0);
    control(6, static_cast<int>(kBendRange));
    control(38, 0);
}

bool isBent(const Note& note) {
    return !note.curve.empty() && (note.has(Technique::Bend) || note.has(Technique::PreBend) ||
                                   note.has(Technique::Release));
}

// The way of a bent string; afterwards the wheel stands in its middle again.
void addBends(Track& track, const Note& note, int channel, const Ticks& ticks, long off) {
    for (const PitchPoint& p : note.curve) {
        const long at = std::min(off - 1, ticks.at(note.onset_s() + p.time_s));
        track.add(at, p.time_s <= 0.0 ? 2 : 4, wheel(channel, p.dev_cents / 100.0));
    }
    track.add(off, 2, wheel(channel, 0.0));
}

} // namespace

std::string writeMidi(const Piece& piece) {
    const Ticks ticks(piece);
    const int strings = piece.instrument.stringCount();
    std::vector<Track> tracks(static_cast<std::size_t>(strings) + 1);
    tracks[0] = tempoTrack(piece, ticks);
    for (int s = 1; s <= strings; ++s) {
        const int channel = s <= 9 ? s - 1 : s;
        const int program = piece.instrument.isBass()                           ? 33
                            : piece.instrument.kind == InstrumentKind::Nylon    ? 24
                            : piece.instrument.kind == InstrumentKind::Acoustic ? 25
                                                                                : 27;
        Track& track = tracks[static_cast<std::size_t>(s)];
        track.meta(0, 0x03, "string " + std::to_string(s));
        track.add(0, 1, {static_cast<char>(0xC0 | channel), static_cast<char>(program)});
        setBendRange(track, channel);
    }
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const NotePlan& plan = piece.asPlayed().plans[i];
        const int s =
            plan.placed() ? plan.position.value.string : 1; // a note nobody could place is not lost
        const int channel = s <= 9 ? s - 1 : s;
        const auto key = static_cast<char>(std::clamp(note.midi(), 0, 127));
        const auto velocity = static_cast<char>(
            std::clamp(static_cast<int>(std::lround(note.velocity * 127)), 1, 127));
        const long on = ticks.at(note.onset_s());
        const long off = std::max(on + 1, ticks.at(note.offset_s()));
        tracks[static_cast<std::size_t>(s)].add(
            on, 3, {static_cast<char>(0x90 | channel), key, velocity});
        tracks[static_cast<std::size_t>(s)].add(
            off, 2, {static_cast<char>(0x80 | channel), key, 0});
        if (isBent(note))
            addBends(tracks[static_cast<std::size_t>(s)], note, channel, ticks, off);
    }
    std::string out = "MThd";
    put32(out, 6);
    put16(out, 1);
    put16(out, static_cast<unsigned>(tracks.size()));
    put16(out, kTicksPerQuarter);
    for (Track& track : tracks)
        out += track.bytes();
    return out;
}

} // namespace wirenote
