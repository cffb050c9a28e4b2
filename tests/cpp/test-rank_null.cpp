#include <testthat/vendor/catch.h>

#include <map>
#include <random>
#include <vandro/signed_rank_null.hpp>

namespace rank_null_tests {

using Runs = std::vector<std::int32_t>;

Runs random_runs(std::size_t n, std::size_t most, std::mt19937_64& engine) {
  Runs out;
  while (n > 0) {
    const std::size_t run = std::min<std::size_t>(n, 1 + engine() % most);
    out.push_back(static_cast<std::int32_t>(run));
    n -= run;
  }
  return out;
}

// Every assignment, one by one.
std::map<std::int64_t, double> enumerated(const std::vector<std::int64_t>& scores, int size) {
  std::map<std::int64_t, double> out;
  for (std::uint32_t mask = 0; mask < (1U << scores.size()); ++mask) {
    std::int64_t sum = 0;
    int taken = 0;
    for (std::size_t i = 0; i < scores.size(); ++i) {
      if (((mask >> i) & 1U) == 0) continue;
      sum += scores[i];
      ++taken;
    }
    if (size < 0 || taken == size) out[sum] += 1.0;
  }
  return out;
}

void check_tails(const vandro::RankNull& null, const std::map<std::int64_t, double>& counts) {
  double total = 0.0;
  for (const auto& [value, count] : counts) total += count;
  CHECK(null.least() == counts.begin()->first);
  CHECK(null.most() == counts.rbegin()->first);
  for (std::int64_t w = null.least() - 2; w <= null.most() + 2; ++w) {
    double low = 0.0, high = 0.0;
    for (const auto& [value, count] : counts) {
      if (value <= w) low += count;
      if (value >= w) high += count;
    }
    // Quotients of whole numbers, correctly rounded.
    CHECK(null.at_most(w).p == Approx(low / total).epsilon(1e-15).margin(0.0));
    CHECK(null.at_least(w).p == Approx(high / total).epsilon(1e-15).margin(0.0));
    if (low > 0.0) CHECK(null.at_most(w).log_p == Approx(std::log(low / total)).margin(1e-14));
  }
  for (const double alpha : {0.025, 0.05, 0.1, 0.4}) {
    const std::int64_t low = vandro::low_limit(null, alpha), high = vandro::high_limit(null, alpha);
    CHECK((low < null.least() || null.at_most(low).p <= alpha * (1 + 1e-12)));
    CHECK(null.at_most(low + 1).p > alpha);
    CHECK((high > null.most() || null.at_least(high).p <= alpha * (1 + 1e-12)));
    CHECK(null.at_least(high - 1).p > alpha);
  }
}

TEST_CASE("tails of U with any ties equal those of all assignments") {
  std::mt19937_64 engine(3);
  for (int round = 0; round < 60; ++round) {
    const std::size_t n = 2 + engine() % 9;
    const auto first = static_cast<std::int64_t>(1 + engine() % (n - 1));
    const Runs runs = random_runs(n, 1 + engine() % 4, engine);
    std::map<std::int64_t, double> counts;
    for (const auto& [sum, count] :
         enumerated(vandro::detail::doubled_midranks(runs), static_cast<int>(first))) {
      counts[sum - first * (first + 1)] = count;
    }
    check_tails(*vandro::TiedRankSum::make(runs, first), counts);
    if (runs.size() == n) {
      check_tails(*vandro::UntiedRankSum::make(first, static_cast<std::int64_t>(n) - first),
                  counts);
    }
  }
}

TEST_CASE("tails of W equal those of all signs") {
  std::mt19937_64 engine(4);
  for (int round = 0; round < 60; ++round) {
    const Runs runs = random_runs(1 + engine() % 10, 1 + engine() % 4, engine);
    const auto below = static_cast<std::int64_t>(engine() % 3);
    check_tails(*vandro::SignedRankSum::make(runs, below),
                enumerated(vandro::detail::doubled_midranks(runs, below), -1));
  }
}

TEST_CASE("both ways of counting agree without ties, also beyond the range of plain counts") {
  for (const auto& [n, m] : {std::pair<int, int>{40, 40}, {100, 60}, {3, 200}, {90, 5}}) {
    const Runs runs(static_cast<std::size_t>(n + m), 1);
    const auto tied = vandro::TiedRankSum::make(runs, n);
    const auto untied = vandro::UntiedRankSum::make(n, m);
    for (std::int64_t w = 0; w <= 2L * n * m; w += 1 + n * m / 40) {
      CHECK(tied->at_most(w).log_p ==
            Approx(untied->at_most(w).log_p).epsilon(1e-13).margin(1e-13));
      CHECK(tied->at_least(w).log_p ==
            Approx(untied->at_least(w).log_p).epsilon(1e-13).margin(1e-13));
    }
  }
}

TEST_CASE("the smallest tails of long samples keep their logarithm") {
  // One assignment of 2^1200: below the smallest double.
  const auto signs = vandro::SignedRankSum::make(Runs(300, 4), 0);
  CHECK(signs->at_most(0).log_p == Approx(-1200.0 * std::log(2.0)).epsilon(1e-13));
  // Scores of 0 leave the outermost sum as likely, wherever they stand: a quarter of the signs.
  const auto zeros = vandro::SignedRankSum::of_scores({3, 0, 2, 0});
  CHECK(zeros->at_most(0).p == 0.25);
  CHECK(zeros->at_least(5).log_p == Approx(std::log(0.25)).epsilon(1e-15));
  // The first step with ties of four: no change positive, or one of the four smallest.
  CHECK(signs->at_most(5).log_p == Approx(std::log(5.0) - 1200.0 * std::log(2.0)).epsilon(1e-13));
  // Many against few: 450 + 450 with ties needs no scaling, 800 + 800 would not be offered.
  const auto few = vandro::TiedRankSum::make(Runs(150, 2), 3);
  CHECK(few->at_most(0).p == 0.0);
  CHECK(few->at_least(few->most()).p > 0.0);
}

TEST_CASE("a count can be stopped") {
  const auto never = [] { return false; };
  CHECK(vandro::TiedRankSum::make(Runs(20, 2), 20, never) == nullptr);
  CHECK(vandro::UntiedRankSum::make(20, 20, never) == nullptr);
  CHECK(vandro::SignedRankSum::make(Runs(20, 2), 0, never) == nullptr);
}

TEST_CASE("costs grow as the work does") {
  const double small = vandro::TiedRankSum::cost(50, 50).nanoseconds;
  CHECK(vandro::TiedRankSum::cost(100, 100).nanoseconds / small > 12.0);
  CHECK(vandro::TiedRankSum::cost(100, 100).nanoseconds / small < 20.0);
  // 32 bytes in every cell that a half of the values needs.
  CHECK(vandro::TiedRankSum::cost(50, 50).bytes ==
        32.0 * vandro::detail::subset_cells(50.0, 50.0, 2.0));
  CHECK(vandro::UntiedRankSum::cost(1e6, 1e6).nanoseconds > 1e17);
  CHECK(vandro::SignedRankSum::cost(1000).nanoseconds < 1e9);
}

}  // namespace rank_null_tests
