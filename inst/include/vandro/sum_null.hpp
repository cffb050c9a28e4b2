// Exact distributions of sums under reassignment and under random signs, of values that are whole
// numbers: decimals in steps of their last digit, or measurements rounded to a grid. In the second
// case what the rounding leaves open is bounded by the largest and smallest remainders.
#ifndef VANDRO_SUM_NULL_HPP
#define VANDRO_SUM_NULL_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <numeric>
#include <utility>
#include <vector>

#include "reassign.hpp"
#include "signed_rank_null.hpp"
#include "subset_sums.hpp"

namespace vandro {

// A tail probability with the ends between which it lies for certain.
struct BoundedTail {
  double p = 0.0, log_p = 0.0, low = 0.0, high = 0.0;
};

// Values as multiples of a grid, and what is left of each.
struct GridValues {
  std::vector<std::int64_t> whole;
  std::vector<double> rest;  // in steps of the grid; empty where nothing is left
};

inline GridValues on_grid(const std::vector<double>& values, double origin, double step) {
  GridValues out;
  bool any = false;
  for (const double value : values) {
    const double place = (value - origin) / step, whole = std::nearbyint(place);
    out.whole.push_back(static_cast<std::int64_t>(whole));
    out.rest.push_back(place - whole);
    any = any || place != whole;
  }
  if (!any) out.rest.clear();
  return out;
}

namespace detail {

// Least and largest sums of k of the remainders, k = 0 .. n, and their mean.
struct RestSums {
  std::vector<double> least, largest;
  double mean = 0.0;
  RestSums(std::vector<double> rest, std::size_t n) : least(n + 1, 0.0), largest(n + 1, 0.0) {
    if (rest.empty()) return;
    std::sort(rest.begin(), rest.end());
    for (std::size_t k = 0; k < n; ++k) {
      least[k + 1] = least[k] + rest[k];
      largest[k + 1] = largest[k] + rest[n - 1 - k];
    }
    mean = largest[n] / static_cast<double>(n);
  }
};

// Rounding in the sums of remainders.
constexpr double rest_slack = 1e-9;

}  // namespace detail

// `low`: the tail that grows with a shift of the first group.
struct BothTails {
  BoundedTail low, high;
  bool finished = false;
};

namespace detail {

inline BoundedTail certain_tail(const Tail& tail) { return {tail.p, tail.log_p, tail.p, tail.p}; }

// Between the tails `a` and `b` of neighbouring whole sums, `share` of the way, and within its
// ends; these are wider by what roundings of the tails themselves could hide. `one`: of one
// assignment.
inline BoundedTail bounded_tail(double inner, double outer, double a, double b, double share,
                                double one) {
  inner = std::clamp(std::max(inner, one) * (1.0 - 1e-12), 0.0, 1.0);
  outer = std::clamp(outer * (1.0 + 1e-12), inner, 1.0);
  const double p = std::clamp((1.0 - share) * a + share * b, inner, outer);
  return {p, std::log(p), inner, outer};
}

}  // namespace detail

// How often k values exchanged between two groups have a sum that falls by at most k times a shift:
// counted once for every shift.
class GroupSums {
 public:
  static std::unique_ptr<GroupSums> make(const GridValues& first, const GridValues& second,
                                         const std::function<bool()>& keep_going = {}) {
    std::unique_ptr<GroupSums> out(new GroupSums(first, second));
    return out->build(first.whole, second.whole, keep_going) ? std::move(out) : nullptr;
  }

  static Cost cost(std::vector<double> first, std::vector<double> second) {
    const std::size_t most = std::min(first.size(), second.size());
    double steps = 0.0, cells = 0.0;
    for (auto* side : {&first, &second}) {
      std::sort(side->begin(), side->end());
      const std::size_t n = side->size();
      std::vector<double> below(n + 1, 0.0);
      std::partial_sum(side->begin(), side->end(), below.begin() + 1);
      for (std::size_t j = 1; j <= most; ++j) {
        const double reach = below[n] - below[n - j] - below[j] + 1.0;
        cells += (side == &first ? 1.0 : 3.0) * reach;
        // Rows grow with every element.
        steps += reach * static_cast<double>(n - j + 1) * 0.4 + 60.0 * static_cast<double>(n);
      }
    }
    // The counts, and some forty looks at them for the limits.
    return {0.9 * steps + 25.0 * cells, 8.0 * cells};
  }

  // P(fall <= k shift): the tail that grows with the shift. `shift` in steps of the grid.
  BoundedTail at_most(double shift) const { return tail(shift, true); }
  // P(fall >= k shift).
  BoundedTail at_least(double shift) const { return tail(shift, false); }
  // The same at the fraction over / under, in whole numbers.
  double at_most(std::int64_t over, std::int64_t under) const {
    return exact_tail(over, under, true).p;
  }
  double at_least(std::int64_t over, std::int64_t under) const {
    return exact_tail(over, under, false).p;
  }
  // Most values that can be exchanged.
  std::int64_t most() const { return static_cast<std::int64_t>(rows_.rows.size()) - 1; }
  // One of all assignments.
  double least_p() const { return detail::as_tail(1.0, 0, all_).p; }

 private:
  GroupSums(const GridValues& first, const GridValues& second)
      : rest_first_(first.rest, first.whole.size()),
        rest_second_(second.rest, second.whole.size()),
        rounded_(!first.rest.empty() || !second.rest.empty()) {}

  bool build(std::vector<std::int64_t> first, std::vector<std::int64_t> second,
             const std::function<bool()>& keep_going) {
    const std::size_t most = std::min(first.size(), second.size());
    std::sort(first.begin(), first.end());
    std::sort(second.begin(), second.end(), std::greater<std::int64_t>());
    // Both counted from their ends upwards, the second group's with its sign turned.
    start_ = first[0] - second[0];
    const std::int64_t base = first[0], top = second[0];
    for (std::int64_t& value : first) value -= base;
    for (std::int64_t& value : second) value = top - value;
    all_ = detail::binomial(static_cast<std::int64_t>(first.size() + second.size()),
                            static_cast<std::int64_t>(first.size()));
    shift_ = std::max(0L, (all_.exponent - 900) / 2);
    const double one = std::ldexp(1.0, static_cast<int>(-shift_));
    detail::SubsetSums other;
    if (!detail::count_subsets(first, 0, most, one, rows_, keep_going) ||
        !detail::count_subsets(second, 0, most, one, other, keep_going)) {
      return false;
    }
    other_base_ = std::move(other.base);
    for (detail::Counts& row : other.rows) {
      from_below_.push_back(detail::running_from_below(row));
      from_above_.push_back(detail::running_from_above(row));
      detail::Counts().swap(row);
    }
    return true;
  }

  // Weight of the falls of k exchanged values of at most (or at least) `fall`.
  double weight(std::size_t k, double fall, bool low) const {
    const double place = fall - static_cast<double>(static_cast<std::int64_t>(k) * start_ +
                                                    rows_.base[k] + other_base_[k]);
    const double ends = static_cast<double>(rows_.rows[k].size() + from_below_[k].size());
    const auto at = static_cast<std::int64_t>(std::clamp(place, -1.0, ends + 1.0));
    const detail::Counts& running = low ? from_below_[k] : from_above_[k];
    return detail::product_sum(rows_.rows[k], running, at, low ? 0.0 : running.front(),
                               low ? running.back() : 0.0);
  }
  // Between whole falls, each being the middle of a stretch of its own.
  double between(std::size_t k, double fall, bool low) const {
    const double whole = std::floor(fall - 0.5) + (low ? 0.0 : 1.0);
    const double share = fall - 0.5 - std::floor(fall - 0.5);
    return (1.0 - share) * weight(k, whole, low) + share * weight(k, whole + 1.0, low);
  }

  BoundedTail tail(double shift, bool low) const {
    detail::CarriedSum middle, least, most;
    for (std::size_t k = 0; k < rows_.rows.size(); ++k) {
      const double wanted = static_cast<double>(k) * shift;
      if (!rounded_ || k == 0) {
        middle.add(weight(k, k == 0 ? 0.0 : low ? std::floor(wanted) : std::ceil(wanted), low));
        continue;
      }
      const double largest = rest_first_.largest[k] - rest_second_.least[k] + detail::rest_slack;
      const double smallest = rest_first_.least[k] - rest_second_.largest[k] - detail::rest_slack;
      const double mean = static_cast<double>(k) * (rest_first_.mean - rest_second_.mean);
      const double inner = low ? std::floor(wanted - largest) : std::ceil(wanted - smallest);
      const double outer = low ? std::floor(wanted - smallest) : std::ceil(wanted - largest);
      least.add(weight(k, inner, low));
      most.add(weight(k, outer, low));
      middle.add(between(k, wanted - mean, low));
    }
    const double first = weight(0, 0.0, low);
    if (!rounded_) return detail::certain_tail(detail::as_tail(middle.total(), 2 * shift_, all_));
    const Tail inner = detail::as_tail(first + least.total(), 2 * shift_, all_);
    const Tail outer = detail::as_tail(first + most.total(), 2 * shift_, all_);
    const double sum = std::clamp(middle.total(), first + least.total(), first + most.total());
    const Tail found = detail::as_tail(sum, 2 * shift_, all_);
    // Wider by what roundings of the tails themselves could hide.
    return {found.p, found.log_p, inner.p * (1.0 - 1e-12), std::min(1.0, outer.p * (1.0 + 1e-12))};
  }

  Tail exact_tail(std::int64_t over, std::int64_t under, bool low) const {
    detail::CarriedSum sum;
    for (std::size_t k = 0; k < rows_.rows.size(); ++k) {
      const std::int64_t product = static_cast<std::int64_t>(k) * over;
      std::int64_t fall = product / under;
      if (product % under != 0 && (product < 0) == low) fall += low ? -1 : 1;
      sum.add(weight(k, static_cast<double>(fall), low));
    }
    return detail::as_tail(sum.total(), 2 * shift_, all_);
  }

  detail::RestSums rest_first_, rest_second_;
  bool rounded_;
  std::int64_t start_ = 0;
  long shift_ = 0;
  detail::Scaled all_;
  detail::SubsetSums rows_;
  std::vector<std::int64_t> other_base_;
  std::vector<detail::Counts> from_below_, from_above_;
};

// Sums of the changes whose sign is flipped, at most 0 (`low`) and at least 0.
inline BothTails flip_tails(const GridValues& changes,
                            const std::function<bool()>& keep_going = {}) {
  // Flipping the negative ones back turns sums of signed values into sums of sizes.
  std::vector<std::int64_t> sizes;
  std::int64_t negative = 0;
  for (const std::int64_t value : changes.whole) {
    sizes.push_back(std::abs(value));
    if (value < 0) negative -= value;
  }
  BothTails out;
  const double one = std::ldexp(1.0, -static_cast<int>(std::min<std::size_t>(sizes.size(), 1074)));
  if (std::all_of(sizes.begin(), sizes.end(), [](std::int64_t size) { return size == 0; })) {
    const bool exact = changes.rest.empty();
    out.low = out.high = {1.0, 0.0, exact ? 1.0 : one, 1.0};
    out.finished = true;
    return out;
  }
  const auto null = SignedRankSum::of_scores(sizes, keep_going);
  if (!null) return out;
  out.finished = true;
  if (changes.rest.empty()) {
    out.low = detail::certain_tail(null->at_most(negative));
    out.high = detail::certain_tail(null->at_least(negative));
    return out;
  }
  double down = 0.0, up = 0.0;
  for (const double rest : changes.rest) (rest < 0.0 ? down : up) += rest;
  const double mean = 0.5 * (down + up);
  down -= detail::rest_slack;
  up += detail::rest_slack;
  const auto low_at = [&](double sum) {
    return null->at_most(negative + static_cast<std::int64_t>(std::floor(sum))).p;
  };
  const auto high_at = [&](double sum) {
    return null->at_least(negative + static_cast<std::int64_t>(std::ceil(sum))).p;
  };
  const double whole = std::floor(-mean - 0.5), share = -mean - 0.5 - whole;
  out.low = detail::bounded_tail(low_at(-up), low_at(-down), low_at(whole), low_at(whole + 1.0),
                                 share, one);
  out.high = detail::bounded_tail(high_at(-down), high_at(-up), high_at(whole + 1.0),
                                  high_at(whole + 2.0), share, one);
  return out;
}

// Time and memory of flip_tails(), from the sum of the sizes: long counts do not stay in the cache.
inline Cost flip_cost(double n, double total) {
  const double each = total > 2e5 ? 1.2 : 0.6;
  return {each * n * total / 4.0 + 12.0 * total, 12.0 * total};
}

}  // namespace vandro

#endif
