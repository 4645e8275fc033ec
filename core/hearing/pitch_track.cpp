#include "hearing/pitch_track.h"

#include "music/pitch.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

struct State {
    double midi = 0.0; // 0: unvoiced
    double score = 0.0;
    double clarity = 0.0;
    int back = -1;
};

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
    std::vector<State> states = {{0.0, p.unvoiced_score, 0.0, -1}};
    for (const PitchCandidate& c : candidates) {
        const double midi = midiFromHz(c.f0_hz);
        states.push_back({midi, c.clarity + p.low_pitch_bias * (midi - 60.0), c.clarity, -1});
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
    std::vector<std::vector<State>> lattice;
    lattice.reserve(candidates.frames.size());
    for (const auto& frame : candidates.frames) {
        auto states = statesOf(frame, p);
        if (!lattice.empty()) {
            for (State& to : states) {
                double best = -1e30;
                for (std::size_t k = 0; k < lattice.back().size(); ++k) {
                    const double score =
                        lattice.back()[k].score - moveCost(lattice.back()[k], to, p);
                    if (score > best) {
                        best = score;
                        to.back = static_cast<int>(k);
                    }
                }
                to.score += best;
            }
        }
        lattice.push_back(std::move(states));
    }
    track.frames.resize(lattice.size());
    if (lattice.empty())
        return track;
    const auto last =
        std::max_element(lattice.back().begin(),
                         lattice.back().end(),
                         [](const State& a, const State& b) { return a.score < b.score; });
    int state = static_cast<int>(last - lattice.back().begin());
    for (std::size_t i = lattice.size(); i-- > 0;) {
        const State& s = lattice[i][static_cast<std::size_t>(state)];
        if (s.midi > 0.0)
            track.frames[i] = {static_cast<float>(s.midi), static_cast<float>(s.clarity)};
        state = s.back;
    }
    return track;
}

} // namespace wirenote
