// Tests of the relative effect in made-up studies.
#ifndef VANDRO_REHEARSED_RELATIVE_HPP
#define VANDRO_REHEARSED_RELATIVE_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <vector>

#include "normal.hpp"
#include "rehearsed_ranks.hpp"
#include "relative.hpp"
#include "student_t.hpp"

namespace vandro {

namespace detail {

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
      double inside =
          high ? std::numeric_limits<double>::infinity() : -std::numeric_limits<double>::infinity();
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
      sample_relative(runs, in_first, seed, plan_.assignments, 1, drawn);
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
      const double log_one = log_gamma(static_cast<double>(n_) + 1.0) +
                             log_gamma(static_cast<double>(m_) + 1.0) -
                             log_gamma(static_cast<double>(n_ + m_) + 1.0);
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

}  // namespace detail

}  // namespace vandro

#endif
