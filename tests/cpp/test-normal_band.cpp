#include <testthat/vendor/catch.h>

#include <vandro/normal_band.hpp>

namespace normal_band_tests {

TEST_CASE("bands enclose the quantiles, widen with the level and mirror") {
  for (std::size_t n : {5, 40, 5000}) {
    std::vector<std::size_t> places;
    for (std::size_t i = 1; i <= n; i += n / 5) places.push_back(i);
    if (places.back() != n) places.push_back(n);
    vandro::NormalBand narrow, wide;
    REQUIRE(vandro::normal_band(n, places, 0.8, 3000, 1, narrow));
    REQUIRE(vandro::normal_band(n, places, 0.99, 3000, 1, wide));
    const std::size_t last = places.size() - 1;
    for (std::size_t j = 0; j <= last; ++j) {
      const double p = (static_cast<double>(places[j]) - 0.375) / (static_cast<double>(n) + 0.25);
      const double q = vandro::detail::probit(p, 1.0 - p);
      CHECK(wide.lower[j] <= narrow.lower[j]);
      CHECK(narrow.lower[j] < q);
      CHECK(q < narrow.upper[j]);
      CHECK(narrow.upper[j] <= wide.upper[j]);
    }
    CHECK(std::fabs(narrow.upper[last] + narrow.lower[0]) < 0.35);
  }
}

TEST_CASE("standardized samples of two values are always the same two") {
  vandro::NormalBand band;
  REQUIRE(vandro::normal_band(2, {1, 2}, 0.95, 500, 3, band));
  CHECK(std::fabs(band.upper[1] - std::sqrt(0.5)) < 1e-12);
  CHECK(std::fabs(band.lower[1] - std::sqrt(0.5)) < 1e-12);
}

TEST_CASE("simulation can be stopped") {
  vandro::NormalBand band;
  CHECK_FALSE(vandro::normal_band(50, {1, 25, 50}, 0.95, 5000, 3, band, [] { return false; }));
}

}  // namespace normal_band_tests
