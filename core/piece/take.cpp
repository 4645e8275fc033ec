#include "piece/take.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wirenote {
namespace {

using Moment = TakeAlignment::Moment;
using Stretch = TakeAlignment::Stretch;

// Piecewise linear from one clock to the other; the ends go on.
double map(const Stretch& m, double t, double Moment::*from, double Moment::*to) {
    if (m.size() == 1)
        return t - m[0].*from + m[0].*to;
    const auto after = std::upper_bound(
        m.begin() + 1, m.end() - 1, t, [from](double x, const Moment& k) { return x < k.*from; });
    const Moment& a = *(after - 1);
    const Moment& b = *after;
    return a.*to + (t - a.*from) * (b.*to - a.*to) / (b.*from - a.*from);
}

// How far outside a stretch a moment lies.
double outside(const Stretch& m, double t, double Moment::*clock) {
    return std::max({0.0, m.front().*clock - t, t - m.back().*clock});
}

const Stretch& nearest(const std::vector<Stretch>& stretches, double t, double Moment::*clock) {
    return *std::ranges::min_element(
        stretches, {}, [&](const Stretch& m) { return outside(m, t, clock); });
}

} // namespace

TakeTime TakeAlignment::toTake(PieceTime at) const {
    if (sameClock())
        return {at.s};
    return {
        map(nearest(stretches, at.s, &Moment::piece_s), at.s, &Moment::piece_s, &Moment::take_s)};
}

std::vector<TakeTime> TakeAlignment::everyVisit(PieceTime at) const {
    if (stretches.size() < 2)
        return {toTake(at)};
    std::vector<TakeTime> visits;
    for (const Stretch& m : stretches)
        if (outside(m, at.s, &Moment::piece_s) == 0.0)
            visits.push_back({map(m, at.s, &Moment::piece_s, &Moment::take_s)});
    return visits;
}

PieceTime TakeAlignment::toPiece(TakeTime at) const {
    if (sameClock())
        return {at.s};
    return {
        map(nearest(stretches, at.s, &Moment::take_s), at.s, &Moment::take_s, &Moment::piece_s)};
}

double TakeAlignment::rateAt(PieceTime at) const {
    constexpr double kStep_s = 0.01;
    return (toTake({at.s + kStep_s}).s - toTake(at).s) / kStep_s;
}

void TakeAlignment::shift(double by_s) {
    if (stretches.empty())
        stretches.push_back({{0.0, 0.0}});
    for (Stretch& stretch : stretches)
        for (Moment& m : stretch)
            m.piece_s += by_s;
}

bool TakeAlignment::valid() const {
    double last_take_s = -std::numeric_limits<double>::infinity();
    for (const Stretch& stretch : stretches) {
        if (stretch.empty())
            return false;
        double last_piece_s = -std::numeric_limits<double>::infinity();
        for (const Moment& m : stretch) {
            if (!std::isfinite(m.piece_s) || !std::isfinite(m.take_s) ||
                m.piece_s <= last_piece_s || m.take_s <= last_take_s)
                return false;
            last_piece_s = m.piece_s;
            last_take_s = m.take_s;
        }
    }
    return true;
}

void putSpan(std::vector<SoundSpan>& spans, const SoundSpan& one) {
    std::vector<SoundSpan> kept;
    for (const SoundSpan& old : spans) {
        if (old.span.start_s < one.span.start_s) {
            kept.push_back(old);
            kept.back().span.end_s = std::min(old.span.end_s, one.span.start_s);
        }
        if (old.span.end_s > one.span.end_s) {
            kept.push_back(old);
            kept.back().span.start_s = std::max(old.span.start_s, one.span.end_s);
        }
    }
    kept.push_back(one);
    std::ranges::sort(kept, {}, [](const SoundSpan& s) { return s.span.start_s; });
    if (kept.size() > kMaxSoundSpans)
        kept.resize(kMaxSoundSpans);
    spans = std::move(kept);
}

} // namespace wirenote
