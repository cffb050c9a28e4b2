#include <testthat/vendor/catch.h>

#include <random>
#include <vandro/ranks.hpp>

namespace ranks_tests {

std::vector<double> scores(std::size_t n, std::size_t levels, std::mt19937_64& engine) {
  std::vector<double> out(n);
  for (double& value : out) value = static_cast<double>(engine() % levels);
  std::sort(out.begin(), out.end());
  return out;
}

double variance(const std::vector<double>& x) {
  double mean = 0.0, sum = 0.0;
  for (double value : x) mean += value / static_cast<double>(x.size());
  for (double value : x) sum += (value - mean) * (value - mean);
  return sum / (static_cast<double>(x.size()) - 1.0);
}

TEST_CASE("U, ties and placements equal those counted pair by pair") {
  std::mt19937_64 engine(5);
  for (int round = 0; round < 200; ++round) {
    const auto x = scores(2 + engine() % 20, 1 + engine() % 15, engine);
    const auto y = scores(2 + engine() % 20, 1 + engine() % 15, engine);
    std::uint64_t doubled = 0, equal = 0;
    std::vector<double> of_x, of_y(y.size(), 0.0);
    for (double a : x) {
      double below = 0.0;
      for (std::size_t j = 0; j < y.size(); ++j) {
        doubled += a > y[j] ? 2U : a == y[j] ? 1U : 0U;
        equal += a == y[j];
        below += a > y[j] ? 1.0 : a == y[j] ? 0.5 : 0.0;
        of_y[j] += a < y[j] ? 1.0 : a == y[j] ? 0.5 : 0.0;
      }
      of_x.push_back(below);
    }
    const auto counts = vandro::count_ranks(x.data(), x.size(), y.data(), y.size());
    CHECK(counts.doubled_u == doubled);
    CHECK(counts.equal_pairs == equal);
    CHECK(counts.placement_variance_first == Approx(variance(of_x)).epsilon(1e-13).margin(1e-300));
    CHECK(counts.placement_variance_second == Approx(variance(of_y)).epsilon(1e-13).margin(1e-300));
    const auto shares = vandro::placements(x.data(), x.size(), y.data(), y.size());
    for (std::size_t i = 0; i < x.size(); ++i) {
      CHECK(shares[i] ==
            Approx(of_x[i] / static_cast<double>(y.size())).epsilon(1e-15).margin(1e-300));
    }
    double tie_sum = 0.0;
    std::size_t all = 0, tied = 0;
    for (const std::int32_t run : vandro::tie_runs(x.data(), x.size(), y.data(), y.size())) {
      tie_sum += static_cast<double>(run) * run * run - run;
      all += static_cast<std::size_t>(run);
      if (run > 1) tied += static_cast<std::size_t>(run);
    }
    CHECK(counts.tie_sum == tie_sum);
    CHECK(counts.tied == tied);
    CHECK(all == x.size() + y.size());
  }
}

TEST_CASE("variances of placements are exact where almost all are equal") {
  // 1e6 values, all but one above all others: naive sums of squares would lose the variance.
  std::vector<double> x(1000000, 2.0), y(1000000, 1.0);
  x[0] = 0.0;
  const auto counts = vandro::count_ranks(x.data(), x.size(), y.data(), y.size());
  CHECK(counts.placement_variance_first == Approx(1e6).epsilon(1e-14));
  CHECK(counts.placement_variance_second == 0.0);
}

TEST_CASE("signed ranks equal those of a sorted list of sizes") {
  std::mt19937_64 engine(6);
  for (int round = 0; round < 300; ++round) {
    std::vector<double> changes(1 + engine() % 15);
    for (double& change : changes) change = static_cast<double>(engine() % 9) - 4.0;
    std::sort(changes.begin(), changes.end());
    for (bool rank_zeros : {false, true}) {
      std::vector<double> sizes;
      for (double change : changes) {
        if (rank_zeros || change != 0.0) sizes.push_back(std::fabs(change));
      }
      double plus = 0.0, minus = 0.0, squares = 0.0;
      for (double change : changes) {
        if (change == 0.0) continue;
        double rank = 0.5;
        for (double size : sizes)
          rank += size < std::fabs(change) ? 1.0 : size == std::fabs(change) ? 0.5 : 0.0;
        (change > 0.0 ? plus : minus) += rank;
        squares += rank * rank;
      }
      const auto counts = vandro::count_signed_ranks(changes.data(), changes.size(), rank_zeros);
      CHECK(0.5 * static_cast<double>(counts.doubled_plus) == plus);
      CHECK(0.5 * static_cast<double>(counts.doubled_minus) == minus);
      CHECK(counts.rank_squares == Approx(squares).epsilon(1e-14).margin(1e-300));
      CHECK(counts.zeros ==
            static_cast<std::uint64_t>(std::count(changes.begin(), changes.end(), 0.0)));
    }
  }
}

}  // namespace ranks_tests
