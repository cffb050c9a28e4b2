// Permutation tests in made-up studies: all assignments where these are few, else random ones.
#ifndef VANDRO_REHEARSED_PERMUTATION_HPP
#define VANDRO_REHEARSED_PERMUTATION_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <utility>
#include <vector>

#include "permutation.hpp"
#include "random.hpp"
#include "reassign.hpp"
#include "rehearsal_plan.hpp"
#include "rehearsed_means.hpp"
#include "shifted_t.hpp"

namespace vandro {

namespace detail {

// Sums over the values that an assignment puts first (of pairs: signed sums), from which its
// statistic follows whatever is taken off the first group.
struct AssignmentSums {
  double sum = 0.0, squares = 0.0;  // of the values put first
  double own = 0.0, count = 0.0;    // of those among them that are the first group's, and how many
  void add(const AssignmentSums& other) {
    sum += other.sum;
    squares += other.squares;
    own += other.own;
    count += other.count;
  }
};

class PermutationRehearsal {
 public:
  static constexpr double listed_at_most = 5000.0;

  PermutationRehearsal(std::size_t n, std::size_t m, bool paired, const RehearsalPlan& plan)
      : plan_(plan),
        n_(n),
        m_(paired ? 0 : m),
        paired_(paired),
        words_(words_for(n_ + m_)),
        reassignment_({{static_cast<std::uint32_t>(n_ + m_), static_cast<std::uint32_t>(n_)}}) {
    const double ways = paired ? std::exp2(static_cast<double>(n)) : binomial_of(n + m, n);
    if (ways <= listed_at_most && n_ + m_ <= 24) list_all();
  }

  Finding find(const std::vector<double>& first, const std::vector<double>& second, bool wide,
               std::uint64_t study) const {
    Study data;
    // Sums of squares keep their digits where values lie far from 0.
    const double pivot = paired_ ? 0.0 : second[0];
    for (const double x : first) data.singles.push_back(single(x - pivot, true));
    if (!paired_) {
      for (const double y : second) data.singles.push_back(single(y - pivot, false));
    }
    for (std::size_t i = 0; i < data.singles.size(); ++i) {
      if (i < n_) data.own.add(data.singles[i]);
      data.all.add(data.singles[i]);
    }
    assign(data, study);
    Finding out;
    const Sides& sides = plan_.sides;
    const double se =
        std::sqrt(Spread(first).of_mean() + (paired_ ? 0.0 : Spread(second).of_mean()));
    if (!(se > 0.0)) {
      out.defined = false;
      return out;
    }
    if (sides.up) out.up = rejects(data, sides.up_at, true, sides.tail);
    if (sides.down) out.down = rejects(data, sides.down_at, false, sides.tail);
    if (wide) {
      const double low = limit(data, sides.lower_at(), se, true);
      const double high = limit(data, sides.upper_at(), se, false);
      out.half_width = 0.5 * (high - low);
    }
    return out;
  }

 private:
  struct Study {
    std::vector<AssignmentSums> singles;  // of every value alone
    AssignmentSums own, all;
    std::vector<AssignmentSums> drawn;
  };

  static AssignmentSums single(double x, bool own) {
    return {x, x * x, own ? x : 0.0, own ? 1.0 : 0.0};
  }

  static double binomial_of(std::size_t n, std::size_t k) {
    double out = 1.0;
    for (std::size_t i = 1; i <= k; ++i)
      out *= static_cast<double>(n - k + i) / static_cast<double>(i);
    return std::round(out);
  }

  // Every assignment as one bit per value: put first, or its sign kept.
  void list_all() {
    for (std::uint64_t mask = 0; mask < (std::uint64_t{1} << (n_ + m_)); ++mask) {
      if (paired_ || static_cast<std::size_t>(__builtin_popcountll(mask)) == n_) {
        listed_.push_back(mask);
      }
    }
  }

  std::vector<std::uint64_t> masks_for(std::uint64_t study) const {
    std::vector<std::uint64_t> masks(plan_.assignments * words_ + 64);
    RandomBits bits(plan_.seed ^ 0x3C6EF372FE94F82BU, study);
    if (paired_) {
      draw_signs(bits, n_, plan_.assignments, masks.data());
    } else {
      Random picks(plan_.seed ^ 0x1F83D9ABFB41BD6BU, study);
      draw_masks(reassignment_, bits, picks, plan_.assignments, masks.data());
    }
    return masks;
  }

  // Sums of every assignment, eight values at a time by a table of all their subsets.
  void assign(Study& data, std::uint64_t study) const {
    const std::vector<std::uint64_t> masks = drawn() ? masks_for(study) : listed_;
    data.drawn.assign(drawn() ? plan_.assignments : listed_.size(), AssignmentSums());
    AssignmentSums table[256];
    for (std::size_t from = 0; from < n_ + m_; from += 8) {
      const std::size_t size = std::min<std::size_t>(8, n_ + m_ - from);
      for (std::size_t subset = 1; subset < (std::size_t{1} << size); ++subset) {
        table[subset] = table[subset & (subset - 1)];
        const auto lowest = static_cast<std::size_t>(__builtin_ctzll(subset));
        table[subset].add(data.singles[from + lowest]);
      }
      const std::size_t word = from / word_bits, shift = from % word_bits;
      for (std::size_t k = 0; k < data.drawn.size(); ++k) {
        data.drawn[k].add(table[(masks[k * words_ + word] >> shift) & 255U]);
      }
    }
    if (!paired_) return;
    // Kept less flipped.
    for (AssignmentSums& one : data.drawn) {
      one.sum = 2.0 * one.sum - data.all.sum;
      one.count = 2.0 * one.count - data.all.count;
    }
  }

  // Whether the assignments are random ones.
  bool drawn() const { return listed_.empty(); }

  // With `off` taken off the first group's values (of pairs off every change).
  double statistic(const Study& data, const AssignmentSums& sums, double off) const {
    if (paired_) return sums.sum - off * sums.count;
    const double n = static_cast<double>(n_), m = static_cast<double>(m_);
    const double sum = sums.sum - off * sums.count;
    const double rest = data.all.sum - off * n - sum;
    const double difference = sum / n - rest / m;
    if (!plan_.studentized) return difference;
    const double squares = sums.squares - 2.0 * off * sums.own + off * off * sums.count;
    const double all_squares = data.all.squares - 2.0 * off * data.own.sum + off * off * n;
    const double of_first = std::max(0.0, squares - sum * sum / n) / ((n - 1.0) * n);
    const double of_rest = std::max(0.0, all_squares - squares - rest * rest / m) / ((m - 1.0) * m);
    const double error = of_first + of_rest;
    if (error > 0.0) return difference / std::sqrt(error);
    return difference == 0.0 ? 0.0
                             : std::copysign(std::numeric_limits<double>::infinity(), difference);
  }

  bool rejects(const Study& data, double off, bool up, double tail) const {
    const double observed = statistic(data, data.own, off);
    const double slack = 1e-9 * std::fabs(observed);
    double beyond = drawn() ? 1.0 : 0.0;
    for (const AssignmentSums& sums : data.drawn) {
      const double one = statistic(data, sums, off);
      beyond += (up ? one >= observed - slack : one <= observed + slack) ? 1.0 : 0.0;
    }
    const double total = static_cast<double>(data.drawn.size()) + (drawn() ? 1.0 : 0.0);
    return beyond <= tail * total * (1.0 + 1e-12);
  }

  // The end of the interval that the assignments of the values less `at` leave; NaN where there is
  // none: the shift from which on so many assignments are as far out.
  double limit(const Study& data, double at, double se, bool lower) const {
    const bool by_t = plan_.studentized && !paired_;
    const double total = static_cast<double>(data.drawn.size()) + (drawn() ? 1.0 : 0.0);
    const double within = std::floor(plan_.width_tail * total * (1.0 + 1e-12));
    const double number = within;
    std::vector<double> values;
    const double own = line(data, data.own, at).first, slope = line(data, data.own, at).second;
    for (const AssignmentSums& sums : data.drawn) {
      if (by_t) {
        if (sums.count < static_cast<double>(n_)) values.push_back(critical_t(data, sums, at, se));
        continue;
      }
      const std::pair<double, double> other = line(data, sums, at);
      if (other.second < slope) values.push_back((own - other.first) / (slope - other.second));
    }
    if (number < 1.0 || number > static_cast<double>(values.size())) {
      return std::numeric_limits<double>::quiet_NaN();
    }
    // Small shifts make the lower limit.
    const auto k = static_cast<std::ptrdiff_t>(number) - 1;
    if (!lower) {
      std::nth_element(values.begin(), values.begin() + k, values.end(), std::greater<double>());
    } else {
      std::nth_element(values.begin(), values.begin() + k, values.end());
    }
    const double found = values[static_cast<std::size_t>(k)];
    return at + found;
  }

  // The shift, from `at`, from which on t of an assignment is at least the observed one.
  double critical_t(const Study& data, const AssignmentSums& sums, double at, double se) const {
    const double estimate = line(data, data.own, at).first;
    return passing_outwards(
        [&](double d) { return statistic(data, sums, at + d) - statistic(data, data.own, at + d); },
        estimate, se);
  }

  // Sum, or difference of means, and how much it falls with what is taken off further.
  std::pair<double, double> line(const Study& data, const AssignmentSums& sums, double at) const {
    const double n = static_cast<double>(n_), m = static_cast<double>(m_);
    const double sum = sums.sum - at * sums.count;
    if (paired_) return {sum, sums.count};
    const double rest = data.all.sum - at * n - sum;
    return {sum / n - rest / m, sums.count / n - (n - sums.count) / m};
  }

  const RehearsalPlan& plan_;
  std::size_t n_, m_;
  bool paired_;
  std::size_t words_;
  Reassignment reassignment_;
  std::vector<std::uint64_t> listed_;
};

}  // namespace detail

}  // namespace vandro

#endif
