// Moments of paired measurements: of both halves and of the changes, over complete pairs only.
#ifndef VANDRO_PAIRS_HPP
#define VANDRO_PAIRS_HPP

#include "moments.hpp"

namespace vandro {

struct PairMoments {
  Moments first, second, change;
  double cross = 0.0;  // sum of (first - mean)(second - mean), times both scales
  std::int64_t up = 0, down = 0, same = 0;  // first above, below, equal to second
  std::int64_t only_first = 0, only_second = 0, neither = 0;
};

namespace detail {

inline bool pair_pass(const double* x, const double* y, std::size_t n,
                      const std::array<double, 3>& scales, PairMoments& out,
                      const KeepGoing& keep_going) {
  Collector first(scales[0]), second(scales[1]), change(scales[2]);
  std::array<double, chunk_rows> bx, by, bd;
  out = PairMoments();
  for (std::size_t start = 0; start < n; start += chunk_rows) {
    const std::size_t end = std::min(n, start + chunk_rows);
    std::size_t at = 0;
    for (std::size_t i = start; i < end; ++i) {
      const bool has_x = x[i] == x[i], has_y = y[i] == y[i];
      bx[at] = x[i];
      by[at] = y[i];
      bd[at] = x[i] - y[i];
      at += static_cast<std::size_t>(has_x & has_y);
      out.only_first += has_x & !has_y;
      out.only_second += !has_x & has_y;
      out.neither += !has_x & !has_y;
      // Comparisons with NaN are false: incomplete pairs count nowhere.
      out.up += x[i] > y[i];
      out.down += x[i] < y[i];
      out.same += x[i] == y[i];
    }
    first.take(bx.data(), at);
    second.take(by.data(), at);
    change.take(bd.data(), at);
    if (!may_go_on(start, keep_going)) return false;
  }
  out.first = first.total();
  out.second = second.total();
  out.change = change.total();
  return true;
}

inline double cross_product(const double* x, const double* y, std::size_t n, const Moments& mx,
                            const Moments& my) {
  double total = 0.0;
  for (std::size_t start = 0; start < n; start += block_rows) {
    const std::size_t end = std::min(n, start + block_rows);
    double sum = 0.0;
    for (std::size_t i = start; i < end; ++i) {
      const double dx = (x[i] * mx.scale - mx.base * mx.scale) - mx.mean;
      const double dy = (y[i] * my.scale - my.base * my.scale) - my.mean;
      const double product = dx * dy;
      sum += product == product ? product : 0.0;
    }
    total += sum;
  }
  return total;
}

}  // namespace detail

// Moments of the complete pairs (x[i], y[i]) and of x[i] - y[i]. Returns false when `keep_going`
// asked to stop.
inline bool pair_moments(const double* x, const double* y, std::size_t n, PairMoments& out,
                         const KeepGoing& keep_going = {}) {
  std::array<double, 3> scales{1.0, 1.0, 1.0};
  if (!detail::pair_pass(x, y, n, scales, out, keep_going)) return false;
  scales = {detail::needed_scale(out.first), detail::needed_scale(out.second),
            detail::needed_scale(out.change)};
  if (scales != std::array<double, 3>{1.0, 1.0, 1.0} &&
      !detail::pair_pass(x, y, n, scales, out, keep_going)) {
    return false;
  }
  out.cross = detail::cross_product(x, y, n, out.first, out.second);
  return true;
}

}  // namespace vandro

#endif
