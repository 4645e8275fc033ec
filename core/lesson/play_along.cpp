#include "lesson/play_along.h"

#include "lesson/backing.h"
#include "sounding/render.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kMinute_s = 60.0;
constexpr double kSwings = 1.15; // from here on a piece is swung

// Score time at one steady tempo.
class SteadyTime {
  public:
    SteadyTime(const LessonFacts& facts, const PlayAlongOptions& options)
        : m_facts(facts), m_options(options) {
        const Metre metre = facts.metreAt(options.from);
        double bpm = facts.piece().timeline.tempo_bpm;
        if (bpm <= 0.0) {
            const double beats = ((options.to - options.from) / metre.beatLength()).toDouble();
            const double played_s = facts.map().timeAt(options.to.toDouble()) -
                                    facts.map().timeAt(options.from.toDouble());
            bpm = kMinute_s * beats / std::max(played_s, 0.1);
        }
        m_bpm = bpm * options.tempo;
        m_quarter_s = kMinute_s / m_bpm / metre.beatLength().toDouble();
        m_begins_s = options.count_in * metre.barLength().toDouble() * m_quarter_s;
    }

    double bpm() const { return m_bpm; }
    double begins_s() const { return m_begins_s; }
    double length_s() const { return (m_options.to - m_options.from).toDouble() * m_quarter_s; }
    double quarter_s() const { return m_quarter_s; }
    // Where a place of the score sounds in its first round.
    double at(Rational quarters) const {
        return m_begins_s + swung(quarters) * m_quarter_s - m_options.from.toDouble() * m_quarter_s;
    }

  private:
    // The second half of a beat comes later, the more the piece swings.
    double swung(Rational quarters) const {
        const double swing = m_facts.piece().timeline.swing;
        const Metre metre = m_facts.metreAt(quarters);
        if (swing < kSwings || metre.compound())
            return quarters.toDouble();
        const SpokenPlace place = m_facts.placeAt(quarters);
        const double part = place.part.toDouble(), turn = swing / (1.0 + swing);
        const double moved =
            part < 0.5 ? part / 0.5 * turn : turn + (part - 0.5) / 0.5 * (1.0 - turn);
        return quarters.toDouble() + (moved - part) * metre.beatLength().toDouble();
    }

    const LessonFacts& m_facts;
    const PlayAlongOptions& m_options;
    double m_bpm = 0.0, m_quarter_s = 0.5, m_begins_s = 0.0;
};

// The notes of the stretch as a piece of their own, at their written places.
Piece atWrittenPlaces(const LessonFacts& facts, const PlayAlongOptions& o, const SteadyTime& time) {
    constexpr double kGrace_s = 0.06, kShortest_s = 0.05;
    Piece piece;
    piece.instrument = facts.piece().instrument;
    std::vector<std::pair<Note, NotePlan>> rows;
    for (std::size_t i = 0; i < facts.piece().notes.size(); ++i) {
        const ScoreNote& written = facts.scoreNote(i);
        if (written.start < o.from || written.start >= o.to || !facts.plan(i).placed())
            continue;
        Note note = facts.piece().notes[i];
        const double was_s = note.onset_s();
        const double slower =
            (written.sounds > Rational(0) ? written.sounds : Rational(1, 4)).toDouble() *
            time.quarter_s() / std::max(note.time.value.length_s(), kShortest_s);
        const double start_s =
            time.at(written.start) - (written.grace ? kGrace_s : 0.0) - time.begins_s();
        const double length_s =
            written.grace ? kGrace_s : std::max(kShortest_s, note.time.value.length_s() * slower);
        note.time.value = {std::max(0.0, start_s), std::max(0.0, start_s) + length_s};
        for (PitchPoint& point : note.curve)
            point.time_s = note.onset_s() + (point.time_s - was_s) * slower;
        rows.emplace_back(std::move(note), facts.plan(i));
    }
    std::ranges::stable_sort(rows, {}, [](const auto& row) { return row.first.onset_s(); });
    for (auto& [note, plan] : rows) {
        piece.notes.push_back(std::move(note));
        piece.asPlayed().plans.push_back(std::move(plan));
    }
    return piece;
}

void mix(const Sound& from, double at_s, double gain, Sound& into) {
    const auto start = static_cast<std::size_t>(std::lround(at_s * into.rate_hz));
    for (std::size_t i = 0; i < from.samples.size() && start + i < into.samples.size(); ++i)
        into.samples[start + i] += static_cast<float>(gain) * from.samples[i];
}

// All felt beats of the stretch, in score time.
std::vector<std::pair<Rational, bool>>
beatsOf(const LessonFacts& facts, Rational from, Rational to) {
    std::vector<std::pair<Rational, bool>> beats; // … whether a bar begins
    const BarGrid& grid = facts.map().grid();
    for (int number = grid.barAt(from).number; grid.bar(number).start < to; ++number) {
        const GridBar bar = grid.bar(number);
        for (int beat = 0; beat < bar.metre.feltBeats(); ++beat)
            if (const Rational at = bar.start + bar.metre.beatLength() * Rational(beat);
                at >= from && at < to)
                beats.emplace_back(at, beat == 0);
    }
    return beats;
}

// The clicks of a play-along, and where its beats are.
class Clicks {
  public:
    Clicks(const LessonFacts& facts,
           const PlayAlongOptions& options,
           double beat_s,
           Backing& backing,
           PlayAlong& out)
        : m_facts(facts), m_options(options), m_beat_s(beat_s),
          m_parts(clicksPerBeat(facts, options.from, options.to, out.bpm)), m_backing(backing),
          m_out(out) {}

    void countIn() {
        const int beats = m_facts.metreAt(m_options.from).feltBeats();
        for (int i = 0; i < m_options.count_in * beats; ++i)
            beat(i * m_beat_s, i % beats == 0 ? ClickKind::Bar : ClickKind::Beat);
    }
    void round(const SteadyTime& time, int number, double later_s) {
        bool first = number > 0;
        for (const auto& [at, begins_bar] : beatsOf(m_facts, m_options.from, m_options.to)) {
            const ClickKind usual = begins_bar ? ClickKind::Bar : ClickKind::Beat;
            beat(time.at(at) + later_s, first ? ClickKind::Again : usual);
            first = false;
        }
    }

  private:
    void beat(double at_s, ClickKind kind) {
        m_out.beats_s.push_back(at_s);
        click(at_s, kind);
        for (int part = 1; part < m_parts; ++part)
            click(at_s + part * m_beat_s / m_parts, ClickKind::Between);
    }
    void click(double at_s, ClickKind kind) {
        m_out.clicks_s.push_back(at_s);
        if (m_options.click)
            m_backing.click(at_s, kind);
    }

    const LessonFacts& m_facts;
    const PlayAlongOptions& m_options;
    double m_beat_s;
    int m_parts;
    Backing& m_backing;
    PlayAlong& m_out;
};

void level(Sound& sound) {
    constexpr float kPeak = 0.7F; // leaves headroom for the encoder
    float peak = 0.0F;
    for (const float v : sound.samples)
        peak = std::max(peak, std::abs(v));
    if (peak > 0.0F)
        for (float& v : sound.samples)
            v *= kPeak / peak;
}

} // namespace

int clicksPerBeat(const LessonFacts& facts, Rational from, Rational to, double bpm) {
    constexpr double kSlow_bpm = 76.0, kEnough = 0.15; // of all that begins
    const auto [first, last] = facts.momentsIn(from, to);
    std::size_t halves = 0, thirds = 0;
    for (std::size_t m = first; m < last; ++m) {
        const Rational part = facts.moments()[m].place.part;
        halves += part == Rational(1, 2) || part.den() == 4 ? 1 : 0;
        thirds += part.den() == 3 || part.den() == 6 ? 1 : 0;
    }
    const auto all = static_cast<double>(last - first);
    const auto enough = [all](std::size_t count) {
        return static_cast<double>(count) > kEnough * all;
    };
    if (bpm > kSlow_bpm)
        return 1;
    if (facts.metreAt(from).compound() || (enough(thirds) && thirds > halves))
        return 3;
    return enough(halves) && facts.piece().timeline.swing < kSwings ? 2 : 1;
}

Result<PlayAlong>
playAlong(const LessonFacts& facts, const PlayAlongOptions& options, const JobControl& job) {
    constexpr double kLongest_s = 3.0 * 3600.0;
    if (options.to <= options.from || options.tempo <= 0.0)
        return badCall("there is nothing to play along with in a stretch without length");
    const SteadyTime time(facts, options);
    PlayAlong out;
    out.bpm = time.bpm();
    out.begins_s = time.begins_s();
    const double round_s = time.length_s();
    const double total_s = out.begins_s + round_s * options.times;
    if (total_s > kLongest_s)
        return badCall(
            "a play-along of more than three hours is not made; choose a shorter stretch "
            "or a faster tempo");
    out.sound.rate_hz = options.rate_hz;
    out.sound.samples.assign(static_cast<std::size_t>(std::lround(total_s * options.rate_hz)), 0.F);
    if (options.instrument) {
        RenderOptions render;
        render.rate_hz = options.rate_hz;
        const auto played = renderPiece(atWrittenPlaces(facts, options, time), render, job);
        if (!played)
            return played.error();
        for (int round = 0; round < options.times; ++round)
            mix(*played, out.begins_s + round * round_s, 1.0, out.sound);
    }
    Backing backing(out.sound);
    const double beat_s = facts.metreAt(options.from).beatLength().toDouble() * time.quarter_s();
    Clicks clicks(facts, options, beat_s, backing, out);
    clicks.countIn();
    for (int round = 0; round < options.times; ++round) {
        if (job.cancelRequested())
            return cancelled();
        clicks.round(time, round, round * round_s);
    }
    if (options.drums || options.bass)
        addBand(facts, options, out, beat_s, backing);
    level(out.sound);
    return out;
}

} // namespace wirenote
