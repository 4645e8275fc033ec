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

bool TakeNote::slurred() const {
    return std::ranges::any_of(techniques, [](Technique t) {
        return t == Technique::HammerOn || t == Technique::PullOff || t == Technique::Slide;
    });
}

bool rises(const std::vector<SharedMoment>& moments) {
    for (std::size_t i = 0; i < moments.size(); ++i)
        if (!std::isfinite(moments[i].piece_s) || !std::isfinite(moments[i].take_s) ||
            (i > 0 && (moments[i].piece_s <= moments[i - 1].piece_s ||
                       moments[i].take_s <= moments[i - 1].take_s)))
            return false;
    return true;
}

double inTake(const std::vector<SharedMoment>& moments, double piece_s) {
    return map(moments, piece_s, &Moment::piece_s, &Moment::take_s);
}

double inPiece(const std::vector<SharedMoment>& moments, double take_s) {
    return map(moments, take_s, &Moment::take_s, &Moment::piece_s);
}

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
        if (stretch.empty() || !rises(stretch) || stretch.front().take_s <= last_take_s)
            return false;
        last_take_s = stretch.back().take_s;
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
