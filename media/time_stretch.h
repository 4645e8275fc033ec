#pragma once

#include "media/stereo_source.h"

#include <memory>

namespace wirenote {

constexpr double kSlowest = 0.25; // of the recorded speed
constexpr double kFastest = 1.5;
constexpr double kMostSemitones = 12.0;

// Reads a source at another speed and pitch, from one place on. What it gives first is what the
// source has at `from_frame`: the stretcher's own delay is taken out. Speed and pitch stay as they
// are for its lifetime, so that every frame it gives has a known place in the source.
// (Rubber Band, finer engine, real-time mode; at speed 1 and pitch 0 the source is passed through.)
class StretchedReader {
  public:
    StretchedReader(StereoSource& source, std::int64_t from_frame, double speed, double semitones);
    ~StretchedReader();
    void read(std::span<float> out); // interleaved stereo; past the end of the source silence

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
