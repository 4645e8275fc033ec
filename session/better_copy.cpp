#include "session/better_copy.h"

#include "base/median.h"
#include "form/demonstrations.h"
#include "media/checksum.h"
#include "media/decode.h"
#include "session/transcribe.h"
#include "signal/chroma.h"
#include "signal/quality_meter.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

constexpr double kSameSound = 0.7; // likeness of chroma, over all attacks

// Where a recording has attacks, how loud it is, and what sounds in it.
struct Attacks {
    std::vector<OnsetPeak> peaks;
    FluxTrack flux;
    ChromaTrack chroma;
};

Result<Attacks>
attacksOf(const Take& take, double longest_s, const JobControl& job, QualityMeter* meter) {
    DecodeOptions options;
    options.stream = take.sound_stream;
    options.channels = take.channels;
    options.span = {0.0, std::min(take.length_s, longest_s)};
    if (meter)
        options.watch = [meter](const auto& channels, double rate_hz) {
            meter->add(channels, rate_hz);
        };
    const auto sound = decodeSound(take.path, kAnalysisRateHz, job, options);
    if (!sound)
        return sound.error();
    auto flux = spectralFlux(sound->mono.view(), {}, job);
    if (!flux)
        return flux.error();
    auto chroma = chromaOf(sound->mono.view(), take.reference.a4_hz, job);
    if (!chroma)
        return chroma.error();
    auto peaks = pickOnsets(*flux, PeakParameters{});
    return Attacks{std::move(peaks), std::move(*flux), std::move(*chroma)};
}

// What was heard of a take, as if these were its attacks: one a stroke.
std::vector<OnsetPeak> attacksOfNotes(const Piece& piece, std::size_t take) {
    std::vector<PlayedNote> struck = playedIn(piece, take);
    std::erase_if(struck, [](const PlayedNote& n) { return n.slurred; });
    std::vector<OnsetPeak> attacks;
    for (const PlayedMoment& moment : momentsOf(struck))
        attacks.push_back({moment.at_s, 1.0});
    return attacks;
}

// By how much the copy is louder just after the attacks that both have.
double louderBy(const Attacks& before, const Attacks& copy, const CopyFit& fit) {
    constexpr double kAfter_s = 0.03;
    std::vector<double> differences;
    for (const OnsetPeak& peak : before.peaks) {
        const double at_s = peak.time_s + kAfter_s;
        const double there_s = fit.at_zero_s + fit.rate * at_s;
        if (there_s >= 0.0 && there_s <= copy.flux.timeOf(copy.flux.level_db.size() - 1))
            differences.push_back(copy.flux.level_db[copy.flux.frameAt(there_s)] -
                                  before.flux.level_db[before.flux.frameAt(at_s)]);
    }
    return median(differences).value_or(0.0);
}

// Whether the same pitches follow the attacks: machines keep time as exactly as copies do.
bool soundsAlike(const Attacks& before, const Attacks& copy, const CopyFit& fit) {
    constexpr double kAfter_s = 0.06;
    double sum = 0.0;
    int count = 0;
    const auto frame = [kAfter_s](const ChromaTrack& chroma, double at_s) {
        return std::lround((at_s + kAfter_s) / chroma.hop_s);
    };
    for (const OnsetPeak& peak : before.peaks) {
        const auto here = frame(before.chroma, peak.time_s);
        const auto there = frame(copy.chroma, fit.at_zero_s + fit.rate * peak.time_s);
        if (here < 0 || there < 0 || here >= std::ssize(before.chroma.sounding) ||
            there >= std::ssize(copy.chroma.sounding))
            continue;
        sum += alike(before.chroma.sounding[static_cast<std::size_t>(here)],
                     copy.chroma.sounding[static_cast<std::size_t>(there)]);
        ++count;
    }
    return count > 0 && sum >= kSameSound * count;
}

Result<BetterCopy>
openCopy(const Piece& piece, std::size_t take, const fs::path& media, const JobControl& job) {
    const fs::path path = fs::absolute(media);
    for (const Take& other : piece.takes)
        if (other.path == path.string())
            return badInput(media.string(), "is among the takes of this piece already");
    const auto fingerprint = mediaFingerprint(path);
    if (!fingerprint)
        return fingerprint.error();
    auto opened = openTakeMedia(path);
    if (!opened)
        return opened.error();
    if (job.cancelRequested())
        return cancelled();
    BetterCopy copy;
    copy.media = std::move(*opened);
    const Take found = takeOf(path, copy.media.info);
    copy.take = piece.takes[take];
    copy.take.path = path.string();
    copy.take.sha256 = *fingerprint;
    copy.take.length_s = found.length_s;
    copy.take.has_picture = found.has_picture;
    copy.take.sound_stream = -1;
    copy.take.channels = ChannelChoice::Mix;
    copy.take.quality = {};
    copy.take.cautions.clear();
    return copy;
}

} // namespace

Result<BetterCopy> studyCopy(const Piece& piece,
                             std::size_t take,
                             const fs::path& media,
                             const JobControl& job,
                             double longest_s) {
    auto copy = openCopy(piece, take, media, job);
    if (!copy)
        return copy.error();
    QualityMeter meter;
    const auto there = attacksOf(copy->take, longest_s, job, &meter);
    if (!there)
        return there.error();
    const auto here = attacksOf(piece.takes[take], longest_s, job, nullptr);
    if (job.cancelRequested())
        return cancelled();
    const auto fit = here ? fitCopy(here->peaks, there->peaks, kCopyOfSound_s, job)
                          : fitCopy(attacksOfNotes(piece, take), there->peaks, kCopyOfNotes_s, job);
    if (job.cancelRequested())
        return cancelled();
    if (!fit || (here && !soundsAlike(*here, *there, *fit)))
        return badInput(media.string(),
                        "does not hold the same performance as the take \"" +
                            piece.takes[take].name +
                            "\": their attacks do not fall together; add it as another take");
    copy->fit = *fit;
    copy->clock = {fit->at_zero_s, fit->rate};
    copy->louder_db = here ? louderBy(*here, *there, *fit) : 0.0;
    copy->take.quality = takeQuality(meter.result());
    measureNeck(copy->take, job);
    return copy;
}

} // namespace wirenote
