#include "base/rational.h"

#include <cassert>
#include <numeric>

namespace wirenote {

Rational::Rational(std::int64_t numerator, std::int64_t denominator) {
    assert(denominator != 0);
    const std::int64_t sign = denominator < 0 ? -1 : 1;
    const std::int64_t divisor = std::gcd(numerator, denominator);
    m_num = sign * numerator / divisor;
    m_den = sign * denominator / divisor;
}

std::int64_t Rational::floor() const {
    const std::int64_t quotient = m_num / m_den;
    return quotient * m_den > m_num ? quotient - 1 : quotient;
}

std::string Rational::toString() const {
    return m_den == 1 ? std::to_string(m_num) : std::to_string(m_num) + "/" + std::to_string(m_den);
}

Rational Rational::operator+(const Rational& o) const {
    return {m_num * o.m_den + o.m_num * m_den, m_den * o.m_den};
}
Rational Rational::operator-(const Rational& o) const {
    return {m_num * o.m_den - o.m_num * m_den, m_den * o.m_den};
}
Rational Rational::operator*(const Rational& o) const {
    return {m_num * o.m_num, m_den * o.m_den};
}
Rational Rational::operator/(const Rational& o) const {
    assert(o.m_num != 0);
    return {m_num * o.m_den, m_den * o.m_num};
}
std::strong_ordering Rational::operator<=>(const Rational& o) const {
    return m_num * o.m_den <=> o.m_num * m_den;
}

} // namespace wirenote
