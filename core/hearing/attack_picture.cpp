#include "hearing/attack_picture.h"

#include "music/pitch.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kBefore_s = 0.008; // how long before the attack the old sound is taken
constexpr double kAfter_s = 0.012;  // how long after it the new one
constexpr double kEarlier_s = 0.12; // how long before that again
constexpr double kLater_s = 0.15;
constexpr double kWindow_s = 0.15;
constexpr double kLeastWindow_s = 0.07;
constexpr double kJust_s = 0.004; // from the attack to the short stretches
constexpr double kShort_s = 0.045;
constexpr double kSettled_s = 0.05;

float clamped(double value) {
    return static_cast<float>(std::clamp(value, -2.0, 2.0));
}

double energyOf(const std::array<float, kPictureRows>& levels) {
    double sum = 1e-12;
    for (const float v : levels)
        sum += static_cast<double>(v) * v;
    return sum;
}

// Geometric against arithmetic mean of the power.
double flatnessOf(const std::vector<float>& spectrum, double bin_hz) {
    constexpr double kLowest_hz = 70.0;
    double log_sum = 0.0;
    double sum = 0.0;
    int count = 0;
    for (auto b = static_cast<std::size_t>(kLowest_hz / bin_hz); b < spectrum.size(); ++b) {
        const double power = static_cast<double>(spectrum[b]) * spectrum[b] + 1e-14;
        log_sum += std::log(power);
        sum += power;
        ++count;
    }
    return count > 0 ? std::exp(log_sum / count) / (sum / count) : 0.0;
}

} // namespace

std::vector<AttackMoment>
attackMoments(const std::vector<OnsetPeak>& onsets, double event_s, double length_s) {
    std::vector<AttackMoment> moments;
    for (const OnsetPeak& o : onsets) {
        if (!moments.empty() && o.time_s - moments.back().first_s < event_s) {
            moments.back().last_s = o.time_s;
            moments.back().strength = std::max(moments.back().strength, o.strength);
            continue;
        }
        AttackMoment moment{o.time_s, o.time_s, -9.0, length_s, o.strength};
        if (!moments.empty()) {
            moment.previous_s = moments.back().first_s;
            moments.back().next_s = o.time_s;
        }
        moments.push_back(moment);
    }
    return moments;
}

void AttackPictures::setAxis(double a4_hz) {
    if (a4_hz == m_a4_hz)
        return;
    m_a4_hz = a4_hz;
    m_rows.clear();
    for (int r = 0; r < kPictureRows; ++r) {
        const double midi = kPictureLowestMidi + static_cast<double>(r - 1) / kRowsPerSemitone;
        const double half = 0.5 / kRowsPerSemitone;
        m_rows.push_back({hzFromMidi(midi - half, a4_hz) / m_spectra.binHz(),
                          hzFromMidi(midi + half, a4_hz) / m_spectra.binHz()});
    }
}

// The strongest bin of each row; where rows are narrower than bins, what lies on the line between
// two bins.
void AttackPictures::paint(const std::vector<float>& spectrum,
                           std::array<float, kPictureRows>& levels) const {
    const auto last = static_cast<double>(spectrum.size() - 2);
    for (std::size_t r = 0; r < m_rows.size(); ++r) {
        const Row& row = m_rows[r];
        const double middle = 0.5 * (row.low + row.high);
        if (middle >= last)
            break;
        const auto below = static_cast<std::size_t>(middle);
        const auto share = static_cast<float>(middle - static_cast<double>(below));
        float strongest = (1.0F - share) * spectrum[below] + share * spectrum[below + 1];
        for (auto b = static_cast<std::size_t>(std::ceil(row.low));
             static_cast<double>(b) < std::min(row.high, last);
             ++b)
            strongest = std::max(strongest, spectrum[b]);
        levels[r] = strongest;
    }
}

AttackPicture AttackPictures::at(const AttackMoment& attack, double a4_hz) {
    setAxis(a4_hz);
    const double from_s = attack.last_s + kAfter_s;
    const double window_s =
        std::clamp(attack.next_s - kBefore_s - from_s, kLeastWindow_s, kWindow_s);
    const double before_s = attack.first_s - kBefore_s;
    AttackPicture picture;
    auto& levels = picture.levels;
    const auto look = [this, &levels](std::size_t which, double start_s, double end_s) {
        auto spectrum = m_spectra.at(start_s, end_s);
        paint(spectrum, levels[which]);
        return spectrum;
    };
    look(0, before_s - window_s - kEarlier_s, before_s - kEarlier_s);
    look(1, before_s - window_s, before_s);
    picture.flatness = flatnessOf(look(2, from_s, from_s + window_s), m_spectra.binHz());
    if (attack.next_s - kBefore_s > from_s + kLater_s + window_s)
        look(3, from_s + kLater_s, from_s + kLater_s + window_s);
    look(4, attack.first_s - kJust_s - kShort_s, attack.first_s - kJust_s);
    look(5, attack.last_s + kJust_s, attack.last_s + kJust_s + kShort_s);
    look(6, attack.last_s + kSettled_s, attack.last_s + kSettled_s + kShort_s);

    picture.facts = {clamped(20.0 * (window_s - 0.11)),
                     clamped(20.0 * (attack.last_s - attack.first_s)),
                     clamped(std::log(std::max(0.02, attack.next_s - attack.last_s) / 0.3)),
                     clamped(std::log(std::max(0.02, attack.first_s - attack.previous_s) / 0.3)),
                     clamped(std::log(std::max(0.02, attack.strength))),
                     clamped(0.5 * std::log(energyOf(levels[2]) / energyOf(levels[1])))};
    float loudest = 1e-7F;
    for (const auto& spectrum : levels)
        loudest = std::max(loudest, *std::ranges::max_element(spectrum));
    for (auto& spectrum : levels)
        for (float& v : spectrum)
            v = std::clamp(1.0F + 20.0F * std::log10(v / loudest + 1e-9F) /
                                      static_cast<float>(kPictureDepth_db),
                           0.0F,
                           1.0F);
    return picture;
}

} // namespace wirenote
