#include <testthat/vendor/catch.h>

#include <cmath>
#include <limits>
#include <random>
#include <vandro/pairs.hpp>
#include <vector>

namespace pairs_tests {

constexpr double nan_value = std::numeric_limits<double>::quiet_NaN();

TEST_CASE("pairs are counted by what they lack and by their direction") {
  const std::vector<double> x{3, 5, nan_value, 2, 7, nan_value};
  const std::vector<double> y{1, 5, 4, nan_value, 9, nan_value};
  vandro::PairMoments out;
  REQUIRE(vandro::pair_moments(x.data(), y.data(), x.size(), out));
  CHECK(out.change.n == 3);
  CHECK(out.up == 1);
  CHECK(out.same == 1);
  CHECK(out.down == 1);
  CHECK(out.only_first == 1);
  CHECK(out.only_second == 1);
  CHECK(out.neither == 1);
  CHECK(out.first.base + out.first.mean == 5.0);
  CHECK(out.second.base + out.second.mean == 5.0);
  CHECK(out.change.base + out.change.mean == 0.0);
  CHECK(out.cross == Approx(16.0));  // (-2)(-4) + 0 0 + 2 4
}

TEST_CASE("cross products agree with the naive sum, at offsets and magnitudes") {
  std::mt19937_64 engine(5);
  for (double size : {1.0, 1e-170, 1e170}) {
    for (double offset : {0.0, 1e9}) {
      std::vector<double> x(5000), y(5000);
      for (std::size_t i = 0; i < x.size(); ++i) {
        const double u = static_cast<double>(engine() >> 40) * 0x1p-24;
        const double v = static_cast<double>(engine() >> 40) * 0x1p-24;
        x[i] = (offset + u) * size;
        y[i] = (offset + u + v) * size;
      }
      vandro::PairMoments out;
      REQUIRE(vandro::pair_moments(x.data(), y.data(), x.size(), out));
      const double r = out.cross / std::sqrt(out.first.m2 * out.second.m2);
      long double sx = 0, sy = 0, sxy = 0, sxx = 0, syy = 0;
      for (std::size_t i = 0; i < x.size(); ++i) {
        sx += static_cast<long double>(x[i]) / size - offset;
        sy += static_cast<long double>(y[i]) / size - offset;
      }
      const auto n = static_cast<long double>(x.size());
      for (std::size_t i = 0; i < x.size(); ++i) {
        const long double dx = static_cast<long double>(x[i]) / size - offset - sx / n;
        const long double dy = static_cast<long double>(y[i]) / size - offset - sy / n;
        sxy += dx * dy;
        sxx += dx * dx;
        syy += dy * dy;
      }
      CHECK(r == Approx(static_cast<double>(sxy / std::sqrt(sxx * syy))).epsilon(1e-9));
    }
  }
}

}  // namespace pairs_tests
