#pragma once

#include "fretting/hand_state.h"

#include <vector>

namespace wirenote {

// Why the note has its finger in `now`; `before`: the hand at the moment before, or null. One
// reason, where it is a finger or no hand can take it.
std::vector<Reason> fingerReasons(const HandLine& line,
                                  const HandState* before,
                                  const HandState& now,
                                  std::size_t note);

} // namespace wirenote
