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
constexpr std::size_t lanes = 8;

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

inline double lane_sum(const std::array<double, lanes>& v) {
  return ((v[0] + v[1]) + (v[2] + v[3])) + ((v[4] + v[5]) + (v[6] + v[7]));
}

// One block of values without missing ones. Independent lanes hide latency, let the compiler use
// vector registers and bound the rounding error as pairwise summation would.
inline Moments block_moments(const double* x, std::size_t n, const Moments& so_far) {
  const double scale = so_far.scale;
  const double base = so_far.base * scale;
  const double pivot = base + so_far.mean;
  std::array<double, lanes> s1{}, s2{}, s3{}, s4{}, low, high;
  low.fill(std::numeric_limits<double>::infinity());
  high.fill(-std::numeric_limits<double>::infinity());
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
  for (std::size_t i = whole; i < n; ++i) {
    const std::size_t l = i - whole;
    const double v = x[i];
    const double d = v * scale - pivot;
    const double q = d * d;
    s1[l] += d;
    s2[l] += q;
    s3[l] += q * d;
    s4[l] += q * q;
    low[l] = std::min(low[l], v);
    high[l] = std::max(high[l], v);
  }
  Moments out;
  out.n = static_cast<std::int64_t>(n);
  out.min = *std::min_element(low.begin(), low.end());
  out.max = *std::max_element(high.begin(), high.end());
  const double count = static_cast<double>(n);
  const double sum1 = lane_sum(s1), sum2 = lane_sum(s2), sum3 = lane_sum(s3), sum4 = lane_sum(s4);
  const double c = sum1 / count;
  out.mean = (pivot - base) + c;
  // Power sums about the pivot turned into sums about the block's own mean (c is small).
  out.m2 = std::max(0.0, sum2 - c * sum1);
  out.m3 = sum3 - 3.0 * c * sum2 + 2.0 * c * c * sum1;
  out.m4 = std::max(0.0, sum4 - 4.0 * c * sum3 + 6.0 * c * c * sum2 - 3.0 * c * c * c * sum1);
  return out;
}

// Collects the values of one group and feeds them to the block kernel. The group's first value is
// its base.
class Collector {
 public:
  explicit Collector(double scale) { total_.scale = scale; }
  double* buffer() { return buffer_.data(); }
  void flush(std::size_t filled) {
    if (filled == 0) return;
    std::size_t from = 0;
    if (total_.n == 0) {  // the first values find a pivot close to the mean, then count themselves
      total_.base = buffer_[0];
      from = std::min(filled, pilot_rows);
      Moments near = total_;
      near.mean = block_moments(buffer_.data(), from, total_).mean;
      merge(total_, block_moments(buffer_.data(), from, near));
    }
    if (from < filled) merge(total_, block_moments(buffer_.data() + from, filled - from, total_));
  }
  Moments& total() { return total_; }

 private:
  Moments total_;
  std::array<double, block_rows> buffer_;
};

inline double as_double(double v) { return v; }
// R's missing integer is the smallest one.
inline double as_double(int v) {
  return v == std::numeric_limits<int>::min() ? std::numeric_limits<double>::quiet_NaN()
                                              : static_cast<double>(v);
}

// One pass over the rows. `code` says the group of a row (1, 2, anything else: not compared).
template <class T, class Code>
bool pass(const T* x, Code code, std::size_t n, const std::array<double, 2>& scales,
          std::array<Moments, 2>& out, const KeepGoing& keep_going) {
  Collector first(scales[0]), second(scales[1]);
  double* b1 = first.buffer();
  double* b2 = second.buffer();
  std::size_t at1 = 0, at2 = 0;
  std::int64_t missing1 = 0, missing2 = 0;
  constexpr std::size_t chunk = 1024;
  for (std::size_t start = 0; start < n; start += chunk) {
    const std::size_t end = std::min(n, start + chunk);
    for (std::size_t i = start; i < end; ++i) {
      // Both buffers take the value, one cursor moves: no branch to mispredict.
      const double v = as_double(x[i]);
      const int group = code(i);
      const bool known = v == v;
      b1[at1] = v;
      b2[at2] = v;
      at1 += static_cast<std::size_t>((group == 1) & known);
      at2 += static_cast<std::size_t>((group == 2) & known);
      missing1 += (group == 1) & !known;
      missing2 += (group == 2) & !known;
    }
    if (at1 >= block_rows - chunk) {
      first.flush(at1);
      at1 = 0;
    }
    if (at2 >= block_rows - chunk) {
      second.flush(at2);
      at2 = 0;
    }
    if (start % (chunk << 12) == 0 && keep_going && !keep_going()) return false;
  }
  first.flush(at1);
  second.flush(at2);
  first.total().missing = missing1;
  second.total().missing = missing2;
  out = {first.total(), second.total()};
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

template <class T, class Code>
bool two_groups(const T* x, Code code, std::size_t n, std::array<Moments, 2>& out,
                const KeepGoing& keep_going) {
  if (!pass(x, code, n, {1.0, 1.0}, out, keep_going)) return false;
  const std::array<double, 2> scales{needed_scale(out[0]), needed_scale(out[1])};
  return (scales[0] == 1.0 && scales[1] == 1.0) || pass(x, code, n, scales, out, keep_going);
}

}  // namespace detail

// Moments of the rows of `x` whose code is `first` and `second`; other rows are passed over and
// missing values (NaN) counted per group. Reads `x` and `codes` once, copies neither. Infinite
// values give infinite `min` or `max`; the sums are then undefined. Returns false when `keep_going`
// asked to stop.
template <class T>
bool group_moments(const T* x, const int* codes, std::size_t n, int first, int second,
                   std::array<Moments, 2>& out, const KeepGoing& keep_going = {}) {
  const auto code = [=](std::size_t i) {
    const int c = codes[i];
    return static_cast<int>(c == first) + 2 * static_cast<int>(c == second);
  };
  return detail::two_groups(x, code, n, out, keep_going);
}

// Moments of one sample.
template <class T>
bool moments(const T* x, std::size_t n, Moments& out, const KeepGoing& keep_going = {}) {
  std::array<Moments, 2> both;
  if (!detail::two_groups(
          x, [](std::size_t) { return 1; }, n, both, keep_going))
    return false;
  out = both[0];
  return true;
}

}  // namespace vandro

#endif
