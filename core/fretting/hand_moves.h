// What it costs the hand to go from how it holds one moment to how it holds the next.
#pragma once

#include "fretting/hand_state.h"

#include <array>
#include <span>
#include <utility>
#include <vector>

namespace wirenote {

// The steps from all states of one moment to those of the next. Everything given must live as long.
class HandMoves {
  public:
    HandMoves(const HandLine& line,
              const Moment& from_moment,
              const std::vector<HandState>& from_states,
              const Moment& to_moment,
              const std::vector<HandState>& to_states);
    // Infinite where the new state holds what the old one did not.
    double cost(std::size_t from, std::size_t to) const;

  private:
    struct Stop {
        int string = 0;
        OnString on;
    };
    // A state, as far as steps look at it.
    struct View {
        const HandState* state = nullptr;
        std::array<Stop, kMaxStrings> stopped;
        std::size_t stop_count = 0;
        std::span<const Stop> stops() const { return {stopped.data(), stop_count}; }
        std::vector<Carried> wanted; // of a state that is left: what rings on or comes again
        std::vector<Stop> held;      // of a state that is entered: what it holds on
        bool pressed = false;        // a finger began something
        bool on_wound = false;       // a finger is on a wound string
        bool low_alone = false;      // one finger alone, out of place in open position
        int string = 0;              // on which its only note began
    };
    View viewOf(const HandState& state) const;
    double dropCost(const View& from, const View& to) const;
    double slursCost(const View& from, const View& to) const;
    double slurCost(const OnString& from, const OnString& to) const;
    double fingerCost(const View& from, const View& to, bool stays, double hurry) const;
    double
    sameFingerCost(const Stop& before, const Stop& now, const HandState& to, bool stays) const;
    double octaveCost(const Stop& before, const Stop& now) const;
    double shiftCost(const View& from, const View& to, double hurry) const;
    double lineCost(const View& from, const View& to) const;
    double repeatedCost(const View& from, const View& to) const;

    const HandLine& m_line;
    const HandModel& m_model;
    int m_strings;
    std::vector<View> m_from;
    std::vector<View> m_to;
    std::vector<std::pair<std::size_t, std::size_t>> m_same_pitch; // notes before and now
    double m_hurry;
    bool m_single = false; // one note and then one note
    bool m_slides = false;
    bool m_slurs = false;
    bool m_squeaks = false;
};

} // namespace wirenote
