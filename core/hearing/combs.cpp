#include "hearing/combs.h"

#include "music/pitch.h"
#include "music/string_physics.h"
#include "signal/hann.h"

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
constexpr int kFirstRounds = 12;        // after these, what explains next to nothing is left out
constexpr float kNextToNothing = 2e-3F; // of the strongest
constexpr double kSparse = 0.02;

} // namespace

MomentSpectra::MomentSpectra(SoundView sound) : m_sound(sound), m_fft(kFft) {}

double MomentSpectra::binHz() const {
    return m_sound.rate_hz / kFft;
}

std::size_t MomentSpectra::bins() const {
    return std::min<std::size_t>(kFft / 2, static_cast<std::size_t>(kHighest_hz / binHz()));
}

std::vector<float> MomentSpectra::at(double from_s, double to_s) {
    const auto first = static_cast<std::ptrdiff_t>(std::max(0.0, from_s) * m_sound.rate_hz);
    const auto last = std::min(static_cast<std::ptrdiff_t>(to_s * m_sound.rate_hz),
                               static_cast<std::ptrdiff_t>(m_sound.samples.size()));
    const auto length = std::min<std::ptrdiff_t>(last - first, kFft);
    std::vector<float> out(bins(), 0.0F);
    if (length < 256)
        return out;
    putHann(m_sound, first, length, m_fft.time());
    m_fft.forward();
    for (std::size_t b = 0; b < out.size(); ++b)
        out[b] = 4.0F * std::sqrt(std::norm(m_fft.spectrum()[b])) / static_cast<float>(length);
    return out;
}

double meanStiffness(const Instrument& instrument, int midi) {
    double sum = 0.0;
    int count = 0;
    for (int s = 1; s <= instrument.stringCount(); ++s)
        if (const int fret = instrument.fretFor(s, midi); fret >= 0) {
            sum += stiffnessAt(instrument, s, instrument.capo + fret);
            ++count;
        }
    return count > 0 ? sum / count : 1e-4;
}

Combs::Combs(
    const Instrument& instrument, double a4_hz, double window_s, std::size_t bins, double bin_hz)
    : m_low(instrument.lowestMidi()), m_high(std::min(instrument.highestMidi(), 93)) {
    const double half_bins = 2.0 / (window_s * bin_hz); // main lobe of the Hann window
    for (int midi = m_low; midi <= m_high; ++midi) {
        for (const auto& [stiff, decay] : kShapes) {
            const double b = stiff * meanStiffness(instrument, midi);
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

// What the combs at these strengths make of a spectrum, over a little of everything.
void Combs::fillModel(const std::vector<float>& gain,
                      float total,
                      std::vector<float>& model) const {
    std::fill(
        model.begin(), model.end(), 1e-7F + 1e-4F * total / static_cast<float>(model.size()));
    for (std::size_t c = 0; c < m_combs.size(); ++c)
        if (gain[c] > 1e-7F * total)
            for (const Cell& cell : m_combs[c])
                model[cell.bin] += gain[c] * cell.value;
}

std::vector<double> Combs::explain(const std::vector<float>& spectrum) const {
    std::vector<float> gain(m_combs.size(), 0.0F);
    float total = 0.0F;
    for (const float v : spectrum)
        total += v;
    std::fill(gain.begin(), gain.end(), total / static_cast<float>(m_combs.size()));
    std::vector<float> model(spectrum.size());
    for (int round = 0; round < kRounds; ++round) {
        fillModel(gain, total, model);
        for (std::size_t b = 0; b < model.size(); ++b)
            model[b] = spectrum[b] / model[b];
        if (round == kFirstRounds) {
            const float least = kNextToNothing * *std::max_element(gain.begin(), gain.end());
            for (float& g : gain)
                g = g < least ? 0.0F : g;
        }
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

} // namespace wirenote
