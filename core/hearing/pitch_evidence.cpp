#include "hearing/pitch_evidence.h"

#include "music/pitch.h"
#include "music/string_physics.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kStrictShare = 0.75; // of what rang before, taken from what sounds after …
constexpr double kLooseShare = 0.5;   // … strings that ring may be struck again
constexpr double kLeastShare = 0.05;  // of the strongest: a candidate
constexpr double kTiny = 1e-3;
constexpr std::size_t kMostCandidates = 16;

double nepers(double a, double b, double low, double high) {
    return std::clamp(std::log(a / b), low, high);
}

std::vector<float>
growth(const std::vector<float>& before, const std::vector<float>& after, float share) {
    std::vector<float> grown(after.size());
    for (std::size_t b = 0; b < grown.size(); ++b) {
        // What rang already is somewhat quieter by now; a neighbouring bin may hold it.
        const float old = std::max(
            {before[b > 0 ? b - 1 : 0], before[b], before[std::min(b + 1, before.size() - 1)]});
        grown[b] = std::max(0.0F, after[b] - share * old);
    }
    return grown;
}

class Evidence {
  public:
    Evidence(const AttackSpectra& attack,
             const Combs& combs,
             const Instrument& instrument,
             double a4_hz,
             double bin_hz)
        : m_attack(attack), m_low(combs.lowestMidi()), m_instrument(instrument), m_a4_hz(a4_hz),
          m_bin_hz(bin_hz), m_grown(growth(attack.before, attack.after, kLooseShare)),
          m_strict(combs.explain(growth(attack.before, attack.after, kStrictShare))),
          m_loose(combs.explain(m_grown)), m_ringing(combs.explain(attack.before)) {
        m_strict_most = std::max(1e-9, *std::ranges::max_element(m_strict));
        m_loose_most = std::max(1e-9, *std::ranges::max_element(m_loose));
        m_ringing_most = std::max(1e-9, *std::ranges::max_element(m_ringing));
        for (const double v : m_loose)
            m_loose_sum += v;
        m_floor = 1e-6 + 1e-3 * *std::ranges::max_element(attack.after);
    }

    std::vector<AttackPitch> candidates() const {
        std::vector<AttackPitch> found;
        if (m_loose_most <= 1e-8)
            return found;
        for (std::size_t i = 0; i < m_loose.size(); ++i) {
            // Neighbours share the lobe of a detuned or bent note: only the local strongest counts.
            const bool peak = (i == 0 || m_loose[i] >= m_loose[i - 1]) &&
                              (i + 1 == m_loose.size() || m_loose[i] > m_loose[i + 1]);
            if (peak && m_loose[i] >= kLeastShare * m_loose_most)
                found.push_back({m_low + static_cast<int>(i), m_loose[i] / m_loose_most, {}});
        }
        std::ranges::sort(found, [](const auto& a, const auto& b) { return a.share > b.share; });
        if (found.size() > kMostCandidates)
            found.resize(kMostCandidates);
        for (AttackPitch& c : found)
            describe(found, c);
        return found;
    }

  private:
    void describe(const std::vector<AttackPitch>& all, AttackPitch& c) const {
        const auto i = static_cast<std::size_t>(c.midi - m_low);
        auto value = c.evidence.begin();
        *value++ = std::log(m_strict[i] / m_strict_most + kTiny);
        *value++ = std::log(c.share + kTiny);
        *value++ = std::log(m_loose[i] / m_loose_sum + kTiny);
        *value++ = std::log(m_ringing[i] / m_ringing_most + kTiny);
        std::array<double, 5> grew{};
        for (int k = 1; k <= 5; ++k)
            grew[static_cast<std::size_t>(k - 1)] =
                nepers(levelAt(m_attack.after, c.midi, k) + m_floor,
                       levelAt(m_attack.before, c.midi, k) + m_floor,
                       -1.0,
                       4.0);
        *value++ = grew[0];
        *value++ = (grew[0] + grew[1] + grew[2] + grew[3] + grew[4]) / 5.0;
        *value++ = std::min({grew[0], grew[1], grew[2]});
        *value++ =
            nepers(levelAt(m_attack.after, c.midi, 1) + m_floor, 1000.0 * m_floor, -6.0, 0.0);
        *value++ = nepers(level(c.midi, 1), level(c.midi, 2), -3.0, 3.0);
        *value++ = std::clamp((std::log(level(c.midi, 1) * level(c.midi, 3) * level(c.midi, 5)) -
                               std::log(level(c.midi, 2) * level(c.midi, 4) * level(c.midi, 6))) /
                                  3.0,
                              -3.0,
                              3.0);
        describeHosts(all, c, value);
        const auto strong = std::ranges::count_if(all, [](const auto& o) { return o.share > 0.2; });
        *value++ = static_cast<double>(strong) / 3.0;
        *value++ = m_attack.later.empty() ? -0.5 : persistence(c.midi);
        const double beside =
            std::max(i > 0 ? m_loose[i - 1] : 0.0, i + 1 < m_loose.size() ? m_loose[i + 1] : 0.0);
        *value++ = nepers(beside + 1e-9, m_loose[i] + 1e-9, -4.0, 1.0);
        *value++ = 10.0 * (m_attack.window_s - 0.1);
        *value++ = (c.midi - 55.0) / 12.0;
        describeCourse(c.midi, value);
        double before = 0.0;
        double after = 0.0;
        for (std::size_t b = 0; b < m_attack.after.size(); ++b) {
            before += m_attack.before[b];
            after += m_attack.after[b];
        }
        *value++ = nepers(after + m_floor, before + m_floor, -1.0, 4.0);
    }

    // Growth against what sounded earlier too, and growth within a short stretch.
    template <class Iterator> void describeCourse(int midi, Iterator& value) const {
        double since_earlier = 0.0;
        double at_once = 0.0;
        double first_since_earlier = 0.0;
        double first_at_once = 0.0;
        for (int k = 1; k <= 5; ++k) {
            const double old =
                std::max(levelAt(m_attack.before, midi, k), levelAt(m_attack.earlier, midi, k));
            const double grew =
                nepers(levelAt(m_attack.after, midi, k) + m_floor, old + m_floor, -1.0, 4.0);
            const double sudden = nepers(levelAt(m_attack.just_after, midi, k) + m_floor,
                                         levelAt(m_attack.just_before, midi, k) + m_floor,
                                         -1.0,
                                         4.0);
            since_earlier += grew / 5.0;
            at_once += sudden / 5.0;
            if (k == 1) {
                first_since_earlier = grew;
                first_at_once = sudden;
            }
        }
        *value++ = first_since_earlier;
        *value++ = since_earlier;
        *value++ = first_at_once;
        *value++ = at_once;
        double upper = 0.0; // high partials begin at once, and few of them ring on
        for (int k = 6; k <= 10; ++k)
            upper += nepers(levelAt(m_attack.just_after, midi, k) + m_floor,
                            levelAt(m_attack.just_before, midi, k) + m_floor,
                            -1.0,
                            4.0) /
                     5.0;
        *value++ = upper;
    }

    // Lower and higher pitches whose partials are the same ones.
    template <class Iterator>
    void describeHosts(const std::vector<AttackPitch>& all,
                       const AttackPitch& c,
                       Iterator& value) const {
        const AttackPitch* host = nullptr;
        const AttackPitch* guest = nullptr;
        for (const AttackPitch& o : all) {
            if (sharesPartials(o.midi, c.midi) && (!host || o.share > host->share))
                host = &o;
            if (sharesPartials(c.midi, o.midi) && (!guest || o.share > guest->share))
                guest = &o;
        }
        *value++ = host ? nepers(host->share, c.share, -2.0, 3.0) : -3.0;
        *value++ = host ? std::clamp(excess(host->midi, c.midi), -2.0, 3.0) : 0.0;
        *value++ = host && c.midi - host->midi == 12 ? 1.0 : 0.0;
        *value++ = host && c.midi - host->midi == 19 ? 1.0 : 0.0;
        *value++ = host && c.midi - host->midi > 19 ? 1.0 : 0.0;
        *value++ = guest ? nepers(guest->share, c.share, -2.0, 3.0) : -3.0;
        double ringing = 0.0;
        for (std::size_t i = 0; i < m_ringing.size(); ++i)
            if (sharesPartials(m_low + static_cast<int>(i), c.midi))
                ringing = std::max(ringing, m_ringing[i] / m_ringing_most);
        *value++ = std::log(ringing + kTiny);
    }

    float levelAt(const std::vector<float>& spectrum, int midi, int partial) const {
        const auto b = static_cast<std::size_t>(std::lround(
            partial_hz(hzFromMidi(midi, m_a4_hz), meanStiffness(m_instrument, midi), partial) /
            m_bin_hz));
        return b > 0 && b + 1 < spectrum.size()
                   ? std::max({spectrum[b - 1], spectrum[b], spectrum[b + 1]})
                   : 0.0F;
    }
    double level(int midi, int partial) const { return levelAt(m_grown, midi, partial) + m_floor; }

    // How far the partials that a higher note shares with a lower one stand above the neighbours
    // that are the lower note's alone, in nepers: a string by itself has a smooth envelope.
    double excess(int low_midi, int high_midi) const {
        const int ratio = static_cast<int>(std::lround(std::exp2((high_midi - low_midi) / 12.0)));
        const double floor = 1e-6 + 0.01 * levelAt(m_grown, low_midi, 1);
        double sum = 0.0;
        int count = 0;
        for (int k = 1; k * ratio + 1 <= 12; ++k) {
            const double shared = levelAt(m_grown, low_midi, k * ratio);
            const double below = levelAt(m_grown, low_midi, k * ratio - 1);
            const double above = levelAt(m_grown, low_midi, k * ratio + 1);
            sum += std::log((shared + floor) / std::sqrt((below + floor) * (above + floor)));
            ++count;
        }
        return count > 0 ? sum / count : 0.0;
    }

    // How the first partials have gone on sounding.
    double persistence(int midi) const {
        double sum = 0.0;
        for (int k = 1; k <= 4; ++k)
            sum += nepers(levelAt(m_attack.later, midi, k) + m_floor,
                          levelAt(m_attack.after, midi, k) + m_floor,
                          -3.0,
                          1.0);
        return sum / 4.0;
    }

    const AttackSpectra& m_attack;
    int m_low;
    const Instrument& m_instrument;
    double m_a4_hz;
    double m_bin_hz;
    std::vector<float> m_grown;
    std::vector<double> m_strict;
    std::vector<double> m_loose;
    std::vector<double> m_ringing;
    double m_strict_most = 0.0;
    double m_loose_most = 0.0;
    double m_loose_sum = 1e-9;
    double m_ringing_most = 0.0;
    double m_floor = 1e-6;
};

} // namespace

const std::array<std::string_view, kPitchEvidence> kPitchEvidenceNames = {
    "share, strictly",
    "share",
    "share of all",
    "rang before",
    "fundamental grew",
    "partials grew",
    "least grew",
    "fundamental",
    "first over second",
    "odd over even",
    "lower host",
    "excess over host",
    "host an octave",
    "host a twelfth",
    "host further",
    "higher guest",
    "host rang before",
    "strong ones",
    "persists",
    "beside",
    "window",
    "height",
    "fundamental since earlier",
    "partials since earlier",
    "fundamental at once",
    "partials at once",
    "upper at once",
    "whole grew"};

bool sharesPartials(int low_midi, int high_midi) {
    const int d = high_midi - low_midi;
    return d == 12 || d == 19 || d == 24 || d == 28 || d == 31 || d == 34 || d == 36;
}

std::vector<AttackPitch> pitchCandidates(const AttackSpectra& attack,
                                         const Combs& combs,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         double bin_hz) {
    return Evidence(attack, combs, instrument, a4_hz, bin_hz).candidates();
}

} // namespace wirenote
