#include "hearing/pitch_track.h"

#include "music/pitch.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

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
    // Of each frame only where its states came from is kept: an hour has 360,000 frames.
    std::vector<std::array<std::int8_t, kMostStates>> back;
    back.reserve(candidates.frames.size());
    std::vector<State> before;
    for (const auto& frame : candidates.frames) {
        auto states = statesOf(frame, p);
        auto& came = back.emplace_back();
        came.fill(0);
        for (std::size_t j = 0; j < states.size() && !before.empty(); ++j) {
            double best = -1e30;
            for (std::size_t k = 0; k < before.size(); ++k) {
                const double score = before[k].score - moveCost(before[k], states[j], p);
                if (score > best) {
                    best = score;
                    came[j] = static_cast<std::int8_t>(k);
                }
            }
            states[j].score += best;
        }
        before = std::move(states);
    }
    track.frames.resize(back.size());
    if (back.empty())
        return track;
    auto state = static_cast<std::size_t>(std::ranges::max_element(before, {}, &State::score) -
                                          before.begin());
    for (std::size_t i = back.size(); i-- > 0;) {
        if (state > 0) { // 0 is unvoiced
            const PitchCandidate& c = candidates.frames[i][state - 1];
            track.frames[i] = {static_cast<float>(midiFromHz(c.f0_hz)), c.clarity};
        }
        state = static_cast<std::size_t>(back[i][state]);
    }
    return track;
}

} // namespace wirenote
