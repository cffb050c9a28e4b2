#include <testthat/vendor/catch.h>

#include <random>
#include <vandro/pairwise.hpp>

namespace pairwise_tests {

std::vector<double> sample(std::size_t n, int kind, std::mt19937_64& engine) {
  std::normal_distribution<double> normal;
  std::vector<double> out(n);
  for (double& value : out) {
    if (kind == 0) value = normal(engine);
    if (kind == 1) value = static_cast<double>(engine() % 3);
    if (kind == 2) value = 0.1 * static_cast<double>(engine() % 50);
    if (kind == 3) value = engine() % 10 != 0 ? 0.0 : normal(engine);
    if (kind == 4) value = 1e9 + 0.001 * normal(engine);
  }
  std::sort(out.begin(), out.end());
  return out;
}

TEST_CASE("every rank of the rounded sums is found, whatever the ties") {
  std::mt19937_64 engine(7);
  for (int round = 0; round < 120; ++round) {
    const int kind = round % 5;
    const auto x = sample(1 + engine() % 150, kind, engine);
    const auto y = sample(1 + engine() % 150, kind, engine);
    for (const bool triangle : {false, true}) {
      std::vector<double> all;
      for (std::size_t i = 0; i < x.size(); ++i) {
        if (triangle) {
          for (std::size_t j = i; j < x.size(); ++j) all.push_back(x[i] + x[j]);
        } else {
          for (const double b : y) all.push_back(x[i] + b);
        }
      }
      std::sort(all.begin(), all.end());
      const vandro::PairwiseSums sums(x, triangle ? x : y, triangle);
      REQUIRE(sums.size() == all.size());
      const std::uint64_t last = all.size() - 1;
      std::vector<std::uint64_t> ranks{
          0, last / 40, last / 3, last / 2, (last + 1) / 2, last - last / 40, last};
      std::vector<double> found;
      CHECK(sums.select(ranks, found));
      for (std::size_t k = 0; k < ranks.size(); ++k) CHECK(found[k] == all[ranks[k]]);
    }
  }
}

TEST_CASE("large samples agree with the counts on both sides of the value found") {
  std::mt19937_64 engine(8);
  for (const int kind : {0, 2, 3}) {
    const auto x = sample(20000, kind, engine), y = sample(15000, kind, engine);
    const vandro::PairwiseSums sums(x, y, false);
    const std::uint64_t rank = sums.size() / 2 - 12345;
    std::vector<double> found;
    REQUIRE(sums.select({rank}, found));
    std::uint64_t below = 0, at_most = 0;
    for (const double a : x) {
      // Sums increase along y.
      below += static_cast<std::uint64_t>(
          std::partition_point(y.begin(), y.end(), [&](double b) { return a + b < found[0]; }) -
          y.begin());
      at_most += static_cast<std::uint64_t>(
          std::partition_point(y.begin(), y.end(), [&](double b) { return a + b <= found[0]; }) -
          y.begin());
    }
    CHECK(below <= rank);
    CHECK(at_most > rank);
  }
}

TEST_CASE("no ranks, one value, and a stop") {
  const vandro::PairwiseSums one({2.0}, {3.0}, false);
  std::vector<double> found{1.0};
  CHECK(one.select({}, found));
  CHECK(found.empty());
  CHECK(one.select({0}, found));
  CHECK(found[0] == 5.0);
  std::mt19937_64 engine(9);
  const auto x = sample(5000, 0, engine);
  CHECK_FALSE(vandro::PairwiseSums(x, x, true).select({1000000}, found, [] { return false; }));
}

}  // namespace pairwise_tests
