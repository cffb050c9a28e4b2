#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/block_sums.hpp>
#include <vandro/enumerate.hpp>
#include <vandro/random.hpp>

namespace sum_null_tests {

using Values = std::vector<double>;
using Blocks = std::vector<vandro::Block>;

std::vector<std::int64_t> as_whole(const Values& values) {
  std::vector<std::int64_t> out;
  for (const double value : values) out.push_back(static_cast<std::int64_t>(value));
  return out;
}

// Tails at a shift of the first values, by listing: growing with it, and falling.
std::pair<double, double> listed(const Values& values, const Blocks& blocks, double shift) {
  Values moved = values;
  std::size_t at = 0;
  for (const vandro::Block& block : blocks) {
    for (std::size_t i = 0; i < block.chosen; ++i) moved[at + i] -= shift;
    at += block.size;
  }
  // Eighths and thirds of steps are whole in 24ths; others to 2^-30.
  for (double& value : moved) value = std::nearbyint(value * 24.0 * 0x1p30);
  vandro::ShiftTails tails;
  REQUIRE(vandro::every_sum(as_whole(moved), blocks, tails));
  double all = 1.0;
  for (const vandro::Block& block : blocks) {
    all *= std::round(std::exp(std::lgamma(block.size + 1.0) - std::lgamma(block.chosen + 1.0) -
                               std::lgamma(block.size - block.chosen + 1.0)));
  }
  return {static_cast<double>(tails.at_least) / all, static_cast<double>(tails.at_most) / all};
}

Values random_values(std::size_t n, std::uint64_t seed, double scale, bool whole) {
  vandro::Random random(seed, 1);
  Values out;
  for (std::size_t i = 0; i < n; ++i) {
    const double value = scale * random.normal();
    out.push_back(whole ? std::nearbyint(value) : value);
  }
  return out;
}

TEST_CASE("two groups of whole numbers: both tails at every shift, as listed") {
  for (std::uint64_t seed = 0; seed < 30; ++seed) {
    vandro::Random random(seed, 4);
    const std::uint32_t n = 4 + random.below(8), first = 1 + random.below(n - 2);
    const Values all = random_values(n, seed, seed % 2 ? 20.0 : 3.0, true);
    const Values x(all.begin(), all.begin() + first), y(all.begin() + first, all.end());
    const auto null =
        vandro::GroupSums::make(vandro::on_grid(x, x[0], 1.0), vandro::on_grid(y, x[0], 1.0));
    REQUIRE(null);
    for (const double shift : {0.0, 1.0, -3.0, 2.5, 1.0 / 3.0}) {
      const auto expected = listed(all, {{n, first}}, shift);
      const auto sixths = static_cast<std::int64_t>(std::nearbyint(6.0 * shift));
      CHECK(null->at_most(sixths, 6) == Approx(expected.first).epsilon(1e-13));
      CHECK(null->at_least(sixths, 6) == Approx(expected.second).epsilon(1e-13));
      if (std::fabs(shift * 2.0 - std::round(shift * 2.0)) > 0.0) continue;
      CHECK(null->at_most(shift).p == Approx(expected.first).epsilon(1e-13));
      CHECK(null->at_least(shift).p == Approx(expected.second).epsilon(1e-13));
    }
  }
}

TEST_CASE("on a grid the bracket holds the exact tail, and the value between is near") {
  for (std::uint64_t seed = 0; seed < 25; ++seed) {
    const std::uint32_t n = 14, first = 6 + static_cast<std::uint32_t>(seed % 3);
    const Values all = random_values(n, seed, 1.0, false);
    const Values x(all.begin(), all.begin() + first), y(all.begin() + first, all.end());
    const double step = seed % 2 ? 0.01 : 0.1;
    const auto null =
        vandro::GroupSums::make(vandro::on_grid(x, 0.0, step), vandro::on_grid(y, 0.0, step));
    REQUIRE(null);
    for (const double shift : {0.0, 0.4, -0.7}) {
      const auto expected = listed(all, {{n, first}}, shift);
      const vandro::BoundedTail low = null->at_most(shift / step),
                                high = null->at_least(shift / step);
      CHECK((low.low <= expected.first && expected.first <= low.high));
      CHECK((high.low <= expected.second && expected.second <= high.high));
      CHECK((low.low <= low.p && low.p <= low.high));
      CHECK(low.high - low.low < 0.3);
      CHECK(std::fabs(low.p - expected.first) < 0.03);
    }
  }
}

TEST_CASE("hundreds of values: tails of both ends add up, and far ones keep their digits") {
  const Values x = random_values(120, 1, 150.0, true), y = random_values(100, 2, 150.0, true);
  const auto null =
      vandro::GroupSums::make(vandro::on_grid(x, 0.0, 1.0), vandro::on_grid(y, 0.0, 1.0));
  REQUIRE(null);
  // All shifts below the least critical one leave the observed assignment alone.
  CHECK(null->at_most(-5000.0).p == Approx(null->least_p()).epsilon(1e-11));
  CHECK(null->at_most(5000.0).p == Approx(1.0).epsilon(1e-11));
  // Between critical shifts of denominator k <= 100 no tie is possible.
  const double odd = 0.5 + 1.0 / 1009.0;
  const double both = null->at_most(odd).p + null->at_least(odd).p;
  CHECK(both == Approx(1.0 + null->least_p()).epsilon(1e-11));
  const vandro::Cost cost = vandro::GroupSums::cost(x, y);
  CHECK((cost.nanoseconds > 0.0 && cost.bytes > 1e6));
}

TEST_CASE("more assignments than a double can count: the value stays within its bracket") {
  const std::size_t n = 480;
  Values x = random_values(n, 3, 1.0, true), y = random_values(n, 4, 1.0, true);
  const Values dust = random_values(2 * n, 5, 0.001, false);
  for (std::size_t i = 0; i < n; ++i) {
    x[i] += dust[i];
    y[i] += dust[n + i];
  }
  const auto null =
      vandro::GroupSums::make(vandro::on_grid(x, 0.0, 1.0), vandro::on_grid(y, 0.0, 1.0));
  REQUIRE(null);
  for (const double shift : {-0.02, 0.0, 0.02}) {
    for (const vandro::BoundedTail& tail : {null->at_most(shift), null->at_least(shift)}) {
      CHECK(tail.low <= tail.p);
      CHECK(tail.p <= tail.high);
      CHECK(tail.p > 0.0);
      CHECK(tail.p == Approx(std::exp(tail.log_p)));
    }
  }
  CHECK(null->at_most(50.0).p == Approx(1.0).epsilon(1e-11));
}

TEST_CASE("signs: exact for whole numbers, bracketed on a grid, zeros and all-zero changes") {
  for (std::uint64_t seed = 0; seed < 30; ++seed) {
    const bool whole = seed % 2;
    const Values changes = random_values(10, seed, whole ? 4.0 : 1.0, whole);
    std::vector<std::int64_t> fine;
    for (const double value : changes) {
      fine.push_back(static_cast<std::int64_t>(std::nearbyint(value * 0x1p40)));
    }
    vandro::ShiftTails tails;
    REQUIRE(vandro::every_flip(fine, Values(10, 1.0), tails));
    const double low = static_cast<double>(tails.at_least) / 1024.0;
    const double high = static_cast<double>(tails.at_most) / 1024.0;
    const vandro::BothTails found =
        vandro::flip_tails(vandro::on_grid(changes, 0.0, whole ? 1.0 : 0.02));
    REQUIRE(found.finished);
    if (whole) {
      CHECK(found.low.p == Approx(low).epsilon(1e-13));
      CHECK(found.high.p == Approx(high).epsilon(1e-13));
    } else {
      CHECK((found.low.low <= low && low <= found.low.high));
      CHECK((found.high.low <= high && high <= found.high.high));
      CHECK(std::fabs(found.low.p - low) < 0.03);
      CHECK(std::fabs(found.high.p - high) < 0.03);
    }
  }
  const vandro::BothTails none = vandro::flip_tails(vandro::on_grid({0.0, 0.0}, 0.0, 1.0));
  CHECK((none.low.p == 1.0 && none.high.p == 1.0));
  CHECK((none.low.low == 1.0 && none.high.high == 1.0));
}

TEST_CASE("blocks: exact for whole numbers, bracketed on a grid") {
  for (std::uint64_t seed = 0; seed < 20; ++seed) {
    const bool whole = seed % 2;
    const Blocks blocks =
        seed % 3 ? Blocks{{4, 2}, {3, 1}, {5, 3}} : Blocks{{2, 1}, {2, 1}, {2, 1}, {6, 1}};
    const Values values = random_values(12, seed, whole ? 6.0 : 1.0, whole);
    const auto expected = listed(values, blocks, 0.0);
    const vandro::BothTails found =
        vandro::BlockSums::tails(vandro::on_grid(values, 0.0, whole ? 1.0 : 0.02), blocks);
    REQUIRE(found.finished);
    if (whole) {
      CHECK(found.low.p == Approx(expected.first).epsilon(1e-13));
      CHECK(found.high.p == Approx(expected.second).epsilon(1e-13));
    } else {
      CHECK((found.low.low <= expected.first && expected.first <= found.low.high));
      CHECK((found.high.low <= expected.second && expected.second <= found.high.high));
      CHECK(std::fabs(found.low.p - expected.first) < 0.05);
    }
  }
}

TEST_CASE("costs grow with the range of the values") {
  const Blocks blocks{{4, 2}, {4, 2}, {4, 2}, {4, 2}};
  Values values;
  for (int i = 0; i < 16; ++i) values.push_back(i % 4);
  const vandro::Cost narrow = vandro::BlockSums::cost(values, blocks);
  for (double& value : values) value *= 100.0;
  const vandro::Cost wide = vandro::BlockSums::cost(values, blocks);
  CHECK(wide.nanoseconds / narrow.nanoseconds > 50.0);
  CHECK(wide.nanoseconds / narrow.nanoseconds < 100.0);
  CHECK(wide.bytes / narrow.bytes > 50.0);
  CHECK(vandro::flip_cost(100.0, 2e4).bytes == 2.0 * vandro::flip_cost(100.0, 1e4).bytes);
}

TEST_CASE("counting can be stopped") {
  const Values x = random_values(30, 1, 50.0, true);
  const auto stop = [] { return false; };
  CHECK_FALSE(
      vandro::GroupSums::make(vandro::on_grid(x, 0.0, 1.0), vandro::on_grid(x, 0.0, 1.0), stop));
  CHECK_FALSE(vandro::flip_tails(vandro::on_grid(x, 0.0, 1.0), stop).finished);
  CHECK_FALSE(
      vandro::BlockSums::tails(vandro::on_grid(x, 0.0, 1.0), {{15, 7}, {15, 8}}, stop).finished);
}

}  // namespace sum_null_tests
