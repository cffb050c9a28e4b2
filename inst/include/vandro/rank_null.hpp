// Exact distributions of rank statistics when every assignment is equally likely, given the ties
// (shift algorithm of Streitberg & Roehmel 1986 on doubled midranks).
//
// Sums over the lower and over the upper half of the ranks are counted apart, and a tail is the sum
// of the products of the counts of one half with the tails of the other: a quarter of the work of
// counting all sums, and every term is positive, so that small tails keep their digits.
#ifndef VANDRO_RANK_NULL_HPP
#define VANDRO_RANK_NULL_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <functional>
#include <limits>
#include <memory>
#include <numeric>
#include <utility>
#include <vector>

#include "ranks.hpp"
#include "subset_sums.hpp"

namespace vandro {

// The distribution of a statistic on the whole numbers from `least()` in steps of `step()` up to
// `most()`.
class RankNull {
 public:
  virtual ~RankNull() = default;
  virtual Tail at_most(std::int64_t w) const = 0;   // P(statistic <= w)
  virtual Tail at_least(std::int64_t w) const = 0;  // P(statistic >= w)
  std::int64_t least() const { return least_; }
  std::int64_t most() const { return most_; }
  std::int64_t step() const { return step_; }

 protected:
  std::int64_t least_ = 0, most_ = 0, step_ = 1;
};

// A tail that equals `alpha` up to the accuracy of its computation counts as not above it.
inline bool within_alpha(const Tail& tail, double alpha) { return tail.p <= alpha * (1.0 + 1e-12); }

// The largest w with P(statistic <= w) <= alpha, attained or not; least() - 1 where there is none.
inline std::int64_t low_limit(const RankNull& null, double alpha) {
  std::int64_t inside = -1;  // steps from least() that are within alpha
  std::int64_t outside = (null.most() - null.least()) / null.step();
  while (outside - inside > 1) {
    const std::int64_t middle = inside + (outside - inside) / 2;
    if (within_alpha(null.at_most(null.least() + middle * null.step()), alpha)) {
      inside = middle;
    } else {
      outside = middle;
    }
  }
  return null.least() + (inside + 1) * null.step() - 1;
}

// The smallest w with P(statistic >= w) <= alpha; most() + 1 where there is none.
inline std::int64_t high_limit(const RankNull& null, double alpha) {
  std::int64_t outside = 0;
  std::int64_t inside = (null.most() - null.least()) / null.step() + 1;
  while (inside - outside > 1) {
    const std::int64_t middle = outside + (inside - outside) / 2;
    if (within_alpha(null.at_least(null.least() + middle * null.step()), alpha)) {
      inside = middle;
    } else {
      outside = middle;
    }
  }
  return null.least() + (inside - 1) * null.step() + 1;
}

namespace detail {

// Doubled midranks of runs of equal values, in increasing order.
inline std::vector<std::int64_t> doubled_midranks(const std::vector<std::int32_t>& runs,
                                                  std::int64_t below = 0) {
  std::vector<std::int64_t> out;
  for (const std::int32_t run : runs) {
    out.insert(out.end(), static_cast<std::size_t>(run), 2 * below + run + 1);
    below += run;
  }
  return out;
}

}  // namespace detail

// Twice the U of the first of two samples, given the runs of equal values of both together.
class TiedRankSum : public RankNull {
 public:
  // Logarithm to base 2 of the most subsets of one size that a half may have.
  static constexpr double most_bits = 1000.0;

  static std::unique_ptr<TiedRankSum> make(const std::vector<std::int32_t>& runs,
                                           std::int64_t n_first,
                                           const std::function<bool()>& keep_going = {}) {
    std::unique_ptr<TiedRankSum> out(new TiedRankSum);
    return out->build(runs, n_first, keep_going) ? std::move(out) : nullptr;
  }

  static Cost cost(double n_first, double n_second) {
    const double most = std::min(n_first, n_second);
    const double half = (n_first + n_second) / 2.0;
    // Doubled midranks with ties are neighbours at a distance of about 2.
    return {1.0 * 2.0 * detail::count_subsets_steps(half, most, 2.0),
            8.0 * 4.0 * detail::subset_cells(half, most, 2.0)};
  }

  Tail at_most(std::int64_t w) const override {
    return swapped_ ? tail(doubled_pairs_ - w, false) : tail(w, true);
  }
  Tail at_least(std::int64_t w) const override {
    return swapped_ ? tail(doubled_pairs_ - w, true) : tail(w, false);
  }

 private:
  // Counts the sums of the smaller sample; that of the larger one is told by it.
  bool build(const std::vector<std::int32_t>& runs, std::int64_t n_first,
             const std::function<bool()>& keep_going) {
    std::vector<std::int64_t> scores = detail::doubled_midranks(runs);
    const auto n = static_cast<std::int64_t>(scores.size());
    const std::int64_t lowest = scores[0];
    step_ = 0;
    for (std::int64_t& score : scores) step_ = std::gcd(step_, score -= lowest);
    if (step_ == 0) step_ = 1;
    for (std::int64_t& score : scores) score /= step_;
    doubled_pairs_ = 2 * n_first * (n - n_first);
    swapped_ = 2 * n_first > n;
    const std::int64_t chosen = swapped_ ? n - n_first : n_first;
    chosen_ = static_cast<std::size_t>(chosen);
    all_ = detail::binomial(n, chosen);
    // The sum of the chosen scores as doubled U.
    offset_ = chosen * lowest - chosen * (chosen + 1);
    const std::int64_t low =
        std::accumulate(scores.begin(), scores.begin() + chosen, std::int64_t{0});
    const std::int64_t high = std::accumulate(scores.end() - chosen, scores.end(), std::int64_t{0});
    least_ = offset_ + step_ * (swapped_ ? high : low);
    most_ = offset_ + step_ * (swapped_ ? low : high);
    if (swapped_) {
      least_ = doubled_pairs_ - least_;
      most_ = doubled_pairs_ - most_;
    }
    return count(scores, keep_going);
  }

  bool count(const std::vector<std::int64_t>& scores, const std::function<bool()>& keep_going) {
    const auto half = scores.begin() + static_cast<std::ptrdiff_t>(scores.size() / 2);
    const std::vector<std::int64_t> low(scores.begin(), half);
    std::vector<std::int64_t> high(half, scores.end());
    upper_start_ = high[0];
    for (std::int64_t& score : high) score -= upper_start_;
    const auto spare = [this](std::size_t size) { return chosen_ > size ? chosen_ - size : 0; };
    shift_ = static_cast<long>(most_subsets(high.size(), chosen_) / 2.0);
    if (shift_ < 240) shift_ = 0;
    const double one = std::ldexp(1.0, static_cast<int>(-shift_));
    detail::SubsetSums upper;
    if (!detail::count_subsets(low, spare(high.size()), std::min(chosen_, low.size()), one, lower_,
                               keep_going) ||
        !detail::count_subsets(high, spare(low.size()), std::min(chosen_, high.size()), one, upper,
                               keep_going)) {
      return false;
    }
    upper_base_ = std::move(upper.base);
    for (detail::Counts& row : upper.rows) {
      from_below_.push_back(detail::running_from_below(row));
      from_above_.push_back(detail::running_from_above(row));
      detail::Counts().swap(row);
    }
    return true;
  }

  // Logarithm to base 2 of the largest number of subsets of one size, at most `most`.
  static double most_subsets(std::size_t n, std::size_t most) {
    return detail::binomial(static_cast<std::int64_t>(n),
                            static_cast<std::int64_t>(std::min(most, n / 2)))
        .log2();
  }

  Tail tail(std::int64_t w, bool low) const {
    const std::int64_t from = w - offset_;
    // The sum of scores at w; between two sums, the one on the side of the tail.
    std::int64_t sum = from / step_;
    if (from % step_ != 0 && (from < 0) == low) sum += low ? -1 : 1;
    detail::CarriedSum total;
    for (std::size_t j = 0; j < lower_.rows.size(); ++j) {
      const std::size_t rest = chosen_ - j;
      if (rest >= upper_base_.size()) continue;
      const std::int64_t at =
          sum - lower_.base[j] - upper_base_[rest] - static_cast<std::int64_t>(rest) * upper_start_;
      const detail::Counts& running = low ? from_below_[rest] : from_above_[rest];
      total.add(detail::product_sum(lower_.rows[j], running, at, low ? 0.0 : running.front(),
                                    low ? running.back() : 0.0));
    }
    return detail::as_tail(total.total(), 2 * shift_, all_);
  }

  bool swapped_ = false;
  std::size_t chosen_ = 0;
  std::int64_t doubled_pairs_ = 0, upper_start_ = 0, offset_ = 0;
  long shift_ = 0;
  detail::Scaled all_;
  detail::SubsetSums lower_;
  std::vector<std::int64_t> upper_base_;
  std::vector<detail::Counts> from_below_, from_above_;
};

namespace detail {

// high + low += add_high + add_low, 106 bits (Dekker 1971); of single numbers or of several side by
// side.
template <class Number>
VANDRO_INLINE void add_double2(Number& high, Number& low, const Number& add_high,
                               const Number& add_low) {
  const Number s = high + add_high;
  const Number v = s - high;
  const Number e = (high - (s - v)) + (add_high - v);
  const Number t = low + add_low;
  const Number u = t - low;
  const Number f = (low - (t - u)) + (add_low - u);
  const Number c = e + t;
  const Number sum = s + c;
  const Number rest = f + (c - (sum - s));
  high = sum + rest;
  low = rest - (high - sum);
}

// Coefficients of a polynomial to 106 bits.
struct Double2s {
  std::vector<double> high, low;
  explicit Double2s(std::size_t n) : high(n, 0.0), low(n, 0.0) {}

  // x[s] += sign * x[s - by] for one coefficient or four, all read before any is written.
  template <class Number>
  VANDRO_INLINE void add_shifted(std::size_t s, std::size_t by, double sign) {
    Number a, b, c, d;
    std::memcpy(&a, &high[s], sizeof a);
    std::memcpy(&b, &low[s], sizeof b);
    std::memcpy(&c, &high[s - by], sizeof c);
    std::memcpy(&d, &low[s - by], sizeof d);
    c = c * sign;
    d = d * sign;
    add_double2(a, b, c, d);
    std::memcpy(&high[s], &a, sizeof a);
    std::memcpy(&low[s], &b, sizeof b);
  }
};

// Times 1 - q^by: from the end, so that what is subtracted is still the old coefficient.
VANDRO_WIDE inline void multiply_double2(Double2s& x, std::size_t by) {
  std::size_t s = x.high.size();
  for (; s >= by + 4; s -= 4) x.add_shifted<Lanes>(s - 4, by, -1.0);
  for (; s > by; --s) x.add_shifted<double>(s - 1, by, -1.0);
}

// Over 1 - q^by: from the front, so that what is added is the new one.
VANDRO_WIDE inline void divide_double2(Double2s& x, std::size_t by) {
  std::size_t s = by;
  if (by >= 4) {
    for (; s + 4 <= x.high.size(); s += 4) x.add_shifted<Lanes>(s, by, 1.0);
  }
  for (; s < x.high.size(); ++s) x.add_shifted<double>(s, by, 1.0);
}

}  // namespace detail

// The same without ties: the coefficients of prod (1 - q^(m + i)) / (1 - q^i), i <= n (Mann &
// Whitney 1947 count them one by one). Multiplication subtracts, hence the 106 bits.
class UntiedRankSum : public RankNull {
 public:
  // Logarithm to base 2 of the most assignments.
  static constexpr double most_bits = 1900.0;

  static std::unique_ptr<UntiedRankSum> make(std::int64_t n_first, std::int64_t n_second,
                                             const std::function<bool()>& keep_going = {}) {
    std::unique_ptr<UntiedRankSum> out(new UntiedRankSum);
    return out->build(n_first, n_second, keep_going) ? std::move(out) : nullptr;
  }

  static Cost cost(double n_first, double n_second) {
    const double cells = n_first * n_second / 2.0 + 1.0;
    return {2.5 * 2.0 * std::min(n_first, n_second) * cells, 24.0 * cells};
  }

  Tail at_most(std::int64_t w) const override { return u_at_most(w < 0 ? -1 : w / 2); }
  // The distribution is symmetric.
  Tail at_least(std::int64_t w) const override { return at_most(most_ - w); }

 private:
  bool build(std::int64_t n_first, std::int64_t n_second, const std::function<bool()>& keep_going) {
    const std::int64_t n = std::min(n_first, n_second), m = std::max(n_first, n_second);
    step_ = 2;
    pairs_ = n * m;
    most_ = 2 * pairs_;
    all_ = detail::binomial(n + m, n);
    shift_ = all_.exponent > 1000 ? 900 : 0;
    const auto size = static_cast<std::size_t>(pairs_ / 2 + 1);
    detail::Double2s mass(size);
    mass.high[0] = std::ldexp(1.0, static_cast<int>(-shift_));
    for (std::int64_t i = 1; i <= n; ++i) {
      if (keep_going && !keep_going()) return false;
      detail::multiply_double2(mass, static_cast<std::size_t>(m + i));
      detail::divide_double2(mass, static_cast<std::size_t>(i));
    }
    cumulative_.resize(size);
    double high = 0.0, low = 0.0;
    for (std::size_t s = 0; s < size; ++s) {
      detail::add_double2(high, low, mass.high[s], mass.low[s]);
      cumulative_[s] = high;
    }
    return true;
  }

  Tail u_at_most(std::int64_t u) const {
    if (u < 0) return {};
    if (u >= pairs_) return {1.0, 0.0};
    if (u < static_cast<std::int64_t>(cumulative_.size())) {
      return detail::as_tail(cumulative_[static_cast<std::size_t>(u)], shift_, all_);
    }
    const double rest = u_at_most(pairs_ - u - 1).p;
    return {1.0 - rest, std::log1p(-rest)};
  }

  std::int64_t pairs_ = 0;
  long shift_ = 0;
  detail::Scaled all_;
  std::vector<double> cumulative_;
};

}  // namespace vandro

#endif
