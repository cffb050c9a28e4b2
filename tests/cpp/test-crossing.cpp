#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/crossing.hpp>
#include <vandro/fixed_point.hpp>

namespace crossing_tests {

double normal_tail(double x) { return vandro::detail::normal_cdf(x); }

TEST_CASE("a smooth tail is crossed in few steps, from either side and from bad guesses") {
  for (const double known : {-6.0, 0.0, 2.0}) {
    for (const double guess : {-1.9600, -2.5, 1.0, 40.0}) {
      int asked = 0;
      const auto tail = [&](double x) {
        ++asked;
        return normal_tail(x);
      };
      const vandro::Crossing at =
          vandro::find_crossing(tail, 0.025, known, normal_tail(known), guess, 0.01, 0.0, 1e-9);
      REQUIRE(at.finished);
      CHECK(at.above - at.below <= 1e-9);
      CHECK(at.below <= -1.9599639845400545);
      CHECK(at.above >= -1.9599639845400545);
      CHECK(at.interpolated(0.025) == Approx(-1.9599639845400545).epsilon(1e-12));
      CHECK(asked < 40);
    }
  }
}

TEST_CASE("a staircase: the step is found on the grid, and level itself is not above") {
  const auto stairs = [](double x) { return std::min(1.0, std::max(0.0, std::floor(x) / 100.0)); };
  const vandro::Crossing at = vandro::find_crossing(stairs, 0.07, 50.0, 0.5, 3.0, 1.0, 0.25, 0.0);
  REQUIRE(at.finished);
  CHECK(at.above == 8.0);
  CHECK(at.below == 7.75);
  const vandro::Crossing fine = vandro::find_crossing(stairs, 0.07, 2.0, 0.02, 3.0, 1.0, 0.0, 1e-9);
  REQUIRE(fine.finished);
  CHECK(fine.above == Approx(8.0).epsilon(1e-9));
}

TEST_CASE("a stopped tail stops the search") {
  const auto stopped = [](double) { return -1.0; };
  CHECK_FALSE(vandro::find_crossing(stopped, 0.05, 0.0, 0.5, -1.0, 0.1, 0.0, 1e-6).finished);
}

TEST_CASE("whole numbers stay exact, doubles keep their digits, an offset drops out") {
  const std::vector<double> whole{3, 1, 4, 1, 5};
  const vandro::FixedPoint a = vandro::fixed_point(whole, 3.0, {1, 1, 0, 0, 0}, 2.0);
  CHECK(a.inexact == 0);
  for (std::size_t i = 0; i < 5; ++i) {
    const double expected = whole[i] - 3.0 - (i < 2 ? 2.0 : 0.0);
    CHECK(static_cast<double>(a.values[i]) * a.unit == expected);
  }
  const std::vector<double> far{1e12 + 0.25, 1e12 - 0.125, 1e12};
  const vandro::FixedPoint b = vandro::fixed_point(far, 1e12, {0, 0, 0}, 0.0);
  CHECK(b.inexact == 0);
  CHECK(static_cast<double>(b.values[0]) * b.unit == 0.25);
  CHECK(static_cast<double>(b.values[1]) * b.unit == -0.125);
  // A value with digits far below the others' is rounded, and counted.
  const vandro::FixedPoint c = vandro::fixed_point({1.0, 1.0 / 3.0 * 0x1p-40}, 0.0, {0, 0}, 0.0);
  CHECK(c.inexact == 1);
  CHECK(c.slack() == 1);
  const vandro::FixedPoint none = vandro::fixed_point({0.0, 0.0}, 0.0, {0, 0}, 0.0);
  CHECK((none.values == std::vector<std::int64_t>{0, 0}));
}

}  // namespace crossing_tests
