#include <testthat/vendor/catch.h>

#include <cmath>
#include <limits>
#include <vandro/max_t.hpp>

namespace max_t_tests {

using Values = std::vector<double>;

Values made_up(std::size_t rows, std::size_t columns, std::uint64_t seed) {
  vandro::Random random(seed, 0);
  Values out(rows * columns);
  for (double& v : out) v = random.normal();
  return out;
}

// |t| of one outcome for the rows in `mask`, by the formulas; 0 where a group is too small.
double t_of(const double* x, std::size_t rows, std::uint64_t mask, bool pooled) {
  double n[2] = {0, 0}, sum[2] = {0, 0}, squares[2] = {0, 0};
  for (std::size_t i = 0; i < rows; ++i) {
    if (std::isnan(x[i])) continue;
    const std::size_t g = ((mask >> i) & 1) != 0 ? 0 : 1;
    n[g] += 1;
    sum[g] += x[i];
  }
  const double least = pooled ? 1 : 2;
  if (n[0] < least || n[1] < least) return 0.0;
  const double mean[2] = {sum[0] / n[0], sum[1] / n[1]};
  for (std::size_t i = 0; i < rows; ++i) {
    if (std::isnan(x[i])) continue;
    const std::size_t g = ((mask >> i) & 1) != 0 ? 0 : 1;
    squares[g] += (x[i] - mean[g]) * (x[i] - mean[g]);
  }
  const double var = pooled ? (squares[0] + squares[1]) / (n[0] + n[1] - 2) * (1 / n[0] + 1 / n[1])
                            : squares[0] / (n[0] * (n[0] - 1)) + squares[1] / (n[1] * (n[1] - 1));
  return std::fabs(mean[0] - mean[1]) / std::sqrt(var);
}

vandro::JointOutcomes outcomes_of(const Values& x, std::size_t rows, std::size_t columns) {
  vandro::JointOutcomes out;
  out.values = x.data();
  out.rows = rows;
  out.columns = columns;
  return out;
}

TEST_CASE("all assignments of small groups, listed, are those of brute force") {
  constexpr std::size_t rows = 9, columns = 6;
  for (const bool pooled : {false, true}) {
    Values x = made_up(rows, columns, 3);
    x[2 * rows + 4] = std::numeric_limits<double>::quiet_NaN();
    // Two values of one group and three of the other.
    for (const std::size_t i : {0U, 1U, 5U, 6U})
      x[4 * rows + i] = std::numeric_limits<double>::quiet_NaN();
    vandro::JointOutcomes outcomes = outcomes_of(x, rows, columns);
    outcomes.blocks = {{9, 4}};
    outcomes.kind = pooled ? vandro::JointKind::student : vandro::JointKind::welch;
    vandro::MaxT found;
    REQUIRE(vandro::max_t(outcomes, true, 0, 0, 1000, 1, found));
    REQUIRE(found.largest.size() == 126);
    Values observed(columns), single(columns, 0.0), stepped(columns, 0.0);
    for (std::size_t j = 0; j < columns; ++j) observed[j] = t_of(&x[j * rows], rows, 15, pooled);
    std::size_t total = 0;
    for (std::uint64_t mask = 0; mask < 512; ++mask) {
      if (__builtin_popcountll(mask) != 4) continue;
      ++total;
      Values t(columns);
      for (std::size_t j = 0; j < columns; ++j) t[j] = t_of(&x[j * rows], rows, mask, pooled);
      for (std::size_t j = 0; j < columns; ++j) {
        double all = 0.0, below = 0.0;
        for (std::size_t k = 0; k < columns; ++k) {
          all = std::max(all, t[k]);
          if (observed[k] <= observed[j]) below = std::max(below, t[k]);
        }
        single[j] += all >= observed[j] - 1e-9;
        stepped[j] += below >= observed[j] - 1e-9;
      }
    }
    REQUIRE(total == 126);
    REQUIRE(found.largest.size() >= total);
    for (std::size_t j = 0; j < columns; ++j) {
      REQUIRE(found.observed[j] == Approx(observed[j]).epsilon(1e-10));
      REQUIRE(found.single[j] == single[j]);
      REQUIRE(found.stepped[j] == stepped[j]);
    }
  }
}

TEST_CASE("signs of changes, and blocks, are listed whole") {
  Values x = made_up(6, 3, 5);
  vandro::JointOutcomes changes = outcomes_of(x, 6, 3);
  changes.kind = vandro::JointKind::changes;
  vandro::MaxT found;
  REQUIRE(vandro::max_t(changes, true, 0, 0, 64, 1, found));
  REQUIRE(found.largest.size() == 64);
  // Signs and their opposites give the same size.
  for (const double count : found.single) REQUIRE(std::fmod(count, 2.0) == 0.0);
  vandro::JointOutcomes blocked = outcomes_of(x, 6, 3);
  blocked.blocks = {{4, 2}, {2, 1}};
  REQUIRE(vandro::detail::every_mask(blocked).size() == 12);
}

TEST_CASE("draws do not depend on threads or on how they are shared") {
  constexpr std::size_t rows = 70, columns = 20, draws = 3 * vandro::max_t_piece;
  const Values x = made_up(rows, columns, 8);
  vandro::JointOutcomes outcomes = outcomes_of(x, rows, columns);
  outcomes.blocks = {{70, 33}};
  vandro::MaxT one, two, first, rest;
  REQUIRE(vandro::max_t(outcomes, false, 7, 0, draws, 1, one));
  REQUIRE(vandro::max_t(outcomes, false, 7, 0, draws, 3, two));
  REQUIRE(vandro::max_t(outcomes, false, 7, 0, vandro::max_t_piece, 1, first));
  REQUIRE(vandro::max_t(outcomes, false, 7, vandro::max_t_piece, draws, 1, rest));
  REQUIRE(one.largest == two.largest);
  REQUIRE(one.stepped == two.stepped);
  first.largest.insert(first.largest.end(), rest.largest.begin(), rest.largest.end());
  REQUIRE(first.largest == one.largest);
  for (std::size_t j = 0; j < columns; ++j) {
    REQUIRE(first.single[j] + rest.single[j] == one.single[j]);
    REQUIRE(first.stepped[j] + rest.stepped[j] == one.stepped[j]);
    REQUIRE(one.stepped[j] <= one.single[j]);
  }
}

TEST_CASE(
    "a side that is asked for keeps its sign, extremes stay finite, and work can be stopped") {
  Values x = made_up(40, 2, 9);
  for (std::size_t i = 0; i < 20; ++i)
    x[i] = 1e150, x[20 + i] = -1e150;  // two groups without spread
  vandro::JointOutcomes outcomes = outcomes_of(x, 40, 2);
  outcomes.blocks = {{40, 20}};
  vandro::MaxT higher, lower;
  outcomes.sides = 1;
  REQUIRE(vandro::max_t(outcomes, false, 1, 0, 4096, 1, higher));
  outcomes.sides = -1;
  REQUIRE(vandro::max_t(outcomes, false, 1, 0, 4096, 1, lower));
  REQUIRE(higher.observed[0] == Approx(-lower.observed[0]));
  REQUIRE(std::isfinite(higher.observed[0]));
  REQUIRE(higher.observed[0] > 1e10);
  REQUIRE(higher.single[0] == 0.0);
  REQUIRE_FALSE(vandro::max_t(outcomes, false, 1, 0, 1 << 20, 1, lower, [] { return false; }));
}

}  // namespace max_t_tests
