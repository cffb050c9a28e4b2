#include <testthat/vendor/catch.h>

#include <vandro/rank_bootstrap.hpp>

namespace rank_bootstrap_tests {

double mean_of(const std::vector<vandro::DrawnRanks>& drawn, double vandro::DrawnRanks::*part) {
  double sum = 0.0;
  for (const auto& one : drawn) sum += one.*part;
  return sum / static_cast<double>(drawn.size());
}

TEST_CASE("drawn shares are centred at the sample's, and do not depend on threads or steps") {
  const std::vector<double> x{1, 2, 2, 3, 5, 8}, y{0, 1, 2, 2, 4};
  constexpr std::size_t draws = 20000;
  std::vector<vandro::DrawnRanks> all, threaded, part;
  REQUIRE(vandro::bootstrap_ranks(x, y, 3, 0, draws, 1, true, all));
  REQUIRE(vandro::bootstrap_ranks(x, y, 3, 0, draws, 2, true, threaded));
  REQUIRE(vandro::bootstrap_ranks(x, y, 3, 500, 600, 1, true, part));
  const auto counts = vandro::count_ranks(x.data(), x.size(), y.data(), y.size());
  CHECK(mean_of(all, &vandro::DrawnRanks::share) ==
        Approx(0.5 * static_cast<double>(counts.doubled_u) / 30.0).margin(0.005));
  for (std::size_t k = 0; k < draws; ++k) CHECK_FALSE(all[k].centre != threaded[k].centre);
  for (std::size_t k = 0; k < 100; ++k) CHECK_FALSE(part[k].share != all[500 + k].share);
}

TEST_CASE("a draw of the sample itself has its statistics") {
  // One value each: every draw is the sample.
  std::vector<vandro::DrawnRanks> drawn;
  REQUIRE(vandro::bootstrap_ranks({4.0}, {1.5}, 1, 0, 3, 1, true, drawn));
  CHECK(drawn[2].share == 1.0);
  CHECK(drawn[2].centre == 2.5);
  REQUIRE(vandro::bootstrap_signed_ranks({-3.0}, false, 1, 0, 3, 1, true, drawn));
  CHECK(drawn[0].share == 0.0);
  CHECK(drawn[0].z == -1.0);
  CHECK(drawn[0].centre == -3.0);
}

TEST_CASE("zeros are dropped or ranked, and draws of zeros only have nothing") {
  std::vector<vandro::DrawnRanks> drawn;
  REQUIRE(vandro::bootstrap_signed_ranks({0.0, 0.0}, false, 1, 0, 2, 1, true, drawn));
  CHECK(std::isnan(drawn[0].share));
  CHECK(drawn[0].centre == 0.0);
  REQUIRE(vandro::bootstrap_signed_ranks({0.0, 0.0}, true, 1, 0, 2, 1, true, drawn));
  CHECK(drawn[0].centre == 0.0);
}

TEST_CASE("z is U or W less its mean over its standard deviation") {
  const double x[] = {1, 2, 3}, y[] = {4, 5};
  // Without ties: variance n m (n + m + 1) / 12.
  CHECK(vandro::rank_sum_z(vandro::count_ranks(x, 3, y, 2)) == Approx(-3.0 / std::sqrt(3.0)));
  // Three values tied at 2: U = 1 of 6, variance 1/2 (6 - 24 / 20).
  const double tied[] = {1, 2, 2}, others[] = {2, 5};
  CHECK(vandro::rank_sum_z(vandro::count_ranks(tied, 3, others, 2)) ==
        Approx(-2.0 / std::sqrt(2.4)));
  const double changes[] = {-1, 2, 3};
  CHECK(vandro::signed_rank_z(vandro::count_signed_ranks(changes, 3, false)) ==
        Approx(4.0 / std::sqrt(14.0)));
}

}  // namespace rank_bootstrap_tests
