#pragma once

#include <compare>
#include <cstdint>
#include <string>

namespace wirenote {

// An exact fraction, always reduced, denominator positive. Score time is counted in quarter notes.
// Numerators and denominators stay below 2^31 in all score work, so 64 bits never overflow.
class Rational {
  public:
    constexpr Rational() = default;
    constexpr Rational(std::int64_t whole) : m_num(whole) {}
    Rational(std::int64_t numerator, std::int64_t denominator); // denominator must not be 0

    std::int64_t num() const { return m_num; }
    std::int64_t den() const { return m_den; }
    double toDouble() const { return static_cast<double>(m_num) / static_cast<double>(m_den); }
    std::int64_t floor() const;
    std::string toString() const;

    Rational operator+(const Rational& o) const;
    Rational operator-(const Rational& o) const;
    Rational operator*(const Rational& o) const;
    Rational operator/(const Rational& o) const; // o must not be 0
    Rational& operator+=(const Rational& o) { return *this = *this + o; }
    bool operator==(const Rational&) const = default;
    std::strong_ordering operator<=>(const Rational& o) const;

  private:
    std::int64_t m_num = 0;
    std::int64_t m_den = 1;
};

} // namespace wirenote
