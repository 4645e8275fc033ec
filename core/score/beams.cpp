#include "score/beams.h"

namespace wirenote {
namespace {

bool hasFlags(const Value& value) {
    return !value.rest() && value.type >= NoteType::Eighth;
}

// Numbers runs of values that `together` holds to be of one group; runs of one have none.
template <class Together>
void numberRuns(std::vector<Value>& values, int Value::*member, Together together) {
    int next = 1;
    for (std::size_t from = 0; from < values.size();) {
        std::size_t to = from + 1;
        while (to < values.size() && together(from, to))
            ++to;
        if (to - from > 1) {
            for (std::size_t i = from; i < to; ++i)
                values[i].*member = next;
            ++next;
        }
        from = to;
    }
}

} // namespace

Rational beamEnd(const Metre& metre, Rational from) {
    const Rational bar = metre.barLength();
    if (metre.compound() || metre.unit <= 4) {
        const Rational beat = metre.beatLength();
        return Rational((from / beat).floor() + 1) * beat;
    }
    if (metre.beats <= 3)
        return bar;
    const Rational two = metre.beatLength() * Rational(2);
    const Rational end = Rational((from / two).floor() + 1) * two;
    return end + metre.beatLength() >= bar ? bar : end; // the last one has three
}

void groupValues(const Bar& bar, std::vector<Value>& values) {
    const Rational missing = bar.metre.barLength() - bar.length; // of a pick-up
    for (Value& value : values)
        value.beam = value.bracket = 0;
    Rational end;
    numberRuns(values, &Value::beam, [&](std::size_t from, std::size_t to) {
        if (!hasFlags(values[from]) || !hasFlags(values[to]))
            return false;
        if (to == from + 1)
            end = beamEnd(bar.metre, missing + values[from].start);
        return missing + values[to].start < end;
    });
    const Rational beat = bar.metre.beatLength();
    numberRuns(values, &Value::bracket, [&](std::size_t from, std::size_t to) {
        if (!values[from].tuplet() || values[to].actual != values[from].actual)
            return false;
        // Full where it ends on a beat.
        return ((missing + values[to].start) / beat).den() != 1;
    });
}

} // namespace wirenote
