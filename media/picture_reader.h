#pragma once

#include "base/picture.h"
#include "base/result.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <vector>

namespace wirenote {

// One picture of a film, upright.
struct Picture {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> bytes; // rows without padding, one for each channel of a pixel
    int channels = 3;                // red, green, blue; or 1: grey
    double time_s = 0.0;             // shown from here, media time
    PictureView view() const { return {width, height, bytes, channels}; }
};

enum class Shade : std::uint8_t { Colours, Grey };

// Reads a film picture by picture, exactly, from any place, whatever the distance of its key
// pictures or the evenness of its rate. What was shown last stays in a cache of fixed size. One
// thread at a time.
class PictureReader {
  public:
    // Pictures wider than max_width are made smaller. Errors: the file cannot be used, no picture.
    static Result<std::unique_ptr<PictureReader>> open(const std::filesystem::path& path,
                                                       int max_width = 960);
    ~PictureReader();

    // The picture shown at that time: the last that starts at or before it; before the first, the
    // first. Null when nothing can be decoded.
    std::shared_ptr<const Picture> at(double time_s, Shade shade = Shade::Colours);
    // The next picture after, or the one before, the one shown at that time. Null at either end.
    std::shared_ptr<const Picture> after(double time_s, Shade shade = Shade::Colours);
    std::shared_ptr<const Picture> before(double time_s);

    std::size_t cachedBytes() const;

  private:
    struct State;
    explicit PictureReader(std::unique_ptr<State> state);
    std::unique_ptr<State> m;
};

} // namespace wirenote
