#include <testthat/vendor/catch.h>

#include <vandro/fixed_point.hpp>

namespace fixed_point_tests {

TEST_CASE("the largest value sets the unit, wherever it stands") {
  for (const std::size_t place : {0U, 1U, 2U}) {
    std::vector<double> values{0.5, 0.25, 0.75};
    values[place] = 1048576.5;
    const vandro::FixedPoint found = vandro::fixed_point(values, 0.0, {0.0, 0.0, 0.0}, 0.0);
    double sum = 0.0;
    for (std::size_t i = 0; i < 3; ++i) {
      CHECK(static_cast<double>(found.values[i]) * found.unit == values[i]);
      sum += static_cast<double>(found.values[i]);
    }
    // Room for the sum, eight times over, but no more than twice that and the rounding up.
    CHECK(sum * 8.0 < std::ldexp(1.0, 61));
    CHECK(sum * 64.0 > std::ldexp(1.0, 61));
    CHECK(found.inexact == 0);
    CHECK(found.slack() == 0);
  }
}

TEST_CASE("small numbers are as large in their unit as others, and nothing has unit 1") {
  const vandro::FixedPoint small = vandro::fixed_point({0x1p-80, 0x3p-80}, 0.0, {0.0, 0.0}, 0.0);
  CHECK(small.values[1] == 3 * small.values[0]);
  CHECK(small.values[1] > (std::int64_t{1} << 50));
  const vandro::FixedPoint none = vandro::fixed_point({0.0, 0.0}, 0.0, {1.0, 0.0}, 0.0);
  CHECK(none.unit == 1.0);
  CHECK(none.values[0] == 0);
}

TEST_CASE("a shift that has no place on the grid makes those values inexact that it moves") {
  const vandro::FixedPoint found = vandro::fixed_point({1.0, 2.0, 3.0}, 0.0, {1.0, 0.0, 1.0}, 0.1);
  CHECK(found.inexact == 2);
  CHECK(found.slack() == 1);
  CHECK(static_cast<double>(found.values[1]) * found.unit == 2.0);
  CHECK(std::fabs(static_cast<double>(found.values[2]) * found.unit - 2.9) < 1e-15);
}

}  // namespace fixed_point_tests
