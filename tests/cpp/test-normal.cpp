#include <testthat/vendor/catch.h>

#include <vandro/normal.hpp>

namespace normal_tests {

TEST_CASE("what Stirling's formula leaves, below and above the change of ways") {
  using vandro::detail::stirling_remainder;
  // log gamma(1) = 0: what is left is 1 - log(2 pi) / 2.
  CHECK(std::fabs(stirling_remainder(1.0) - 0.0810614667953272582) < 1e-15);
  for (const double z : {2.5, 14.9, 15.0, 16.0, 20.0, 40.0}) {
    const long double l = z;
    const long double remainder =
        std::lgamma(l) - ((l - 0.5L) * std::log(l) - l + 0.918938533204672741780329736406L);
    CHECK(std::fabs(stirling_remainder(z) - static_cast<double>(remainder)) <
          (z < 15.0 ? 5e-14 : 1e-15));
  }
  CHECK(std::fabs(stirling_remainder(1e8) * 12e8 - 1.0) < 1e-15);
}

TEST_CASE("the normal distribution and its quantiles from either tail") {
  using namespace vandro::detail;
  CHECK(std::fabs(normal_cdf(-1.959963984540054) - 0.025) < 1e-16);
  CHECK(std::fabs(normal_cdf(1.0) + normal_cdf(-1.0) - 1.0) < 1e-15);
  CHECK(std::fabs(normal_density(1.0) - 0.24197072451914337) < 1e-16);
  CHECK(std::fabs(probit(0.025, 0.975) + 1.959963984540054) < 1e-14);
  CHECK(std::fabs(probit(1.0, 1e-300) - 37.0471) < 1e-4);
  CHECK(probit(0.5, 0.5) == 0.0);
}

TEST_CASE("log gamma of halves and factorials") {
  CHECK(std::fabs(vandro::detail::log_gamma(0.5) - 0.57236494292470009) < 1e-15);
  CHECK(std::fabs(vandro::detail::log_gamma(11.0) - std::log(3628800.0)) < 1e-13);
}

}  // namespace normal_tests
