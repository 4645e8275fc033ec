#include "fretting/finger_reasons.h"

#include <algorithm>

namespace wirenote {
namespace {

int number(Finger finger) {
    return static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1;
}

Reason reasoned(ReasonKind kind, int a = 0, int b = 0, double x = 0.0) {
    return {kind, Basis::Reasoned, a, b, x};
}

} // namespace

std::vector<Reason> fingerReasons(const HandLine& line,
                                  const HandState* before,
                                  const HandState& now,
                                  std::size_t note) {
    const int strings = line.instrument().stringCount();
    int at = 1;
    while (at <= strings && now.on(at).note != note)
        ++at;
    if (at > strings || !line.takesFinger(note, now.on(at).fret))
        return {};
    const OnString& held = now.on(at);
    if (held.finger == Finger::Unknown)
        return {reasoned(ReasonKind::OutOfHand)};
    if (held.finger == Finger::Thumb)
        return {reasoned(ReasonKind::ThumbOver)};
    if (!held.stopped())
        return {};
    if (before && before->on(at).stopped() && before->on(at).fret == held.fret &&
        before->on(at).finger == held.finger)
        return {reasoned(ReasonKind::FingerStays, at, held.fret)};
    if (now.usual)
        return {reasoned(ReasonKind::UsualGrip,
                         static_cast<int>(std::ranges::count_if(now.strings, &OnString::stopped)),
                         now.hand_fret)};
    const int in_place = held.fret - now.hand_fret + 1;
    for (int string = 1; string <= strings; ++string) {
        const OnString& other = now.on(string);
        if (string == at || !other.stopped())
            continue;
        if (other.finger == held.finger)
            return {reasoned(ReasonKind::OneFinger, string, held.fret)};
        if (number(held.finger) != in_place && number(other.finger) == in_place)
            return {reasoned(other.why == Why::Rings ? ReasonKind::FingerHolds
                                                     : ReasonKind::FingerElsewhere,
                             string,
                             other.fret,
                             in_place)};
    }
    return {reasoned(ReasonKind::FingerPerFret, number(held.finger), now.hand_fret)};
}

} // namespace wirenote
