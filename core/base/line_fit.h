// The straight line through points: weighted least squares.
#pragma once

namespace wirenote {

// y = at_zero + slope·x. Where weights are 1/variance of y, the variances are those of the line's
// parameters.
struct Line {
    double at_zero = 0.0;
    double slope = 0.0;
    double var_zero = 0.0;
    double var_slope = 0.0;
    double covariance = 0.0;
    bool fitted = false; // false: fewer than two different x, the line is level through the mean
    double at(double x) const { return at_zero + slope * x; }
    double varAt(double x) const { return var_zero + 2.0 * x * covariance + x * x * var_slope; }
};

// Points one by one, then the line through them. Without any weight it is y = 0.
class LineFit {
  public:
    void add(double x, double y, double weight = 1.0) {
        m_w += weight;
        m_x += weight * x;
        m_y += weight * y;
        m_xx += weight * x * x;
        m_xy += weight * x * y;
    }
    Line line() const {
        Line line;
        if (m_w <= 0.0)
            return line;
        const double determinant = m_w * m_xx - m_x * m_x;
        if (determinant <= 1e-12 * m_w * m_xx) {
            line.at_zero = m_y / m_w;
            return line;
        }
        line.fitted = true;
        line.slope = (m_w * m_xy - m_x * m_y) / determinant;
        line.at_zero = (m_y - line.slope * m_x) / m_w;
        line.var_slope = m_w / determinant;
        line.var_zero = m_xx / determinant;
        line.covariance = -m_x / determinant;
        return line;
    }

  private:
    double m_w = 0.0;
    double m_x = 0.0;
    double m_y = 0.0;
    double m_xx = 0.0;
    double m_xy = 0.0;
};

} // namespace wirenote
