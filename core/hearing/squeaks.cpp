#include "hearing/squeaks.h"

#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFft = 512;
constexpr double kHop_s = 0.005;
constexpr double kRung_s = 0.07;   // after the attack before: its own noise is over
constexpr double kBefore_s = 0.03; // before the attack that follows: its window begins there
constexpr double kLongest_s = 0.6; // a longer wait than this is no shift in a line

struct Moment {
    double whistle_db = -120.0;
    double body_db = -120.0;
};

class Bands {
  public:
    Bands(SoundView sound, const SqueakParameters& p) : m_sound(sound), m_p(p), m_fft(kFft) {}

    Moment at(double time_s) {
        const double length_s = kFft / m_sound.rate_hz;
        putHann(m_sound,
                static_cast<std::ptrdiff_t>((time_s - 0.5 * length_s) * m_sound.rate_hz),
                kFft,
                m_fft.time());
        m_fft.forward();
        return {level_db(m_p.low_hz, m_p.high_hz), level_db(0.0, m_p.body_hz)};
    }

  private:
    double level_db(double from_hz, double to_hz) {
        const double bin_hz = m_sound.rate_hz / kFft;
        double power = 1e-12;
        for (auto b = static_cast<std::size_t>(from_hz / bin_hz);
             b <= static_cast<std::size_t>(to_hz / bin_hz) && b < m_fft.spectrum().size();
             ++b)
            power += static_cast<double>(std::norm(m_fft.spectrum()[b]));
        return 10.0 * std::log10(power);
    }

    SoundView m_sound;
    const SqueakParameters& m_p;
    RealFft m_fft;
};

// Whether something whistles in these moments while the body of the sound only dies.
bool whistles(const std::vector<Moment>& moments, double attack_db, const SqueakParameters& p) {
    if (moments.size() < 3)
        return false;
    double least_whistle = moments.front().whistle_db;
    double least_body = moments.front().body_db;
    double quiet = least_whistle;
    std::size_t lasted = 0;
    std::size_t to_strongest = 0; // from where it began
    double strongest_db = -200.0;
    for (const Moment& m : moments) {
        quiet = std::min(quiet, m.whistle_db);
        const bool now =
            m.whistle_db > least_whistle + p.rise_db && m.whistle_db > quiet + p.above_noise_db &&
            m.whistle_db < attack_db - p.under_note_db && m.body_db < least_body + p.still_db;
        if (!now) {
            lasted = to_strongest = 0;
            strongest_db = -200.0;
        } else {
            ++lasted;
            if (m.whistle_db > strongest_db) {
                strongest_db = m.whistle_db;
                to_strongest = lasted;
            }
            // It swells; what is plucked is strongest at once.
            if (static_cast<double>(to_strongest) * kHop_s >= p.least_s)
                return true;
        }
        least_whistle = std::min(least_whistle, m.whistle_db);
        least_body = std::min(least_body, m.body_db);
    }
    return false;
}

} // namespace

Status hearSqueaks(SoundView sound,
                   std::vector<Note>& notes,
                   const JobControl& job,
                   const SqueakParameters& parameters) {
    Bands bands(sound, parameters);
    for (std::size_t i = 0; i < notes.size(); ++i) {
        if (job.cancelRequested())
            return cancelled();
        notes[i].ownSound().squeak_before = false;
        if (i == 0 || notes[i].slurred() || !notes[i].pitched())
            continue;
        const double from_s =
            std::max(notes[i - 1].onset_s() + kRung_s, notes[i].onset_s() - kLongest_s);
        std::vector<Moment> moments;
        for (double t = from_s; t < notes[i].onset_s() - kBefore_s; t += kHop_s)
            moments.push_back(bands.at(t));
        const double attack_db = bands.at(notes[i].onset_s() + 0.012).whistle_db;
        notes[i].ownSound().squeak_before = whistles(moments, attack_db, parameters);
    }
    return {};
}

} // namespace wirenote
