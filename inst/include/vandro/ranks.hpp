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

// Calls each(value's count in first, in second, how many lie below in first, in second) for every
// different value, in order.
template <class Each>
void walk_values(const double* first, std::size_t n, const double* second, std::size_t m,
                 Each each) {
  std::size_t i = 0, j = 0;
  while (i < n || j < m) {
    const double value = j == m || (i < n && first[i] < second[j]) ? first[i] : second[j];
    const std::size_t below_first = i, below_second = j;
    while (i < n && first[i] == value) ++i;
    while (j < m && second[j] == value) ++j;
    each(i - below_first, j - below_second, below_first, below_second);
  }
}

}  // namespace detail

inline RankCounts count_ranks(const double* first, std::size_t n, const double* second,
                              std::size_t m) {
  RankCounts out;
  out.n_first = n;
  out.n_second = m;
  detail::WholeSums of_first, of_second;
  detail::walk_values(first, n, second, m,
                      [&](std::uint64_t in_first, std::uint64_t in_second,
                          std::uint64_t below_first, std::uint64_t below_second) {
                        const std::uint64_t placed = 2 * below_second + in_second;
                        out.doubled_u += in_first * placed;
                        of_first.add(placed, in_first);
                        of_second.add(2 * below_first + in_first, in_second);
                        const std::uint64_t run = in_first + in_second;
                        ++out.distinct;
                        out.equal_pairs += in_first * in_second;
                        if (run > 1) {
                          out.tied += run;
                          out.tie_sum += detail::tie_term(run);
                        }
                      });
  out.placement_variance_first = of_first.quarter_variance(n);
  out.placement_variance_second = of_second.quarter_variance(m);
  return out;
}

// Lengths of the runs of equal values of both samples together.
inline std::vector<std::int32_t> tie_runs(const double* first, std::size_t n, const double* second,
                                          std::size_t m) {
  std::vector<std::int32_t> runs;
  detail::walk_values(first, n, second, m,
                      [&](std::size_t in_first, std::size_t in_second, std::size_t, std::size_t) {
                        runs.push_back(static_cast<std::int32_t>(in_first + in_second));
                      });
  return runs;
}

// For each value of a sorted sample the share of the other sample below it, equal ones half.
inline std::vector<double> placements(const double* of, std::size_t n, const double* among,
                                      std::size_t m) {
  std::vector<double> out;
  out.reserve(n);
  detail::walk_values(of, n, among, m,
                      [&](std::size_t in_of, std::size_t in_among, std::size_t, std::size_t below) {
                        const double share =
                            (static_cast<double>(below) + 0.5 * static_cast<double>(in_among)) /
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
