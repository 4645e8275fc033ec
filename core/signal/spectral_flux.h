// How suddenly a sound grows, frame by frame, and the moments where it does.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <vector>

namespace wirenote {

struct FluxParameters {
    double hop_s = 0.0058;
    double window_s = 0.046;
    double lowest_hz = 60.0;
    double highest_hz = 10000.0;
    int bands_per_octave = 24;
    int lag_frames = 3; // compared with the frame this far back
    int widened_bands =
        1; // a band is compared with its neighbours too, so that vibrato is no onset
    double log_gain = 2000.0; // loudness compression: log(1 + gain·amplitude)
};

// Frame i describes the sound at time first_s + i·hop_s.
struct FluxTrack {
    double hop_s = 0.0;
    double first_s = 0.0;
    std::vector<float> strength; // ≥ 0, sum over bands of the compressed growth
    std::vector<float> level_db; // RMS level of the frame, dB re full scale, −120 at the least

    double timeOf(std::size_t frame) const { return first_s + static_cast<double>(frame) * hop_s; }
    // Nearest frame, clamped to the track; the track must not be empty.
    std::size_t frameAt(double time_s) const;
};

// Spectral flux with maximum-filtered reference (Böck & Widmer, "Maximum filter vibrato suppression
// for onset detection", DAFx 2013). Departs from it in the compression and in comparing over 3
// frames.
Result<FluxTrack>
spectralFlux(SoundView sound, const FluxParameters& parameters, const JobControl& job);

struct OnsetPeak {
    double time_s = 0.0;
    double strength =
        0.0; // growth over the local median, in units of the track's typical peak (1 = typical)
};

struct PeakParameters {
    double threshold = 0.15;      // smallest strength kept
    double least_typical = 8.0;   // flux no attack of a usable recording stays below
    double median_window_s = 0.2; // the local level is the median over ± this
    double least_gap_s = 0.03;
};

// Local maxima of the flux, strongest kept within the least gap, in order of time.
std::vector<OnsetPeak> pickOnsets(const FluxTrack& flux, const PeakParameters& parameters);

} // namespace wirenote
