#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/noncentral_t.hpp>

namespace noncentral_t_tests {

double relative(double a, double b) { return a == b ? 0.0 : std::fabs(a - b) / std::fabs(b); }

TEST_CASE("with one degree of freedom and no noncentrality it is the Cauchy distribution") {
  for (double t : {-300.0, -2.0, -0.1, 0.0, 0.5, 3.0, 1000.0}) {
    const vandro::NoncentralT got = vandro::noncentral_t(t, 1.0, 0.0);
    CHECK(relative(got.lower, std::atan2(1.0, -t) / std::acos(-1.0)) <= 1e-12);
    CHECK(relative(got.upper, std::atan2(1.0, t) / std::acos(-1.0)) <= 1e-12);
  }
}

TEST_CASE("both tails add up and mirror") {
  for (double df : {1.0, 1.3, 4.0, 25.0, 1e4, 1e7}) {
    for (double t : {0.2, 2.0, 30.0, 900.0}) {
      for (double z : {-3.0, 0.0, 2.0}) {
        const double ncp = t + z * std::sqrt(1.0 + 0.5 * t * t / df);
        const vandro::NoncentralT a = vandro::noncentral_t(t, df, ncp);
        const vandro::NoncentralT b = vandro::noncentral_t(-t, df, -ncp);
        CHECK(std::fabs(a.lower + a.upper - 1.0) <= 1e-11);
        CHECK(a.lower == b.upper);
        CHECK(a.upper == b.lower);
      }
    }
  }
}

TEST_CASE("limits put the tails where they belong") {
  for (double df : {1.0, 2.2, 9.0, 40.0, 1e3, 1e7}) {
    for (double t : {-1000.0, -5.0, 0.0, 1e-8, 1.0, 60.0, 1000.0}) {
      for (double level : {0.5, 0.9, 0.95, 0.999}) {
        const vandro::NcpLimits limits = vandro::ncp_limits(t, df, level);
        REQUIRE(limits.converged);
        REQUIRE(limits.lower < limits.upper);
        const double tail = 0.5 * (1.0 - level);
        CHECK(relative(vandro::noncentral_t(t, df, limits.lower).upper, tail) <= 1e-9);
        CHECK(relative(vandro::noncentral_t(t, df, limits.upper).lower, tail) <= 1e-9);
      }
    }
  }
}

TEST_CASE("many limits at once are the single ones") {
  std::vector<double> t, df;
  for (int i = 0; i < 3000; ++i) {
    t.push_back(std::sin(i) * (i % 10 == 0 ? 900.0 : 6.0));
    df.push_back(i % 3 == 0 ? 12.0 : 45.5);
  }
  std::vector<vandro::NcpLimits> out;
  REQUIRE(vandro::ncp_limits(t, df, 0.95, out));
  for (std::size_t i = 0; i < t.size(); i += 97) {
    const vandro::NcpLimits one = vandro::ncp_limits(t[i], df[i], 0.95);
    CHECK(std::fabs(out[i].lower - one.lower) <= 1e-10 * std::fmax(1.0, std::fabs(one.lower)));
    CHECK(std::fabs(out[i].upper - one.upper) <= 1e-10 * std::fmax(1.0, std::fabs(one.upper)));
  }
  CHECK_FALSE(vandro::ncp_limits(t, df, 0.95, out, 1, [] { return false; }));
}

TEST_CASE("limits of many have the digits of single ones") {
  std::vector<double> t, df;
  for (int i = 0; i < 300; ++i) {
    t.push_back(-4.0 + 0.029 * i);
    df.push_back(17.0);
  }
  std::vector<vandro::NcpLimits> found;
  REQUIRE(vandro::ncp_limits(t, df, 0.95, found));
  for (std::size_t i = 0; i < t.size(); ++i) {
    const vandro::NcpLimits one = vandro::ncp_limits(t[i], 17.0, 0.95);
    REQUIRE(found[i].lower == one.lower);
    REQUIRE(found[i].upper == one.upper);
  }
}

TEST_CASE("limits do not depend on the number of threads") {
  std::vector<double> t, df;
  for (int i = 0; i < 5000; ++i) {
    t.push_back(6.0 * std::sin(i));
    df.push_back(i % 50 == 0 ? 10.0 + i : 198.0);
  }
  std::vector<vandro::NcpLimits> alone, shared;
  REQUIRE(vandro::ncp_limits(t, df, 0.95, alone));
  for (const int threads : {2, 5}) {
    REQUIRE(vandro::ncp_limits(t, df, 0.95, shared, threads));
    for (std::size_t i = 0; i < t.size(); ++i) {
      REQUIRE(shared[i].converged);
      REQUIRE(shared[i].lower == alone[i].lower);
      REQUIRE(shared[i].upper == alone[i].upper);
    }
  }
}

}  // namespace noncentral_t_tests
