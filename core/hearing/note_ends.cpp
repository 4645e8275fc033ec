#include "hearing/note_ends.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {
constexpr double kAttackWindow_s = 0.08;
constexpr double kUnvoicedEnd_s = 0.06;
constexpr double kPeriod_s = 0.034; // of the lowest string of a five-string bass, 31 Hz

// A low string that is plucked near the bridge sounds in pulses, with near silence between: the
// level is that of the loudest frame within a period.
double levelAbout(const FluxTrack& flux, std::size_t frame) {
    const auto reach = static_cast<std::size_t>(std::lround(0.5 * kPeriod_s / flux.hop_s));
    const std::size_t from = frame > reach ? frame - reach : 0;
    const std::size_t to = std::min(flux.level_db.size(), frame + reach + 1);
    return *std::max_element(flux.level_db.begin() + static_cast<std::ptrdiff_t>(from),
                             flux.level_db.begin() + static_cast<std::ptrdiff_t>(to));
}
} // namespace

NoteLevel levelOf(const FluxTrack& flux, TimeRange span) {
    NoteLevel level;
    if (flux.level_db.empty())
        return level;
    const std::size_t from = flux.frameAt(span.start_s);
    const std::size_t to = std::max(from, flux.frameAt(std::min(span.end_s, span.start_s + 0.5)));
    for (std::size_t i = from; i <= to; ++i)
        level.peak_db = std::max(level.peak_db, static_cast<double>(flux.level_db[i]));
    double after = -120.0;
    for (std::size_t i = from; i <= flux.frameAt(span.start_s + kAttackWindow_s); ++i)
        after = std::max(after, static_cast<double>(flux.level_db[i]));
    // The lowest level just before: a damped string leaves a short gap, which is a witness as well.
    double before = after;
    for (std::size_t i = flux.frameAt(span.start_s - 0.05); i <= flux.frameAt(span.start_s - 0.005);
         ++i)
        before = std::min(before, static_cast<double>(flux.level_db[i]));
    level.rise_db = after - before;
    return level;
}

double soundingEnd(const FluxTrack& flux, const PitchTrack& track, TimeRange span, double drop_db) {
    if (flux.level_db.empty())
        return span.end_s;
    double peak = -120.0;
    double end = span.end_s;
    const std::size_t last = flux.frameAt(span.end_s);
    for (std::size_t i = flux.frameAt(span.start_s); i <= last; ++i) {
        peak = std::max(peak, static_cast<double>(flux.level_db[i]));
        if (flux.timeOf(i) > span.start_s + 0.03 && levelAbout(flux, i) < peak - drop_db) {
            end = flux.timeOf(i);
            break;
        }
    }
    const auto gap = static_cast<std::size_t>(kUnvoicedEnd_s / track.hop_s);
    std::size_t unvoiced = 0;
    const std::size_t stop = track.frameFrom(end);
    for (std::size_t i = track.frameFrom(span.start_s + 0.05); i < stop; ++i) {
        const bool rings = levelAbout(flux, flux.frameAt(track.timeOf(i))) > peak - drop_db / 3.0;
        unvoiced = track.frames[i].voiced() || rings ? 0 : unvoiced + 1;
        if (unvoiced > gap)
            return std::max(span.start_s + 0.03, track.timeOf(i - unvoiced + 1));
    }
    return std::min(end, span.end_s);
}

} // namespace wirenote
