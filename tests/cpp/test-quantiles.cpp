#include <testthat/vendor/catch.h>

#include <algorithm>
#include <random>
#include <vandro/quantiles.hpp>

namespace quantiles_tests {

TEST_CASE("selection equals sorting") {
  std::mt19937_64 engine(11);
  const std::vector<double> probabilities{0.0, 0.05, 0.25, 0.5, 0.75, 0.9, 1.0};
  for (std::size_t n = 1; n <= 60; ++n) {
    std::vector<double> x(n);
    for (double& v : x) v = static_cast<double>(engine() % 20);  // many ties
    std::vector<double> sorted = x;
    std::sort(sorted.begin(), sorted.end());
    const std::vector<double> got = vandro::quantiles(x, probabilities);
    for (std::size_t i = 0; i < probabilities.size(); ++i) {
      const double h = static_cast<double>(n - 1) * probabilities[i];
      const auto low = static_cast<std::size_t>(h);
      const double above = sorted[std::min(low + 1, n - 1)];
      const double w = h - static_cast<double>(low);
      CHECK(got[i] == Approx((1.0 - w) * sorted[low] + w * above).epsilon(1e-15));
    }
  }
}

TEST_CASE("the ends of a double's range do not overflow, and nothing gives NaN") {
  std::vector<double> x{-1.7e308, 1.7e308};
  CHECK(vandro::quantiles(x, {0.5})[0] == 0.0);
  std::vector<double> none;
  CHECK(std::isnan(vandro::quantiles(none, {0.5})[0]));
}

TEST_CASE("a group is gathered without its missing values") {
  const double x[] = {1.0, std::numeric_limits<double>::quiet_NaN(), 3.0, 4.0};
  const int codes[] = {2, 2, 1, 2};
  CHECK(vandro::gather_group(x, codes, 4, 2, 2) == std::vector<double>({1.0, 4.0}));
}

}  // namespace quantiles_tests
