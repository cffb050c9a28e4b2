// Quantiles of one group of a long outcome by selection, without sorting it.
//
// Rule 7 of Hyndman & Fan (1996): linear interpolation between the order statistics around
// 1 + (n - 1) p.
#ifndef VANDRO_QUANTILES_HPP
#define VANDRO_QUANTILES_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <vector>

#include "moments.hpp"

namespace vandro {

// Between two neighbouring order statistics, without overflow at the ends of a double's range.
inline double interpolate(double below, double above, double weight) {
  return below == above ? below : (1.0 - weight) * below + weight * above;
}

// `probabilities` in increasing order; `values` is reordered. Empty input gives NaN.
inline std::vector<double> quantiles(std::vector<double>& values,
                                     const std::vector<double>& probabilities) {
  std::vector<double> out;
  out.reserve(probabilities.size());
  auto settled = values.begin();  // everything before it is in its final place
  for (const double p : probabilities) {
    if (values.empty()) {
      out.push_back(std::numeric_limits<double>::quiet_NaN());
      continue;
    }
    const double position = static_cast<double>(values.size() - 1) * p;
    const double whole = std::floor(position);
    const double weight = position - whole;
    const auto at = values.begin() + static_cast<std::ptrdiff_t>(whole);
    if (at >= settled) {
      std::nth_element(settled, at, values.end());
      settled = at;
    }
    double value = *at;
    if (weight > 0.0) {
      value = interpolate(value, *std::min_element(at + 1, values.end()), weight);
    }
    out.push_back(value);
  }
  return out;
}

// The known values of the rows whose code is `wanted`, `expected` of them.
template <class T>
std::vector<double> gather_group(const T* x, const int* codes, std::size_t n, int wanted,
                                 std::size_t expected) {
  std::vector<double> out;
  out.reserve(expected);
  for (std::size_t i = 0; i < n; ++i) {
    if (codes[i] != wanted) continue;
    const double v = detail::as_double(x[i]);
    if (v == v) out.push_back(v);
  }
  return out;
}

}  // namespace vandro

#endif
