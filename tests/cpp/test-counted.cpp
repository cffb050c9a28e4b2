#include <testthat/vendor/catch.h>

#include <random>
#include <vandro/counted.hpp>

namespace counted_tests {

TEST_CASE("frequency data give the expanded data's results to the last digit") {
  std::mt19937_64 engine(3);
  for (int round = 0; round < 20; ++round) {
    std::vector<double> x, counts, expanded;
    std::vector<int> codes, expanded_codes;
    for (int i = 0; i < 40; ++i) {
      const double value = i % 11 == 5 ? std::numeric_limits<double>::quiet_NaN()
                                       : static_cast<double>(engine() % 9) / 7.0 + 1e6;
      const auto times = static_cast<std::size_t>(engine() % (round < 10 ? 5 : 700));
      const int code = static_cast<int>(engine() % 3);
      x.push_back(value);
      counts.push_back(static_cast<double>(times));
      codes.push_back(code);
      expanded.insert(expanded.end(), times, value);
      expanded_codes.insert(expanded_codes.end(), times, code);
    }
    std::array<vandro::Moments, 2> a, b;
    REQUIRE(vandro::counted_moments(x.data(), counts.data(), codes.data(), x.size(), 1, 2, a));
    REQUIRE(
        vandro::group_moments(expanded.data(), expanded_codes.data(), expanded.size(), 1, 2, b));
    for (std::size_t g = 0; g < 2; ++g) {
      CHECK(a[g].n == b[g].n);
      CHECK(a[g].missing == b[g].missing);
      CHECK(a[g].base == b[g].base);
      CHECK(a[g].mean == b[g].mean);
      CHECK(a[g].m2 == b[g].m2);
      CHECK(a[g].m3 == b[g].m3);
      CHECK(a[g].m4 == b[g].m4);
      CHECK(a[g].min == b[g].min);
    }
    const std::vector<double> probabilities{0.0, 0.25, 0.5, 0.9, 1.0};
    auto group =
        vandro::gather_group(expanded.data(), expanded_codes.data(), expanded.size(), 1, 0);
    const auto want = vandro::quantiles(group, probabilities);
    const auto got = vandro::counted_quantiles(x.data(), counts.data(), codes.data(), x.size(), 1,
                                               probabilities);
    for (std::size_t i = 0; i < want.size(); ++i) CHECK((got[i] == want[i] || want[i] != want[i]));
  }
}

}  // namespace counted_tests
