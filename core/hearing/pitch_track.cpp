#include "hearing/pitch_track.h"

#include "base/best_path.h"
#include "music/pitch.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

struct State {
    double midi = 0.0; // 0: unvoiced
    double score = 0.0;
};
constexpr std::size_t kMostStates = 8; // more candidates than that are left out

double moveCost(const State& from, const State& to, const TrackParameters& p) {
    const bool was = from.midi > 0.0;
    const bool is = to.midi > 0.0;
    if (was != is)
        return p.voicing_cost;
    if (!was)
        return 0.0;
    const double leap = std::abs(to.midi - from.midi);
    const double octave = std::abs(leap - 12.0) < 0.4 ? p.octave_cost : 0.0;
    return p.jump_cost * std::min(leap, 12.0) / 12.0 + octave;
}

std::vector<State> statesOf(const std::vector<PitchCandidate>& candidates,
                            const TrackParameters& p) {
    std::vector<State> states = {{0.0, p.unvoiced_score}};
    for (const PitchCandidate& c : candidates) {
        if (states.size() == kMostStates)
            break;
        const double midi = midiFromHz(c.f0_hz);
        states.push_back({midi, c.clarity + p.low_pitch_bias * (midi - 60.0)});
    }
    return states;
}

} // namespace

std::size_t PitchTrack::frameFrom(double time_s) const {
    const double frame = std::ceil((time_s - first_s) / hop_s - 1e-9);
    return static_cast<std::size_t>(std::clamp(frame, 0.0, static_cast<double>(frames.size())));
}

PitchTrack smoothPitch(const PitchCandidates& candidates, const TrackParameters& p) {
    PitchTrack track{candidates.hop_s, candidates.first_s, {}};
    track.frames.resize(candidates.frames.size());
    const auto own = [&](std::size_t frame) {
        std::vector<double> costs;
        for (const State& state : statesOf(candidates.frames[frame], p))
            costs.push_back(-state.score);
        return costs;
    };
    const auto moves = [&](std::size_t frame, StepCosts& costs) {
        const auto from = statesOf(candidates.frames[frame - 1], p);
        const auto to = statesOf(candidates.frames[frame], p);
        costs.fill(from.size(), to.size(), [&](std::size_t i, std::size_t j) {
            return moveCost(from[i], to[j], p);
        });
    };
    const auto chosen = bestPath(candidates.frames.size(), own, moves);
    for (std::size_t i = 0; i < chosen.size(); ++i)
        if (chosen[i] > 0) { // 0 is unvoiced
            const PitchCandidate& c = candidates.frames[i][chosen[i] - 1];
            track.frames[i] = {static_cast<float>(midiFromHz(c.f0_hz)), c.clarity};
        }
    return track;
}

} // namespace wirenote
