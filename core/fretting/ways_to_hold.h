// The states a hand may be in at a moment, made from those it may have been in before.
#pragma once

#include "fretting/hand_state.h"
#include "fretting/layings.h"
#include "fretting/shape_table.h"

#include <vector>

namespace wirenote {

class WaysToHold {
  public:
    explicit WaysToHold(const HandLine& line);
    // At most 64, the cheapest as far as can be said before the way there is priced; never none.
    // `before`: the states of the moment before, `cheapest`: what the cheapest way to each costs;
    // both empty at the first moment.
    std::vector<HandState> of(const Moment& moment,
                              const std::vector<HandState>& before,
                              const std::vector<double>& cheapest);
    // True until a way was left out that might have been a part of the best.
    bool complete() const { return m_complete; }

  private:
    struct Context;
    struct Found;
    std::vector<Context> contextsOf(const Moment& moment,
                                    const std::vector<HandState>& before,
                                    const std::vector<double>& cheapest) const;
    void addLaying(const Moment& moment,
                   const Laying& laying,
                   const Context& context,
                   const std::vector<Context>& hands,
                   std::vector<Found>& found);
    void addKept(const Moment& moment,
                 const Laying& laying,
                 double so_far,
                 const std::vector<Carried>& kept,
                 const std::vector<Context>& hands,
                 std::vector<Found>& found);
    HandState
    stateOf(const Moment& moment, const Laying& laying, const std::vector<Carried>& kept) const;
    bool asSet(const HandState& state) const;
    double openCost(const LineNote& note, int string, int hand_fret) const;
    double ownCost(const Moment& moment, const Laying& laying, const HandState& state) const;
    void addNothing(const std::vector<Context>& hands, std::vector<Found>& found);
    void add(const HandState& state, double at_least, std::vector<Found>& found);
    std::vector<HandState> cheapestOf(const std::vector<Found>& found);

    const HandLine& m_line;
    ShapeTable m_shapes;
    bool m_heed_set = true;
    bool m_complete = true;
    double m_best = 0.0; // of what was found for this moment
};

} // namespace wirenote
