#pragma once

#include "base/sound.h"
#include "signal/fft.h"

#include <cstdint>
#include <vector>

namespace wirenote {

// Rows of equal distance in pitch: row 0 is the lowest. In tune with `a4_hz`.
struct PitchAxis {
    int lowest_midi = 28; // E1
    int semitones = 76;   // up to G♯7
    int rows_per_semitone = 3;
    double a4_hz = 440.0;

    int rows() const { return semitones * rows_per_semitone; }
    // Pitch of the middle of a row; the middle row of a semitone is that semitone.
    double midiOf(int row) const {
        return lowest_midi + (row - (rows_per_semitone - 1) / 2.0) / rows_per_semitone;
    }
};

constexpr double kQuietest_db = -90.0; // shown as 0
constexpr double kLoudest_db = -12.0;  // shown as 255

// Loudness over pitch and time, for the eye. Three window lengths, longer for lower pitches, so
// that low notes are apart and high ones sharp in time. One thread.
class PitchSpectrogram {
  public:
    PitchSpectrogram(double rate_hz, const PitchAxis& axis);
    // How much sound a column needs on either side of its moment.
    double reach_s() const;
    // Columns one after the other, each rows() values from kQuietest_db (0) to kLoudest_db (255).
    // Column k is centred at first_s + k·hop_s of `sound`, and is the mean of `frames` moments
    // spread over the hop. What lies outside the sound is silence.
    std::vector<std::uint8_t>
    columns(SoundView sound, double first_s, double hop_s, int count, int frames = 1);

  private:
    struct Row {
        int window = 0; // which of the three
        double low_bin = 0.0;
        double high_bin = 0.0;
    };
    void addFrame(SoundView sound, double at_s, std::vector<double>& power);

    double m_rate_hz;
    std::vector<RealFft> m_ffts;
    std::vector<std::vector<float>> m_windows;
    std::vector<Row> m_rows;
};

} // namespace wirenote
