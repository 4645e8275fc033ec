#include "session/take_media.h"

#include "base/text.h"
#include "hearing/melody.h"
#include "media/checksum.h"
#include "media/decode.h"
#include "media/picture_reader.h"
#include "media/sound_stream.h"
#include "session/transcribe.h"
#include "signal/align.h"
#include "signal/quality_meter.h"
#include "vision/neck_presence.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace wirenote {
namespace {

namespace fs = std::filesystem;
constexpr std::size_t kDrawingBlocks = 24; // 6 MiB: what a picture of the sound reads at a time
constexpr double kShow_s = 0.25;
constexpr double kLeastFitting =
    1.0 / 3.0;                     // of the attacks; else it is other music (working figure)
constexpr double kSparse_s = 0.08; // from this hop on a column is the mean of several moments

// The part of a take that is compared with others.
TimeRange comparedSpan(const Take& take, double longest_s) {
    TimeRange span = take.heardSpan();
    span.end_s = std::min(span.end_s, span.start_s + longest_s);
    return span;
}

Result<DecodedSound>
soundOf(const Take& take, TimeRange span, const JobControl& job, QualityMeter* meter) {
    DecodeOptions options;
    options.stream = take.sound_stream;
    options.channels = take.channels;
    options.span = span;
    if (meter)
        options.watch = [meter](const auto& channels, double rate_hz) {
            meter->add(channels, rate_hz);
        };
    return decodeSound(take.path, kAnalysisRateHz, job, options);
}

TakeAlignment alignmentOf(const AlignmentFit& fit, double lead_start_s, double take_start_s) {
    TakeAlignment alignment;
    alignment.basis = Basis::Heard;
    alignment.certainty = fit.certainty;
    alignment.semitones = fit.semitones;
    if (!fit.moments.empty())
        alignment.stretches.emplace_back();
    for (const MatchingMoment& m : fit.moments)
        alignment.stretches.back().push_back({m.a_s + lead_start_s, m.b_s + take_start_s});
    return alignment;
}

} // namespace

Result<TakeMedia> openTakeMedia(const fs::path& media, int sound_stream) {
    auto info = readMediaInfo(media);
    if (!info)
        return info.error();
    TakeMedia take;
    take.info = std::move(*info);
    CachedSound::Options options;
    options.stream = sound_stream;
    options.rate_hz = kPlayingRateHz;
    auto playing = CachedSound::open(media, options);
    if (!playing)
        return playing.error();
    options.rate_hz = kDrawingRateHz;
    options.most_blocks = kDrawingBlocks;
    auto drawing = CachedSound::open(media, options);
    if (!drawing)
        return drawing.error();
    take.playing = std::move(*playing);
    take.drawing = std::move(*drawing);
    if (take.info.length_s <= 0.0)
        take.info.length_s = static_cast<double>(take.playing->frames()) / kPlayingRateHz;
    if (!(take.info.length_s <= kLongestPiece_s))
        return badInput(media.string(),
                        "says that it lasts longer than a day; cut it into parts and open one");
    return take;
}

Take takeOf(const fs::path& media, const MediaInfo& info) {
    Take take;
    take.name = cleanText(media.stem().string());
    take.path = fs::absolute(media).string();
    take.length_s = info.length_s;
    take.has_picture = info.picture.exists();
    return take;
}

Result<FoundRecording> findRecording(const Take& missing, const fs::path& media) {
    const auto fingerprint = mediaFingerprint(media);
    if (!fingerprint)
        return fingerprint.error();
    auto opened = openTakeMedia(fs::absolute(media), missing.sound_stream);
    if (!opened)
        return opened.error();
    FoundRecording found{missing, std::move(*opened), true};
    Take& take = found.take;
    found.same = take.sha256.empty() || *fingerprint == take.sha256;
    take.path = fs::absolute(media).string();
    take.sha256 = *fingerprint;
    if (!found.same) {
        const Take other = takeOf(media, found.media.info);
        take.length_s = other.length_s;
        take.has_picture = other.has_picture;
        take.trim.end_s = std::min(take.trim.end_s, take.length_s);
        take.trim.start_s = std::min(take.trim.start_s, take.trim.end_s);
        take.quality = {};
        take.cautions.clear();
    }
    return found;
}

Result<TakeStudy> studyTake(const Piece& piece,
                            const Take& take,
                            const JobControl& job,
                            const StudyOptions& options) {
    JobControl quiet;
    quiet.cancel = job.cancel;
    TakeStudy study{take, false};
    const TimeRange span = comparedSpan(take, options.longest_s);
    QualityMeter meter;
    const auto sound = soundOf(take, span, quiet, &meter);
    if (!sound)
        return sound.error();
    study.take.quality = takeQuality(meter.result());
    measureNeck(study.take, quiet);
    study.take.cautions = sound->cautions;
    if (auto fingerprint = mediaFingerprint(take.path); fingerprint)
        study.take.sha256 = *fingerprint;
    if (take.reference.basis != Basis::Set) {
        const auto hearing =
            hearMelody(sound->mono.view(), piece.instrument, {}, HearingParameters{}, job);
        if (!hearing)
            return hearing.error();
        study.take.reference = hearing->reference;
    }
    const Take* lead = piece.lead();
    if (!lead || lead->path.empty() || lead->path == take.path)
        return study;
    const TimeRange lead_span = comparedSpan(*lead, options.longest_s);
    const auto lead_sound = soundOf(*lead, lead_span, quiet, nullptr);
    if (!lead_sound)
        return lead_sound.error();
    const auto fit = alignSounds(lead_sound->mono.view(),
                                 lead->reference.a4_hz,
                                 sound->mono.view(),
                                 study.take.reference.a4_hz,
                                 quiet);
    if (!fit)
        return fit.error();
    study.lined_up = fit->moments.size() >= 2 && fit->certainty >= kLeastFitting;
    if (study.lined_up && take.alignment.basis != Basis::Set)
        study.take.alignment = alignmentOf(*fit, lead_span.start_s, span.start_s);
    return study;
}

void measureNeck(Take& take, const JobControl& job) {
    if (!take.has_picture)
        return;
    auto reader = PictureReader::open(take.path);
    if (!reader)
        return;
    constexpr int kPictures = 12;
    std::vector<NeckPresence> found;
    const TimeRange span = take.heardSpan();
    for (int k = 0; k < kPictures; ++k) {
        if (job.cancelRequested())
            return;
        const auto picture = (*reader)->at(span.start_s + span.length_s() * (k + 0.5) / kPictures);
        const NeckPresence neck = picture ? neckPresence(picture->view()) : NeckPresence{};
        if (neck.frets > 0)
            found.push_back(neck);
    }
    TakeQuality& q = take.quality;
    q.neck_seen = static_cast<double>(found.size()) / kPictures;
    q.neck_share = q.neck_frets = 0.0;
    if (found.empty())
        return;
    std::ranges::sort(found, {}, &NeckPresence::share);
    const std::size_t middle = found.size() / 2;
    q.neck_share = found[middle].share;
    q.neck_frets = found[middle].frets;
}

Status outline(const fs::path& media,
               int sound_stream,
               const JobControl& job,
               const std::function<void(const Overview&)>& show) {
    auto stream = SoundStream::open(media, sound_stream);
    if (!stream)
        return stream.error();
    OverviewBuilder builder((*stream)->rate_hz());
    SoundStream::Block block;
    std::vector<float> mono;
    auto shown = std::chrono::steady_clock::now();
    std::int64_t taken = 0;
    for (;;) {
        const auto more = (*stream)->next(block);
        if (!more)
            return more.error();
        if (!*more)
            break;
        if (job.cancelRequested())
            return cancelled();
        const auto first = std::llround(block.start_s * (*stream)->rate_hz());
        mono.assign(static_cast<std::size_t>(std::clamp<std::int64_t>(first - taken, 0, 1 << 22)),
                    0.0F);
        for (std::size_t i = 0; i < block.frames(); ++i) {
            float sum = 0.0F;
            for (const auto& channel : block.channels)
                sum += std::isfinite(channel[i]) ? channel[i] : 0.0F;
            mono.push_back(sum / static_cast<float>(block.channels.size()));
        }
        builder.add(mono);
        taken += static_cast<std::int64_t>(mono.size());
        const auto now = std::chrono::steady_clock::now();
        if (std::chrono::duration<double>(now - shown).count() > kShow_s) {
            shown = now;
            show(builder.overview());
        }
    }
    show(builder.overview());
    return {};
}

std::vector<std::uint8_t> spectrogramOf(CachedSound& sound,
                                        const PitchAxis& axis,
                                        ChannelChoice channels,
                                        double start_s,
                                        double hop_s,
                                        int columns) {
    PitchSpectrogram spectrogram(sound.rate_hz(), axis);
    const double pad_s = spectrogram.reach_s() + hop_s;
    const auto first = static_cast<std::int64_t>((start_s - pad_s) * sound.rate_hz());
    const auto frames = static_cast<std::size_t>((hop_s * columns + 2.0 * pad_s) * sound.rate_hz());
    std::vector<float> stereo(2 * frames);
    sound.read(first, stereo);
    std::vector<float> mono(frames);
    for (std::size_t i = 0; i < frames; ++i) {
        const float left = stereo[2 * i];
        const float right = stereo[2 * i + 1];
        mono[i] = channels == ChannelChoice::Left         ? left
                  : channels == ChannelChoice::Right      ? right
                  : channels == ChannelChoice::Difference ? 0.5F * (left - right)
                                                          : 0.5F * (left + right);
    }
    return spectrogram.columns({mono, sound.rate_hz()},
                               start_s + 0.5 * hop_s - static_cast<double>(first) / sound.rate_hz(),
                               hop_s,
                               columns,
                               hop_s >= kSparse_s ? 4 : 1);
}

} // namespace wirenote
