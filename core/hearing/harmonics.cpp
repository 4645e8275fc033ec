#include "hearing/harmonics.h"

#include "base/median.h"
#include "music/pitch.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote {
namespace {

struct Level {
    double at_db = -120.0;
    double beside_db = -120.0; // the quieter of both sides
};

class Look {
  public:
    explicit Look(SoundView sound) : m_sound(sound), m_fft(8192) {}

    // Over `length_s` from from_s on.
    void at(double from_s, double length_s) {
        const auto first = static_cast<std::ptrdiff_t>(from_s * m_sound.rate_hz);
        const auto length = static_cast<std::ptrdiff_t>(length_s * m_sound.rate_hz);
        putHann(m_sound, first, length, m_fft.time());
        m_fft.forward();
        m_db.clear();
        for (const auto& bin : m_fft.spectrum())
            m_db.push_back(10.0 * std::log10(static_cast<double>(std::norm(bin)) + 1e-12));
        m_lobe_hz = 2.0 / length_s;
    }

    Level level(double hz) const {
        const double half = 0.25 * m_lobe_hz;
        return {peak_db(hz - half, hz + half),
                std::max(middle_db(hz - 1.4 * m_lobe_hz, hz - 0.9 * m_lobe_hz),
                         middle_db(hz + 0.9 * m_lobe_hz, hz + 1.4 * m_lobe_hz))};
    }

  private:
    double bin(double hz) const { return hz * m_fft.size() / m_sound.rate_hz; }

    double peak_db(double from_hz, double to_hz) const {
        double peak = -120.0;
        for (double b = std::max(1.0, std::floor(bin(from_hz))); b <= bin(to_hz); b += 1.0)
            peak = std::max(peak, m_db[static_cast<std::size_t>(b)]);
        return peak;
    }
    double middle_db(double from_hz, double to_hz) const {
        double sum = 0.0;
        double count = 0.0;
        for (double b = std::max(1.0, std::floor(bin(from_hz))); b <= bin(to_hz); b += 1.0) {
            sum += m_db[static_cast<std::size_t>(b)];
            count += 1.0;
        }
        return count > 0.0 ? sum / count : -120.0;
    }

    SoundView m_sound;
    RealFft m_fft;
    std::vector<double> m_db; // of each bin
    double m_lobe_hz = 20.0;
};

constexpr std::array<int, 6> kOver{0, 0, 12, 19, 24, 28}; // semitones of partial k over the first

// The strongest partial of the open string below the harmonic, and how many of them stand out.
struct Remnant {
    double strongest_db = -120.0;
    int standing = 0;
};
Remnant remnantOf(const Look& look, double open_hz, int k, double stands_db) {
    Remnant found;
    for (int j = 1; j < k; ++j) {
        const Level low = look.level(j * open_hz);
        found.strongest_db = std::max(found.strongest_db, low.at_db);
        found.standing += low.at_db - low.beside_db > stands_db ? 1 : 0;
    }
    return found;
}

// Alone: of what begins together, one's lower partials are another's.
bool alone(const std::vector<Note>& notes, std::size_t i) {
    constexpr double kTogether_s = 0.08;
    return (i == 0 || notes[i].onset_s() - notes[i - 1].onset_s() > kTogether_s) &&
           (i + 1 == notes.size() || notes[i + 1].onset_s() - notes[i].onset_s() > kTogether_s);
}

class HarmonicHearing {
  public:
    HarmonicHearing(SoundView sound, const std::vector<Note>& notes, const HarmonicParameters& p)
        : m_look(sound), m_notes(notes), m_p(p) {}

    bool touched(std::size_t i, double open_hz, int k) {
        const double onset_s = m_notes[i].onset_s();
        m_look.at(onset_s + kPast_s, m_p.look_s);
        const double own_db = m_look.level(k * open_hz).at_db;
        const Remnant first = remnantOf(m_look, open_hz, k, m_p.least_remnant_db);
        if (2 * first.standing < k - 1 || own_db - first.strongest_db > m_p.below_note_db)
            return false;
        m_look.at(onset_s - m_p.look_s - kPast_s, m_p.look_s); // what rang before is another note
        if (first.strongest_db - strongest(open_hz, k) < m_p.least_growth_db)
            return false;
        m_look.at(onset_s + m_p.later_s - 0.5 * m_p.look_s, m_p.look_s);
        const double fall_db = first.strongest_db - strongest(open_hz, k);
        const double own_fall_db = own_db - m_look.level(k * open_hz).at_db;
        return fall_db - own_fall_db > m_p.least_fall_db &&
               first.strongest_db - bodyLevel(i, open_hz, k) > m_p.over_body_db;
    }

  private:
    double strongest(double open_hz, int k) const {
        return remnantOf(m_look, open_hz, k, 0.0).strongest_db;
    }

    // True when a partial of the note lies on one of the string's below the k-th.
    static bool reaches(const Note& note, double open_hz, int k) {
        for (int j = 1; j < k; ++j) {
            const double times = j * open_hz / hzFromMidi(note.pitch.value);
            if (times > 0.9 && std::abs(times - std::round(times)) < 0.09 * times)
                return true;
        }
        return false;
    }

    // What other attacks leave at those frequencies: the body of the instrument answers to all.
    double bodyLevel(std::size_t i, double open_hz, int k) {
        std::vector<double> levels;
        for (std::size_t away = 1; away < 12 && levels.size() < 6; ++away)
            for (const std::size_t at : {i - away, i + away}) { // wraps below 0: out of range
                if (at >= m_notes.size() || !m_notes[at].pitched() ||
                    reaches(m_notes[at], open_hz, k) || m_notes[at].midi() == m_notes[i].midi())
                    continue;
                m_look.at(m_notes[at].onset_s() + kPast_s, m_p.look_s);
                levels.push_back(strongest(open_hz, k));
            }
        return median(levels).value_or(120.0); // nobody knows
    }

    static constexpr double kPast_s = 0.004; // of the attack's own noise

    Look m_look;
    const std::vector<Note>& m_notes;
    const HarmonicParameters& m_p;
};

} // namespace

void markHarmonics(SoundView sound,
                   const Instrument& instrument,
                   double a4_hz,
                   std::vector<Note>& notes,
                   const HarmonicParameters& p) {
    HarmonicHearing hearing(sound, notes, p);
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        if (!notes[i].pitched() || notes[i].slurred() || !alone(notes, i) ||
            notes[i].time.value.length_s() < p.least_length_s)
            continue;
        for (int string = 1; string <= instrument.stringCount(); ++string)
            for (int k = 2; k < static_cast<int>(kOver.size()); ++k) {
                const int open = instrument.string(string).open_midi + instrument.capo;
                if (notes[i].midi() == open + kOver[static_cast<std::size_t>(k)] &&
                    hearing.touched(i, hzFromMidi(open, a4_hz), k))
                    found.push_back(i);
            }
    }
    for (const std::size_t i : found)
        notes[i].add(Technique::Harmonic);
}

} // namespace wirenote
