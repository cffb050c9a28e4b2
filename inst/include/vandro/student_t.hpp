// Student's t distribution: tails on the logarithmic scale, and quantiles.
//
// The tail beyond t > 0 is half the incomplete beta function I_x(df / 2, 1 / 2) at
// x = df / (df + t^2) (Abramowitz & Stegun 1964, 26.7.1), by continued fractions.
#ifndef VANDRO_STUDENT_T_HPP
#define VANDRO_STUDENT_T_HPP

#include <algorithm>
#include <cmath>
#include <limits>

#include "normal.hpp"

namespace vandro {

namespace detail {

// Continued fraction of I_x(a, b) without its factor x^a (1 - x)^b / (a B(a, b)), by Lentz's
// method; quick for x < (a + 1) / (a + b + 2).
inline double beta_fraction(double a, double b, double x) {
  constexpr double tiny = 1e-300;
  double c = 1.0;
  double d = 1.0 / (1.0 - (a + b) * x / (a + 1.0));
  double value = d;
  for (int m = 1; m < 100000; ++m) {
    const double i = m;
    const double even = i * (b - i) * x / ((a + 2.0 * i - 1.0) * (a + 2.0 * i));
    d = 1.0 + even * d;
    c = 1.0 + even / c;
    d = 1.0 / (std::fabs(d) < tiny ? tiny : d);
    c = std::fabs(c) < tiny ? tiny : c;
    value *= d * c;
    const double odd = -(a + i) * (a + b + i) * x / ((a + 2.0 * i) * (a + 2.0 * i + 1.0));
    d = 1.0 + odd * d;
    c = 1.0 + odd / c;
    d = 1.0 / (std::fabs(d) < tiny ? tiny : d);
    c = std::fabs(c) < tiny ? tiny : c;
    const double step = d * c;
    value *= step;
    if (std::fabs(step - 1.0) < 2e-16) break;
  }
  return value;
}

// Continued fraction of DiDonato & Morris (1992) for I_x(a, 1/2) without its factor
// x^a y^(1/2) / B(a, 1/2), for lambda = (a + 1/2) y - 1/2 >= 0. It reads y = 1 - x on its own: near
// x = 1 and for large a the one above would lose as many digits as y has zeros.
inline double half_fraction(double a, double x, double y) {
  constexpr double b = 0.5;
  const double c = 1.0 + ((a + b) * y - b);
  const double c1 = 1.0 + 1.0 / a;
  double before = 0.0, below_before = 1.0, now = 1.0, below = c / c1;
  double p = 1.0, s = a + 1.0, value = c1 / c;
  for (int n = 1; n < 100000; ++n) {
    const double i = n;
    const double t = i / a;
    const double w = i * (b - i) * x;
    const double e = a / s;
    const double alpha = p * (p + b / a) * e * e * w * x;
    const double beta = i + w / s + (1.0 + t) / (c1 + t + t) * (c + i * (y + 1.0));
    p = 1.0 + t;
    s += 2.0;
    const double next = alpha * before + beta * now;
    const double below_next = alpha * below_before + beta * below;
    const double last = value;
    value = next / below_next;
    if (std::fabs(value - last) <= 2e-16 * value) break;
    before = now / below_next;
    below_before = below / below_next;
    now = value;
    below = 1.0;
  }
  return value;
}

// log B(a, 1/2) without the difference of two large log gammas.
inline double log_beta_half(double a) {
  constexpr double half_log_pi = 0.57236494292470008707;
  return half_log_pi - 0.5 * std::log(a) - a * std::log1p(0.5 / a) + 0.5 + stirling_remainder(a) -
         stirling_remainder(a + 0.5);
}

}  // namespace detail

// What every tail of one number of degrees of freedom shares.
class StudentT {
 public:
  explicit StudentT(double df) : df_(df), log_beta_(detail::log_beta_half(0.5 * df)) {}

  // log P(T > t).
  double log_upper(double t) const {
    if (t < 0.0) return std::log1p(-std::exp(log_tail(-t)));
    return log_tail(t);
  }
  // log P(|T| > |t|), at most 0.
  double log_both(double t) const { return std::min(0.0, log_2 + log_tail(std::fabs(t))); }
  double log_density(double t) const {
    return -0.5 * std::log(df_) - log_beta_ - 0.5 * (df_ + 1.0) * std::log1p(t * t / df_);
  }
  // The t with P(T > t) = tail, for 0 < tail < 1/2: Newton's method on the logarithmic scale, from
  // the quantile of the normal distribution.
  double upper_quantile(double tail) const {
    const double target = std::log(tail);
    const double z = -detail::probit(tail, 1.0 - tail);
    double t = z + (z * z * z + z) / (4.0 * df_);
    for (int step = 0; step < 100; ++step) {
      const double value = log_tail(t);
      const double move = (value - target) * std::exp(value - log_density(t));
      t = std::max(0.5 * t, t + move);
      if (std::fabs(move) <= 1e-14 * t) break;
    }
    return t;
  }

 private:
  static constexpr double log_2 = 0.69314718055994530942;
  // t >= 0.
  double log_tail(double t) const {
    const double a = 0.5 * df_;
    const double ratio = t / df_ * t;
    const double x = 1.0 / (1.0 + ratio);
    const double log_x = -std::log1p(ratio);
    if (!std::isfinite(ratio)) {  // t^2 overflows: the leading term
      return a * (std::log(df_) - 2.0 * std::log(t)) - std::log(a) - log_beta_ - log_2;
    }
    const double y = ratio * x;
    if ((a + 0.5) * y >= 0.5) {
      const double factor = a * log_x + 0.5 * (std::log(ratio) + log_x) - log_beta_;
      return factor + std::log(detail::half_fraction(a, x, y)) - log_2;
    }
    const double factor = a * log_x + 0.5 * (std::log(ratio) + log_x) + log_2 - log_beta_;
    const double middle = t == 0.0 ? 0.0 : std::exp(factor) * detail::beta_fraction(0.5, a, y);
    return std::log1p(-middle) - log_2;
  }
  double df_;
  double log_beta_;
};

}  // namespace vandro

#endif
