// Tests of means in made-up studies.
#ifndef VANDRO_REHEARSED_MEANS_HPP
#define VANDRO_REHEARSED_MEANS_HPP

#include <cmath>
#include <vector>

#include "rehearsal_plan.hpp"
#include "student_t.hpp"

namespace vandro {

namespace detail {

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

// Whether the standardized difference lies above the lower and below the upper bound.
inline void decide_standardized(Method method, const std::vector<double>& first,
                                const std::vector<double>& second, const MeanError& error,
                                const RehearsalPlan& plan, Finding& out) {
  if (method != Method::welch) {
    const double t = error.difference / error.se;
    out.up = t >= plan.t_low;
    out.down = t <= plan.t_high;
    return;
  }
  // By the average SD and Bonett's standard error.
  const Spread x(first), y(second);
  const double a = x.squares / (x.n - 1.0), b = y.squares / (y.n - 1.0), average = 0.5 * (a + b);
  const double u = a / average, v = b / average, d = error.difference / std::sqrt(average);
  const double of_gap = u / (x.n - 1.0) + v / (y.n - 1.0);
  const double of_average = d * d * (u * u / (x.n - 1.0) + v * v / (y.n - 1.0)) / 8.0;
  const double reach = plan.z * std::sqrt(of_gap + of_average);
  out.up = d - plan.sd_low >= reach;
  out.down = plan.sd_high - d >= reach;
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
  if (plan.standardized) decide_standardized(method, first, second, error, plan, out);
  out.half_width =
      plan.width_tail == plan.sides.tail ? reach : error.se * t.upper_quantile(plan.width_tail);
  return out;
}

}  // namespace detail

}  // namespace vandro

#endif
