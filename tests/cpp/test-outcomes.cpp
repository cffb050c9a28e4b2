#include <testthat/vendor/catch.h>

#include <vandro/outcomes.hpp>

TEST_CASE("Welch's test of small numbers done by hand") {
  // 1, 2, 3 against 4, 6, 8, 10 with a missing value and a row of another group between.
  const double none = std::numeric_limits<double>::quiet_NaN();
  const std::vector<double> x{1, 4, 2, none, 99, 6, 3, 8, 10};
  const std::vector<int> codes{1, 2, 1, 1, 3, 2, 1, 2, 2};
  vandro::WelchMany out;
  REQUIRE(vandro::welch_many(x.data(), x.size(), 1, codes.data(), 1, 2, {}, out));
  CHECK(out.n_first[0] == 3.0);
  CHECK(out.n_second[0] == 4.0);
  CHECK(out.estimate[0] == -5.0);
  const double a = 1.0 / 3.0, b = 20.0 / 3.0 / 4.0;
  CHECK(std::fabs(out.se[0] - std::sqrt(a + b)) < 1e-15);
  CHECK(std::fabs(out.df[0] - (a + b) * (a + b) / (a * a / 2.0 + b * b / 3.0)) < 1e-13);
}

TEST_CASE("magnitudes near the ends of the range do no harm") {
  for (double scale : {1e-300, 1e-160, 1.0, 1e160, 1e300}) {
    const std::vector<double> x{1 * scale, 2 * scale, 4 * scale, 3 * scale, 7 * scale};
    const std::vector<int> codes{1, 1, 1, 2, 2};
    vandro::WelchMany out;
    REQUIRE(vandro::welch_many(x.data(), x.size(), 1, codes.data(), 1, 2, {}, out));
    CHECK(std::fabs(out.statistic[0] + 8.0 / 3.0 / std::sqrt(7.0 / 9.0 + 4.0)) < 1e-12);
  }
}

TEST_CASE("questions in one direction take one tail") {
  const std::vector<double> x{1, 2, 4, 3, 7};
  const std::vector<int> codes{1, 1, 1, 2, 2};
  vandro::WelchMany both, up, down;
  REQUIRE(vandro::welch_many(x.data(), 5, 1, codes.data(), 1, 2, {0, 0.0, 0.9}, both));
  REQUIRE(vandro::welch_many(x.data(), 5, 1, codes.data(), 1, 2, {1, 0.0, 0.9}, up));
  REQUIRE(vandro::welch_many(x.data(), 5, 1, codes.data(), 1, 2, {-1, 0.0, 0.9}, down));
  CHECK(std::fabs(std::exp(up.log_p[0]) + std::exp(down.log_p[0]) - 1.0) < 1e-14);
  CHECK(std::fabs(2.0 * std::exp(down.log_p[0]) - std::exp(both.log_p[0])) < 1e-14);
}
