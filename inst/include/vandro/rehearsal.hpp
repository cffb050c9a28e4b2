// How often tests reject, and how wide their intervals are, in made-up studies.
//
// Every study has a random stream of its own, and all methods see the same studies.
#ifndef VANDRO_REHEARSAL_HPP
#define VANDRO_REHEARSAL_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <utility>
#include <vector>

#include "made_up.hpp"
#include "pairwise.hpp"
#include "parallel.hpp"
#include "rank_null.hpp"
#include "ranks.hpp"
#include "relative.hpp"
#include "student_t.hpp"

namespace vandro {

enum class Method { welch, student, paired, ranks, signed_ranks, relative, permutation };

// Which one-sided tests decide: that the difference is above `up_at`, below `down_at`, each at
// `tail`; one of them suffices, or both are needed.
struct Sides {
  bool up = true, down = true, both = false;
  double up_at = 0.0, down_at = 0.0, tail = 0.025;
  // The null values whose distributions give the lower and the upper limit of an interval.
  double lower_at() const { return up ? up_at : down_at; }
  double upper_at() const { return down ? down_at : up_at; }
};

struct RehearsalPlan {
  Sides sides;
  double width_tail = 0.025;     // to either side of the interval
  std::size_t width_every = 10;  // intervals that take long are found in every so-many-th study
  bool exact_ties = true;        // distribution of ranks given the ties, or the normal one
  bool exact_ranks = true;
  std::size_t draws = 999;   // assignments of a permutation test, where there are more
  bool studentized = true;   // its statistic
  std::uint64_t seed = 0;
};

struct Rates {
  double studies = 0.0, rejected = 0.0, undefined = 0.0, widths = 0.0, width_sum = 0.0,
         width_squares = 0.0;
  void add(const Rates& other) {
    studies += other.studies;
    rejected += other.rejected;
    undefined += other.undefined;
    widths += other.widths;
    width_sum += other.width_sum;
    width_squares += other.width_squares;
  }
};

namespace detail {

struct Finding {
  bool defined = true, up = false, down = false;
  double half_width = std::numeric_limits<double>::quiet_NaN();
};

// --- t tests --------------------------------------------------------------------------------------

struct Spread {
  double n = 0.0, mean = 0.0, squares = 0.0;
  explicit Spread(const std::vector<double>& x) : n(static_cast<double>(x.size())) {
    for (const double value : x) mean += value;
    mean /= n;
    for (const double value : x) squares += (value - mean) * (value - mean);
  }
  double of_mean() const { return squares / ((n - 1.0) * n); }
};

struct MeanError {
  double difference = 0.0, se = 0.0, df = 0.0;
};

inline MeanError mean_error(Method method, const std::vector<double>& first,
                            const std::vector<double>& second) {
  const Spread x(first);
  if (method == Method::paired) return {x.mean, std::sqrt(x.of_mean()), x.n - 1.0};
  const Spread y(second);
  const double difference = x.mean - y.mean;
  if (method == Method::student) {
    const double df = x.n + y.n - 2.0;
    return {difference, std::sqrt((x.squares + y.squares) / df * (1.0 / x.n + 1.0 / y.n)), df};
  }
  const double a = x.of_mean(), b = y.of_mean(), sum = a + b;
  return {difference, std::sqrt(sum), sum * sum / (a * a / (x.n - 1.0) + b * b / (y.n - 1.0))};
}

inline Finding find_means(Method method, const std::vector<double>& first,
                          const std::vector<double>& second, const RehearsalPlan& plan) {
  const MeanError error = mean_error(method, first, second);
  Finding out;
  if (!(error.se > 0.0)) {
    out.defined = false;
    return out;
  }
  const StudentT t(error.df);
  const double reach = error.se * t.upper_quantile(plan.sides.tail);
  out.up = error.difference - plan.sides.up_at >= reach;
  out.down = plan.sides.down_at - error.difference >= reach;
  out.half_width = plan.width_tail == plan.sides.tail ? reach
                                                      : error.se * t.upper_quantile(plan.width_tail);
  return out;
}

// --- ranks ----------------------------------------------------------------------------------------

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

// The sum at the place where an interval ends, `steps` doubled steps of the statistic from that end;
// NaN where there is none.
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
  RankRehearsal(std::size_t n, std::size_t m, const RehearsalPlan& plan) : plan_(plan), n_(n), m_(m) {
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

  // Sorted changes; those equal to the null value are dropped.
  Finding find(const std::vector<double>& changes, bool wide) const {
    Finding out;
    const Sides& sides = plan_.sides;
    const auto at = [&](double by, bool up) {
      const std::vector<double> x = shifted(changes, by);
      const SignedRankCounts counts = count_signed_ranks(x.data(), x.size(), false);
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
  double limit(const std::vector<double>& changes, bool lower) const {
    const double at = lower ? plan_.sides.lower_at() : plan_.sides.upper_at();
    const std::vector<double> x = shifted(changes, at);
    const SignedRankCounts counts = count_signed_ranks(x.data(), x.size(), false);
    std::vector<double> kept;
    for (const double change : changes) {
      if (change != at) kept.push_back(change);
    }
    if (kept.empty()) return std::numeric_limits<double>::quiet_NaN();
    const Limits limits = limits_for(counts, plan_.width_tail, width_);
    const double total = static_cast<double>(counts.doubled_plus + counts.doubled_minus);
    return 0.5 * pairwise_end(kept, kept, true, lower ? total - limits.high : limits.low, lower);
  }

  Limits limits_for(const SignedRankCounts& counts, double tail, const Limits& untied) const {
    if (!plan_.exact_ranks) {
      const double total = 0.5 * static_cast<double>(counts.doubled_plus + counts.doubled_minus);
      return normal_limits(0.5 * total, 0.5 * std::sqrt(counts.rank_squares), tail);
    }
    if (counts.tied == 0 && counts.zeros == 0) return untied;
    return limits_of(*SignedRankSum::make(counts.runs, 0), tail);
  }

  const RehearsalPlan& plan_;
  std::size_t n_;
  Limits test_, width_;
};

// --- relative effect ------------------------------------------------------------------------------

// From ten values a group on Student's t, below that the assignments of the values to the groups.
class RelativeRehearsal {
 public:
  static constexpr std::size_t least_for_t = 10;
  static constexpr double listed_at_most = 20000.0;

  RelativeRehearsal(std::size_t n, std::size_t m, const RehearsalPlan& plan)
      : plan_(plan), n_(n), m_(m) {
    if (by_t()) return;
    untied_ = assignments(std::vector<std::int32_t>(n + m, 1), plan.seed);
  }

  Finding find(const std::vector<double>& first, const std::vector<double>& second, bool wide,
               std::uint64_t study) const {
    Finding out;
    const Sides& sides = plan_.sides;
    if (sides.up) out.up = decide(first, second, sides.up_at, true, study, out);
    if (sides.down) out.down = decide(first, second, sides.down_at, false, study, out);
    if (wide && out.defined) {
      out.half_width = half_width(shifted(first, sides.lower_at()), second, study);
    }
    return out;
  }

 private:
  // Sorted values of the statistic and of its logit.
  struct Null {
    std::vector<double> t, logits;
    double extra = 0.0;
    // Largest and smallest value whose tail keeps within `tail`.
    double quantile(const std::vector<double>& values, double tail, bool high) const {
      const double total = static_cast<double>(values.size()) + extra;
      const double most = std::floor(tail * total * (1.0 + 1e-12)) - extra;
      double inside = high ? std::numeric_limits<double>::infinity()
                           : -std::numeric_limits<double>::infinity();
      if (most < 1.0) return inside;
      const auto count = static_cast<std::size_t>(most);
      const std::size_t size = values.size();
      // Equal values go together.
      const double at = high ? values[size - count] : values[count - 1];
      const double next = high ? (count < size ? values[size - count - 1] : at - 1.0)
                               : (count < size ? values[count] : at + 1.0);
      if (next != at) return at;
      if (high) {
        const auto above = std::upper_bound(values.begin(), values.end(), at);
        return above == values.end() ? inside : *above;
      }
      const auto below = std::lower_bound(values.begin(), values.end(), at);
      return below == values.begin() ? inside : *(below - 1);
    }
  };

  bool by_t() const { return std::min(n_, m_) >= least_for_t; }

  Null assignments(const std::vector<std::int32_t>& runs, std::uint64_t seed) const {
    // Any assignment serves as the observed one: only the values are used.
    std::vector<std::int32_t> in_first(runs.size(), 0);
    auto left = static_cast<std::int32_t>(n_);
    for (std::size_t g = 0; g < runs.size(); ++g) {
      in_first[g] = std::min(left, runs[g]);
      left -= in_first[g];
    }
    RelativeNull drawn;
    Null out;
    if (count_assignments(runs, static_cast<std::int64_t>(n_)) <= listed_at_most) {
      enumerate_relative(runs, in_first, drawn);
      for (std::size_t i = 0; i < drawn.weights.size(); ++i) {
        const auto copies = static_cast<std::size_t>(drawn.weights[i]);
        out.t.insert(out.t.end(), copies, drawn.statistics[i]);
        out.logits.insert(out.logits.end(), copies, drawn.logits[i]);
      }
    } else {
      sample_relative(runs, in_first, seed, plan_.draws, 1, drawn);
      out.t = drawn.statistics;
      out.logits = drawn.logits;
      out.extra = 1.0;
    }
    std::sort(out.t.begin(), out.t.end());
    std::sort(out.logits.begin(), out.logits.end());
    return out;
  }

  struct Effect {
    RankCounts counts;
    double estimate = 0.5, se = 0.0, df = 0.0;
    bool separated = false;
  };

  Effect effect(const std::vector<double>& first, const std::vector<double>& second) const {
    Effect out;
    out.counts = count_ranks(first.data(), n_, second.data(), m_);
    const double n = static_cast<double>(n_), m = static_cast<double>(m_);
    out.estimate = 0.5 * static_cast<double>(out.counts.doubled_u) / (n * m);
    const double a = out.counts.placement_variance_first / (n * m * m);
    const double b = out.counts.placement_variance_second / (m * n * n);
    out.se = std::sqrt(a + b);
    out.df = (a + b) * (a + b) / (a * a / (n - 1.0) + b * b / (m - 1.0));
    out.separated = out.estimate == 0.0 || out.estimate == 1.0;
    return out;
  }

  bool decide(const std::vector<double>& first, const std::vector<double>& second, double at,
              bool up, std::uint64_t study, Finding& out) const {
    const std::vector<double> x = shifted(first, at);
    const Effect found = effect(x, second);
    if (found.separated) {
      const double log_one = std::lgamma(static_cast<double>(n_) + 1.0) +
                             std::lgamma(static_cast<double>(m_) + 1.0) -
                             std::lgamma(static_cast<double>(n_ + m_) + 1.0);
      return (found.estimate == 1.0) == up && log_one <= std::log(plan_.sides.tail) + 1e-9;
    }
    if (found.se == 0.0) {
      out.defined = false;
      return false;
    }
    const double t = (found.estimate - 0.5) / found.se;
    if (by_t()) {
      const double most = StudentT(found.df).upper_quantile(plan_.sides.tail);
      return up ? t >= most : t <= -most;
    }
    Null drawn;
    const Null& null = null_for(found, x, second, study, drawn);
    const double limit = null.quantile(null.t, plan_.sides.tail, up);
    const double slack = 1e-9 * std::fabs(t);
    return up ? t >= limit - slack : t <= limit + slack;
  }

  const Null& null_for(const Effect& found, const std::vector<double>& first,
                       const std::vector<double>& second, std::uint64_t study, Null& drawn) const {
    if (found.counts.tied == 0) return untied_;
    drawn = assignments(tie_runs(first.data(), n_, second.data(), m_), plan_.seed ^ (study + 1));
    return drawn;
  }

  // On the scale of the chance of a higher value.
  double half_width(const std::vector<double>& first, const std::vector<double>& second,
                    std::uint64_t study) const {
    const Effect found = effect(first, second);
    const double tail = plan_.width_tail;
    if (found.separated) {
      return 0.5 * (1.0 - std::pow(tail, 1.0 / static_cast<double>(std::min(n_, m_))));
    }
    if (found.se == 0.0) return std::numeric_limits<double>::quiet_NaN();
    double low, high;
    if (by_t()) {
      high = StudentT(found.df).upper_quantile(tail);
      low = -high;
    } else {
      Null drawn;
      const Null& null = null_for(found, first, second, study, drawn);
      low = null.quantile(null.logits, tail, false);
      high = null.quantile(null.logits, tail, true);
    }
    const double logit = std::log(found.estimate / (1.0 - found.estimate));
    const double slope = found.se / (found.estimate * (1.0 - found.estimate));
    const auto share = [](double x) { return 1.0 / (1.0 + std::exp(-x)); };
    return 0.5 * (share(logit - low * slope) - share(logit - high * slope));
  }

  const RehearsalPlan& plan_;
  std::size_t n_, m_;
  Null untied_;
};

// --- permutation ----------------------------------------------------------------------------------

// Sums over the values that an assignment puts first (of pairs: signed sums), from which its
// statistic follows whatever is taken off the first group.
struct AssignmentSums {
  double sum = 0.0, squares = 0.0;  // of the values put first
  double own = 0.0, count = 0.0;    // of those among them that are the first group's, and how many
};

class PermutationRehearsal {
 public:
  static constexpr double listed_at_most = 5000.0;

  PermutationRehearsal(std::size_t n, std::size_t m, bool paired, const RehearsalPlan& plan)
      : plan_(plan), n_(n), m_(m), paired_(paired) {
    const double ways = paired ? std::exp2(static_cast<double>(n)) : binomial_of(n + m, n);
    if (ways <= listed_at_most && (paired ? n : n + m) <= 24) list_all();
  }

  Finding find(const std::vector<double>& first, const std::vector<double>& second, bool wide,
               std::uint64_t study) const {
    Study data{first, second, {}, 0.0, 0.0, {}};
    for (const double x : first) data.own.sum += x, data.own.squares += x * x;
    data.own.own = data.own.sum;
    data.own.count = static_cast<double>(n_);
    data.all_sum = data.own.sum;
    data.all_squares = data.own.squares;
    for (const double y : second) data.all_sum += y, data.all_squares += y * y;
    assign(data, study);
    Finding out;
    const Sides& sides = plan_.sides;
    const Spread x(first);
    const double se =
        std::sqrt(x.of_mean() + (paired_ ? 0.0 : Spread(second).of_mean()));
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
    const std::vector<double>& first;
    const std::vector<double>& second;
    AssignmentSums own;
    double all_sum, all_squares;
    std::vector<AssignmentSums> drawn;
  };

  static double binomial_of(std::size_t n, std::size_t k) {
    double out = 1.0;
    for (std::size_t i = 1; i <= k; ++i)
      out *= static_cast<double>(n - k + i) / static_cast<double>(i);
    return std::round(out);
  }

  // Every assignment as one bit per value: put first, or its sign kept.
  void list_all() {
    const std::size_t size = paired_ ? n_ : n_ + m_;
    for (std::uint64_t mask = 0; mask < (std::uint64_t{1} << size); ++mask) {
      if (paired_ || static_cast<std::size_t>(__builtin_popcountll(mask)) == n_) {
        masks_.push_back(mask);
      }
    }
  }

  void take(const Study& data, std::size_t i, AssignmentSums& out) const {
    const double value = i < n_ ? data.first[i] : data.second[i - n_];
    out.sum += value;
    out.squares += value * value;
    if (i < n_) {
      out.own += value;
      out.count += 1.0;
    }
  }
  void flip(const Study& data, std::size_t i, bool keep, AssignmentSums& out) const {
    out.sum += keep ? data.first[i] : -data.first[i];
    out.count += keep ? 1.0 : -1.0;
  }

  void assign(Study& data, std::uint64_t study) const {
    if (!masks_.empty()) {
      const std::size_t size = paired_ ? n_ : n_ + m_;
      for (const std::uint64_t mask : masks_) {
        AssignmentSums sums;
        for (std::size_t i = 0; i < size; ++i) {
          const bool kept = (mask >> i) & 1;
          if (paired_) {
            flip(data, i, kept, sums);
          } else if (kept) {
            take(data, i, sums);
          }
        }
        data.drawn.push_back(sums);
      }
      return;
    }
    Random random(plan_.seed ^ 0x3C6EF372FE94F82BU, study);
    std::vector<std::uint32_t> order(paired_ ? 0 : n_ + m_);
    for (std::uint32_t i = 0; i < order.size(); ++i) order[i] = i;
    for (std::size_t draw = 0; draw < plan_.draws; ++draw) {
      AssignmentSums sums;
      if (paired_) {
        std::uint64_t bits = 0;
        for (std::size_t i = 0; i < n_; ++i) {
          if (i % 64 == 0) bits = random.bits();
          flip(data, i, (bits >> (i % 64)) & 1, sums);
        }
      } else {
        for (std::uint32_t i = 0; i < n_; ++i) {
          const std::uint32_t at = i + random.below(static_cast<std::uint32_t>(order.size()) - i);
          std::swap(order[i], order[at]);
          take(data, order[i], sums);
        }
      }
      data.drawn.push_back(sums);
    }
  }

  // With `off` taken off the first group's values (of pairs off every change).
  double statistic(const Study& data, const AssignmentSums& sums, double off) const {
    if (paired_) return sums.sum - off * sums.count;
    const double n = static_cast<double>(n_), m = static_cast<double>(m_);
    const double sum = sums.sum - off * sums.count;
    const double rest = data.all_sum - off * n - sum;
    const double difference = sum / n - rest / m;
    if (!plan_.studentized) return difference;
    const double squares = sums.squares - 2.0 * off * sums.own + off * off * sums.count;
    const double all_squares = data.all_squares - 2.0 * off * data.own.sum + off * off * n;
    const double of_first = std::max(0.0, squares - sum * sum / n) / ((n - 1.0) * n);
    const double of_rest = std::max(0.0, all_squares - squares - rest * rest / m) / ((m - 1.0) * m);
    const double error = of_first + of_rest;
    if (error > 0.0) return difference / std::sqrt(error);
    return difference == 0.0 ? 0.0 : std::copysign(std::numeric_limits<double>::infinity(), difference);
  }

  bool rejects(const Study& data, double off, bool up, double tail) const {
    const double observed = statistic(data, data.own, off);
    const double slack = 1e-9 * std::fabs(observed);
    double beyond = masks_.empty() ? 1.0 : 0.0;
    for (const AssignmentSums& sums : data.drawn) {
      const double one = statistic(data, sums, off);
      beyond += (up ? one >= observed - slack : one <= observed + slack) ? 1.0 : 0.0;
    }
    const double total = static_cast<double>(data.drawn.size()) + (masks_.empty() ? 1.0 : 0.0);
    return beyond <= tail * total * (1.0 + 1e-12);
  }

  // The end of the interval that the assignments of the values less `at` leave; NaN where there is
  // none. Of t by its quantiles; of sums the shift from which on so many assignments are as far out.
  double limit(const Study& data, double at, double se, bool lower) const {
    const bool drawn = masks_.empty(), by_t = plan_.studentized && !paired_;
    const double total = static_cast<double>(data.drawn.size()) + (drawn ? 1.0 : 0.0);
    const double within = std::floor(plan_.width_tail * total * (1.0 + 1e-12));
    const double number = within + 1.0 - (drawn || !by_t ? 1.0 : 0.0);
    std::vector<double> values;
    const double own = line(data, data.own, at).first, slope = line(data, data.own, at).second;
    for (const AssignmentSums& sums : data.drawn) {
      if (by_t) {
        values.push_back(statistic(data, sums, at));
        continue;
      }
      const std::pair<double, double> other = line(data, sums, at);
      if (other.second < slope) values.push_back((own - other.first) / (slope - other.second));
    }
    if (within < 1.0 || number < 1.0 || number > static_cast<double>(values.size())) {
      return std::numeric_limits<double>::quiet_NaN();
    }
    // Large t of others, or small shifts, make the lower limit.
    const auto k = static_cast<std::ptrdiff_t>(number) - 1;
    const bool from_above = by_t == lower;
    if (from_above) {
      std::nth_element(values.begin(), values.begin() + k, values.end(), std::greater<double>());
    } else {
      std::nth_element(values.begin(), values.begin() + k, values.end());
    }
    const double found = values[static_cast<std::size_t>(k)];
    return at + (by_t ? (statistic(data, data.own, at) - found) * se : found);
  }

  // Sum, or difference of means, and how much it falls with what is taken off further.
  std::pair<double, double> line(const Study& data, const AssignmentSums& sums, double at) const {
    const double n = static_cast<double>(n_), m = static_cast<double>(m_);
    const double sum = sums.sum - at * sums.count;
    if (paired_) return {sum, sums.count};
    const double rest = data.all_sum - at * n - sum;
    return {sum / n - rest / m, sums.count / n - (n - sums.count) / m};
  }

  const RehearsalPlan& plan_;
  std::size_t n_, m_;
  bool paired_;
  std::vector<std::uint64_t> masks_;
};

}  // namespace detail

// All methods in the studies `from` .. `to` - 1 of `n` and `m` values (of pairs `n`), one Rates for
// each method. Means and SDs of a world of whole numbers are in its steps, as are the values tested.
class Rehearsal {
 public:
  Rehearsal(const MadeUpWorld& world, std::size_t n, std::size_t m,
            const std::vector<Method>& methods, const RehearsalPlan& plan)
      : world_(world), n_(n), m_(m), methods_(methods), plan_(plan) {
    for (const Method method : methods) {
      if (method == Method::ranks) ranks_ = std::make_unique<detail::RankRehearsal>(n, m, plan_);
      if (method == Method::signed_ranks)
        signed_ = std::make_unique<detail::SignedRankRehearsal>(n, plan_);
      if (method == Method::relative)
        relative_ = std::make_unique<detail::RelativeRehearsal>(n, m, plan_);
      if (method == Method::permutation) {
        permutation_ =
            std::make_unique<detail::PermutationRehearsal>(n, m, world.paired, plan_);
      }
    }
  }

  bool run(std::uint64_t from, std::uint64_t to, int threads, std::vector<Rates>& out,
           const std::function<bool()>& keep_going = {}) const {
    constexpr std::uint64_t in_piece = 64;
    const std::uint64_t pieces = (to - from + in_piece - 1) / in_piece;
    std::vector<std::vector<Rates>> found(pieces, std::vector<Rates>(methods_.size()));
    const bool finished = in_pieces(
        pieces, threads,
        [&](std::size_t piece) {
          const std::uint64_t first = from + piece * in_piece;
          for (std::uint64_t i = first; i < std::min(to, first + in_piece); ++i) {
            one_study(i, found[piece]);
          }
        },
        keep_going);
    out.assign(methods_.size(), Rates());
    for (const std::vector<Rates>& piece : found) {
      for (std::size_t k = 0; k < out.size(); ++k) out[k].add(piece[k]);
    }
    return finished;
  }

 private:
  void one_study(std::uint64_t i, std::vector<Rates>& out) const {
    Random random(plan_.seed, i);
    std::vector<double> first(n_), second(world_.paired && !world_.whole ? 0 : m_);
    make_up(world_, random, first, second);
    std::vector<double> x, y;
    if (ranks_ || signed_ || relative_) {
      x = first;
      std::sort(x.begin(), x.end());
      if (!world_.paired) {
        y = second;
        std::sort(y.begin(), y.end());
      }
    }
    const bool wide = i % plan_.width_every == 0;
    for (std::size_t k = 0; k < methods_.size(); ++k) {
      const detail::Finding found = find(methods_[k], first, second, x, y, wide, i);
      const Sides& sides = plan_.sides;
      const bool up = found.up && sides.up, down = found.down && sides.down;
      const bool rejects = found.defined && (sides.both ? up && down : up || down);
      Rates& rates = out[k];
      rates.studies += 1.0;
      rates.rejected += rejects ? 1.0 : 0.0;
      rates.undefined += found.defined ? 0.0 : 1.0;
      if (std::isfinite(found.half_width)) {
        rates.widths += 1.0;
        rates.width_sum += found.half_width;
        rates.width_squares += found.half_width * found.half_width;
      }
    }
  }

  detail::Finding find(Method method, const std::vector<double>& first,
                       const std::vector<double>& second, const std::vector<double>& x,
                       const std::vector<double>& y, bool wide, std::uint64_t study) const {
    static const std::vector<double> none;
    switch (method) {
      case Method::ranks:
        return ranks_->find(x, y, wide);
      case Method::signed_ranks:
        return signed_->find(x, wide);
      case Method::relative:
        return relative_->find(x, y, wide, study);
      case Method::permutation:
        return permutation_->find(first, world_.paired ? none : second, wide, study);
      default:
        return detail::find_means(method, first, second, plan_);
    }
  }

  MadeUpWorld world_;
  std::size_t n_, m_;
  std::vector<Method> methods_;
  RehearsalPlan plan_;
  std::unique_ptr<detail::RankRehearsal> ranks_;
  std::unique_ptr<detail::SignedRankRehearsal> signed_;
  std::unique_ptr<detail::RelativeRehearsal> relative_;
  std::unique_ptr<detail::PermutationRehearsal> permutation_;
};

}  // namespace vandro

#endif
