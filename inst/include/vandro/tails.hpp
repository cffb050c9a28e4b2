// What is kept of permuted statistics: both tails, critical shifts, a histogram.
#ifndef VANDRO_TAILS_HPP
#define VANDRO_TAILS_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <vector>

#include "wide.hpp"

namespace vandro {

// The `wanted` smallest of many numbers.
class Smallest {
 public:
  explicit Smallest(std::size_t wanted)
      : wanted_(wanted),
        cut_(wanted > 0 ? std::numeric_limits<double>::infinity()
                        : -std::numeric_limits<double>::infinity()),
        loose_(cut_) {}
  VANDRO_INLINE void add(double value) {
    if (value < cut_) keep(value);
  }
  // Nothing held, but what is known not to be among the smallest is passed over.
  Smallest fresh() const {
    Smallest out(wanted_);
    out.cut_ = cut_;
    out.loose_ = loose_;
    return out;
  }
  void merge(const Smallest& other) {
    held_.insert(held_.end(), other.held_.begin(), other.held_.end());
    prune();
  }
  // At least the value from which on nothing is among the smallest, roundings of a product
  // included.
  VANDRO_INLINE double loose_cut() const { return loose_; }
  // In order.
  std::vector<double> sorted() {
    std::sort(held_.begin(), held_.end());
    if (held_.size() > wanted_) held_.resize(wanted_);
    return held_;
  }

 private:
  void keep(double value) {
    held_.push_back(value);
    prune();
  }
  void prune() {
    if (held_.size() < 2 * wanted_ + 64) return;
    const auto last = held_.begin() + static_cast<std::ptrdiff_t>(wanted_ - 1);
    std::nth_element(held_.begin(), last, held_.end());
    cut_ = *last;
    loose_ = cut_ + 1e-15 * std::fabs(cut_);
    held_.resize(wanted_);
  }
  std::size_t wanted_;
  double cut_, loose_;
  std::vector<double> held_;
};

// How many values are in either tail, and the outermost of each that are kept.
struct TailCounts {
  explicit TailCounts(std::size_t kept) : low(kept), high(kept) {}
  // Nothing counted yet; what was learnt of the cuts stays.
  TailCounts fresh_counts() const {
    TailCounts out(0);
    out.low = low.fresh();
    out.high = high.fresh();
    return out;
  }
  void merge(const TailCounts& other) {
    at_least += other.at_least;
    at_most += other.at_most;
    same += other.same;
    low.merge(other.low);
    high.merge(other.high);
  }

  std::uint64_t at_least = 0, at_most = 0;
  std::uint64_t same = 0;  // assignments that moved nothing
  Smallest low, high;      // the second of the negatives
};

// Both tails of the critical shifts.
struct ShiftTails : TailCounts {
  // `slack`: falls of at most this size are ties with the observed sum.
  explicit ShiftTails(std::size_t kept = 0, std::int64_t slack_of = 0)
      : TailCounts(kept), any_kept(kept > 0), slack(slack_of) {}

  VANDRO_INLINE void add(std::int64_t fall, double moved) {
    at_least += fall <= slack;
    at_most += fall >= -slack;
    if (!any_kept) return;
    same += moved == 0.0;
    // Most shifts are neither: told without a division. (0 times an infinite cut is no number, and
    // what moved nothing has no shift.)
    const double size = static_cast<double>(fall);
    if (size < low.loose_cut() * moved || size > -high.loose_cut() * moved) keep(fall, moved);
  }
  bool wants_moved() const { return any_kept; }
  ShiftTails fresh() const {
    ShiftTails out(0, slack);
    out.any_kept = any_kept;
    static_cast<TailCounts&>(out) = fresh_counts();
    return out;
  }

  void keep(std::int64_t fall, double moved) {
    const double shift = fall > slack || fall < -slack ? static_cast<double>(fall) / moved : 0.0;
    low.add(shift);
    high.add(-shift);
  }

  bool any_kept;
  std::int64_t slack;
};

// How many values fall between breaks; those outside into the outermost stretches.
struct Histogram {
  explicit Histogram(const std::vector<double>& at) : breaks(at), counts(at.size() - 1, 0) {}
  // A value on a break belongs above it.
  void add(double value) {
    const auto above = std::upper_bound(breaks.begin() + 1, breaks.end() - 1, value);
    ++counts[static_cast<std::size_t>(above - breaks.begin()) - 1];
  }
  // By how much the sum rose.
  void add(std::int64_t fall, double) { add(-static_cast<double>(fall)); }
  bool wants_moved() const { return false; }
  Histogram fresh() const { return Histogram(breaks); }
  void merge(const Histogram& other) {
    for (std::size_t i = 0; i < counts.size(); ++i) counts[i] += other.counts[i];
  }
  std::vector<double> breaks;
  std::vector<std::uint64_t> counts;
};

}  // namespace vandro

#endif
