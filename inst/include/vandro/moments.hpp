// Moments of one sample, or of two groups of a long outcome, in one pass.
//
// Values are summed in blocks that fit the first-level cache: inside a block power sums of
// d = x - pivot, with the pivot near the running mean; then the block's central moments are merged
// into the total (Chan, Golub & LeVeque 1983; third and fourth moments: Pebay 2008).
// All means are kept relative to one fixed base, so an offset of 1e9 or 1e12 costs no digits.
#ifndef VANDRO_MOMENTS_HPP
#define VANDRO_MOMENTS_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <vector>

#include "wide.hpp"

namespace vandro {

// Central sums are those of the values times `scale`, a power of two that is 1 unless the spread of
// the values is so large or small that fourth powers would leave the range of a double.
struct Moments {
  std::int64_t n = 0;
  std::int64_t missing = 0;
  double base = 0.0;  // the first value
  double scale = 1.0;
  double mean = 0.0;  // (mean of the values - base) * scale
  double m2 = 0.0;    // sum of (x - mean)^2, times scale^2
  double m3 = 0.0;
  double m4 = 0.0;
  double min = std::numeric_limits<double>::infinity();
  double max = -std::numeric_limits<double>::infinity();
};

// Returns true to go on; called between chunks of rows so that long work can be interrupted.
using KeepGoing = std::function<bool()>;

namespace detail {

constexpr std::size_t block_rows = 2048;
constexpr std::size_t pilot_rows = 256;
constexpr std::size_t lanes = 4;

// Moments `b` of a further block merged into `a`; both relative to the same base and scale.
inline void merge(Moments& a, const Moments& b) {
  a.min = std::min(a.min, b.min);
  a.max = std::max(a.max, b.max);
  if (b.n == 0) return;
  if (a.n == 0) {
    a.n = b.n;
    a.mean = b.mean;
    a.m2 = b.m2;
    a.m3 = b.m3;
    a.m4 = b.m4;
    return;
  }
  const double na = static_cast<double>(a.n);
  const double nb = static_cast<double>(b.n);
  const double n = na + nb;
  const double delta = b.mean - a.mean;
  const double d_n = delta / n;
  const double d_n2 = d_n * d_n;
  const double cross = delta * d_n * na * nb;  // delta^2 na nb / n
  a.m4 += b.m4 + cross * d_n2 * (na * na - na * nb + nb * nb) +
          6.0 * d_n2 * (na * na * b.m2 + nb * nb * a.m2) + 4.0 * d_n * (na * b.m3 - nb * a.m3);
  a.m3 += b.m3 + cross * d_n * (na - nb) + 3.0 * d_n * (na * b.m2 - nb * a.m2);
  a.m2 += b.m2 + cross;
  a.mean += d_n * nb;
  a.n += b.n;
}

inline double lane_sum(const std::array<double, lanes>& v) { return (v[0] + v[1]) + (v[2] + v[3]); }

struct PowerSums {
  std::array<double, lanes> s1{}, s2{}, s3{}, s4{}, low, high;
};

// Sums of powers of x * scale - pivot, and the range of x. Independent lanes hide latency, fill
// vector registers and bound the rounding error as pairwise summation would. The lanes are plain
// arrays, since the compiler keeps only those in registers.
VANDRO_WIDE inline void add_powers(const double* x, std::size_t n, double scale, double pivot,
                                   PowerSums& out) {
  double s1[lanes] = {}, s2[lanes] = {}, s3[lanes] = {}, s4[lanes] = {}, low[lanes], high[lanes];
  for (std::size_t l = 0; l < lanes; ++l) {
    low[l] = std::numeric_limits<double>::infinity();
    high[l] = -std::numeric_limits<double>::infinity();
  }
  const std::size_t whole = n - n % lanes;
  for (std::size_t i = 0; i < whole; i += lanes) {
    for (std::size_t l = 0; l < lanes; ++l) {
      const double v = x[i + l];
      const double d = v * scale - pivot;
      const double q = d * d;
      s1[l] += d;
      s2[l] += q;
      s3[l] += q * d;
      s4[l] += q * q;
      low[l] = v < low[l] ? v : low[l];
      high[l] = v > high[l] ? v : high[l];
    }
  }
  for (std::size_t l = 0; l < lanes; ++l) {
    out.s1[l] = s1[l];
    out.s2[l] = s2[l];
    out.s3[l] = s3[l];
    out.s4[l] = s4[l];
    out.low[l] = low[l];
    out.high[l] = high[l];
  }
  for (std::size_t i = whole; i < n; ++i) {
    const double d = x[i] * scale - pivot;
    const double q = d * d;
    out.s1[i - whole] += d;
    out.s2[i - whole] += q;
    out.s3[i - whole] += q * d;
    out.s4[i - whole] += q * q;
    out.low[i - whole] = std::min(out.low[i - whole], x[i]);
    out.high[i - whole] = std::max(out.high[i - whole], x[i]);
  }
}

// One block of values without missing ones.
inline Moments block_moments(const double* x, std::size_t n, const Moments& so_far) {
  const double base = so_far.base * so_far.scale;
  const double pivot = base + so_far.mean;
  PowerSums sums;
  add_powers(x, n, so_far.scale, pivot, sums);
  Moments out;
  out.n = static_cast<std::int64_t>(n);
  out.min = *std::min_element(sums.low.begin(), sums.low.end());
  out.max = *std::max_element(sums.high.begin(), sums.high.end());
  const double count = static_cast<double>(n);
  const double sum1 = lane_sum(sums.s1), sum2 = lane_sum(sums.s2);
  const double sum3 = lane_sum(sums.s3), sum4 = lane_sum(sums.s4);
  const double c = sum1 / count;
  out.mean = (pivot - base) + c;
  // Power sums about the pivot turned into sums about the block's own mean (c is small).
  out.m2 = std::max(0.0, sum2 - c * sum1);
  out.m3 = sum3 - 3.0 * c * sum2 + 2.0 * c * c * sum1;
  out.m4 = std::max(0.0, sum4 - 4.0 * c * sum3 + 6.0 * c * c * sum2 - 3.0 * c * c * c * sum1);
  return out;
}

// Feeds the values of one sample, a block at a time, to the block kernel. The sample's first value
// is its base. Missing values are found by the sum they spoil, so that samples without any pay
// nothing.
class Collector {
 public:
  explicit Collector(double scale) { total_.scale = scale; }
  // Takes up to `block_rows` values, missing ones among them.
  void take(const double* x, std::size_t n) {
    if (n == 0) return;
    if (total_.n == 0) {
      n = known_values(x, n);
      if (n > 0) open(known_.data(), n);
      return;
    }
    Moments block = block_moments(x, n, total_);
    if (std::isnan(block.mean)) {
      n = known_values(x, n);
      if (n == 0) return;
      block = block_moments(known_.data(), n, total_);
    }
    merge(total_, block);
  }
  const Moments& total() const { return total_; }

 private:
  // The first values find a pivot close to the mean before they count themselves.
  void open(const double* x, std::size_t n) {
    total_.base = x[0];
    Moments near = total_;
    near.mean = block_moments(x, std::min(n, pilot_rows), total_).mean;
    merge(total_, block_moments(x, n, near));
  }
  std::size_t known_values(const double* x, std::size_t n) {
    const auto end =
        std::copy_if(x, x + n, known_.begin(), [](double v) { return !std::isnan(v); });
    const auto kept = static_cast<std::size_t>(end - known_.begin());
    total_.missing += static_cast<std::int64_t>(n - kept);
    return kept;
  }
  Moments total_;
  std::array<double, block_rows> known_;
};

inline double as_double(double v) { return v; }
// R's missing integer is the smallest one.
inline double as_double(int v) {
  return v == std::numeric_limits<int>::min() ? std::numeric_limits<double>::quiet_NaN()
                                              : static_cast<double>(v);
}

constexpr std::size_t chunk_rows = 1024;

// Asked once in about four million rows.
inline bool may_go_on(std::size_t row, const KeepGoing& keep_going) {
  return row % (chunk_rows << 12) != 0 || !keep_going || keep_going();
}

// One pass over the rows of two groups.
template <class T>
bool group_pass(const T* x, const int* codes, std::size_t n, int first, int second,
                const std::array<double, 2>& scales, std::array<Moments, 2>& out,
                const KeepGoing& keep_going) {
  Collector one(scales[0]), two(scales[1]);
  std::array<double, block_rows> b1, b2;
  std::size_t at1 = 0, at2 = 0;
  for (std::size_t start = 0; start < n; start += chunk_rows) {
    const std::size_t end = std::min(n, start + chunk_rows);
    for (std::size_t i = start; i < end; ++i) {
      // Both buffers take the value, one cursor moves: no branch to mispredict.
      const double v = as_double(x[i]);
      b1[at1] = v;
      b2[at2] = v;
      at1 += static_cast<std::size_t>(codes[i] == first);
      at2 += static_cast<std::size_t>(codes[i] == second);
    }
    if (at1 >= block_rows - chunk_rows) {
      one.take(b1.data(), at1);
      at1 = 0;
    }
    if (at2 >= block_rows - chunk_rows) {
      two.take(b2.data(), at2);
      at2 = 0;
    }
    if (!may_go_on(start, keep_going)) return false;
  }
  one.take(b1.data(), at1);
  two.take(b2.data(), at2);
  out = {one.total(), two.total()};
  return true;
}

// Doubles are summed where they lie; integers a block at a time.
inline const double* block_at(const double* x, std::size_t, double*) { return x; }
inline const double* block_at(const int* x, std::size_t n, double* room) {
  std::transform(x, x + n, room, [](int v) { return as_double(v); });
  return room;
}

template <class T>
bool sample_pass(const T* x, std::size_t n, double scale, Moments& out,
                 const KeepGoing& keep_going) {
  Collector all(scale);
  std::array<double, block_rows> room;
  for (std::size_t start = 0; start < n; start += block_rows) {
    const std::size_t rows = std::min(block_rows, n - start);
    all.take(block_at(x + start, rows, room.data()), rows);
    if (!may_go_on(start, keep_going)) return false;
  }
  out = all.total();
  return true;
}

// 1 when fourth powers of the deviations stay within a double's range, else a power of two that
// brings them there.
inline double needed_scale(const Moments& m) {
  if (m.n == 0 || m.min == m.max) return 1.0;
  const double largest = std::max(std::fabs(m.max), std::fabs(m.min));
  if (!std::isfinite(largest)) return 1.0;
  const double range = m.max - m.min;
  if (range <= std::ldexp(1.0, 200) && range >= std::ldexp(1.0, -200)) return 1.0;
  const int exponent = std::isfinite(range) ? std::ilogb(range) : std::ilogb(largest) + 1;
  return std::ldexp(1.0, std::max(-1000, std::min(1000, -exponent)));
}

}  // namespace detail

// Moments of the rows of `x` whose code is `first` and `second`; other rows are passed over and
// missing values (NaN) counted per group. Reads `x` and `codes` once, copies neither. Infinite
// values give infinite `min` or `max`; the sums are then undefined. Returns false when `keep_going`
// asked to stop.
template <class T>
bool group_moments(const T* x, const int* codes, std::size_t n, int first, int second,
                   std::array<Moments, 2>& out, const KeepGoing& keep_going = {}) {
  std::array<double, 2> scales{1.0, 1.0};
  if (!detail::group_pass(x, codes, n, first, second, scales, out, keep_going)) return false;
  scales = {detail::needed_scale(out[0]), detail::needed_scale(out[1])};
  if (scales[0] == 1.0 && scales[1] == 1.0) return true;
  return detail::group_pass(x, codes, n, first, second, scales, out, keep_going);
}

// Moments of one sample.
template <class T>
bool moments(const T* x, std::size_t n, Moments& out, const KeepGoing& keep_going = {}) {
  if (!detail::sample_pass(x, n, 1.0, out, keep_going)) return false;
  const double scale = detail::needed_scale(out);
  return scale == 1.0 || detail::sample_pass(x, n, scale, out, keep_going);
}

}  // namespace vandro

#endif
