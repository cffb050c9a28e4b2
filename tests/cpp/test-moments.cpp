#include <testthat/vendor/catch.h>

#include <cmath>
#include <limits>
#include <random>
#include <vandro/moments.hpp>
#include <vector>

namespace moments_tests {

constexpr double nan_value = std::numeric_limits<double>::quiet_NaN();

// Naive twin: two passes in long double about the mean.
vandro::Moments naive(const std::vector<double>& x) {
  long double sum = 0;
  for (double v : x) sum += static_cast<long double>(v) - x[0];
  const long double mean = sum / static_cast<long double>(x.size());
  long double m2 = 0, m3 = 0, m4 = 0;
  for (double v : x) {
    const long double d = (static_cast<long double>(v) - x[0]) - mean;
    m2 += d * d;
    m3 += d * d * d;
    m4 += d * d * d * d;
  }
  vandro::Moments out;
  out.n = static_cast<std::int64_t>(x.size());
  out.base = x[0];
  out.mean = static_cast<double>(mean);
  out.m2 = static_cast<double>(m2);
  out.m3 = static_cast<double>(m3);
  out.m4 = static_cast<double>(m4);
  return out;
}

double relative(double a, double b) { return a == b ? 0.0 : std::fabs(a - b) / std::fabs(b); }

std::vector<double> sample(std::size_t n, double offset, unsigned seed) {
  std::mt19937_64 engine(seed);
  std::vector<double> x(n);
  // A skewed sample from raw bits: the same on every platform.
  for (double& v : x) {
    const double u = static_cast<double>(engine() >> 11) * 0x1p-53;
    v = offset + u * u * 3.0;
  }
  return x;
}

vandro::Moments one_pass(const std::vector<double>& x) {
  vandro::Moments out;
  REQUIRE(vandro::moments(x.data(), x.size(), out));
  return out;
}

TEST_CASE("moments keep their digits at any offset and length") {
  for (double offset : {0.0, 1e9, -1e12}) {
    for (std::size_t n : {1u, 2u, 7u, 255u, 256u, 257u, 1023u, 1024u, 1025u, 5000u, 100000u}) {
      const std::vector<double> x = sample(n, offset, static_cast<unsigned>(n));
      const vandro::Moments got = one_pass(x), want = naive(x);
      CHECK(got.n == want.n);
      CHECK(std::fabs(got.mean - want.mean) <= 1e-13);
      CHECK(relative(got.m2, want.m2) <= 1e-13);
      CHECK(std::fabs(got.m3 - want.m3) <= 1e-12 * std::pow(want.m2, 1.5));
      CHECK(relative(got.m4, want.m4) <= 1e-12);
    }
  }
}

TEST_CASE("sorted values and an outlier in front cost no digits") {
  std::vector<double> x = sample(50000, 1e9, 3);
  std::sort(x.begin(), x.end());
  CHECK(relative(one_pass(x).m2, naive(x).m2) <= 1e-13);
  x[0] = -1e15;
  CHECK(relative(one_pass(x).m2, naive(x).m2) <= 1e-13);
}

TEST_CASE("magnitudes of 1e-160 and 1e160 neither underflow nor overflow") {
  for (double size : {1e-300, 1e-160, 1e160, 1e300, 1.7e308}) {
    std::vector<double> x{1.0 * size, -1.0 * size, 0.5 * size, 0.25 * size};
    const vandro::Moments got = one_pass(x);
    const double sd = std::sqrt(got.m2 / 3.0) / got.scale;
    CHECK(std::isfinite(sd));
    CHECK(relative(sd / size, std::sqrt(2.171875 / 3.0)) <= 1e-14);
    CHECK(got.m4 > 0.0);
    CHECK(std::isfinite(got.m4));
  }
}

TEST_CASE("groups come apart without copies, and missing values are counted") {
  const std::vector<double> x{5, nan_value, 7, 100, 9, nan_value, 2, 4};
  const std::vector<int> codes{3, 3, 3, 1, 8, 8, 8, std::numeric_limits<int>::min()};
  std::array<vandro::Moments, 2> out;
  REQUIRE(vandro::group_moments(x.data(), codes.data(), x.size(), 8, 3, out));
  CHECK(out[0].n == 2);
  CHECK(out[0].missing == 1);
  CHECK(out[0].base + out[0].mean == 5.5);
  CHECK(out[0].min == 2.0);
  CHECK(out[0].max == 9.0);
  CHECK(out[1].n == 2);
  CHECK(out[1].missing == 1);
  CHECK(out[1].base + out[1].mean == 6.0);
  CHECK(out[1].m2 == 2.0);
}

TEST_CASE("integers are read as they are, R's missing integer included") {
  const std::vector<int> x{4, std::numeric_limits<int>::min(), 8};
  const std::vector<int> codes{1, 1, 1};
  std::array<vandro::Moments, 2> out;
  REQUIRE(vandro::group_moments(x.data(), codes.data(), x.size(), 1, 2, out));
  CHECK(out[0].n == 2);
  CHECK(out[0].missing == 1);
  CHECK(out[0].base + out[0].mean == 6.0);
  CHECK(out[1].n == 0);
}

TEST_CASE("an infinite value shows in min and max") {
  const std::vector<double> x{1.0, -std::numeric_limits<double>::infinity(), 3.0};
  CHECK(std::isinf(one_pass(x).min));
}

TEST_CASE("work stops when asked to") {
  const std::vector<double> x(10000, 1.0);
  vandro::Moments out;
  CHECK_FALSE(vandro::moments(x.data(), x.size(), out, [] { return false; }));
}

}  // namespace moments_tests
