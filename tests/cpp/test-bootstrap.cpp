#include <testthat/vendor/catch.h>

#include <vandro/bootstrap.hpp>

namespace bootstrap_tests {

const std::vector<double> first{-1.0, 0.25, 0.75}, second{-2.0, 1.0, 0.5};

TEST_CASE("draws do not depend on threads or on where the work starts") {
  std::vector<vandro::DrawnMoments> a1, b1, a2, b2, a3, b3;
  REQUIRE(vandro::bootstrap_groups(first, second, 5, 0, 500, 1, a1, b1));
  REQUIRE(vandro::bootstrap_groups(first, second, 5, 0, 500, 3, a2, b2));
  REQUIRE(vandro::bootstrap_groups(first, second, 5, 450, 500, 1, a3, b3));
  for (std::size_t i = 0; i < 500; ++i) {
    CHECK(a1[i].mean == a2[i].mean);
    CHECK(b1[i].variance == b2[i].variance);
  }
  CHECK(a3[0].mean == a1[450].mean);
  std::vector<vandro::DrawnPairs> p1, p2;
  REQUIRE(vandro::bootstrap_pairs(first, second, 5, 0, 200, 1, p1));
  REQUIRE(vandro::bootstrap_pairs(first, second, 5, 0, 200, 2, p2));
  for (std::size_t i = 0; i < 200; ++i) CHECK(p1[i].covariance == p2[i].covariance);
}

TEST_CASE("a constant sample has variance 0, not rounding dust") {
  std::vector<vandro::DrawnMoments> a, b;
  const std::vector<double> third(7, 1.0 / 3.0);
  REQUIRE(vandro::bootstrap_groups(third, first, 1, 0, 200, 1, a, b));
  for (const auto& one : a) CHECK(one.variance == 0.0);
  // Of three values the same one is drawn three times in one of nine samples.
  std::size_t flat = 0;
  for (const auto& one : b) flat += one.variance == 0.0 ? 1 : 0;
  CHECK(flat > 5);
  CHECK(flat < 50);
}

TEST_CASE("pairs stay together") {
  std::vector<vandro::DrawnPairs> drawn;
  REQUIRE(vandro::bootstrap_pairs(first, first, 9, 0, 100, 1, drawn));
  for (const auto& one : drawn) {
    CHECK(one.first.mean == one.second.mean);
    CHECK(one.covariance == one.first.variance);
  }
}

TEST_CASE("the unit of one side is that of the covariance") {
  std::vector<vandro::DrawnPairs> drawn, small;
  std::vector<double> shrunk;
  for (const double y : second) shrunk.push_back(std::ldexp(y, -60));
  REQUIRE(vandro::bootstrap_pairs(first, second, 9, 0, 100, 1, drawn));
  REQUIRE(vandro::bootstrap_pairs(first, shrunk, 9, 0, 100, 1, small));
  for (std::size_t i = 0; i < 100; ++i) {
    CHECK(small[i].covariance == std::ldexp(drawn[i].covariance, -60));
  }
}

TEST_CASE("long work can be stopped") {
  std::vector<double> many(20000, 1.0);
  many[0] = 2.0;
  std::vector<vandro::DrawnMoments> a, b;
  CHECK_FALSE(vandro::bootstrap_groups(many, many, 1, 0, 10000, 2, a, b, [] { return false; }));
}

}  // namespace bootstrap_tests
