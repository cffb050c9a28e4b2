#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/chebyshev.hpp>

namespace chebyshev_tests {

TEST_CASE("smooth functions are met between the nodes") {
  vandro::Chebyshev<2> curve;
  const auto both = [](double x) { return std::array<double, 2>{std::exp(x), std::sin(3.0 * x)}; };
  REQUIRE(curve.fit(both, -1.0, 2.0, 40, 1e-13));
  for (double x = -1.0; x <= 2.0; x += 0.01) {
    CHECK(std::fabs(curve(x)[0] - std::exp(x)) <= 1e-13);
    CHECK(std::fabs(curve(x)[1] - std::sin(3.0 * x)) <= 1e-13);
  }
}

TEST_CASE("an interval that is too long is told") {
  vandro::Chebyshev<1> curve;
  CHECK_FALSE(curve.fit([](double x) { return std::array<double, 1>{std::sin(40.0 * x)}; }, 0.0,
                        9.0, 20, 1e-10));
  CHECK_FALSE(
      curve.fit([](double) { return std::array<double, 1>{std::nan("")}; }, 0.0, 1.0, 8, 1e-10));
  REQUIRE(curve.fit([](double) { return std::array<double, 1>{4.0}; }, 2.0, 2.0, 8, 1e-10));
  CHECK(std::fabs(curve(2.0)[0] - 4.0) <= 1e-14);
}

}  // namespace chebyshev_tests
