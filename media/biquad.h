#pragma once

namespace wirenote {

// A filter of second order in transposed direct form II. Coefficients: R. Bristow-Johnson,
// "Cookbook formulae for audio equalizer biquad filter coefficients" (low pass and high pass).
class Biquad {
  public:
    static Biquad lowPass(double corner_hz, double q, double rate_hz);
    static Biquad highPass(double corner_hz, double q, double rate_hz);
    double operator()(double in) {
        const double out = m_b0 * in + m_z1;
        m_z1 = m_b1 * in - m_a1 * out + m_z2;
        m_z2 = m_b2 * in - m_a2 * out;
        return out;
    }

  private:
    double m_b0 = 1.0, m_b1 = 0.0, m_b2 = 0.0, m_a1 = 0.0, m_a2 = 0.0;
    double m_z1 = 0.0, m_z2 = 0.0;
};

} // namespace wirenote
