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
    double strength = 0.0; // growth over the local median, in units of the peaks that are typical
                           // there (1 = typical)
};

struct PeakParameters {
    double threshold = 0.13;       // smallest strength kept
    double typical_window_s = 6.0; // "typical" is measured over ± this about each attack …
    double typical_share = 0.6;    // … so that attacks above it make up this share of all growth
    double least_typical = 8.0;    // flux no attack of a usable recording stays below
    double tremor_share = 0.25;    // peaks up to this share of a typical one may be tremor …
    double tremor_quantile = 0.9;  // … as strong as all but a tenth of them …
    double over_tremor = 1.6;      // … and an attack is this much stronger
    double faint_db = 33.0;        // … and no further below the usual level of attacks there
    double median_window_s = 0.2;  // the local level is the median over ± this
    double least_gap_s = 0.03;
};

// Local maxima of the flux, strongest kept within the least gap, in order of time. All that is
// measured by is taken from what lies near (base/nearby.h): a click, a shout or the one hard chord
// after silence is a small part of the growth about it, and further away it does not count.
std::vector<OnsetPeak> pickOnsets(const FluxTrack& flux, const PeakParameters& parameters);

} // namespace wirenote
