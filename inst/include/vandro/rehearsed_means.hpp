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
  out.half_width =
      plan.width_tail == plan.sides.tail ? reach : error.se * t.upper_quantile(plan.width_tail);
  return out;
}

}  // namespace detail

}  // namespace vandro

#endif
