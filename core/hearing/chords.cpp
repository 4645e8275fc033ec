#include "hearing/chords.h"

#include "hearing/strum_order.h"
#include "music/pitch.h"
#include "music/string_physics.h"
#include "signal/fft.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr int kFft = 8192;
constexpr double kHighest_hz = 4200.0;
constexpr int kPartials = 14;
// Of the partials: how stiff the string is, as a share of what its build says, and how their levels
// fall, bright to dull.
struct Shape {
    double stiff;
    double decay;
};
constexpr std::array<Shape, 6> kShapes = {
    {{0.1, 0.12}, {0.1, 0.35}, {0.1, 0.8}, {1.0, 0.12}, {1.0, 0.35}, {1.0, 0.8}}};
constexpr int kRounds = 50;
constexpr double kSparse = 0.02;
constexpr double kBefore_s = 0.008; // how long before the attack the old sound is taken
constexpr double kAfter_s = 0.012;  // how long after it the new one

// Spectra of one sound, with a window of any length.
class Looker {
  public:
    explicit Looker(SoundView sound) : m_sound(sound), m_fft(kFft) {}
    std::size_t bins() const {
        return std::min<std::size_t>(kFft / 2, static_cast<std::size_t>(kHighest_hz / binHz()));
    }
    double binHz() const { return m_sound.rate_hz / kFft; }

    // Magnitudes, a sine of amplitude a giving about a.
    std::vector<float> at(double from_s, double to_s) {
        const auto first = static_cast<std::ptrdiff_t>(std::max(0.0, from_s) * m_sound.rate_hz);
        const auto last = std::min(static_cast<std::ptrdiff_t>(to_s * m_sound.rate_hz),
                                   static_cast<std::ptrdiff_t>(m_sound.samples.size()));
        const auto length = std::min<std::ptrdiff_t>(last - first, kFft);
        std::vector<float> out(bins(), 0.0F);
        if (length < 256)
            return out;
        const auto in = m_fft.time();
        std::fill(in.begin(), in.end(), 0.0F);
        for (std::ptrdiff_t i = 0; i < length; ++i)
            in[static_cast<std::size_t>(i)] = static_cast<float>(
                m_sound.samples[static_cast<std::size_t>(first + i)] *
                (1.0 - std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                static_cast<double>(length))));
        m_fft.forward();
        for (std::size_t b = 0; b < out.size(); ++b)
            out[b] = 2.0F * std::abs(m_fft.spectrum()[b]) / static_cast<float>(length);
        return out;
    }

  private:
    SoundView m_sound;
    RealFft m_fft;
};

double stiffnessOf(const Instrument& instrument, int midi) {
    // The middle of the places that have this pitch.
    double sum = 0.0;
    int count = 0;
    for (int s = 1; s <= instrument.stringCount(); ++s)
        if (const int fret = instrument.fretFor(s, midi); fret >= 0) {
            sum += stiffnessAt(instrument, s, instrument.capo + fret);
            ++count;
        }
    return count > 0 ? sum / count : 1e-4;
}

// The combs of all pitches of the neck, for one window length.
class Combs {
  public:
    Combs(const Instrument& instrument,
          double a4_hz,
          double window_s,
          std::size_t bins,
          double bin_hz)
        : m_low(instrument.lowestMidi()), m_high(std::min(instrument.highestMidi(), 93)) {
        const double half_bins = 2.0 / (window_s * bin_hz); // main lobe of the Hann window
        for (int midi = m_low; midi <= m_high; ++midi) {
            for (const auto& [stiff, decay] : kShapes) {
                const double b = stiff * stiffnessOf(instrument, midi);
                std::vector<Cell> comb;
                double sum = 0.0;
                for (int h = 1; h <= kPartials; ++h) {
                    const double centre = partial_hz(hzFromMidi(midi, a4_hz), b, h) / bin_hz;
                    const double level = std::exp(-decay * (h - 1));
                    for (int k = static_cast<int>(std::ceil(centre - half_bins));
                         k <= centre + half_bins;
                         ++k) {
                        if (k < 1 || k >= static_cast<int>(bins))
                            continue;
                        const double x = (k - centre) / half_bins;
                        const auto value = static_cast<float>(
                            level * std::pow(std::cos(0.5 * std::numbers::pi * x), 2.0));
                        comb.push_back({static_cast<std::size_t>(k), value});
                        sum += value;
                    }
                }
                for (Cell& c : comb)
                    c.value /= static_cast<float>(std::max(1e-9, sum));
                m_combs.push_back(std::move(comb));
            }
        }
    }

    // Activation of each pitch, lowest first.
    std::vector<double> explain(const std::vector<float>& spectrum) const {
        std::vector<float> gain(m_combs.size(), 0.0F);
        float total = 0.0F;
        for (const float v : spectrum)
            total += v;
        std::fill(gain.begin(), gain.end(), total / static_cast<float>(m_combs.size()));
        std::vector<float> model(spectrum.size());
        for (int round = 0; round < kRounds; ++round) {
            std::fill(model.begin(),
                      model.end(),
                      1e-7F + 1e-4F * total / static_cast<float>(spectrum.size()));
            for (std::size_t c = 0; c < m_combs.size(); ++c)
                if (gain[c] > 1e-7F * total)
                    for (const Cell& cell : m_combs[c])
                        model[cell.bin] += gain[c] * cell.value;
            for (std::size_t b = 0; b < model.size(); ++b)
                model[b] = spectrum[b] / model[b];
            for (std::size_t c = 0; c < m_combs.size(); ++c) {
                if (gain[c] <= 1e-7F * total)
                    continue;
                float sum = 0.0F;
                for (const Cell& cell : m_combs[c])
                    sum += cell.value * model[cell.bin];
                gain[c] *= sum / (1.0F + static_cast<float>(kSparse));
            }
        }
        std::vector<double> activation;
        for (std::size_t c = 0; c < m_combs.size(); c += kShapes.size()) {
            double sum = 0.0;
            for (std::size_t k = 0; k < kShapes.size(); ++k)
                sum += gain[c + k];
            activation.push_back(sum);
        }
        return activation;
    }
    int low() const { return m_low; }

  private:
    struct Cell {
        std::size_t bin;
        float value;
    };
    int m_low;
    int m_high;
    std::vector<std::vector<Cell>> m_combs;
};

bool sharesPartials(int low, int high) {
    const int d = high - low;
    return d == 12 || d == 19 || d == 24 || d == 28 || d == 31 || d == 34 || d == 36;
}

struct Event {
    double first_s = 0.0;
    double last_s = 0.0;
    double strength = 0.0;
};

std::vector<Event> eventsOf(const std::vector<OnsetPeak>& onsets, double event_s) {
    std::vector<Event> events;
    for (const OnsetPeak& o : onsets) {
        if (!events.empty() && o.time_s - events.back().first_s < event_s) {
            events.back().last_s = o.time_s;
            events.back().strength = std::max(events.back().strength, o.strength);
            continue;
        }
        events.push_back({o.time_s, o.time_s, o.strength});
    }
    return events;
}

// Level of a pitch's own partials at a moment.
double
combLevel(const std::vector<float>& spectrum, double f0_hz, double stiffness_b, double bin_hz) {
    double power = 0.0;
    for (int h = 1; h <= 4; ++h) {
        const auto b =
            static_cast<std::size_t>(std::lround(partial_hz(f0_hz, stiffness_b, h) / bin_hz));
        if (b + 1 < spectrum.size() && b > 0) {
            const double v = std::max({spectrum[b - 1], spectrum[b], spectrum[b + 1]});
            power += v * v;
        }
    }
    return power;
}

// Geometric against arithmetic mean of the power in third-octaves of a few bins each.
double flatnessOf(const std::vector<float>& spectrum, double bin_hz) {
    double log_sum = 0.0;
    double sum = 0.0;
    int count = 0;
    for (auto b = static_cast<std::size_t>(70.0 / bin_hz); b < spectrum.size(); ++b) {
        const double power = static_cast<double>(spectrum[b]) * spectrum[b] + 1e-14;
        log_sum += std::log(power);
        sum += power;
        ++count;
    }
    return count > 0 ? std::exp(log_sum / count) / (sum / count) : 0.0;
}

// What an attack added, what sounds after it, and how sure an octave must be.
struct Sight {
    const std::vector<float>& grown;
    const std::vector<float>& after;
    double octave_excess = 1.2;
};

class ChordHearing {
  public:
    ChordHearing(SoundView sound,
                 const Instrument& instrument,
                 double a4_hz,
                 const ChordParameters& p)
        : m_sound(sound), m_looker(sound), m_instrument(instrument), m_a4_hz(a4_hz), m_p(p),
          m_length_s(sound.length_s()) {
        for (const double window_s : {0.07, 0.12, 0.19})
            m_combs.emplace_back(
                window_s, Combs(instrument, a4_hz, window_s, m_looker.bins(), m_looker.binHz()));
    }

    ChordEvent hear(const Event& event, double next_s) {
        const double from_s = event.last_s + kAfter_s;
        const double room_s =
            std::clamp(next_s - kBefore_s - from_s, m_p.least_window_s, m_p.window_s);
        const auto after = m_looker.at(from_s, from_s + room_s);
        const auto before =
            m_looker.at(event.first_s - kBefore_s - room_s, event.first_s - kBefore_s);
        ChordEvent heard = explain(event, before, after, room_s, false);
        if (static_cast<int>(heard.notes.size()) >= m_p.strum_notes)
            heard = explain(event, before, after, room_s, true);
        heard.flatness = flatnessOf(after, m_looker.binHz());
        setOnsets(event, next_s, heard);
        return heard;
    }

    // A stroke crosses its strings one after the other.
    void setOnsets(const Event& event, double next_s, ChordEvent& heard) const {
        if (heard.notes.size() < 2)
            return;
        std::vector<StrokeNote> notes;
        for (const ChordNote& note : heard.notes)
            notes.push_back({hzFromMidi(note.midi, m_a4_hz), stiffnessOf(m_instrument, note.midi)});
        const StrokeOrder order =
            strokeOrder(m_sound,
                        notes,
                        event.first_s,
                        event.last_s,
                        std::min(event.last_s + m_p.late_s, next_s - kBefore_s));
        heard.upward = order.upward;
        heard.order_probability = order.probability;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            const double length_s = heard.notes[i].offset_s - heard.notes[i].onset_s;
            heard.notes[i].onset_s = order.onsets_s[i];
            heard.notes[i].offset_s = order.onsets_s[i] + length_s;
        }
    }

    // When each note stops: its partials have fallen by end_drop_db, or it is struck again, or its
    // string is needed.
    void findEnds(std::vector<ChordEvent>& events) {
        constexpr double kStep_s = 0.03;
        constexpr double kWindow_s = 0.08;
        constexpr double kLongest_s = 6.0;
        std::vector<ChordNote*> ringing;
        std::size_t next_event = 0;
        for (double t = 0.0; t < m_length_s; t += kStep_s) {
            while (next_event < events.size() && events[next_event].onset_s < t) {
                for (ChordNote& note : events[next_event].notes) {
                    for (ChordNote* old : ringing)
                        if (old->midi == note.midi)
                            old->offset_s = note.onset_s;
                    std::erase_if(ringing,
                                  [&](const ChordNote* n) { return n->midi == note.midi; });
                    note.offset_s = 0.0;
                    note.level_db = -200.0;
                    ringing.push_back(&note);
                }
                ++next_event;
            }
            if (ringing.empty())
                continue;
            const auto spectrum = m_looker.at(t, t + kWindow_s);
            std::erase_if(ringing, [&](ChordNote* note) {
                const double b = stiffnessOf(m_instrument, note->midi);
                const double db =
                    10.0 *
                    std::log10(
                        1e-14 +
                        combLevel(spectrum, hzFromMidi(note->midi, m_a4_hz), b, m_looker.binHz()));
                if (t < note->onset_s + 0.12)
                    note->level_db = std::max(note->level_db, db);
                const bool over =
                    (t > note->onset_s + 0.06 && db < note->level_db - m_p.end_drop_db) ||
                    t > note->onset_s + kLongest_s;
                if (over)
                    note->offset_s = std::max(note->onset_s + 0.05, t + 0.25 * kWindow_s);
                return over;
            });
        }
        for (ChordNote* note : ringing)
            note->offset_s = m_length_s;
    }

  private:
    ChordEvent explain(const Event& event,
                       const std::vector<float>& before,
                       const std::vector<float>& after,
                       double room_s,
                       bool strum) const {
        const auto old_share = static_cast<float>(strum ? m_p.strum_old_share : m_p.old_share);
        std::vector<float> grown(after.size());
        for (std::size_t b = 0; b < grown.size(); ++b) {
            // What rang already is somewhat quieter by now; a neighbouring bin may hold it.
            const float old = std::max(
                {before[b > 0 ? b - 1 : 0], before[b], before[std::min(b + 1, before.size() - 1)]});
            grown[b] = std::max(0.0F, after[b] - old_share * old);
        }
        const Combs& combs = combsFor(room_s);
        ChordEvent heard;
        heard.onset_s = event.first_s;
        heard.strength = event.strength;
        choose(combs.explain(grown),
               combs.low(),
               {grown, after, strum ? m_p.strum_octave_excess : m_p.octave_excess},
               heard);
        return heard;
    }

    const Combs& combsFor(double window_s) const {
        for (const auto& [longest_s, combs] : m_combs)
            if (window_s <= longest_s + 0.025)
                return combs;
        return m_combs.back().second;
    }

    float levelAt(const std::vector<float>& spectrum, int midi, int partial) const {
        const auto b = static_cast<std::size_t>(std::lround(
            partial_hz(hzFromMidi(midi, m_a4_hz), stiffnessOf(m_instrument, midi), partial) /
            m_looker.binHz()));
        return b > 0 && b + 1 < spectrum.size()
                   ? std::max({spectrum[b - 1], spectrum[b], spectrum[b + 1]})
                   : 0.0F;
    }

    // How far the partials that a higher note shares with a lower one stand above the neighbours
    // that are the lower note's alone, in nepers: a string by itself has a smooth envelope.
    double excess(const std::vector<float>& grown, int low_midi, int high_midi) const {
        const int ratio = static_cast<int>(std::lround(std::exp2((high_midi - low_midi) / 12.0)));
        double sum = 0.0;
        int count = 0;
        for (int k = 1; k * ratio + 1 <= 12; ++k) {
            const double shared = levelAt(grown, low_midi, k * ratio);
            const double below = levelAt(grown, low_midi, k * ratio - 1);
            const double above = levelAt(grown, low_midi, k * ratio + 1);
            const double floor = 1e-6 + 0.01 * levelAt(grown, low_midi, 1);
            sum += std::log((shared + floor) / (std::sqrt((below + floor) * (above + floor))));
            ++count;
        }
        return count > 0 ? sum / count : 0.0;
    }

    void choose(const std::vector<double>& activation,
                int low,
                const Sight& sight,
                ChordEvent& heard) const {
        const double strongest = *std::max_element(activation.begin(), activation.end());
        if (strongest <= 1e-9)
            return;
        std::vector<std::pair<double, int>> ranked;
        for (std::size_t i = 0; i < activation.size(); ++i) {
            // Neighbours share the lobe of a detuned or bent note: only the local strongest counts.
            const bool peak = (i == 0 || activation[i] >= activation[i - 1]) &&
                              (i + 1 == activation.size() || activation[i] > activation[i + 1]);
            if (peak && activation[i] >= m_p.least_share * strongest)
                ranked.emplace_back(activation[i], low + static_cast<int>(i));
        }
        std::sort(ranked.rbegin(), ranked.rend());
        std::vector<int> chosen;
        for (const auto& [value, midi] : ranked) {
            const bool hidden =
                std::any_of(heard.notes.begin(),
                            heard.notes.end(),
                            [&, v = value, m = midi](const ChordNote& n) {
                                return sharesPartials(n.midi, m) &&
                                       v < m_p.octave_share * n.share * strongest &&
                                       excess(sight.grown, n.midi, m) < sight.octave_excess;
                            });
            std::vector<int> with = chosen;
            with.push_back(midi);
            if (hidden || !playableAtOnce(m_instrument, with))
                continue;
            chosen = with;
            ChordNote note;
            note.onset_s = heard.onset_s;
            note.offset_s = heard.onset_s + 0.2;
            note.midi = midi;
            note.share = value / strongest;
            note.level_db = 10.0 * std::log10(1e-14 + combLevel(sight.after,
                                                                hzFromMidi(midi, m_a4_hz),
                                                                stiffnessOf(m_instrument, midi),
                                                                m_looker.binHz()));
            note.probability = std::clamp(0.5 + 0.5 * std::sqrt(note.share), 0.05, 0.97);
            heard.notes.push_back(note);
        }
        std::sort(heard.notes.begin(),
                  heard.notes.end(),
                  [](const ChordNote& a, const ChordNote& b) { return a.midi < b.midi; });
    }

    SoundView m_sound;
    mutable Looker m_looker;
    const Instrument& m_instrument;
    double m_a4_hz;
    const ChordParameters& m_p;
    double m_length_s;
    std::vector<std::pair<double, Combs>> m_combs;
};

// Gives each pitch a string of its own, the lowest first.
bool assign(const Instrument& instrument,
            const std::vector<int>& midis,
            std::size_t at,
            unsigned used,
            int low,
            int high,
            int reach) {
    if (at == midis.size())
        return true;
    for (int s = instrument.stringCount(); s >= 1; --s) {
        if (used & (1U << static_cast<unsigned>(s)))
            continue;
        const int fret = instrument.fretFor(s, midis[at]);
        if (fret < 0)
            continue;
        const int new_low = fret > 0 ? std::min(low, fret) : low;
        const int new_high = fret > 0 ? std::max(high, fret) : high;
        if (new_high > 0 && new_high - new_low > reach)
            continue;
        if (assign(instrument,
                   midis,
                   at + 1,
                   used | (1U << static_cast<unsigned>(s)),
                   new_low,
                   new_high,
                   reach))
            return true;
    }
    return false;
}

} // namespace

bool playableAtOnce(const Instrument& instrument, const std::vector<int>& midis, int reach) {
    if (midis.size() > static_cast<std::size_t>(instrument.stringCount()))
        return false;
    std::vector<int> sorted = midis;
    std::sort(sorted.begin(), sorted.end());
    return assign(instrument, sorted, 0, 0, kMaxFrets, 0, reach);
}

Result<std::vector<ChordEvent>> hearChords(SoundView sound,
                                           const Instrument& instrument,
                                           double a4_hz,
                                           const std::vector<OnsetPeak>& onsets,
                                           const ChordParameters& parameters,
                                           const JobControl& job) {
    ChordHearing hearing(sound, instrument, a4_hz, parameters);
    const auto events = eventsOf(onsets, parameters.event_s);
    std::vector<ChordEvent> heard;
    for (std::size_t i = 0; i < events.size(); ++i) {
        if (job.cancelRequested())
            return cancelled();
        job.report(events[i].first_s, sound.length_s());
        const double next_s = i + 1 < events.size() ? events[i + 1].first_s : sound.length_s();
        ChordEvent event = hearing.hear(events[i], next_s);
        if (!event.notes.empty())
            heard.push_back(std::move(event));
    }
    hearing.findEnds(heard);
    return heard;
}

} // namespace wirenote
