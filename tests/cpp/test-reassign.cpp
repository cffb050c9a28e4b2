#include <testthat/vendor/catch.h>

#include <cmath>
#include <map>
#include <vandro/reassign.hpp>

namespace reassign_tests {

using Masks = std::vector<std::uint64_t>;

Masks drawn(const std::vector<vandro::Block>& blocks, std::size_t count, std::uint64_t seed) {
  const vandro::Reassignment reassignment(blocks);
  Masks out(count * reassignment.words() + 64);
  vandro::RandomBits bits(seed, 0);
  vandro::Random picks(seed, 0);
  reassignment.draw(bits, picks, count, out.data());
  out.resize(count * reassignment.words());
  return out;
}

int bits_set(const std::uint64_t* mask, std::size_t from, std::size_t to) {
  int out = 0;
  for (std::size_t i = from; i < to; ++i) out += static_cast<int>((mask[i / 64] >> (i % 64)) & 1);
  return out;
}

TEST_CASE("every mask has the right number of bits in every block") {
  using Blocks = std::vector<vandro::Block>;
  for (const Blocks& blocks :
       {Blocks{{100, 50}}, Blocks{{100, 13}}, Blocks{{40, 39}}, Blocks{{1000, 3}},
        Blocks{{1000, 480}}, Blocks{{64, 32}}, Blocks{{128, 1}}, Blocks{{2, 1}}, Blocks{{3, 3}},
        Blocks{{5, 0}}, Blocks{{6, 3}, {70, 20}, {1, 1}, {200, 150}, {3, 0}}}) {
    const Masks masks = drawn(blocks, 300, 11);
    const std::size_t words = masks.size() / 300;
    for (std::size_t m = 0; m < 300; ++m) {
      std::size_t at = 0;
      for (const vandro::Block& block : blocks) {
        REQUIRE(bits_set(&masks[m * words], at, at + block.size) == static_cast<int>(block.chosen));
        at += block.size;
      }
      REQUIRE(bits_set(&masks[m * words], at, words * 64) == 0);
    }
  }
}

TEST_CASE("all assignments are equally frequent, in one block and in several") {
  using Blocks = std::vector<vandro::Block>;
  struct Case {
    Blocks blocks;
    double ways;
  };
  for (const Case& c : {Case{{{8, 4}}, 70.0}, Case{{{7, 2}}, 21.0},
                        Case{{{4, 2}, {3, 1}, {2, 1}}, 36.0}, Case{{{5, 4}}, 5.0}}) {
    constexpr std::size_t count = 40000;
    std::map<std::uint64_t, double> seen;
    for (const std::uint64_t mask : drawn(c.blocks, count, 3)) seen[mask] += 1.0;
    CHECK(static_cast<double>(seen.size()) == c.ways);
    double chi_square = 0.0;
    const double expected = static_cast<double>(count) / c.ways;
    for (const auto& one : seen) chi_square += std::pow(one.second - expected, 2) / expected;
    // Six standard deviations above its mean.
    CHECK(chi_square < c.ways + 6.0 * std::sqrt(2.0 * c.ways));
  }
}

TEST_CASE("long masks: each value and each pair of values is chosen as often as it should") {
  for (const std::uint32_t chosen : {500U, 60U, 900U}) {
    constexpr std::size_t count = 4000;
    const Masks masks = drawn({{1000, chosen}}, count, 17);
    const double p = chosen / 1000.0;
    double worst = 0.0, together = 0.0;
    for (std::size_t i = 0; i < 1000; ++i) {
      double share = 0.0;
      for (std::size_t m = 0; m < count; ++m) share += bits_set(&masks[m * 16], i, i + 1);
      worst = std::max(worst, std::fabs(share / count - p));
    }
    for (std::size_t m = 0; m < count; ++m) together += bits_set(&masks[m * 16], 3, 5) == 2;
    CHECK(worst < 5.0 * std::sqrt(p * (1.0 - p) / count));
    const double pair = p * (chosen - 1.0) / 999.0;
    CHECK(std::fabs(together / count - pair) < 5.0 * std::sqrt(pair * (1.0 - pair) / count));
  }
}

TEST_CASE("random bits have the share asked for") {
  vandro::RandomBits random(5, 2);
  for (std::uint32_t sixteenths = 1; sixteenths < 16; ++sixteenths) {
    double set = 0.0;
    for (int i = 0; i < 2000; ++i) {
      vandro::RandomBits::Lanes drawn;
      random.bits(sixteenths, drawn);
      for (int lane = 0; lane < 4; ++lane) set += __builtin_popcountll(drawn[lane]);
    }
    const double p = sixteenths / 16.0;
    CHECK(std::fabs(set / 512000.0 - p) < 5.0 * std::sqrt(p * (1.0 - p) / 512000.0));
  }
}

}  // namespace reassign_tests
