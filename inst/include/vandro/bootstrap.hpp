// Moments of samples drawn with replacement, from two groups or from pairs.
#ifndef VANDRO_BOOTSTRAP_HPP
#define VANDRO_BOOTSTRAP_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <vector>

#include "parallel.hpp"
#include "random.hpp"

namespace vandro {

// Moments of one drawn sample. Values must come centred, so that sums of squares keep their digits.
struct DrawnMoments {
  double mean = 0.0;
  double variance = 0.0;
};

namespace detail {

constexpr std::size_t draws_in_piece = 64;

// Sums over a constant sample leave rounding dust where the variance is 0.
inline double drawn_product(double sum_xy, double sum_x, double sum_y, double size, double n) {
  const double left = sum_xy - sum_x * sum_y / n;
  return std::fabs(left) <= 1e-13 * size ? 0.0 : left / (n - 1.0);
}

inline DrawnMoments draw_group(const std::vector<double>& x, Random& random) {
  double sum = 0.0, squares = 0.0;
  const auto n = static_cast<std::uint32_t>(x.size());
  for (std::uint32_t i = 0; i < n; ++i) {
    const double value = x[random.below(n)];
    sum += value;
    squares += value * value;
  }
  const double size = static_cast<double>(n);
  return {sum / size, drawn_product(squares, sum, sum, squares, size)};
}

template <class One>
bool for_draws(std::size_t from, std::size_t to, int threads, const One& one,
               const std::function<bool()>& keep_going) {
  const std::size_t pieces = (to - from + draws_in_piece - 1) / draws_in_piece;
  return in_pieces(
      pieces, threads,
      [&](std::size_t piece) {
        const std::size_t start = from + piece * draws_in_piece;
        for (std::size_t k = start; k < std::min(to, start + draws_in_piece); ++k) one(k);
      },
      keep_going);
}

}  // namespace detail

// Draws number `from` .. `to` - 1 of both groups, each drawn within itself. Returns false when
// `keep_going` asked to stop.
inline bool bootstrap_groups(const std::vector<double>& first, const std::vector<double>& second,
                             std::uint64_t seed, std::size_t from, std::size_t to, int threads,
                             std::vector<DrawnMoments>& out_first,
                             std::vector<DrawnMoments>& out_second,
                             const std::function<bool()>& keep_going = {}) {
  out_first.resize(to - from);
  out_second.resize(to - from);
  return detail::for_draws(
      from, to, threads,
      [&](std::size_t k) {
        Random random(seed, k);
        out_first[k - from] = detail::draw_group(first, random);
        out_second[k - from] = detail::draw_group(second, random);
      },
      keep_going);
}

struct DrawnPairs {
  DrawnMoments first, second;
  double covariance = 0.0;
};

// Whole pairs are drawn.
inline bool bootstrap_pairs(const std::vector<double>& first, const std::vector<double>& second,
                            std::uint64_t seed, std::size_t from, std::size_t to, int threads,
                            std::vector<DrawnPairs>& out,
                            const std::function<bool()>& keep_going = {}) {
  out.resize(to - from);
  const auto n = static_cast<std::uint32_t>(first.size());
  const double size = static_cast<double>(n);
  return detail::for_draws(
      from, to, threads,
      [&](std::size_t k) {
        Random random(seed, k);
        double sum_x = 0.0, sum_y = 0.0, xx = 0.0, yy = 0.0, xy = 0.0;
        for (std::uint32_t i = 0; i < n; ++i) {
          const std::uint32_t at = random.below(n);
          const double x = first[at], y = second[at];
          sum_x += x;
          sum_y += y;
          xx += x * x;
          yy += y * y;
          xy += x * y;
        }
        out[k - from] = {{sum_x / size, detail::drawn_product(xx, sum_x, sum_x, xx, size)},
                         {sum_y / size, detail::drawn_product(yy, sum_y, sum_y, yy, size)},
                         detail::drawn_product(xy, sum_x, sum_y, std::sqrt(xx * yy), size)};
      },
      keep_going);
}

}  // namespace vandro

#endif
