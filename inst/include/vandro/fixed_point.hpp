// Measurements as whole numbers of one small unit, so that sums are exact and ties are ties. Whole
// numbers that come in stay exact; other doubles keep as many binary digits as 62 bits allow, or
// those above a grain: below it lies only the rounding of what was computed before (a change of
// unit, a mean of three), and what cutting it off can move counts as a tie.
#ifndef VANDRO_FIXED_POINT_HPP
#define VANDRO_FIXED_POINT_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "ranks.hpp"

namespace vandro {

struct FixedPoint {
  std::vector<std::int64_t> values;
  double unit = 1.0;        // a power of two
  std::size_t inexact = 0;  // values that had to be rounded to it
  bool grained = false;     // whether the unit is that of the grain
  // A sum and the observed one differ by less than their rounding when at most this far apart: half
  // a unit for every value, and a quarter for what was rounded before.
  std::int64_t slack() const {
    return static_cast<std::int64_t>(grained ? (3 * inexact + 3) / 4 : (inexact + 1) / 2);
  }
  // The same for a mean times `scale`.
  std::int64_t slack_of_mean(double scale) const {
    return grained && inexact > 0 ? static_cast<std::int64_t>(std::ceil(scale)) : 0;
  }
};

// `values` less `origin`, each less its `times` `shift` as well. `room`: binary digits for the sum
// of all sizes, with a margin of eight times for shifts that are tried. `grain`: a power of two, or
// 0 for none.
inline FixedPoint fixed_point(const std::vector<double>& values, double origin,
                              const std::vector<double>& times, double shift, int room = 61,
                              double grain = 0.0) {
  double largest = 0.0;
  for (std::size_t i = 0; i < values.size(); ++i) {
    largest = std::max(largest, std::fabs(values[i] - origin - times[i] * shift));
  }
  FixedPoint out;
  int digits = 0;
  if (largest > 0.0) {
    digits = room - 3 -
             static_cast<int>(std::ceil(std::log2(static_cast<double>(values.size())) +
                                        std::log2(largest) + 0.01));
  }
  if (grain > 0.0 && -std::ilogb(grain) < digits) {
    digits = -std::ilogb(grain);
    out.grained = true;
  }
  out.unit = std::ldexp(1.0, -digits);
  bool shift_exact = true;
  const auto whole = [&](double value, bool& exact) {
    // Values of any offset: wider than the differences that remain.
    const double scaled = std::ldexp(value, digits), rounded = std::nearbyint(scaled);
    exact = exact && rounded == scaled;
    return static_cast<Wide>(rounded);
  };
  bool origin_exact = true;
  const Wide base = whole(origin, origin_exact), step = whole(shift, shift_exact);
  out.values.reserve(values.size());
  for (std::size_t i = 0; i < values.size(); ++i) {
    bool exact = times[i] == 0.0 || shift_exact;
    const Wide value = whole(values[i], exact) - base - static_cast<Wide>(times[i]) * step;
    out.values.push_back(static_cast<std::int64_t>(value));
    // The origin drops out of every comparison.
    out.inexact += !exact;
  }
  return out;
}

}  // namespace vandro

#endif
