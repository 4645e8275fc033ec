// A film as it is written: WebM with VP8 pictures and Opus sound, in memory.
#pragma once

#include "base/picture.h"
#include "base/result.h"
#include "base/time_range.h"

#include <cstddef>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace wirenote {

struct FilmChapter {
    TimeRange span; // seconds
    std::string title;
};

// Sound and pictures are handed over as they come, each by its own time; the same film gives the
// same bytes.
class FilmFile {
  public:
    static constexpr int kRate_hz = 48000; // of the sound
    struct Options {
        int width = 0; // of the pictures, in pixels; 0: there are none
        int height = 0;
        std::string title;
        std::vector<FilmChapter> chapters; // in seconds of the film; empty ones are left out
    };
    // Errors: it cannot be encoded on this machine.
    static Result<std::unique_ptr<FilmFile>> begin(const Options& options);
    ~FilmFile();

    std::size_t soundBlock() const; // frames that are taken at a time
    double sound_s() const;         // written so far
    // One block, left and right in turn. False: it could not be encoded.
    bool addSound(std::span<const float> stereo);
    // Shown from that time on, made to fit; one at or before the last one is left out.
    bool addPicture(double time_s, const PictureView& picture);
    // The whole film; nothing can be added any more.
    Result<std::string> finish();

  private:
    struct State;
    explicit FilmFile(std::unique_ptr<State> state);
    std::unique_ptr<State> m;
};

} // namespace wirenote
