// The standard normal distribution, and the remainder of Stirling's formula.
#ifndef VANDRO_NORMAL_HPP
#define VANDRO_NORMAL_HPP

#include <boost/math/special_functions/erf.hpp>
#include <boost/math/special_functions/gamma.hpp>
#include <cmath>

namespace vandro {
namespace detail {

constexpr double sqrt_half = 0.70710678118654752440;
constexpr double inv_sqrt_2pi = 0.39894228040143267794;

inline double normal_cdf(double x) { return 0.5 * std::erfc(-x * sqrt_half); }
inline double normal_density(double x) { return inv_sqrt_2pi * std::exp(-0.5 * x * x); }

// Standard normal quantile from either tail, so that neither loses digits.
inline double probit(double lower, double upper) {
  constexpr double sqrt2 = 1.41421356237309504880;
  return lower < upper ? -sqrt2 * boost::math::erfc_inv(2.0 * lower)
                       : sqrt2 * boost::math::erfc_inv(2.0 * upper);
}

// std::lgamma() leaves the sign in a variable that all threads share.
inline double log_gamma(double z) {
  using boost::math::policies::policy;
  using boost::math::policies::promote_double;
  return boost::math::lgamma(z, policy<promote_double<false>>());
}

// Remainder of Stirling's formula for log gamma(z) (Abramowitz & Stegun 1964, 6.1.40-6.1.42).
inline double stirling_remainder(double z) {
  if (z < 15.0) {
    constexpr double half_log_2pi = 0.91893853320467274178;
    return log_gamma(z) - ((z - 0.5) * std::log(z) - z + half_log_2pi);
  }
  const double w = 1.0 / (z * z);
  return (1.0 / 12.0 -
          w * (1.0 / 360.0 - w * (1.0 / 1260.0 - w * (1.0 / 1680.0 - w * (1.0 / 1188.0))))) /
         z;
}

}  // namespace detail
}  // namespace vandro

#endif
