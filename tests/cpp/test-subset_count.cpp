#include <testthat/vendor/catch.h>

#include <vandro/random.hpp>
#include <vandro/subset_count.hpp>

namespace subset_count_tests {

using Values = std::vector<std::int64_t>;

// Every subset, one after the other.
std::uint64_t counted_naively(const Values& values, int chosen, std::int64_t sum) {
  std::uint64_t out = 0;
  for (std::uint32_t mask = 0; mask < (1U << values.size()); ++mask) {
    if (chosen >= 0 && __builtin_popcount(mask) != chosen) continue;
    std::int64_t total = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
      if ((mask >> i) & 1U) total += values[i];
    }
    out += total >= sum;
  }
  return out;
}

Values random_values(std::size_t n, std::uint64_t seed, int kind) {
  vandro::Random random(seed, 1);
  Values out;
  for (std::size_t i = 0; i < n; ++i) {
    switch (kind) {
      case 0:
        out.push_back(static_cast<std::int64_t>(random.normal() * 1e15));
        break;
      case 1:
        out.push_back(static_cast<std::int64_t>(random.below(5)) - 2);
        break;
      default:  // many zeros, few others
        out.push_back(random.below(2) ? 0 : static_cast<std::int64_t>(random.below(1000000)));
    }
  }
  return out;
}

TEST_CASE("subsets are counted as one by one, by size and of any size, ties included") {
  for (std::uint64_t seed = 0; seed < 240; ++seed) {
    vandro::Random random(seed, 2);
    const std::size_t n = 2 + random.below(12);
    const Values values = random_values(n, seed, static_cast<int>(seed % 3));
    const int chosen =
        seed % 2 ? -1 : static_cast<int>(random.below(static_cast<std::uint32_t>(n) + 1));
    std::int64_t sum = 0;
    for (const std::int64_t value : values) {
      if (random.below(2)) sum += value;
    }
    std::uint64_t found = 0;
    REQUIRE(vandro::SubsetCount(values, chosen).at_least(sum, 1, found));
    REQUIRE(found == counted_naively(values, chosen, sum));
  }
}

TEST_CASE("many windows and pieces: complements add up to all subsets") {
  // 26 values: some ten thousand sums a half, more than one window; also all equal.
  for (int kind = 0; kind < 3; ++kind) {
    const Values values = random_values(30, 5, kind);
    Values turned = values;
    std::int64_t sum = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
      turned[i] = -values[i];
      if (i < 15) sum += values[i];
    }
    std::uint64_t at_least = 0, below = 0, two = 0;
    REQUIRE(vandro::SubsetCount(values, 15).at_least(sum, 1, at_least));
    REQUIRE(vandro::SubsetCount(turned, 15).at_least(-sum + 1, 1, below));
    CHECK(at_least + below == 155117520U);
    REQUIRE(vandro::SubsetCount(values, 15).at_least(sum, 2, two));
    CHECK(two == at_least);
  }
  const Values equal(28, 7);
  std::uint64_t all = 0, none = 0;
  REQUIRE(vandro::SubsetCount(equal, 14).at_least(98, 1, all));
  REQUIRE(vandro::SubsetCount(equal, 14).at_least(99, 1, none));
  CHECK(all == 40116600U);
  CHECK(none == 0U);
}

TEST_CASE("the half-sums of a count are those of both halves") {
  CHECK(vandro::SubsetCount::half_sums(20, -1) == 2048.0);
  CHECK(vandro::SubsetCount::half_sums(4, 2) == 8.0);
}

TEST_CASE("a count can be stopped, and is told how far it is") {
  // Seconds of work: the first question comes long before the end.
  const Values values = random_values(52, 9, 0);
  std::uint64_t count = 0;
  double told = -1.0;
  const bool finished = vandro::SubsetCount(values, 26).at_least(0, 1, count, [&](double share) {
    told = share;
    return false;
  });
  CHECK_FALSE(finished);
  CHECK((told > 0.0 && told < 1.0));
}

}  // namespace subset_count_tests
