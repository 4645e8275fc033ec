// Takes beyond the first: opening their media quickly, studying them, lining them up.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "media/cached_sound.h"
#include "media/media_info.h"
#include "piece/piece.h"
#include "signal/overview.h"
#include "signal/pitch_spectrogram.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

namespace wirenote {

constexpr double kPlayingRateHz = 44100.0;
constexpr double kDrawingRateHz = 22050.0;

// The open media of one take: read as needed, with a bound on memory.
struct TakeMedia {
    MediaInfo info;
    std::shared_ptr<CachedSound> playing; // stereo, kPlayingRateHz
    std::shared_ptr<CachedSound> drawing; // stereo, kDrawingRateHz, for pictures of the sound
};

// Opens what a take needs to be heard and drawn: reads the index of the file, no more.
Result<TakeMedia> openTakeMedia(const std::filesystem::path& media, int sound_stream = -1);

// A take of this recording as a piece first knows it: name, length, whether there is a picture.
Take takeOf(const std::filesystem::path& media, const MediaInfo& info);

// A recording that was moved, found again by a person: the take with its new place, and its media.
struct FoundRecording {
    Take take;
    TakeMedia media;
    bool same = true; // false: another recording than the piece was made from (fingerprint)
};
// Nothing is changed. Of another recording, length and trim follow it and its quality is unknown.
Result<FoundRecording> findRecording(const Take& missing, const std::filesystem::path& media);

// What there is to know of another take of the same piece: its tuning reference, its quality, and
// how it lies on the time of the leading take. Nothing is changed.
struct TakeStudy {
    Take take;             // as given, with what was found
    bool lined_up = false; // the same music was found in both
};
struct StudyOptions {
    double longest_s = 1200.0; // more than this of each take is not compared
};
Result<TakeStudy> studyTake(const Piece& piece,
                            const Take& take,
                            const JobControl& job,
                            const StudyOptions& options = {});

// Measures how much of a neck the take's film shows, by a dozen pictures spread over what is heard.
// Changes nothing when there is no film or the job was cancelled.
void measureNeck(Take& take, const JobControl& job);

// Draws a whole sound in outline, part after part; `show` gets what there is so far, a few times a
// second. Errors: cannot be read, cancelled.
Status outline(const std::filesystem::path& media,
               int sound_stream,
               const JobControl& job,
               const std::function<void(const Overview&)>& show);

// A part of the picture of the sound: `columns` columns of `hop_s` each from start_s on.
std::vector<std::uint8_t> spectrogramOf(CachedSound& sound,
                                        const PitchAxis& axis,
                                        ChannelChoice channels,
                                        double start_s,
                                        double hop_s,
                                        int columns);

} // namespace wirenote
