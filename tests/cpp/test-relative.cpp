#include <testthat/vendor/catch.h>

#include <map>
#include <random>
#include <vandro/relative.hpp>

namespace relative_tests {

using Runs = std::vector<std::int32_t>;

// The formula of Brunner & Munzel (2000) from ranks, positive where the first group is higher.
double by_ranks(const std::vector<double>& x, const std::vector<double>& y) {
  const auto rank_in = [](double value, const std::vector<double>& all) {
    double rank = 0.5;
    for (double other : all) rank += other < value ? 1.0 : other == value ? 0.5 : 0.0;
    return rank;
  };
  std::vector<double> all = x;
  all.insert(all.end(), y.begin(), y.end());
  double means[2] = {0, 0}, spreads[2] = {0, 0};
  const std::vector<double>* groups[2] = {&x, &y};
  for (int g = 0; g < 2; ++g) {
    const auto& group = *groups[g];
    const double n = static_cast<double>(group.size());
    for (double value : group) means[g] += rank_in(value, all) / n;
    for (double value : group) {
      const double rest = rank_in(value, all) - rank_in(value, group) - means[g] + (n + 1.0) / 2.0;
      spreads[g] += rest * rest / (n - 1.0);
    }
  }
  const double n = static_cast<double>(x.size()), m = static_cast<double>(y.size());
  if (means[0] == means[1]) return 0.0;
  return n * m * (means[0] - means[1]) / ((n + m) * std::sqrt(n * spreads[0] + m * spreads[1]));
}

TEST_CASE("every assignment has the statistic of the published formula") {
  const Runs runs{1, 2, 1, 3, 1}, observed{0, 1, 0, 2, 1};
  std::vector<double> pooled;
  for (std::size_t g = 0; g < runs.size(); ++g) {
    for (std::int32_t i = 0; i < runs[g]; ++i) pooled.push_back(static_cast<double>(g));
  }
  std::map<std::int64_t, double> expected, found;  // statistic times 1e9 -> assignments
  double ways = 0.0;
  const auto key = [](double t) {
    return std::isinf(t) ? (t > 0 ? 1L : -1L) * (1L << 60) : std::lround(1e9 * t);
  };
  for (std::uint32_t mask = 0; mask < (1U << pooled.size()); ++mask) {
    std::vector<double> x, y;
    for (std::size_t i = 0; i < pooled.size(); ++i) ((mask >> i) & 1U ? x : y).push_back(pooled[i]);
    if (x.size() != 4) continue;
    expected[key(by_ranks(x, y))] += 1.0;
    ways += 1.0;
  }
  vandro::RelativeNull null;
  REQUIRE(vandro::enumerate_relative(runs, observed, null));
  for (std::size_t i = 0; i < null.statistics.size(); ++i)
    found[key(null.statistics[i])] += null.weights[i];
  CHECK(found == expected);
  CHECK(null.total == ways);
  CHECK(static_cast<double>(null.statistics.size()) == vandro::count_assignments(runs, 4));
  // Tails count the observed statistic on both sides.
  const double t = vandro::detail::observed_parts(runs, observed).statistic(4, 4);
  double high = 0.0, low = 0.0;
  for (const auto& [value, count] : expected) {
    if (value >= key(t)) high += count;
    if (value <= key(t)) low += count;
  }
  CHECK(null.at_least == high);
  CHECK(null.at_most == low);
}

TEST_CASE("random assignments are uniform, and the same for any number of threads") {
  const Runs runs(6, 1), observed{0, 0, 1, 0, 1, 1};
  vandro::RelativeNull all, one, two;
  REQUIRE(vandro::enumerate_relative(runs, observed, all));
  constexpr std::size_t draws = 40000;
  REQUIRE(vandro::sample_relative(runs, observed, 7, draws, 1, one));
  REQUIRE(vandro::sample_relative(runs, observed, 7, draws, 2, two));
  CHECK(one.statistics == two.statistics);
  std::map<double, double> share;
  for (const double t : one.statistics) share[t] += 1.0 / static_cast<double>(draws);
  std::map<double, double> exact;
  for (std::size_t i = 0; i < all.statistics.size(); ++i)
    exact[all.statistics[i]] += all.weights[i] / all.total;
  REQUIRE(share.size() == exact.size());
  for (const auto& [t, p] : exact) {
    CHECK(std::fabs(share[t] - p) < 5.0 * std::sqrt(p * (1.0 - p) / static_cast<double>(draws)));
  }
}

TEST_CASE("statistics are compared exactly, infinite ones too") {
  const vandro::RelativeParts small{3, 100}, same{6, 400}, larger{3, 99}, separated{9, 0},
      none{0, 50};
  CHECK(small.compare(same) == 0);
  CHECK(larger.compare(small) == 1);
  CHECK(separated.compare(larger) == 1);
  CHECK(none.compare(small) == -1);
  const vandro::RelativeParts down{-3, 99}, less_down{-3, 100};
  CHECK(down.compare(less_down) == -1);
  CHECK(std::isinf(separated.statistic(3, 3)));
  CHECK(separated.logit_statistic(3, 3) == separated.statistic(3, 3));
  CHECK(none.logit_statistic(3, 3) == 0.0);
}

TEST_CASE("a list of assignments can be stopped") {
  vandro::RelativeNull null;
  const Runs runs(24, 1);
  Runs observed(24, 0);
  for (std::size_t i = 0; i < 12; ++i) observed[2 * i] = 1;
  CHECK_FALSE(vandro::enumerate_relative(runs, observed, null, [] { return false; }));
}

}  // namespace relative_tests
