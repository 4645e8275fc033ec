#include "piece/take.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

using Moment = TakeAlignment::Moment;

// Piecewise linear from one clock to the other; the end stretches go on.
double map(const std::vector<Moment>& m, double t, double Moment::*from, double Moment::*to) {
    if (m.empty())
        return t;
    if (m.size() == 1)
        return t - m[0].*from + m[0].*to;
    const auto after = std::upper_bound(
        m.begin() + 1, m.end() - 1, t, [from](double x, const Moment& k) { return x < k.*from; });
    const Moment& a = *(after - 1);
    const Moment& b = *after;
    return a.*to + (t - a.*from) * (b.*to - a.*to) / (b.*from - a.*from);
}

} // namespace

double TakeAlignment::toTake(double piece_s) const {
    return map(moments, piece_s, &Moment::piece_s, &Moment::take_s);
}

double TakeAlignment::toPiece(double take_s) const {
    return map(moments, take_s, &Moment::take_s, &Moment::piece_s);
}

double TakeAlignment::rateAt(double piece_s) const {
    constexpr double kStep_s = 0.01;
    return (toTake(piece_s + kStep_s) - toTake(piece_s)) / kStep_s;
}

void TakeAlignment::shift(double by_s) {
    if (moments.empty())
        moments.push_back({0.0, 0.0});
    for (Moment& m : moments)
        m.piece_s += by_s;
}

bool TakeAlignment::valid() const {
    for (std::size_t i = 0; i < moments.size(); ++i) {
        const Moment& m = moments[i];
        if (!std::isfinite(m.piece_s) || !std::isfinite(m.take_s))
            return false;
        if (i > 0 && (m.piece_s <= moments[i - 1].piece_s || m.take_s <= moments[i - 1].take_s))
            return false;
    }
    return true;
}

} // namespace wirenote
