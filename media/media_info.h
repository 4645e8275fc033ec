#pragma once

#include "base/result.h"

#include <filesystem>
#include <string>
#include <vector>

namespace wirenote {

struct SoundStreamInfo {
    int stream = 0; // number within the file
    int rate_hz = 0;
    int channels = 0;
    std::string coding;   // "aac", "pcm_s16le" …
    std::string language; // as the file says, may be empty
    std::string title;
};

struct PictureInfo {
    int stream = -1; // −1: no moving picture
    int width = 0;   // as shown, after turning
    int height = 0;
    int turned_degrees = 0; // clockwise: 0, 90, 180 or 270
    double rate_hz = 0.0;   // mean pictures a second
    std::string coding;
    bool exists() const { return stream >= 0; }
};

// What a file says of itself. Reads its index, decodes nothing.
struct MediaInfo {
    double length_s = 0.0; // as promised by the file; 0 when it does not say
    std::vector<SoundStreamInfo> sounds;
    int usual_sound = -1; // the stream the file itself prefers
    PictureInfo picture;
};

// Errors: the file cannot be used, or holds no sound (a picture alone is refused too).
Result<MediaInfo> readMediaInfo(const std::filesystem::path& path);

} // namespace wirenote
