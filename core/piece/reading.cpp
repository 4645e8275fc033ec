#include "piece/reading.h"

namespace wirenote {

PluckingTool toolOf(PluckingSchool school) {
    switch (school) {
    case PluckingSchool::Alternate:
    case PluckingSchool::Sequence:
    case PluckingSchool::Economy:
    case PluckingSchool::Sweep:
    case PluckingSchool::Down:
    case PluckingSchool::Cross:
    case PluckingSchool::Strum:
        return PluckingTool::Pick;
    case PluckingSchool::Hybrid:
        return PluckingTool::Both;
    case PluckingSchool::Pima:
    case PluckingSchool::Thumb:
    case PluckingSchool::Im:
    case PluckingSchool::Ma:
    case PluckingSchool::Slap:
        return PluckingTool::Fingers;
    case PluckingSchool::Unknown:
        break;
    }
    return PluckingTool::Unknown;
}

} // namespace wirenote
