// What rank methods need of two sorted samples, in one walk over their different values and without
// any vector of ranks: U, ties, and the variances of the placements of each value among the other
// sample. The same for changes, ordered by size without sign.
#ifndef VANDRO_RANKS_HPP
#define VANDRO_RANKS_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace vandro {

__extension__ typedef __int128 Wide;

struct RankCounts {
  std::uint64_t n_first = 0, n_second = 0;
  // Pairs with first above second, twice; pairs that are equal count once.
  std::uint64_t doubled_u = 0;
  std::uint64_t equal_pairs = 0;
  std::uint64_t distinct = 0;
  std::uint64_t tied = 0;  // values that share theirs with another one
  double tie_sum = 0.0;    // sum of t^3 - t over runs of t equal values
  // Variances of the placements: how many of the other sample lie below, equal ones half. NaN for
  // one value.
  double placement_variance_first = 0.0, placement_variance_second = 0.0;
};

namespace detail {

// Exact sums of whole numbers times their counts, and of squares.
struct WholeSums {
  Wide sum = 0, squares = 0;
  void add(std::uint64_t value, std::uint64_t count) {
    sum += static_cast<Wide>(value) * count;
    squares += static_cast<Wide>(value) * value * count;
  }
  // Of values given doubled: a quarter of their variance.
  double quarter_variance(std::uint64_t n) const {
    const Wide centred = static_cast<Wide>(n) * squares - sum * sum;
    const double size = static_cast<double>(n);
    return static_cast<double>(centred) / (4.0 * size * (size - 1.0));
  }
};

inline double tie_term(std::uint64_t t) {
  const double run = static_cast<double>(t);
  return run * (run - 1.0) * (run + 1.0);
}

// How often the next different value occurs in both samples, from `i` and `j` on.
struct Step {
  std::size_t in_first, in_second;
};

inline Step next_value(const double* first, std::size_t n, const double* second, std::size_t m,
                       std::size_t i, std::size_t j) {
  const double value = j == m || (i < n && first[i] < second[j]) ? first[i] : second[j];
  Step out{0, 0};
  while (i + out.in_first < n && first[i + out.in_first] == value) ++out.in_first;
  while (j + out.in_second < m && second[j + out.in_second] == value) ++out.in_second;
  return out;
}

// Calls each(value's count in first, in second, how many lie below in second) for every different
// value, in order.
template <class Each>
void walk_values(const double* first, std::size_t n, const double* second, std::size_t m,
                 Each each) {
  for (std::size_t i = 0, j = 0; i < n || j < m;) {
    const Step step = next_value(first, n, second, m, i, j);
    each(step.in_first, step.in_second, j);
    i += step.in_first;
    j += step.in_second;
  }
}

// Values at the front that are alone with their value, without a branch that depends on which
// sample is next; stops at the first tie. `i` and `j`: how far it came.
inline void count_lone_values(const double* first, std::size_t n, const double* second,
                              std::size_t m, std::size_t& i, std::size_t& j, WholeSums& of_first,
                              WholeSums& of_second) {
  WholeSums lone_first = of_first, lone_second = of_second;
  std::size_t at = i, other = j;  // locals stay in registers
  while (at + 1 < n && other + 1 < m) {
    const double a = first[at], b = second[other];
    const bool tie = (a == b) | (first[at + 1] == a) | (second[other + 1] == b);
    if (tie) break;
    const std::uint64_t down = a < b;
    lone_first.add(2 * other * down, 1);
    lone_second.add(2 * at * (1 - down), 1);
    at += down;
    other += 1 - down;
  }
  of_first = lone_first;
  of_second = lone_second;
  i = at;
  j = other;
}

}  // namespace detail

inline RankCounts count_ranks(const double* first, std::size_t n, const double* second,
                              std::size_t m) {
  RankCounts out;
  out.n_first = n;
  out.n_second = m;
  detail::WholeSums of_first, of_second;
  std::size_t i = 0, j = 0;
  while (i < n || j < m) {
    const std::size_t before = i + j;
    detail::count_lone_values(first, n, second, m, i, j, of_first, of_second);
    out.distinct += i + j - before;
    if (i == n && j == m) break;
    // One value with all its copies.
    const detail::Step step = detail::next_value(first, n, second, m, i, j);
    of_first.add(2 * j + step.in_second, step.in_first);
    of_second.add(2 * i + step.in_first, step.in_second);
    const std::uint64_t run = step.in_first + step.in_second;
    ++out.distinct;
    out.equal_pairs += static_cast<std::uint64_t>(step.in_first) * step.in_second;
    if (run > 1) {
      out.tied += run;
      out.tie_sum += detail::tie_term(run);
    }
    i += step.in_first;
    j += step.in_second;
  }
  out.doubled_u = static_cast<std::uint64_t>(of_first.sum);
  out.placement_variance_first = of_first.quarter_variance(n);
  out.placement_variance_second = of_second.quarter_variance(m);
  return out;
}

// Lengths of the runs of equal values of both samples together.
inline std::vector<std::int32_t> tie_runs(const double* first, std::size_t n, const double* second,
                                          std::size_t m) {
  std::vector<std::int32_t> runs;
  detail::walk_values(first, n, second, m,
                      [&](std::size_t in_first, std::size_t in_second, std::size_t) {
                        runs.push_back(static_cast<std::int32_t>(in_first + in_second));
                      });
  return runs;
}

// For each value of a sorted sample the share of the other sample below it, equal ones half.
inline std::vector<double> placements(const double* of, std::size_t n, const double* among,
                                      std::size_t m) {
  std::vector<double> out;
  out.reserve(n);
  detail::walk_values(
      of, n, among, m, [&](std::size_t in_of, std::size_t in_among, std::size_t below) {
        const double share = (static_cast<double>(below) + 0.5 * static_cast<double>(in_among)) /
                             static_cast<double>(m);
        out.insert(out.end(), in_of, share);
      });
  return out;
}

struct SignedRankCounts {
  std::uint64_t n = 0, zeros = 0;
  // Sums of the ranks of positive and negative changes, doubled.
  std::uint64_t doubled_plus = 0, doubled_minus = 0;
  double rank_squares = 0.0;  // sum of the squared ranks of changes that are not zero
  std::uint64_t tied = 0;     // changes that share their size with another one
  // Lengths of the runs of equal sizes, zeros not among them.
  std::vector<std::int32_t> runs;
};

// `changes` sorted. With `rank_zeros` zeros take the lowest ranks and then drop out (Pratt 1959).
inline SignedRankCounts count_signed_ranks(const double* changes, std::size_t n, bool rank_zeros) {
  SignedRankCounts out;
  out.n = n;
  const double* const zero = std::lower_bound(changes, changes + n, 0.0);
  const double* const positive = std::upper_bound(zero, changes + n, 0.0);
  out.zeros = static_cast<std::uint64_t>(positive - zero);
  std::uint64_t below = rank_zeros ? out.zeros : 0;
  const double* down = zero;  // one past the negative change of least size
  const double* up = positive;
  while (down > changes || up < changes + n) {
    const bool take_negative = up == changes + n || (down > changes && -down[-1] < *up);
    const double size = take_negative ? -down[-1] : *up;
    const double *from_up = up, *from_down = down;
    while (up < changes + n && *up == size) ++up;
    while (down > changes && -down[-1] == size) --down;
    const auto plus = static_cast<std::uint64_t>(up - from_up);
    const auto minus = static_cast<std::uint64_t>(from_down - down);
    const std::uint64_t run = plus + minus;
    const std::uint64_t doubled_rank = 2 * below + run + 1;
    out.doubled_plus += plus * doubled_rank;
    out.doubled_minus += minus * doubled_rank;
    const double rank = 0.5 * static_cast<double>(doubled_rank);
    out.rank_squares += static_cast<double>(run) * rank * rank;
    if (run > 1) out.tied += run;
    out.runs.push_back(static_cast<std::int32_t>(run));
    below += run;
  }
  return out;
}

}  // namespace vandro

#endif
