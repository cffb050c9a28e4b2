// Rank tests in made-up studies, by limits for the statistic that are found once where there are no
// ties.
#ifndef VANDRO_REHEARSED_RANKS_HPP
#define VANDRO_REHEARSED_RANKS_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <memory>
#include <vector>

#include "normal.hpp"
#include "pairwise.hpp"
#include "ranks.hpp"
#include "rehearsal_plan.hpp"
#include "signed_rank_null.hpp"

namespace vandro {

namespace detail {

// Limits of a doubled rank statistic: reject at or below `low`, at or above `high`.
struct Limits {
  double low = -1.0, high = 0.0;
};

inline Limits limits_of(const RankNull& null, double tail) {
  return {static_cast<double>(low_limit(null, tail)), static_cast<double>(high_limit(null, tail))};
}

// The normal distribution with continuity correction, on the doubled scale.
inline Limits normal_limits(double mean, double sd, double tail) {
  const double reach = -probit(tail, 1.0 - tail) * sd + 0.5;
  return {2.0 * (mean - reach), 2.0 * (mean + reach)};
}

// The sum at the place where an interval ends, `steps` doubled steps of the statistic from that
// end; NaN where there is none.
inline double pairwise_end(const std::vector<double>& rows, const std::vector<double>& columns,
                           bool triangle, double steps, bool lower) {
  const PairwiseSums sums(rows, columns, triangle);
  const double place = std::floor(steps / 2.0) + 1.0;
  if (place < 1.0 || place > static_cast<double>(sums.size())) {
    return std::numeric_limits<double>::quiet_NaN();
  }
  const auto from_end = static_cast<std::uint64_t>(place);
  std::vector<double> found;
  sums.select({lower ? from_end - 1 : sums.size() - from_end}, found);
  return found[0];
}

inline std::vector<double> shifted(std::vector<double> x, double by) {
  for (double& value : x) value -= by;
  return x;
}

class RankRehearsal {
 public:
  RankRehearsal(std::size_t n, std::size_t m, const RehearsalPlan& plan)
      : plan_(plan), n_(n), m_(m) {
    if (!plan.exact_ranks) return;
    untied_ = UntiedRankSum::make(static_cast<std::int64_t>(n), static_cast<std::int64_t>(m));
    test_ = limits_of(*untied_, plan.sides.tail);
    width_ = limits_of(*untied_, plan.width_tail);
  }

  // Both sorted.
  Finding find(const std::vector<double>& first, const std::vector<double>& second,
               bool wide) const {
    Finding out;
    const Sides& sides = plan_.sides;
    const auto at = [&](double by, bool up) {
      const std::vector<double> x = shifted(first, by);
      const RankCounts counts = count_ranks(x.data(), n_, second.data(), m_);
      if (counts.distinct == 1) {
        out.defined = false;
        return false;
      }
      const Limits limits = limits_for(counts, x, second, sides.tail, test_);
      const double u = static_cast<double>(counts.doubled_u);
      return up ? u >= limits.high : u <= limits.low;
    };
    if (sides.up) out.up = at(sides.up_at, true);
    if (sides.down) out.down = at(sides.down_at, false);
    if (wide && out.defined) {
      out.half_width = 0.5 * (limit(first, second, false) - limit(first, second, true));
    }
    return out;
  }

 private:
  double limit(const std::vector<double>& first, const std::vector<double>& second,
               bool lower) const {
    const Sides& sides = plan_.sides;
    const std::vector<double> x = shifted(first, lower ? sides.lower_at() : sides.upper_at());
    const RankCounts counts = count_ranks(x.data(), n_, second.data(), m_);
    const Limits limits = limits_for(counts, x, second, plan_.width_tail, width_);
    std::vector<double> columns(second.rbegin(), second.rend());
    for (double& y : columns) y = -y;
    const double total = 2.0 * static_cast<double>(n_ * m_);
    return pairwise_end(first, columns, false, lower ? total - limits.high : limits.low, lower);
  }

  Limits limits_for(const RankCounts& counts, const std::vector<double>& first,
                    const std::vector<double>& second, double tail, const Limits& untied) const {
    if (counts.tied == 0 && plan_.exact_ranks) return untied;
    if (counts.tied > 0 && plan_.exact_ties) {
      const auto null = TiedRankSum::make(tie_runs(first.data(), n_, second.data(), m_),
                                          static_cast<std::int64_t>(n_));
      return limits_of(*null, tail);
    }
    const double n = static_cast<double>(n_), m = static_cast<double>(m_), all = n + m;
    const double sd =
        std::sqrt(n * m / 12.0 * std::max(0.0, all + 1.0 - counts.tie_sum / (all * (all - 1.0))));
    return normal_limits(0.5 * n * m, sd, tail);
  }

  const RehearsalPlan& plan_;
  std::size_t n_, m_;
  std::unique_ptr<UntiedRankSum> untied_;
  Limits test_, width_;
};

class SignedRankRehearsal {
 public:
  SignedRankRehearsal(std::size_t n, const RehearsalPlan& plan) : plan_(plan), n_(n) {
    if (!plan.exact_ranks) return;
    const auto null = SignedRankSum::make(std::vector<std::int32_t>(n, 1), 0);
    test_ = limits_of(*null, plan.sides.tail);
    width_ = limits_of(*null, plan.width_tail);
  }

  // Sorted changes; those equal to the null value take the lowest ranks and drop out of W.
  Finding find(const std::vector<double>& changes, bool wide) const {
    Finding out;
    const Sides& sides = plan_.sides;
    const auto at = [&](double by, bool up) {
      const std::vector<double> x = shifted(changes, by);
      const SignedRankCounts counts = count_signed_ranks(x.data(), x.size(), true);
      if (counts.zeros == counts.n) {
        out.defined = false;
        return false;
      }
      const Limits limits = limits_for(counts, sides.tail, test_);
      const double plus = static_cast<double>(counts.doubled_plus);
      return up ? plus >= limits.high : plus <= limits.low;
    };
    if (sides.up) out.up = at(sides.up_at, true);
    if (sides.down) out.down = at(sides.down_at, false);
    if (wide && out.defined) out.half_width = 0.5 * (limit(changes, false) - limit(changes, true));
    return out;
  }

 private:
  // The shifts that the test does not reject end here. Where all changes differ the untied limits
  // give the place at once; equal changes are tied at every shift, and each shift is tested.
  double limit(const std::vector<double>& changes, bool lower) const {
    if (std::adjacent_find(changes.begin(), changes.end()) == changes.end()) {
      const double all = static_cast<double>(n_) * (static_cast<double>(n_) + 1.0);
      Limits limits = width_;
      if (!plan_.exact_ranks) {
        const double squares = all * (2.0 * static_cast<double>(n_) + 1.0) / 6.0;
        limits = normal_limits(0.25 * all, 0.5 * std::sqrt(squares), plan_.width_tail);
      }
      return 0.5 *
             pairwise_end(changes, changes, true, lower ? all - limits.high : limits.low, lower);
    }
    return lower ? first_kept(changes) : -first_kept(negated(changes));
  }

  // Whether the test rejects the shift just above half a sum of two whole changes.
  bool rejected_above(const std::vector<double>& changes, double sum) const {
    const std::vector<double> x = shifted(changes, 0.5 * sum + 0.25);
    const SignedRankCounts counts = count_signed_ranks(x.data(), x.size(), true);
    return static_cast<double>(counts.doubled_plus) >=
           limits_for(counts, plan_.width_tail, width_).high;
  }

  double first_kept(const std::vector<double>& changes) const {
    if (!rejected_above(changes, 2.0 * changes.front() - 2.0)) {
      return std::numeric_limits<double>::quiet_NaN();
    }
    const PairwiseSums sums(changes, changes, true);
    const auto sum_at = [&](std::uint64_t place) {
      std::vector<double> found;
      sums.select({place}, found);
      return found[0];
    };
    std::uint64_t low = 0, high = sums.size() - 1;
    while (low < high) {
      const std::uint64_t middle = low + (high - low) / 2;
      if (rejected_above(changes, sum_at(middle)))
        low = middle + 1;
      else
        high = middle;
    }
    return 0.5 * sum_at(low);
  }

  Limits limits_for(const SignedRankCounts& counts, double tail, const Limits& untied) const {
    if (!plan_.exact_ranks) {
      const double total = 0.5 * static_cast<double>(counts.doubled_plus + counts.doubled_minus);
      return normal_limits(0.5 * total, 0.5 * std::sqrt(counts.rank_squares), tail);
    }
    if (counts.tied == 0 && counts.zeros == 0) return untied;
    const auto below = static_cast<std::int64_t>(counts.zeros);
    return limits_of(*SignedRankSum::make(counts.runs, below), tail);
  }

  const RehearsalPlan& plan_;
  std::size_t n_;
  Limits test_, width_;
};

}  // namespace detail

}  // namespace vandro

#endif
