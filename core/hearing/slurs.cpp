#include "hearing/slurs.h"

#include "base/median.h"
#include "base/nearby.h"
#include "hearing/slur_weights.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <utility>

namespace wirenote {
namespace {

constexpr int kFft = 128;
constexpr double kLowest_hz = 2500.0;
constexpr double kHighest_hz = 9000.0;
constexpr double kStep_s = 0.002;
constexpr double kBefore_s = 0.030;
constexpr double kApart_s = 0.012; // where "before" ends
constexpr double kAfter_s = 0.020;
constexpr double kSlurShare = 1.0 / 12.0; // of the notes that may be slurred, usually
constexpr double kWithoutStroke = 0.75;   // of those that begin so, about as many are slurred

// Level above the lowest frequency in the short stretch from a moment on.
double levelFrom(SoundView sound, RealFft& fft, double at_s, double lowest_hz, double highest_hz) {
    const auto size = static_cast<int>(fft.time().size());
    putHann(sound, std::lround(at_s * sound.rate_hz), size, fft.time());
    fft.forward();
    const double bin_hz = sound.rate_hz / size;
    double power = 0.0;
    for (auto b = static_cast<std::size_t>(lowest_hz / bin_hz);
         b < std::min<std::size_t>(fft.spectrum().size() - 1,
                                   static_cast<std::size_t>(highest_hz / bin_hz));
         ++b)
        power += std::norm(fft.spectrum()[b]);
    return 10.0 * std::log10(power + 1e-9);
}

// What is usual among the notes near each.
Nearby usual(const std::vector<TimedValue>& figures) {
    constexpr double kReach_s = 6.0;
    return {figures, kReach_s, [](std::vector<double>& near) { return *quantile(near, 0.5); }};
}

double logOdds(double probability) {
    const double p = std::clamp(probability, 1e-4, 1.0 - 1e-4);
    return std::log(p / (1.0 - p));
}

void slur(Note& note, const Note& before) {
    note.add(note.midi() > before.midi() ? Technique::HammerOn : Technique::PullOff);
    note.ownSound().attack.soft = true;
}

double noiseAbout_db(SoundView sound, RealFft& fft, double onset_s) {
    std::vector<double> before;
    double loudest = -200.0;
    for (double t = onset_s - kBefore_s; t < onset_s + kAfter_s; t += kStep_s) {
        const double level = levelFrom(sound, fft, t, kLowest_hz, kHighest_hz);
        if (t < onset_s - kApart_s)
            before.push_back(level);
        else
            loudest = std::max(loudest, level);
    }
    return loudest - *median(before);
}

} // namespace

double strokeNoise_db(SoundView sound, double onset_s) {
    RealFft fft(kFft);
    return noiseAbout_db(sound, fft, onset_s);
}

double dipBefore_db(SoundView sound, double onset_s) {
    const auto mean_db = [&](double from_s, double to_s) {
        const auto last = static_cast<double>(sound.samples.size());
        const auto from = static_cast<std::size_t>(std::clamp(from_s * sound.rate_hz, 0.0, last));
        const auto to = static_cast<std::size_t>(std::clamp(to_s * sound.rate_hz, 0.0, last));
        double power = 0.0;
        for (std::size_t i = from; i < to; ++i)
            power += static_cast<double>(sound.samples[i]) * sound.samples[i];
        return 10.0 *
               std::log10(power / std::max<double>(1.0, static_cast<double>(to - from)) + 1e-12);
    };
    return std::max(
        0.0, mean_db(onset_s - 0.045, onset_s - 0.02) - mean_db(onset_s - 0.015, onset_s - 0.003));
}

double bandDip_db(SoundView sound, double onset_s) {
    constexpr int kLong = 256; // 12 ms
    constexpr double kFrom_hz = 1000.0;
    constexpr double kTo_hz = 2500.0;
    RealFft fft(kLong);
    const double length_s = kLong / sound.rate_hz;
    std::vector<double> before;
    double least = 200.0;
    for (double t = onset_s - 0.05; t + length_s < onset_s + 0.004; t += kStep_s) {
        const double level = levelFrom(sound, fft, t, kFrom_hz, kTo_hz);
        if (t + length_s < onset_s - 0.018)
            before.push_back(level);
        else
            least = std::min(least, level);
    }
    return std::max(0.0, median(before).value_or(least) - least);
}

SlurEar::SlurEar(SoundView sound, const std::vector<Note>& notes, bool bass)
    : m_sound(sound), m_notes(notes), m_bass(bass) {
    RealFft fft(kFft);
    std::vector<TimedValue> noise;
    std::vector<TimedValue> strength;
    std::vector<TimedValue> network;
    std::vector<TimedValue> dips;
    double sounds_until_s = -1.0;
    for (const Note& note : notes) {
        const HeardAttack& attack = note.heard().attack;
        noise.push_back({note.onset_s(), noiseAbout_db(sound, fft, note.onset_s())});
        strength.push_back({note.onset_s(), std::max(0.0, attack.strength)});
        if (attack.slurred >= 0.0)
            network.push_back({note.onset_s(), attack.slurred});
        m_noise_db.push_back(noise.back().value);
        if (bass) {
            m_band_dip_db.push_back(bandDip_db(sound, note.onset_s()));
            if (note.onset_s() - sounds_until_s <= SlurParameters{}.together_s)
                dips.push_back({note.onset_s(), m_band_dip_db.back()});
        }
        sounds_until_s = std::max(sounds_until_s, note.offset_s());
    }
    m_usual_band_dip_db = usual(dips);
    m_usual_noise_db = usual(noise);
    m_usual_strength = usual(strength);
    m_usual_network = usual(network);
}

SlurFigures SlurEar::at(std::size_t note) const {
    constexpr double kFaint = 0.05;
    constexpr double kFaint_db = 3.0;
    constexpr double kClear_db = 6.0;
    const double onset_s = m_notes[note].onset_s();
    const HeardAttack& attack = m_notes[note].heard().attack;
    return {
        logOdds(attack.slurred),
        logOdds(m_usual_network.at(onset_s)),
        std::clamp(m_noise_db[note] / std::max(kFaint_db, m_usual_noise_db.at(onset_s)), -0.5, 1.5),
        std::max(0.0, attack.strength) / std::max(kFaint, m_usual_strength.at(onset_s)),
        std::min(kClear_db, dipBefore_db(m_sound, onset_s)),
        m_bass ? bandDip(note) : 1.0};
}

double SlurEar::bandDip(std::size_t note) const {
    constexpr double kStopped_db = 6.0; // strings that are struck usually dip at least so far
    constexpr double kMost = 1.2;
    const double usual_db = std::min(12.0, m_usual_band_dip_db.at(m_notes[note].onset_s()));
    return usual_db < kStopped_db ? 1.0 : std::min(kMost, m_band_dip_db[note] / usual_db);
}

double SlurEar::probability(std::size_t note) const {
    return slurProbability(at(note), m_bass);
}

bool beginsWithoutStroke(const SlurFigures& figures) {
    constexpr double kNoise = 0.4;
    constexpr double kStrength = 0.9;
    constexpr double kDip_db = 1.0;
    return figures[2] <= kNoise && figures[3] <= kStrength && figures[4] <= kDip_db;
}

bool begunUnstopped(const SlurFigures& figures) {
    constexpr double kUnstopped = 0.45; // of the usual dip
    constexpr double kDip_db = 2.75;
    constexpr double kNoise = 1.06;
    constexpr double kStrength = 1.5;
    constexpr double kAgainst = -0.3;
    return figures[5] <= kUnstopped && figures[4] <= kDip_db && figures[2] <= kNoise &&
           figures[3] <= kStrength && figures[0] - figures[1] >= kAgainst;
}

double slurProbability(const SlurFigures& figures, bool bass) {
    constexpr double kOfUnstopped = 0.7; // are slurred
    const auto& weights = bass ? kBassSlurWeights : kSlurWeights;
    double odds = bass ? kBassSlurOdds : kSlurOdds;
    for (std::size_t k = 0; k < figures.size(); ++k)
        odds += weights[k] * figures[k];
    double probability = 1.0 / (1.0 + std::exp(-odds));
    if (bass && begunUnstopped(figures))
        probability = std::max(probability, kOfUnstopped);
    return beginsWithoutStroke(figures) ? std::max(probability, kWithoutStroke) : probability;
}

bool mayBeSlurred(const Note& note, const Note& before, const SlurParameters& p) {
    const int step = note.midi() - before.midi();
    return !note.slurred() && note.pitched() && before.pitched() && step != 0 &&
           std::abs(step) <= p.most_semitones &&
           note.onset_s() - before.offset_s() <= p.together_s && note.heard().attack.slurred >= 0.0;
}

std::vector<double> slurProbabilities(const std::vector<double>& at_usual_share) {
    constexpr double kBefore = 24.0; // notes that speak for the usual share
    constexpr int kRounds = 20;
    std::vector<double> found = at_usual_share;
    const double usual_odds = logOdds(kSlurShare);
    for (int round = 0; round < kRounds; ++round) {
        const double slurred = std::accumulate(found.begin(), found.end(), kBefore * kSlurShare);
        const double odds = logOdds(slurred / (kBefore + static_cast<double>(found.size())));
        for (std::size_t i = 0; i < found.size(); ++i)
            found[i] = 1.0 / (1.0 + std::exp(usual_odds - odds - logOdds(at_usual_share[i])));
    }
    return found;
}

void markSlurs(SoundView sound, std::vector<Note>& notes, bool bass, const SlurParameters& p) {
    const SlurEar ear(sound, notes, bass);
    for (std::size_t i = 1; i < notes.size(); ++i)
        if (mayBeSlurred(notes[i], notes[i - 1], p) && ear.probability(i) >= p.least_probability)
            slur(notes[i], notes[i - 1]);
}

namespace {

// What a film shows of the plucking hand: log odds that it did nothing at the note, as far as the
// film is trusted.
double seenUnplucked(const Note& note) {
    constexpr double kMost = 3.0;
    const SeenFacts* seen = note.seen();
    return seen && seen->unplucked
               ? seen->trust * std::clamp(logOdds(*seen->unplucked), -kMost, kMost)
               : 0.0;
}

// True when something else rings on past the beginning of the note.
bool amongOthers(const std::vector<Note>& notes, std::size_t i, std::size_t before) {
    constexpr std::size_t kFar = 32;
    for (std::size_t k = i > kFar ? i - kFar : 0; k < i; ++k)
        if (k != before && notes[k].pitched() && notes[k].offset_s() > notes[i].onset_s() + 0.05)
            return true;
    return false;
}

} // namespace

int markSlursOnStrings(SoundView sound, Piece& piece, const SlurParameters& p) {
    auto& notes = piece.notes;
    const SlurEar ear(sound, notes, piece.instrument.isBass());
    std::vector<std::size_t> last(static_cast<std::size_t>(piece.instrument.stringCount()) + 1,
                                  notes.size());
    std::vector<std::pair<std::size_t, std::size_t>> open; // and the note before on the string
    std::vector<double> likely;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const int string = piece.asPlayed().plans[i].position.value.string;
        if (string == 0)
            continue;
        const std::size_t before = std::exchange(last[static_cast<std::size_t>(string)], i);
        const bool alone =
            (i == 0 || notes[i].onset_s() - notes[i - 1].onset_s() > p.alone_s) &&
            (i + 1 == notes.size() || notes[i + 1].onset_s() - notes[i].onset_s() > p.alone_s);
        if (before == notes.size() || !alone || !mayBeSlurred(notes[i], notes[before], p) ||
            (!amongOthers(notes, i, before) && seenUnplucked(notes[i]) <= 0.0))
            continue;
        open.emplace_back(i, before);
        likely.push_back(ear.probability(i));
    }
    likely = slurProbabilities(likely);
    int marked = 0;
    for (std::size_t k = 0; k < open.size(); ++k)
        if (logOdds(likely[k]) + seenUnplucked(notes[open[k].first]) >=
            logOdds(p.least_probability)) {
            slur(notes[open[k].first], notes[open[k].second]);
            ++marked;
        }
    return marked;
}

} // namespace wirenote
