#include "hearing/curves.h"

#include "base/median.h"
#include "base/peaks.h"
#include "hearing/bends.h"
#include "hearing/techniques.h"

#include "music/pitch.h"
#include "music/string_physics.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

constexpr double kUsualStiffness = 1e-4;
constexpr int kFft = 4096;

double stiffnessOf(const Note& note) {
    return note.heard().stiffness.told() ? std::exp(note.heard().stiffness.log_b) : kUsualStiffness;
}

class PitchFollower {
  public:
    PitchFollower(SoundView sound, double a4_hz, std::vector<Note>& notes, const CurveParameters& p)
        : m_sound(sound), m_a4_hz(a4_hz), m_notes(notes), m_p(p), m_fft(kFft),
          m_bin_hz(sound.rate_hz / kFft), m_lobe_bins(kFft / (p.window_s * sound.rate_hz)) {
        for (const Note& note : notes)
            m_followed.push_back(note.curve.empty() && note.pitched() &&
                                 note.time.value.length_s() >= p.least_length_s);
    }

    Status run(const JobControl& job) {
        double end_s = 0.0;
        for (std::size_t i = 0; i < m_notes.size(); ++i)
            if (m_followed[i])
                end_s = std::max(end_s, m_notes[i].offset_s());
        std::size_t first = 0;
        for (double t = 0.0; t < end_s; t += m_p.hop_s) {
            if (job.cancelRequested())
                return cancelled();
            while (first < m_notes.size() && m_notes[first].offset_s() + kFar_s < t)
                ++first;
            look(t, first);
        }
        for (std::size_t i = 0; i < m_notes.size(); ++i)
            if (m_followed[i]) {
                markVibrato(m_notes[i]);
                markDrawn(m_notes[i]);
            }
        return {};
    }

  private:
    static constexpr double kFar_s = 12.0; // a note that ended so long ago starts the search

    void look(double t, std::size_t first) {
        std::vector<std::size_t> sounding;
        bool wanted = false;
        for (std::size_t i = first; i < m_notes.size() && m_notes[i].onset_s() < t; ++i)
            if (sounds(i, t)) {
                sounding.push_back(i);
                wanted = wanted || (m_followed[i] && t > m_notes[i].onset_s() + m_p.settle_s);
            }
        if (!wanted)
            return;
        const double half_s = 0.5 * m_p.window_s;
        putHann(m_sound,
                std::lround((t - half_s) * m_sound.rate_hz),
                std::lround(m_p.window_s * m_sound.rate_hz),
                m_fft.time());
        m_fft.forward();
        m_db.clear();
        for (const auto& bin : m_fft.spectrum())
            m_db.push_back(10.0 * std::log10(static_cast<double>(std::norm(bin)) + 1e-12));
        for (const std::size_t i : sounding)
            if (m_followed[i] && t > m_notes[i].onset_s() + m_p.settle_s)
                if (const auto cents = deviation(i, t, sounding)) {
                    m_notes[i].curve.push_back(
                        {std::round(t * 1e4) / 1e4, std::round(*cents * 10.0) / 10.0});
                    m_notes[i].time.value.end_s = std::max(m_notes[i].offset_s(), t);
                }
    }

    // A note whose pitch was drawn away seems to end where it was struck, but can be followed.
    bool sounds(std::size_t i, double t) const {
        const Note& note = m_notes[i];
        if (note.offset_s() > t)
            return note.pitched();
        return m_followed[i] && !note.curve.empty() &&
               t - note.curve.back().time_s < m_p.most_gap_s &&
               std::abs(note.curve.back().dev_cents) > m_p.drawn_cents;
    }

    double now_hz(std::size_t i, int partial) const {
        const Note& note = m_notes[i];
        const double cents = note.curve.empty() ? 0.0 : note.curve.back().dev_cents;
        const double b = stiffnessOf(note);
        return partial_hz(hzFromMidi(note.pitch.value + cents / 100.0, m_a4_hz), b, partial) /
               std::sqrt(1.0 + b);
    }

    bool clear(double hz, std::size_t own, const std::vector<std::size_t>& sounding) const {
        const double away_hz = m_p.clear_bins * m_lobe_bins * m_bin_hz;
        return std::ranges::none_of(sounding, [&](std::size_t other) {
            if (other == own)
                return false;
            const double f0 = now_hz(other, 1);
            const double n = std::max(1.0, std::round(hz / f0));
            return std::abs(hz - now_hz(other, static_cast<int>(n))) < away_hz;
        });
    }

    // The peak nearest to where a partial was last, in cents from there.
    std::optional<double> peakNear(double hz, double most_cents) const {
        const double reach = std::exp2(most_cents / 1200.0);
        const auto from =
            static_cast<std::size_t>(std::max(2.0, std::floor(hz / reach / m_bin_hz)));
        const auto to =
            std::min(m_db.size() - 2, static_cast<std::size_t>(std::ceil(hz * reach / m_bin_hz)));
        const auto peak = highestPeak(m_db, from, to, AtEdge::HighestWithin);
        if (!peak)
            return {};
        const std::size_t best = *peak;
        const auto beside = static_cast<std::size_t>(2.0 * m_lobe_bins);
        if (best < beside || best + beside >= m_db.size() ||
            m_db[best] - std::min(m_db[best - beside], m_db[best + beside]) < m_p.stands_db)
            return {};
        const double shift = vertexOf(m_db[best - 1], m_db[best], m_db[best + 1]);
        return centsBetween(hz, (static_cast<double>(best) + shift) * m_bin_hz);
    }

    std::optional<double>
    deviation(std::size_t i, double t, const std::vector<std::size_t>& sounding) const {
        // Out of sight for some looks, it may have gone further.
        const auto& curve = m_notes[i].curve;
        const double looks =
            curve.empty() ? 1.0 : std::clamp((t - curve.back().time_s) / m_p.hop_s, 1.0, 2.5);
        const double reach_cents = m_p.step_cents * looks;
        std::vector<double> cents;
        for (int n = 1; n <= m_p.most_partials; ++n) {
            const double hz = now_hz(i, n);
            if (hz > 0.4 * m_sound.rate_hz)
                break;
            if (!clear(hz, i, sounding))
                continue;
            if (const auto off = peakNear(hz, reach_cents))
                cents.push_back(*off);
        }
        const auto middle = median(cents);
        if (!middle)
            return {};
        const auto agreeing = std::ranges::count_if(
            cents, [&](double c) { return std::abs(c - *middle) < m_p.agree_cents; });
        const double before = m_notes[i].curve.empty() ? 0.0 : m_notes[i].curve.back().dev_cents;
        if (agreeing < m_p.least_agreeing || std::abs(before + *middle) > m_p.most_cents)
            return {};
        return before + *middle;
    }

    SoundView m_sound;
    double m_a4_hz;
    std::vector<Note>& m_notes;
    const CurveParameters& m_p;
    RealFft m_fft;
    double m_bin_hz;
    double m_lobe_bins; // half the main lobe
    std::vector<bool> m_followed;
    std::vector<double> m_db;
};

} // namespace

Status followPitches(SoundView sound,
                     double a4_hz,
                     std::vector<Note>& notes,
                     const JobControl& job,
                     const CurveParameters& parameters) {
    return PitchFollower(sound, a4_hz, notes, parameters).run(job);
}

} // namespace wirenote
