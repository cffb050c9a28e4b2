// The studentized relative effect (Brunner & Munzel 2000) under random assignment of the observed
// values to two groups (Neubert & Brunner 2007): every assignment, or random ones.
#ifndef VANDRO_RELATIVE_HPP
#define VANDRO_RELATIVE_HPP

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <numeric>
#include <utility>
#include <vector>

#include "parallel.hpp"
#include "random.hpp"
#include "ranks.hpp"

namespace vandro {

// Whole numbers that the statistic is made of: t = lead sqrt((n - 1)(m - 1) / spread).
struct RelativeParts {
  Wide lead = 0, spread = 0;

  double statistic(std::int64_t n, std::int64_t m) const {
    if (lead == 0) return 0.0;
    const double sign = lead > 0 ? 1.0 : -1.0;
    // Complete separation.
    if (spread == 0) return sign * std::numeric_limits<double>::infinity();
    return static_cast<double>(lead) *
           std::sqrt(static_cast<double>((n - 1) * (m - 1)) / static_cast<double>(spread));
  }
  // The logit of the estimate over its standard error (Pauly et al. 2016).
  double logit_statistic(std::int64_t n, std::int64_t m) const {
    const double t = statistic(n, m);
    if (t == 0.0 || std::isinf(t)) return t;
    const double pairs = static_cast<double>(n * m),
                 gap = static_cast<double>(lead) / (2.0 * pairs);
    const double se = gap / t, estimate = 0.5 + gap;
    return std::log(estimate / (1.0 - estimate)) * estimate * (1.0 - estimate) / se;
  }
  // -1, 0, 1: how t compares with another one, exactly.
  int compare(const RelativeParts& other) const {
    const auto sign = [](Wide x) { return (x > 0) - (x < 0); };
    const int mine = sign(lead), others = sign(other.lead);
    if (mine != others || mine == 0) return (mine > others) - (mine < others);
    const Wide a = lead * lead * other.spread, b = other.lead * other.lead * spread;
    return mine * ((a > b) - (a < b));
  }
};

// Sums over the different values in increasing order, of each how many are in first and in second.
class RelativeSums {
 public:
  void add(std::int64_t in_first, std::int64_t in_second) {
    const std::int64_t of_first = 2 * second_ + in_second, of_second = 2 * first_ + in_first;
    doubled_u_ += in_first * of_first;
    squares_first_ += static_cast<Wide>(of_first * of_first) * in_first;
    squares_second_ += static_cast<Wide>(of_second * of_second) * in_second;
    first_ += in_first;
    second_ += in_second;
  }
  // After all values.
  RelativeParts parts() const {
    const std::int64_t pairs = first_ * second_;
    const Wide u = doubled_u_, v = 2 * static_cast<Wide>(pairs) - doubled_u_;
    const Wide spread_first = first_ * squares_first_ - u * u;
    const Wide spread_second = second_ * squares_second_ - v * v;
    return {u - pairs, spread_first * (second_ - 1) + spread_second * (first_ - 1)};
  }

 private:
  std::int64_t first_ = 0, second_ = 0, doubled_u_ = 0;
  Wide squares_first_ = 0, squares_second_ = 0;
};

// Statistics of assignments, each with its weight; how much weight lies at or beyond the observed
// t.
struct RelativeNull {
  std::vector<double> statistics, logits, weights;
  double at_least = 0.0, at_most = 0.0, total = 0.0;

  void add(const RelativeParts& parts, const RelativeParts& observed, double weight, std::int64_t n,
           std::int64_t m) {
    const int side = parts.compare(observed);
    statistics.push_back(parts.statistic(n, m));
    logits.push_back(parts.logit_statistic(n, m));
    weights.push_back(weight);
    total += weight;
    if (side >= 0) at_least += weight;
    if (side <= 0) at_most += weight;
  }
};

// Different assignments of `n_first` values, equal values not told apart.
inline double count_assignments(const std::vector<std::int32_t>& runs, std::int64_t n_first) {
  std::vector<double> ways(static_cast<std::size_t>(n_first) + 1, 0.0);
  ways[0] = 1.0;
  for (const std::int32_t run : runs) {
    for (std::size_t k = ways.size(); k-- > 0;) {
      for (std::size_t taken = 1; taken <= std::min(k, static_cast<std::size_t>(run)); ++taken) {
        ways[k] += ways[k - taken];
      }
    }
  }
  return ways.back();
}

namespace detail {

inline RelativeParts observed_parts(const std::vector<std::int32_t>& runs,
                                    const std::vector<std::int32_t>& in_first) {
  RelativeSums sums;
  for (std::size_t g = 0; g < runs.size(); ++g) sums.add(in_first[g], runs[g] - in_first[g]);
  return sums.parts();
}

class RelativeEnumeration {
 public:
  RelativeEnumeration(const std::vector<std::int32_t>& runs,
                      const std::vector<std::int32_t>& in_first,
                      const std::function<bool()>& keep_going)
      : runs_(runs), keep_going_(keep_going), observed_(observed_parts(runs, in_first)) {
    n_ = std::accumulate(in_first.begin(), in_first.end(), std::int64_t{0});
    m_ = std::accumulate(runs.begin(), runs.end(), std::int64_t{0}) - n_;
  }
  bool run(RelativeNull& out) {
    out_ = &out;
    descend(0, n_, n_ + m_, RelativeSums(), 1.0);
    return !stopped_;
  }

 private:
  void descend(std::size_t g, std::int64_t wanted, std::int64_t left, const RelativeSums& sums,
               double weight) {
    if (stopped_) return;
    if (g == runs_.size()) {
      out_->add(sums.parts(), observed_, weight, n_, m_);
      if ((out_->statistics.size() & 0xFFFF) == 0 && keep_going_ && !keep_going_()) stopped_ = true;
      return;
    }
    const std::int64_t run = runs_[g];
    const std::int64_t least = std::max<std::int64_t>(0, wanted - (left - run));
    const std::int64_t most = std::min(run, wanted);
    for (std::int64_t taken = least; taken <= most; ++taken) {
      RelativeSums next = sums;
      next.add(taken, run - taken);
      descend(g + 1, wanted - taken, left - run, next, weight * choose(run, taken));
    }
  }
  static double choose(std::int64_t n, std::int64_t k) {
    double out = 1.0;
    for (std::int64_t i = 1; i <= k; ++i)
      out = out * static_cast<double>(n - k + i) / static_cast<double>(i);
    return out;
  }

  const std::vector<std::int32_t>& runs_;
  const std::function<bool()>& keep_going_;
  RelativeParts observed_;
  std::int64_t n_ = 0, m_ = 0;
  RelativeNull* out_ = nullptr;
  bool stopped_ = false;
};

}  // namespace detail

// Every assignment. `runs`: how many values are equal to each different one, in increasing order;
// `in_first`: how many of them are in the first group.
inline bool enumerate_relative(const std::vector<std::int32_t>& runs,
                               const std::vector<std::int32_t>& in_first, RelativeNull& out,
                               const std::function<bool()>& keep_going = {}) {
  return detail::RelativeEnumeration(runs, in_first, keep_going).run(out);
}

// `draws` random assignments, each from a stream of its own.
inline bool sample_relative(const std::vector<std::int32_t>& runs,
                            const std::vector<std::int32_t>& in_first, std::uint64_t seed,
                            std::size_t draws, int threads, RelativeNull& out,
                            const std::function<bool()>& keep_going = {}) {
  const RelativeParts observed = detail::observed_parts(runs, in_first);
  std::vector<std::uint32_t> run_of;
  for (std::uint32_t g = 0; g < runs.size(); ++g) {
    run_of.insert(run_of.end(), static_cast<std::size_t>(runs[g]), g);
  }
  const auto n = std::accumulate(in_first.begin(), in_first.end(), std::int64_t{0});
  const auto m = static_cast<std::int64_t>(run_of.size()) - n;
  std::vector<RelativeParts> drawn(draws);
  constexpr std::size_t in_piece = 256;
  const bool finished = in_pieces(
      (draws + in_piece - 1) / in_piece, threads,
      [&](std::size_t piece) {
        std::vector<std::uint32_t> order = run_of;
        std::vector<std::int32_t> taken(runs.size());
        for (std::size_t k = piece * in_piece; k < std::min(draws, (piece + 1) * in_piece); ++k) {
          Random random(seed, k);
          order = run_of;
          std::fill(taken.begin(), taken.end(), 0);
          for (std::uint32_t i = 0; i < static_cast<std::uint32_t>(n); ++i) {
            const std::uint32_t at = i + random.below(static_cast<std::uint32_t>(order.size()) - i);
            std::swap(order[i], order[at]);
            ++taken[order[i]];
          }
          drawn[k] = detail::observed_parts(runs, taken);
        }
      },
      keep_going);
  if (finished) {
    for (const RelativeParts& parts : drawn) out.add(parts, observed, 1.0, n, m);
  }
  return finished;
}

}  // namespace vandro

#endif
