// Rank statistics of samples drawn with replacement, from two groups or from changes.
#ifndef VANDRO_RANK_BOOTSTRAP_HPP
#define VANDRO_RANK_BOOTSTRAP_HPP

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <vector>

#include "bootstrap.hpp"
#include "pairwise.hpp"
#include "ranks.hpp"

namespace vandro {

// `share`: U over the number of pairs, or the sum of the ranks of positive changes over that of
// all; `z`: the standardized statistic; `centre`: median of the pairwise differences or means, NaN
// unless asked for. NaN where a draw has none.
struct DrawnRanks {
  double share = 0.0, z = 0.0, centre = std::numeric_limits<double>::quiet_NaN();
};

inline double pairwise_median(const PairwiseSums& sums) {
  const std::uint64_t size = sums.size();
  std::vector<double> middle;
  sums.select({(size - 1) / 2, size / 2}, middle);
  return middle[0] == middle[1] ? middle[0] : 0.5 * (middle[0] + middle[1]);
}

// U less its mean over its standard deviation, given the ties.
inline double rank_sum_z(const RankCounts& counts) {
  const double n = static_cast<double>(counts.n_first), m = static_cast<double>(counts.n_second);
  const double all = n + m;
  const double variance = n * m / 12.0 * ((all + 1.0) - counts.tie_sum / (all * (all - 1.0)));
  return (0.5 * static_cast<double>(counts.doubled_u) - 0.5 * n * m) / std::sqrt(variance);
}

inline double signed_rank_z(const SignedRankCounts& counts) {
  const double gap =
      0.5 * (static_cast<double>(counts.doubled_plus) - static_cast<double>(counts.doubled_minus));
  return gap / std::sqrt(counts.rank_squares);
}

namespace detail {

// A sorted sample drawn from a sorted one.
inline std::vector<double> draw_sorted(const std::vector<double>& from, Random& random) {
  const auto n = static_cast<std::uint32_t>(from.size());
  std::vector<std::uint32_t> times(n, 0);
  for (std::uint32_t i = 0; i < n; ++i) ++times[random.below(n)];
  std::vector<double> out;
  out.reserve(n);
  for (std::uint32_t i = 0; i < n; ++i) out.insert(out.end(), times[i], from[i]);
  return out;
}

}  // namespace detail

// Both groups sorted.
inline bool bootstrap_ranks(const std::vector<double>& first, const std::vector<double>& second,
                            std::uint64_t seed, std::size_t from, std::size_t to, int threads,
                            bool with_centre, std::vector<DrawnRanks>& out,
                            const std::function<bool()>& keep_going = {}) {
  out.resize(to - from);
  return detail::for_draws(
      from, to, threads,
      [&](std::size_t k) {
        Random random(seed, k);
        const std::vector<double> a = detail::draw_sorted(first, random);
        const std::vector<double> b = detail::draw_sorted(second, random);
        const RankCounts counts = count_ranks(a.data(), a.size(), b.data(), b.size());
        DrawnRanks& drawn = out[k - from];
        drawn.share = 0.5 * static_cast<double>(counts.doubled_u) /
                      (static_cast<double>(a.size()) * static_cast<double>(b.size()));
        drawn.z = rank_sum_z(counts);
        if (with_centre) drawn.centre = pairwise_median(PairwiseSums(a, negated(b), false));
      },
      keep_going);
}

// Changes, sorted; zeros ranked or dropped as in the test, the centre of all of them.
inline bool bootstrap_signed_ranks(const std::vector<double>& changes, bool rank_zeros,
                                   std::uint64_t seed, std::size_t from, std::size_t to,
                                   int threads, bool with_centre, std::vector<DrawnRanks>& out,
                                   const std::function<bool()>& keep_going = {}) {
  out.resize(to - from);
  return detail::for_draws(
      from, to, threads,
      [&](std::size_t k) {
        Random random(seed, k);
        std::vector<double> drawn_changes = detail::draw_sorted(changes, random);
        const SignedRankCounts counts =
            count_signed_ranks(drawn_changes.data(), drawn_changes.size(), rank_zeros);
        DrawnRanks& drawn = out[k - from];
        drawn.share = static_cast<double>(counts.doubled_plus) /
                      static_cast<double>(counts.doubled_plus + counts.doubled_minus);
        drawn.z = signed_rank_z(counts);
        if (!with_centre) return;
        drawn.centre = 0.5 * pairwise_median(PairwiseSums(drawn_changes, drawn_changes, true));
      },
      keep_going);
}

}  // namespace vandro

#endif
