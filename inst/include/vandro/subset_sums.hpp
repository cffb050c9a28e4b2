// Sums of chosen numbers, counted by dynamic programming: how many subsets of a given size, or with
// what probability, have each sum. All terms are positive, so that small tails keep their digits.
#ifndef VANDRO_SUBSET_SUMS_HPP
#define VANDRO_SUBSET_SUMS_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <functional>
#include <limits>
#include <numeric>
#include <vector>

#include "ranks.hpp"
#include "wide.hpp"

namespace vandro {

// A probability, and its natural logarithm where it is too small for a double.
struct Tail {
  double p = 0.0;
  double log_p = -std::numeric_limits<double>::infinity();
};

// What a distribution costs: elementary additions, weighted by their time, and memory.
struct Cost {
  double nanoseconds = 0.0;
  double bytes = 0.0;
};

namespace detail {

using Counts = std::vector<double>;

// A number beyond the range of a double: mantissa times 2^exponent.
struct Scaled {
  double mantissa = 1.0;
  long exponent = 0;
  void normalise() {
    int by;
    mantissa = std::frexp(mantissa, &by);
    exponent += by;
  }
  double log2() const { return std::log2(mantissa) + static_cast<double>(exponent); }
};

// Exact below 2^100, then to n roundings.
inline Scaled binomial(std::int64_t n, std::int64_t k) {
  k = std::min(k, n - k);
  Wide whole = 1;
  std::int64_t i = 1;
  for (; i <= k && whole < (Wide{1} << 90); ++i) whole = whole * (n - k + i) / i;
  Scaled out{static_cast<double>(whole), 0};
  for (; i <= k; ++i) {
    out.mantissa *= static_cast<double>(n - k + i) / static_cast<double>(i);
    out.normalise();
  }
  return out;
}

// total times 2^`shift`, over `all`.
inline Tail as_tail(double total, long shift, const Scaled& all) {
  if (total <= 0.0) return {};
  Tail out;
  // Whole numbers below 2^53 give the correctly rounded quotient.
  out.p = std::ldexp(total / all.mantissa,
                     static_cast<int>(std::clamp(shift - all.exponent, -5000L, 5000L)));
  out.p = std::min(out.p, 1.0);
  out.log_p = std::min(0.0, std::log(total) - std::log(all.mantissa) +
                                static_cast<double>(shift - all.exponent) * std::log(2.0));
  return out;
}

typedef double Lanes __attribute__((vector_size(32)));

// to[i] += from[i]; the two do not overlap.
VANDRO_WIDE inline void add_counts(double* to, const double* from, std::size_t n) {
  std::size_t i = 0;
  for (; i + 4 <= n; i += 4) {
    Lanes a, b;
    std::memcpy(&a, to + i, sizeof a);
    std::memcpy(&b, from + i, sizeof b);
    a += b;
    std::memcpy(to + i, &a, sizeof a);
  }
  for (; i < n; ++i) to[i] += from[i];
}

// x[i] = stay * x[i] + move * x[i - by], i downwards from n - 1; what lies below x[0] is 0.
VANDRO_WIDE inline void mix_shifted(double* x, std::size_t n, std::size_t by, double stay,
                                    double move) {
  std::size_t i = n;
  const Lanes stays = {stay, stay, stay, stay}, moves = {move, move, move, move};
  for (; i >= by + 4; i -= 4) {
    Lanes a, b;
    std::memcpy(&a, x + i - 4, sizeof a);
    std::memcpy(&b, x + i - 4 - by, sizeof b);
    a = a * stays + b * moves;
    std::memcpy(x + i - 4, &a, sizeof a);
  }
  for (; i > 0; --i) x[i - 1] = stay * x[i - 1] + (i > by ? move * x[i - 1 - by] : 0.0);
}

// Adds many positive numbers: blocks first, then the blocks with a carry.
struct CarriedSum {
  double sum = 0.0, carry = 0.0;
  void add(double value) {
    const double next = sum + value;
    carry += (sum - next) + value;  // |sum| >= |value| or nearly so: all terms are positive
    sum = next;
  }
  double total() const { return sum + carry; }
};

// Sum of a[i] b[-i], i < n.
VANDRO_WIDE inline double crossed_sum(const double* a, const double* b, std::size_t n) {
  CarriedSum sum;
  std::size_t i = 0;
  while (i + 4 <= n) {
    const std::size_t end = std::min(n - 3, i + 256);
    Lanes block = {0.0, 0.0, 0.0, 0.0};
    for (; i < end; i += 4) {
      Lanes x;
      std::memcpy(&x, a + i, sizeof x);
      const double* y = b - i;
      const Lanes z = {y[0], y[-1], y[-2], y[-3]};
      block += x * z;
    }
    sum.add((block[0] + block[1]) + (block[2] + block[3]));
  }
  for (; i < n; ++i) sum.add(a[i] * *(b - i));
  return sum.total();
}

// Sum over s of counts[s] * running(at - s), where `running` continues as `before` below its first
// and as `after` above its last index.
inline double product_sum(const Counts& counts, const Counts& running, std::int64_t at,
                          double before, double after) {
  const auto size = static_cast<std::int64_t>(counts.size());
  const auto length = static_cast<std::int64_t>(running.size());
  // Indices s of counts: [0, first) lies above, [first, last) inside, [last, size) below.
  const std::int64_t first = std::clamp<std::int64_t>(at - length + 1, 0, size);
  const std::int64_t last = std::clamp<std::int64_t>(at + 1, first, size);
  CarriedSum sum;
  const auto add_all = [&](std::int64_t from, std::int64_t to, double weight) {
    if (weight == 0.0) return;
    for (std::int64_t s = from; s < to; ++s) sum.add(counts[static_cast<std::size_t>(s)] * weight);
  };
  add_all(0, first, after);
  if (last > first) {
    sum.add(crossed_sum(&counts[static_cast<std::size_t>(first)],
                        &running[static_cast<std::size_t>(at - first)],
                        static_cast<std::size_t>(last - first)));
  }
  add_all(last, size, before);
  return sum.total();
}

// Numbers of subsets by size (row) and sum, of scores in increasing order whose least is 0. Row j
// begins at the sum of the j smallest scores, `base[j]`.
struct SubsetSums {
  std::vector<Counts> rows;
  std::vector<std::int64_t> base;
};

// Rows up to `most`; rows below `least` are needed on the way only.
inline bool count_subsets(const std::vector<std::int64_t>& scores, std::size_t least,
                          std::size_t most, double one, SubsetSums& out,
                          const std::function<bool()>& keep_going) {
  const std::size_t n = scores.size();
  std::vector<std::int64_t> below(n + 1, 0);  // sums of the first scores
  std::partial_sum(scores.begin(), scores.end(), below.begin() + 1);
  out.rows.assign(most + 1, {});
  out.base.assign(below.begin(), below.begin() + static_cast<std::ptrdiff_t>(most) + 1);
  for (std::size_t j = 0; j <= most; ++j) {
    out.rows[j].assign(static_cast<std::size_t>(below[n] - below[n - j] - below[j] + 1), 0.0);
  }
  out.rows[0][0] = one;
  for (std::size_t k = 0; k < n; ++k) {
    if (keep_going && !keep_going()) return false;
    const std::size_t left = n - k - 1;
    const std::size_t from = least > left ? least - left : 1;
    for (std::size_t j = std::min(k + 1, most); j >= std::max<std::size_t>(from, 1); --j) {
      // Subsets of size j - 1 among the first k scores.
      const std::int64_t reach = below[k] - below[k - (j - 1)] - below[j - 1] + 1;
      add_counts(out.rows[j].data() + (scores[k] - scores[j - 1]), out.rows[j - 1].data(),
                 static_cast<std::size_t>(reach));
    }
  }
  return true;
}

inline double count_subsets_steps(double n, double most, double spread) {
  // Sum over k < n and j <= min(k, most) of the reach j (k - j) spread / n of neighbours.
  double steps = 0.0;
  for (double k = 1.0; k <= n; ++k) {
    const double j = std::min(k, most);
    steps += k * j * (j + 1.0) / 2.0 - j * (j + 1.0) * (2.0 * j + 1.0) / 6.0 + 40.0 * j;
  }
  return steps * spread;
}

inline double subset_cells(double n, double most, double spread) {
  const double j = std::min(n, most);
  return spread * (n * j * (j + 1.0) / 2.0 - j * (j + 1.0) * (2.0 * j + 1.0) / 6.0) + j + 1.0;
}

inline Counts running_from_below(const Counts& counts) {
  Counts out(counts.size());
  CarriedSum sum;
  for (std::size_t i = 0; i < counts.size(); ++i) {
    sum.add(counts[i]);
    out[i] = sum.total();
  }
  return out;
}

inline Counts running_from_above(const Counts& counts) {
  Counts out(counts.size());
  CarriedSum sum;
  for (std::size_t i = counts.size(); i-- > 0;) {
    sum.add(counts[i]);
    out[i] = sum.total();
  }
  return out;
}

}  // namespace detail

}  // namespace vandro

#endif
