#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/student_t.hpp>

namespace student_t_tests {

double relative(double a, double b) { return a == b ? 0.0 : std::fabs(a - b) / std::fabs(b); }

TEST_CASE("one and two degrees of freedom have closed forms") {
  const double pi = std::acos(-1.0);
  for (double t : {0.0, 1e-9, 0.3, 1.0, 4.0, 1e3, 1e8}) {
    CHECK(relative(std::exp(vandro::StudentT(1.0).log_upper(t)), std::atan2(1.0, t) / pi) <= 1e-13);
    // P(T > t) = (1 - t / sqrt(2 + t^2)) / 2, written without cancellation.
    const double root = std::sqrt(2.0 + t * t);
    CHECK(relative(std::exp(vandro::StudentT(2.0).log_upper(t)), 1.0 / (root * (root + t))) <=
          1e-13);
  }
}

TEST_CASE("many degrees of freedom are almost a normal distribution") {
  for (double t : {0.1, 1.0, 3.0, 6.0}) {
    const double normal = 0.5 * std::erfc(t / std::sqrt(2.0));
    // Next term of the expansion: density (t^3 + t) / (4 df).
    const double term =
        std::exp(-0.5 * t * t) / std::sqrt(2.0 * std::acos(-1.0)) * (t * t * t + t) / 4e9;
    CHECK(relative(std::exp(vandro::StudentT(1e9).log_upper(t)), normal + term) <= 1e-12);
  }
}

TEST_CASE("tails add up, far ones do not underflow") {
  for (double df : {1.0, 3.5, 40.0, 1e5}) {
    const vandro::StudentT student(df);
    for (double t : {0.01, 0.7, 2.0}) {
      CHECK(std::fabs(std::exp(student.log_upper(t)) + std::exp(student.log_upper(-t)) - 1.0) <=
            1e-14);
      CHECK(student.log_both(t) == student.log_both(-t));
    }
    CHECK(std::isfinite(student.log_upper(1e200)));
    CHECK(student.log_upper(1e200) < student.log_upper(1e100));
    CHECK(student.log_both(0.0) == 0.0);
  }
}

TEST_CASE("quantiles put the tail where it belongs") {
  for (double df : {1.0, 1.7, 4.0, 30.0, 1e6}) {
    const vandro::StudentT student(df);
    for (double tail : {0.4, 0.1, 0.025, 1e-4, 1e-12}) {
      CHECK(std::fabs(student.log_upper(student.upper_quantile(tail)) - std::log(tail)) <= 1e-11);
    }
  }
}

}  // namespace student_t_tests
