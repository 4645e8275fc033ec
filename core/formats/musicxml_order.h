// In which order the bars of a MusicXML part are played.
#pragma once

#include "base/result.h"

#include <pugixml.hpp>
#include <vector>

namespace wirenote::musicxml {

// Measures with their repeats and endings played out, at most `most` of them. Jumps by word (to a
// sign, to the end) are not followed. A repeat without a beginning goes back to the first bar.
std::vector<pugi::xml_node> playedMeasures(const pugi::xml_node& part, std::size_t most);

} // namespace wirenote::musicxml
