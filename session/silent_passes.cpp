#include "session/silent_passes.h"

#include "base/median.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kAbout_s = 0.06; // of a stroke
constexpr double kApart_s = 0.2;  // from what is struck; nearer it is the way to a stroke or back
constexpr double kAlone_s = 0.21; // from movement to movement
constexpr double kRunsOn_s = 1.0; // before the first note and after the last
constexpr double kAsFast = 0.9;   // against strokes that sound: as likely a stroke as none
constexpr double kCut = 6.0;      // … and far more is a cut, or the camera
constexpr double kClear = 0.3;    // nepers beyond that
constexpr double kSurest = 0.97;
constexpr std::size_t kFewest = 8; // strokes to compare with

// The most that moves about a moment, whichever way.
double mostAbout(const PluckTrack& moved, double time_s, double about_s) {
    const auto first = std::ranges::lower_bound(moved.times_s, time_s - about_s);
    double most = 0.0;
    for (auto it = first; it != moved.times_s.end() && *it <= time_s + about_s; ++it) {
        const auto i = static_cast<std::size_t>(it - moved.times_s.begin());
        most = std::max({most, moved.down[i], moved.up[i]});
    }
    return most;
}

double farFromOnsets_s(const std::vector<double>& onsets_s, double time_s) {
    const auto next = std::ranges::lower_bound(onsets_s, time_s);
    double far_s = 1e9;
    if (next != onsets_s.end())
        far_s = *next - time_s;
    if (next != onsets_s.begin())
        far_s = std::min(far_s, time_s - *std::prev(next));
    return far_s;
}

} // namespace

std::vector<SilentPass> silentPasses(const PluckTrack& moved, const std::vector<double>& onsets_s) {
    std::vector<SilentPass> passes;
    std::vector<double> struck;
    for (const double onset_s : onsets_s)
        if (const double most = mostAbout(moved, onset_s, kAbout_s); most > 0.0)
            struck.push_back(most);
    const double usual = median(struck).value_or(0.0);
    if (struck.size() < kFewest || usual <= 0.0)
        return passes;
    for (std::size_t i = 0; i < moved.times_s.size(); ++i) {
        const double time_s = moved.times_s[i];
        const double here = std::max(moved.down[i], moved.up[i]);
        if (here < kAsFast * usual || here > kCut * usual ||
            time_s < onsets_s.front() - kRunsOn_s || time_s > onsets_s.back() + kRunsOn_s ||
            farFromOnsets_s(onsets_s, time_s) < kApart_s ||
            here < mostAbout(moved, time_s, kAlone_s))
            continue;
        const double beyond = std::log(here / (kAsFast * usual)) / kClear;
        passes.push_back({time_s,
                          moved.down[i] > moved.up[i],
                          std::min(kSurest, 1.0 / (1.0 + std::exp(-beyond)))});
        if (passes.size() == kMaxSilentPasses)
            break;
    }
    return passes;
}

} // namespace wirenote
