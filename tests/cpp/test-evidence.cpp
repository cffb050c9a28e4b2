#include <testthat/vendor/catch.h>

#include <cmath>
#include <limits>
#include <vandro/evidence.hpp>

namespace evidence_tests {

constexpr double infinite = std::numeric_limits<double>::infinity();

double relative(double a, double b) { return a == b ? 0.0 : std::fabs(a - b) / std::fabs(b); }

vandro::EvidenceGrid grid_of(double t, double df, double size, double scale) {
  return vandro::EvidenceGrid(vandro::EffectLikelihood(t, df, size), 0.0, {scale, scale}, {0.0});
}

TEST_CASE("the likelihood ratio of no effect is 1, and mirrors") {
  for (double t : {-1000.0, -2.0, 0.0, 0.3, 40.0}) {
    for (double df : {1.0, 7.5, 300.0, 2e6}) {
      const vandro::EffectLikelihood one(t, df, 11.0), other(-t, df, 11.0);
      CHECK(std::fabs(one.log_ratio(0.0)) <= 1e-12);
      for (double delta : {0.01, 0.5, 3.0}) {
        const double scale = std::max(1.0, std::fabs(one.log_ratio(delta)));
        CHECK(std::fabs(one.log_ratio(delta) - other.log_ratio(-delta)) <= 1e-11 * scale);
      }
    }
  }
}

TEST_CASE(
    "with very many degrees of freedom a normal likelihood meets a normal prior in closed form") {
  // BF = (1 + v)^(-1/2) exp(t^2 v / (2 (1 + v))), v = size times the prior's variance.
  for (double t : {0.0, 1.0, 3.0}) {
    const double size = 20.0, scale = 0.6, v = size * scale * scale;
    const vandro::EvidenceGrid grid = grid_of(t, 1e7, size, scale);
    const double got = grid.mass(vandro::EffectPrior(0.0, scale, 1e7), -infinite, infinite).log;
    const double closed = -0.5 * std::log1p(v) + 0.5 * t * t * v / (1.0 + v);
    CHECK(std::fabs(got - closed) <= 1e-5);
  }
}

TEST_CASE("both sides add up, and shares lie where the mass says") {
  for (double t : {-3.0, 0.0, 2.0, 50.0}) {
    for (double df : {1.0, 18.0, 1e4}) {
      const vandro::EvidenceGrid grid = grid_of(t, df, 5.0, 0.7);
      const vandro::EffectPrior prior(0.0, 0.7, 1.0);
      const double all = grid.mass(prior, -infinite, infinite).log;
      const double low = grid.mass(prior, -infinite, 0.0).log;
      const double high = grid.mass(prior, 0.0, infinite).log;
      CHECK(relative(std::exp(low - all) + std::exp(high - all), 1.0) <= 1e-13);
      if (low - all > -25.0) {
        CHECK(std::fabs(grid.quantile(prior, -infinite, infinite, std::exp(low - all))) <= 1e-10);
      }
      for (double p : {0.025, 0.5, 0.975}) {
        const double at = grid.quantile(prior, -infinite, infinite, p);
        const vandro::EvidenceGrid marked(vandro::EffectLikelihood(t, df, 5.0), 0.0, {0.7, 0.7},
                                          {at});
        CHECK(std::fabs(std::exp(marked.mass(prior, -infinite, at).log - all) - p) <= 1e-11);
      }
    }
  }
}

TEST_CASE("panels are halved until the mass on a side far from the data is known") {
  const vandro::EffectPrior prior(0.0, 0.7, 1.0);
  for (double t : {-8.0, -300.0, -3000.0}) {
    for (double df : {4.0, 1998.0, 2e6}) {
      vandro::EvidenceGrid grid = grid_of(t, df, 0.25 * (df + 2.0), 0.7);
      grid.refine(prior, 0.0, infinite);
      const vandro::LogMass mass = grid.mass(prior, 0.0, infinite);
      CHECK(std::isfinite(mass.log));
      CHECK(mass.error <= 1e-10);
      const double low = grid.quantile(prior, 0.0, infinite, 0.1);
      const double high = grid.quantile(prior, 0.0, infinite, 0.9);
      CHECK((low > 0.0 && low < high));
    }
  }
}

TEST_CASE("nothing overflows, and the error is told") {
  for (double t : {1000.0, 1e5}) {
    for (double df : {1.0, 100.0, 2e6}) {
      const vandro::LogMass mass =
          grid_of(t, df, 1e5, 0.7).mass(vandro::EffectPrior(0.0, 0.7, 1.0), -infinite, infinite);
      CHECK(std::isfinite(mass.log));
      CHECK(mass.error <= (t > 1000.0 ? 1e-5 : 1e-9));
    }
  }
  // A prior that nothing is learnt about: no stretch, no mass.
  const vandro::LogMass none =
      grid_of(1.0, 9.0, 5.0, 1.0).mass(vandro::EffectPrior(0.0, 1.0, 1.0), 0.0, 0.0);
  CHECK(none.log == -infinite);
}

}  // namespace evidence_tests
