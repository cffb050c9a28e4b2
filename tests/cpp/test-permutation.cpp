#include <testthat/vendor/catch.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <numeric>
#include <vandro/enumerate.hpp>
#include <vandro/shifted_t.hpp>

namespace permutation_tests {

using Values = std::vector<std::int64_t>;
using Blocks = std::vector<vandro::Block>;

struct Division {
  std::vector<bool> first;
  std::int64_t fall, moved;
};

// Every division that keeps the blocks, from all masks.
std::vector<Division> all_divisions(const Values& values, const Blocks& blocks) {
  std::vector<Division> out;
  const std::size_t n = values.size();
  std::vector<bool> own;
  for (const vandro::Block& block : blocks) {
    for (std::size_t i = 0; i < block.size; ++i) own.push_back(i < block.chosen);
  }
  for (std::uint32_t mask = 0; mask < (1U << n); ++mask) {
    std::size_t at = 0;
    bool fits = true;
    for (const vandro::Block& block : blocks) {
      std::uint32_t set = 0;
      for (std::size_t i = at; i < at + block.size; ++i) set += (mask >> i) & 1U;
      fits = fits && set == block.chosen;
      at += block.size;
    }
    if (!fits) continue;
    Division division{std::vector<bool>(n), 0, 0};
    for (std::size_t i = 0; i < n; ++i) {
      division.first[i] = (mask >> i) & 1U;
      division.fall += (own[i] ? values[i] : 0) - (division.first[i] ? values[i] : 0);
      division.moved += division.first[i] && !own[i];
    }
    out.push_back(division);
  }
  return out;
}

double welch_t(const Values& values, const std::vector<bool>& first) {
  double n[2] = {0, 0}, mean[2] = {0, 0}, squares[2] = {0, 0};
  for (std::size_t i = 0; i < values.size(); ++i) {
    n[first[i]] += 1.0;
    mean[first[i]] += static_cast<double>(values[i]);
  }
  for (int g = 0; g < 2; ++g) mean[g] /= n[g];
  for (std::size_t i = 0; i < values.size(); ++i) {
    squares[first[i]] += std::pow(static_cast<double>(values[i]) - mean[first[i]], 2);
  }
  const double se2 = squares[0] / (n[0] * (n[0] - 1)) + squares[1] / (n[1] * (n[1] - 1));
  return (mean[1] - mean[0]) / std::sqrt(se2);
}

double trimmed_mean(Values values, std::size_t trim) {
  std::sort(values.begin(), values.end());
  const auto from = values.begin() + static_cast<std::ptrdiff_t>(trim);
  const auto to = values.end() - static_cast<std::ptrdiff_t>(trim);
  return static_cast<double>(std::accumulate(from, to, std::int64_t{0})) /
         static_cast<double>(to - from);
}

// Collects what a walk shows.
struct Listed {
  std::vector<double> values, moved;
  void add(std::int64_t fall, double weight) {
    values.push_back(static_cast<double>(fall));
    moved.push_back(weight);
  }
  void add(double value) { values.push_back(value); }
};

void check_same(std::vector<double> a, std::vector<double> b, double slack) {
  REQUIRE(a.size() == b.size());
  std::sort(a.begin(), a.end());
  std::sort(b.begin(), b.end());
  for (std::size_t i = 0; i < a.size(); ++i) REQUIRE(std::fabs(a[i] - b[i]) <= slack);
}

const Values ten{12, 15, 9, 9, 30, -4, 7, 11, 0, 8};

TEST_CASE("every assignment is visited once, with its sum, within blocks too") {
  for (const Blocks& blocks :
       {Blocks{{10, 4}}, Blocks{{10, 7}}, Blocks{{4, 1}, {6, 4}}, Blocks{{2, 1}, {2, 1}, {6, 6}}}) {
    std::vector<double> falls, shifts;
    for (const Division& division : all_divisions(ten, blocks)) {
      falls.push_back(static_cast<double>(division.fall));
      shifts.push_back(static_cast<double>(division.moved));
    }
    Listed listed;
    REQUIRE(vandro::every_sum(ten, blocks, listed));
    check_same(listed.values, falls, 0.0);
    check_same(listed.moved, shifts, 0.0);
  }
}

TEST_CASE("Welch's t of every assignment is that of the two groups") {
  const Blocks blocks{{10, 4}};
  std::vector<double> expected, centred;
  for (const Division& division : all_divisions(ten, blocks)) {
    expected.push_back(welch_t(ten, division.first));
  }
  for (const std::int64_t value : ten) centred.push_back(static_cast<double>(value) - 9.7);
  Listed listed;
  REQUIRE(vandro::every_studentized(centred, blocks, listed));
  check_same(listed.values, expected, 1e-9);
  // Constant groups: no spread, an infinite t.
  const vandro::StudentizedParts flat({1.0, 1.0, -1.0, -1.0}, 2.0);
  CHECK(std::isinf(flat.t(2.0, 2.0)));
  CHECK(flat.t(0.0, 2.0) == 0.0);
}

TEST_CASE("trimmed means and medians of every assignment, at any shift") {
  const Blocks blocks{{10, 4}};
  for (const std::size_t trim : {std::size_t{0}, std::size_t{1}}) {
    for (const std::int64_t shift : {std::int64_t{0}, std::int64_t{5}}) {
      const vandro::GroupLocation location(ten, blocks, trim, trim + 1, shift);
      Values moved = ten;
      for (std::size_t i = 0; i < 4; ++i) moved[i] -= shift;
      std::vector<double> expected;
      double observed = 0.0;
      for (const Division& division : all_divisions(ten, blocks)) {
        Values groups[2];
        for (std::size_t i = 0; i < 10; ++i) groups[division.first[i]].push_back(moved[i]);
        const double gap = trimmed_mean(groups[1], trim) - trimmed_mean(groups[0], trim + 1);
        if (division.moved == 0) observed = gap;
        expected.push_back(gap);
      }
      for (double& value : expected) value = (observed - value) * location.scale();
      CHECK(static_cast<double>(location.observed()) ==
            Approx(observed * location.scale()).margin(1e-9));
      Listed listed;
      REQUIRE(vandro::every_location(location, blocks, listed));
      check_same(listed.values, expected, 1e-6);
    }
  }
}

TEST_CASE("signs: sums, trimmed means, weights of runs") {
  const Values changes{5, -3, 8, 0, 2, -7};
  const std::vector<double> weights{1, 1, 2, 1, 3, 1};
  std::vector<double> sums, moved, trimmed;
  const std::int64_t shift = 1;
  const vandro::ChangeLocation location(changes, 1, shift);
  double observed = 0.0;
  for (std::uint32_t mask = 0; mask < 64; ++mask) {
    double sum = 0.0, weight = 0.0;
    Values signed_values;
    for (std::size_t i = 0; i < 6; ++i) {
      const bool flipped = (mask >> i) & 1U;
      if (flipped) {
        sum += static_cast<double>(changes[i]);
        weight += weights[i];
      }
      signed_values.push_back((flipped ? -1 : 1) * (changes[i] - shift));
    }
    sums.push_back(sum);
    moved.push_back(weight);
    trimmed.push_back(trimmed_mean(signed_values, 1) * location.scale());
    if (mask == 0) observed = trimmed.back();
  }
  for (double& value : trimmed) value = observed - value;
  Listed listed, located;
  REQUIRE(vandro::every_flip(changes, weights, listed));
  check_same(listed.values, sums, 0.0);
  check_same(listed.moved, moved, 0.0);
  REQUIRE(vandro::every_flipped_location(location, 6, located));
  check_same(located.values, trimmed, 1e-9);
}

TEST_CASE("tails and critical shifts are those of a list") {
  const Blocks blocks{{10, 4}};
  // In two of them the first group's values are all higher, or all lower: no shift is on the other
  // side of 0.
  Values rising = ten, falling = ten;
  std::sort(rising.begin(), rising.end());
  std::sort(falling.begin(), falling.end(), std::greater<std::int64_t>());
  for (const Values& values : {ten, rising, falling}) {
    std::vector<double> shifts;
    std::uint64_t at_least = 0, at_most = 0;
    for (const Division& division : all_divisions(values, blocks)) {
      at_least += division.fall <= 0;
      at_most += division.fall >= 0;
      if (division.moved > 0) {
        shifts.push_back(static_cast<double>(division.fall) / static_cast<double>(division.moved));
      }
    }
    std::sort(shifts.begin(), shifts.end());
    for (const std::size_t kept : {1U, 20U}) {
      vandro::ShiftTails tails(kept);
      REQUIRE(vandro::every_sum(values, blocks, tails));
      CHECK(tails.at_least == at_least);
      CHECK(tails.at_most == at_most);
      CHECK(tails.same == 1);
      const std::vector<double> low = tails.low.sorted(), high = tails.high.sorted();
      REQUIRE(low.size() == kept);
      for (std::size_t i = 0; i < kept; ++i) {
        CHECK(low[i] == shifts[i]);
        CHECK(high[i] == -shifts[shifts.size() - 1 - i]);
      }
    }
  }
}

TEST_CASE("the smallest of many, whatever their order") {
  vandro::Random random(1, 1);
  std::vector<double> all;
  vandro::Smallest rising(50), falling(50), mixed(50), none(0);
  for (int i = 0; i < 5000; ++i) all.push_back(std::floor(random.uniform() * 3000));
  for (const double value : all) mixed.add(value);
  std::sort(all.begin(), all.end());
  for (std::size_t i = 0; i < all.size(); ++i) {
    rising.add(all[i]);
    falling.add(all[all.size() - 1 - i]);
    none.add(all[i]);
  }
  all.resize(50);
  CHECK(rising.sorted() == all);
  CHECK(falling.sorted() == all);
  CHECK(mixed.sorted() == all);
  CHECK(none.sorted().empty());
}

TEST_CASE("random draws follow the list of all, for any number of threads") {
  const Blocks blocks{{4, 2}, {6, 3}};
  constexpr std::size_t draws = 60000;
  vandro::ShiftTails every, one(100), two(100);
  REQUIRE(vandro::every_sum(ten, blocks, every));
  REQUIRE(vandro::reassign_sums(ten, blocks, 7, draws, 1, one));
  REQUIRE(vandro::reassign_sums(ten, blocks, 7, draws, 2, two));
  CHECK(one.at_least == two.at_least);
  CHECK(one.low.sorted() == two.low.sorted());
  const double p = static_cast<double>(every.at_least) / 120.0;
  const double se = std::sqrt(p * (1 - p) / static_cast<double>(draws));
  CHECK(std::fabs(static_cast<double>(one.at_least) / draws - p) < 5.0 * se);

  std::vector<double> centred;
  for (const std::int64_t value : ten) centred.push_back(static_cast<double>(value) - 9.7);
  const vandro::ShiftedValues shifted(centred, blocks);
  vandro::ShiftedTails all_t(shifted, 1.0, 1e-12, 1e5, 0, false);
  vandro::ShiftedTails drawn_t(shifted, 1.0, 1e-12, 1e5, 30, false), again = drawn_t.fresh();
  again.merge(drawn_t);
  REQUIRE(vandro::every_shifted(shifted, blocks, all_t));
  REQUIRE(vandro::reassign_shifted(shifted, blocks, 3, draws, 1, drawn_t));
  REQUIRE(vandro::reassign_shifted(shifted, blocks, 3, draws, 3, again));
  CHECK(drawn_t.at_least == again.at_least);
  CHECK(drawn_t.high.sorted() == again.high.sorted());
  const double q = static_cast<double>(all_t.at_least) / 120.0;
  CHECK(std::fabs(static_cast<double>(drawn_t.at_least) / draws - q) <
        5.0 * std::sqrt(q * (1 - q) / static_cast<double>(draws)));

  const vandro::GroupLocation location(ten, blocks, 1, 1, 0);
  vandro::ShiftTails all_m, drawn_m;
  REQUIRE(vandro::every_location(location, blocks, all_m));
  REQUIRE(vandro::reassign_location(location, blocks, 3, draws, 2, drawn_m));
  const double m = static_cast<double>(all_m.at_least) / 120.0;
  CHECK(std::fabs(static_cast<double>(drawn_m.at_least) / draws - m) <
        5.0 * std::sqrt(m * (1 - m) / static_cast<double>(draws)));
}

TEST_CASE("random signs follow the list of all") {
  const Values changes{5, -3, 8, 1, 2, -7, 4};
  const std::vector<double> weights{1, 1, 2, 1, 3, 1, 1};
  constexpr std::size_t draws = 60000;
  vandro::ShiftTails every, drawn(10);
  REQUIRE(vandro::every_flip(changes, weights, every));
  REQUIRE(vandro::flip_sums(changes, weights, 5, draws, 2, drawn));
  const double p = static_cast<double>(every.at_least) / 128.0;
  CHECK(std::fabs(static_cast<double>(drawn.at_least) / draws - p) <
        5.0 * std::sqrt(p * (1 - p) / static_cast<double>(draws)));
  CHECK(drawn.low.sorted().front() == -7.0);
  const vandro::ChangeLocation location(changes, 1, 0);
  vandro::ShiftTails all_m, drawn_m;
  REQUIRE(vandro::every_flipped_location(location, 7, all_m));
  REQUIRE(vandro::flip_location(location, 7, 5, draws, 1, drawn_m));
  const double m = static_cast<double>(all_m.at_least) / 128.0;
  CHECK(std::fabs(static_cast<double>(drawn_m.at_least) / draws - m) <
        5.0 * std::sqrt(m * (1 - m) / static_cast<double>(draws)));
}

TEST_CASE("long masks: tables of eight and of four values sum alike") {
  for (const std::size_t n : {std::size_t{300}, std::size_t{70000}}) {
    Values values;
    vandro::Random random(n, 1);
    for (std::size_t i = 0; i < n; ++i) {
      values.push_back(static_cast<std::int64_t>(random.below(1000)) - 500);
    }
    const vandro::detail::MaskSums<std::int64_t> table(values);
    const std::size_t words = vandro::detail::words_for(n);
    std::vector<std::uint64_t> masks(2 * words);
    for (std::uint64_t& word : masks) word = random.bits();
    masks[words - 1] &= ~std::uint64_t{0} >> (words * 64 - n);
    masks[2 * words - 1] &= ~std::uint64_t{0} >> (words * 64 - n);
    std::int64_t sums[2];
    table.sums(masks.data(), 2, words, sums);
    for (std::size_t m = 0; m < 2; ++m) {
      std::int64_t expected = 0;
      for (std::size_t i = 0; i < n; ++i) {
        if ((masks[m * words + i / 64] >> (i % 64)) & 1) expected += values[i];
      }
      CHECK(sums[m] == expected);
    }
  }
}

TEST_CASE("a histogram counts every value once") {
  vandro::Histogram bars({-1.0, 0.0, 1.0});
  for (const double value : {-5.0, -0.5, 0.0, 0.5, 9.0}) bars.add(value);
  CHECK((bars.counts == std::vector<std::uint64_t>{2, 3}));
  vandro::Histogram more = bars.fresh();
  more.add(std::int64_t{3}, 1.0);
  bars.merge(more);
  CHECK((bars.counts == std::vector<std::uint64_t>{3, 3}));
}

TEST_CASE("t of every assignment passes the observed one at its critical shift") {
  const std::vector<double> values{0.0, 0.4, -1.1, 2.0, 0.9, -3.0, 1.3, -0.5};
  for (const Blocks& blocks : {Blocks{{8, 3}}, Blocks{{5, 2}, {3, 2}}}) {
    const vandro::ShiftedValues shifted(values, blocks);
    vandro::ShiftedTails kept(shifted, 0.0, 1e-12, 1e5, 1000, false);
    REQUIRE(vandro::every_shifted(shifted, blocks, kept));
    CHECK(kept.same == 1);
    const std::vector<double> shifts = kept.low.sorted();
    // As many have passed the observed t at a shift as have a smaller critical one, and the
    // observed.
    for (const double at : {-3.0, -0.7, 0.2, 2.5}) {
      const vandro::ShiftedT own = shifted.observed();
      vandro::ShiftedTails there(shifted, own.t(at), 1e-12, 1e5, 0, false);
      there.at = at;
      REQUIRE(vandro::every_shifted(shifted, blocks, there));
      const auto passed = std::upper_bound(shifts.begin(), shifts.end(), at) - shifts.begin();
      CHECK(there.at_least == static_cast<std::uint64_t>(passed) + 1);
    }
  }
  // What cannot be told apart is a tie.
  const vandro::ShiftedValues flat({1.0, 1.0, -1.0, -1.0}, {{4, 2}});
  vandro::ShiftedTails tails(flat, 100.0, 1e-9, 100.0, 2, false);
  REQUIRE(vandro::every_shifted(flat, {{4, 2}}, tails));
  CHECK(tails.at_least == 1);
  CHECK(tails.low.sorted().empty());
}

TEST_CASE("work can be stopped") {
  const Values many(40, 3);
  vandro::ShiftTails tails;
  const auto stop = [] { return false; };
  CHECK_FALSE(vandro::every_sum(many, {{40, 20}}, tails, stop));
  CHECK_FALSE(vandro::every_flip(many, std::vector<double>(40, 1.0), tails, stop));
}

}  // namespace permutation_tests
