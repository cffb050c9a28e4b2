// The studentized permutation test of every shift of the first group at once.
//
// Where the first group is shifted by d, both Welch's t of the observed assignment and that of
// every other one change. The shift at which an assignment's t passes the observed one is its
// critical shift: p at any shift, and the limits of the interval that inverts the test, are counts
// of critical shifts.
#ifndef VANDRO_SHIFTED_T_HPP
#define VANDRO_SHIFTED_T_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <vector>

#include "enumerate.hpp"
#include "permutation.hpp"
#include "tails.hpp"

namespace vandro {

namespace detail {

// The place between `a` and `b` where `ahead` changes its sign, on the side where it is not
// negative. It is negative at one of the two. Secants, halved where an end stays (Dowell & Jarratt
// 1971).
template <class Ahead>
double passing_between(const Ahead& ahead, double a, double b, double unit) {
  double f_a = ahead(a), f_b = ahead(b);
  for (int i = 0; i < 200; ++i) {
    if (std::fabs(b - a) <= 4e-16 * (std::fabs(a) + std::fabs(b)) + 1e-15 * unit) break;
    double x = b - f_b * (b - a) / (f_b - f_a);
    if (!(x > std::min(a, b) && x < std::max(a, b)) || i % 8 == 7) x = 0.5 * (a + b);
    const double f = ahead(x);
    if ((f >= 0.0) == (f_b >= 0.0)) {
      f_a *= 0.5;
    } else {
      a = b;
      f_a = f_b;
    }
    b = x;
    f_b = f;
  }
  return f_b >= 0.0 ? b : a;
}

// The nearest such place, sought from `start` on in growing steps: downwards where `ahead` is not
// negative there, else upwards.
template <class Ahead>
double passing_outwards(const Ahead& ahead, double start, double unit) {
  const bool inside = ahead(start) >= 0.0;
  const double sign = inside ? -1.0 : 1.0;
  double inner = start, step = unit;
  for (int i = 0; i < 400; ++i, step *= 2.0) {
    const double outer = start + sign * step;
    if ((ahead(outer) >= 0.0) != inside) return passing_between(ahead, inner, outer, unit);
    inner = outer;
  }
  return sign * std::numeric_limits<double>::infinity();
}

}  // namespace detail

// Sums over the values that an assignment puts into the first group.
struct ShiftedSums {
  double value = 0.0, square = 0.0, product = 0.0, weight_square = 0.0;
};

// Welch's t of one assignment at shift d: (gap + rise d) / sqrt(v0 + v1 d + v2 d^2).
struct ShiftedT {
  double gap, rise, v0, v1, v2;

  double difference(double d) const { return gap + rise * d; }
  double se_squared(double d) const { return std::max(0.0, v0 + d * (v1 + d * v2)); }
  double t(double d) const {
    const double top = difference(d), se2 = se_squared(d);
    if (se2 > 0.0) return top / std::sqrt(se2);
    return top == 0.0 ? 0.0 : std::copysign(std::numeric_limits<double>::infinity(), top);
  }
};

// Values as deviations from the observed estimate: their block's mean and the estimated difference
// are taken off, so that nothing cancels near the limits. A shift of d moves value i by
// -d * weight i. Shifts count from the estimate.
class ShiftedValues {
 public:
  // `values` stand block by block, the first group's own in front, less their block's mean.
  ShiftedValues(const std::vector<double>& values, const std::vector<Block>& blocks)
      : values_(values), weights_(values.size()) {
    std::size_t at = 0;
    double n_first = 0.0;
    for (const Block& block : blocks) {
      const double share = static_cast<double>(block.chosen) / block.size;
      for (std::size_t i = 0; i < block.size; ++i, ++at) {
        weights_[at] = (i < block.chosen ? 1.0 : 0.0) - share;
      }
      n_first += block.chosen;
    }
    const double n_second = static_cast<double>(values.size()) - n_first;
    per_first_ = 1.0 / n_first;
    per_second_ = 1.0 / n_second;
    by_first_ = per_first_ / (n_first - 1.0);
    by_second_ = per_second_ / (n_second - 1.0);
    first_ = detail::first_group_flags(blocks);
    double weight = 0.0, sum = 0.0, all = 0.0;
    for (std::size_t i = 0; i < values.size(); ++i) {
      all += values[i];
      if (first_[i] == 0) continue;
      sum += values[i];
      weight += weights_[i];
    }
    observed_weight_ = weight;
    for (const Block& block : blocks) {
      even_ = even_ && block.chosen * blocks[0].size == blocks[0].chosen * block.size;
    }
    estimate_ = (sum * per_first_ - (all - sum) * per_second_) / (weight * per_weight());
    for (std::size_t i = 0; i < values.size(); ++i) {
      values_[i] -= estimate_ * weights_[i];
      add(total_, i, 1.0);
    }
    cross_ = std::sqrt(total_.square * total_.weight_square);
    ShiftedSums own;
    for (std::size_t i = 0; i < values.size(); ++i) {
      if (first_[i] != 0) add(own, i, 1.0);
    }
    observed_weight_square_ = own.weight_square;
    observed_ = line(own, 0.0);
  }

  std::size_t size() const { return values_.size(); }
  double estimate() const { return estimate_; }
  const ShiftedT& observed() const { return observed_; }
  const std::vector<unsigned char>& first() const { return first_; }
  void add(ShiftedSums& to, std::size_t i, double sign) const {
    const double value = values_[i], weight = weights_[i];
    to.value += sign * value;
    to.square += sign * value * value;
    to.product += sign * value * weight;
    to.weight_square += sign * weight * weight;
  }
  std::vector<detail::Pair> squares() const {
    std::vector<detail::Pair> out;
    for (const double value : values_) out.push_back(detail::Pair{value, value * value});
    return out;
  }
  std::vector<double> products() const {
    std::vector<double> out;
    for (std::size_t i = 0; i < values_.size(); ++i) out.push_back(values_[i] * weights_[i]);
    return out;
  }
  std::vector<double> weight_squares() const {
    std::vector<double> out;
    for (const double weight : weights_) out.push_back(weight * weight);
    return out;
  }
  // Where every block has the same share in the first group, the sum of squared weights follows
  // from the number moved: (first - second) of each that moves.
  bool even() const { return even_; }
  double weight_square(double moved) const {
    const double in = weights_.front(), out = weights_.back();
    return observed_weight_square_ + moved * (out * out - in * in);
  }
  // `moved`: how many of the first group's own values are in the second.
  ShiftedT line(const ShiftedSums& in, double moved) const {
    const double weight = observed_weight_ - moved, rest = total_.value - in.value;
    // Rounding dust is no spread.
    const auto clean = [](double x, double of) { return std::fabs(x) > 1e-13 * of ? x : 0.0; };
    const auto parts = [&](double per, double by, double sum, const ShiftedSums& of, double h) {
      return std::array<double, 3>{
          clean(of.square - sum * sum * per, total_.square) * by,
          clean(of.product - sum * h * per, cross_) * by,
          clean(of.weight_square - h * h * per, total_.weight_square) * by};
    };
    const ShiftedSums out{rest, total_.square - in.square, total_.product - in.product,
                          total_.weight_square - in.weight_square};
    const auto one = parts(per_first_, by_first_, in.value, in, weight);
    const auto two = parts(per_second_, by_second_, rest, out, -weight);
    return {in.value * per_first_ - rest * per_second_, -weight * per_weight(), one[0] + two[0],
            -2.0 * (one[1] + two[1]), one[2] + two[2]};
  }

 private:
  double per_weight() const { return per_first_ + per_second_; }

  std::vector<double> values_, weights_;
  std::vector<unsigned char> first_;
  double estimate_ = 0.0, cross_ = 0.0;
  double per_first_ = 0.0, per_second_ = 0.0, by_first_ = 0.0, by_second_ = 0.0;
  double observed_weight_ = 0.0, observed_weight_square_ = 0.0;
  bool even_ = true;
  ShiftedSums total_;
  ShiftedT observed_{};
};

// Both tails of t at one shift, and critical shifts. Ties within `slack` of the observed t; a t
// beyond `most`, of either sign, counts as this.
struct ShiftedTails : TailCounts {
  // `at`: the shift, from the estimate, that p belongs to. `thorough`: t of an assignment may pass
  // the observed one, fall behind and pass it again, as happens where a small group stands beside a
  // far larger one.
  ShiftedTails(const ShiftedValues& of, double observed_t, double slack_of, double most_of,
               std::size_t kept, bool thorough_of)
      : TailCounts(kept),
        values(&of),
        at(-of.estimate()),
        observed(observed_t),
        slack(slack_of),
        most(most_of),
        unit(std::sqrt(of.observed().se_squared(0.0))),
        any_kept(kept > 0 && unit > 0.0),
        thorough(thorough_of) {}

  void add(const ShiftedSums& in, double moved) {
    const ShiftedT line = values->line(in, moved);
    const double t = std::clamp(line.t(at), -most, most);
    const bool least = t >= observed - slack, at_most_too = t <= observed + slack;
    // Whoever moved nothing has the observed t at every shift.
    at_least += least || moved == 0.0;
    at_most += at_most_too || moved == 0.0;
    same += moved == 0.0;
    if (!any_kept || moved == 0.0) return;
    if (thorough) return search(line);
    if (least && at_most_too) return keep(at, at);
    const double cut_low = low.loose_cut(), cut_high = -high.loose_cut();
    if (cut_low != asked_low) {
      asked_low = cut_low;
      t_low = values->observed().t(cut_low);
    }
    if (cut_high != asked_high) {
      asked_high = cut_high;
      t_high = values->observed().t(cut_high);
    }
    const bool is_low = !std::isfinite(cut_low) || ahead(line, cut_low, t_low) >= 0.0;
    if (!is_low && std::isfinite(cut_high) && ahead(line, cut_high, t_high) >= 0.0) return;
    const double shift = outwards(line);
    keep(shift, shift);
  }
  ShiftedTails fresh() const {
    ShiftedTails out(*values, observed, slack, most, 0, thorough);
    out.any_kept = any_kept;
    static_cast<TailCounts&>(out) = fresh_counts();
    return out;
  }
  void merge(const ShiftedTails& other) {
    TailCounts::merge(other);
    left.insert(left.end(), other.left.begin(), other.left.end());
  }

  const ShiftedValues* values;
  double at, observed, slack, most, unit;
  bool any_kept, thorough;
  std::vector<double> left;  // shifts at which an assignment falls behind again

 private:
  // The observed t at the shifts from which on nothing is kept.
  double asked_low = 0.0, t_low = 0.0, asked_high = 0.0, t_high = 0.0;

  void keep(double first, double last) {
    low.add(first);
    high.add(-last);
  }
  static double ahead(const ShiftedT& line, double d, double observed_t) {
    return line.difference(d) - observed_t * std::sqrt(line.se_squared(d));
  }
  double ahead(const ShiftedT& line, double d) const {
    return ahead(line, d, values->observed().t(d));
  }
  bool passed(const ShiftedT& line, double d) const { return ahead(line, d) >= 0.0; }

  double between(const ShiftedT& line, double a, double b) const {
    return detail::passing_between([&](double d) { return ahead(line, d); }, a, b, unit);
  }
  double outwards(const ShiftedT& line) const {
    return detail::passing_outwards([&](double d) { return ahead(line, d); }, 0.0, unit);
  }
  // All critical shifts, on a grid that is fine near the estimate.
  void search(const ShiftedT& line) {
    constexpr int points = 120;
    std::vector<double> grid;
    for (int i = points; i >= 0; --i) grid.push_back(-unit * 1e-3 * std::exp(i * 0.16));
    for (int i = 0; i <= points; ++i) grid.push_back(unit * 1e-3 * std::exp(i * 0.16));
    bool before = passed(line, grid[0]), any = false;
    for (std::size_t i = 1; i < grid.size(); ++i) {
      const bool now = passed(line, grid[i]);
      if (now == before) continue;
      const double shift = between(line, grid[i - 1], grid[i]);
      if (now) {
        keep(shift, shift);
      } else {
        left.push_back(shift);
      }
      any = true;
      before = now;
    }
    if (!any) {
      const double shift = outwards(line);
      keep(shift, shift);
    }
  }
};

// Every assignment.
inline bool every_shifted(const ShiftedValues& values, const std::vector<Block>& blocks,
                          ShiftedTails& result, const std::function<bool()>& keep_going = {}) {
  struct Walk {
    const ShiftedValues& values;
    ShiftedTails& result;
    // Sums of each depth, so that nothing is taken back in doubles.
    std::vector<ShiftedSums> sums;
    std::int64_t own = 0;  // of the first group, values that it keeps
    double n_first = 0.0;
    void enter(std::size_t depth, std::size_t i, int sign) {
      sums[depth + 1] = sums[depth];
      values.add(sums[depth + 1], i, sign);
      if (values.first()[i] != 0) own += sign;
    }
    void leave(std::size_t i, int sign) {
      if (values.first()[i] != 0) own -= sign;
    }
    void visit(std::size_t depth) { result.add(sums[depth], n_first - static_cast<double>(own)); }
  };
  Walk walk{values, result, std::vector<ShiftedSums>(detail::most_chosen(blocks) + 1)};
  for (const Block& block : blocks) walk.n_first += block.chosen;
  detail::for_turned(blocks, [&](std::size_t i) {
    values.add(walk.sums[0], i, 1.0);
    walk.own += values.first()[i];
  });
  return detail::Divisions<Walk>(blocks, walk, keep_going).run();
}

// Random assignments.
inline bool reassign_shifted(const ShiftedValues& values, const std::vector<Block>& blocks,
                             std::uint64_t seed, std::size_t draws, int threads,
                             ShiftedTails& result, const std::function<bool()>& keep_going = {},
                             std::size_t from = 0) {
  const detail::MaskSums<detail::Pair> squares(values.squares());
  const detail::MaskSums<double> products(values.products());
  const detail::MaskSums<double> weights(values.even() ? std::vector<double>()
                                                       : values.weight_squares());
  const std::vector<std::uint64_t> second = detail::second_group_mask(blocks);
  const std::size_t words = second.size();
  return detail::for_reassignments(
      blocks, seed, draws, threads,
      [&](const std::uint64_t* masks, std::size_t count, ShiftedTails& own) {
        std::array<detail::Pair, 128> sums;
        std::array<double, 128> crossed, weighed, moved;
        squares.sums(masks, count, words, sums.data());
        products.sums(masks, count, words, crossed.data());
        detail::count_common(masks, count, words, second.data(), moved.data());
        if (!values.even()) weights.sums(masks, count, words, weighed.data());
        for (std::size_t m = 0; m < count; ++m) {
          const double square = values.even() ? values.weight_square(moved[m]) : weighed[m];
          own.add({sums[m][0], sums[m][1], crossed[m], square}, moved[m]);
        }
      },
      result, keep_going, from);
}

}  // namespace vandro

#endif
