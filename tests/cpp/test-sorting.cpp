#include <testthat/vendor/catch.h>

#include <cmath>
#include <random>
#include <vandro/sorting.hpp>

namespace sorting_tests {

void check_sorted(const std::vector<double>& values) {
  std::vector<double> expected = values;
  std::sort(expected.begin(), expected.end());
  std::vector<double> sorted(values.size());
  vandro::sort_into(values.data(), values.size(), sorted.data());
  CHECK(sorted == expected);
}

std::vector<double> drawn(std::size_t n, unsigned seed, double (*shape)(double)) {
  std::mt19937_64 engine(seed);
  std::normal_distribution<double> normal;
  std::vector<double> out(n);
  for (double& value : out) value = shape(normal(engine));
  return out;
}

TEST_CASE("sorting equals the standard one at every length and for every shape") {
  for (std::size_t n : {0UL, 1UL, 2UL, 33UL, 512UL, 513UL, 5000UL, 65536UL, 65537UL, 300000UL}) {
    check_sorted(drawn(n, 1, [](double x) { return x; }));
    check_sorted(drawn(n, 2, [](double x) { return std::round(x); }));
    // One value in most places, and far outliers that take the leading bits.
    check_sorted(drawn(n, 3, [](double x) { return std::fabs(x) < 2 ? 5.0 : std::exp(40 * x); }));
    check_sorted(drawn(n, 4, [](double x) { return x > 3.5 ? 1e300 : 1.0 + 1e-13 * x; }));
  }
}

TEST_CASE("many copies of one value among others do not stall") {
  std::vector<double> values(200000, 1.0);
  for (std::size_t i = 0; i < values.size(); i += 1000) values[i] = -static_cast<double>(i);
  check_sorted(values);
}

TEST_CASE("negative zero becomes zero") {
  const std::vector<double> values{0.0, -0.0, -1.0};
  std::vector<double> sorted(3);
  vandro::sort_into(values.data(), 3, sorted.data());
  CHECK_FALSE(std::signbit(sorted[1]));
  CHECK_FALSE(std::signbit(sorted[2]));
}

TEST_CASE("decimals are recognized, and only those") {
  const auto decimals = [](std::vector<double> values) {
    return vandro::common_decimals({&values});
  };
  CHECK(decimals({1, 2, -5}) == 0);
  CHECK(decimals({0.3, 0.2, 0.1}) == 1);
  CHECK(decimals({12.5, 0.123}) == 3);
  CHECK(decimals({1e9 + 0.0001, 1e9 + 0.0002}) == 4);
  CHECK(decimals({0.123456789}) == 9);
  CHECK(decimals({0.1234567891}) == -1);
  CHECK(decimals({std::sqrt(2.0), 1.5}) == -1);
  CHECK(decimals({1e300, 0.5}) == -1);
  CHECK(decimals({1.7e308, 1.5e308}) == -1);
  // Computed from decimals: off by a rounding.
  CHECK(decimals({0.3 - 0.2, 0.2 - 0.1}) == 1);
  CHECK(decimals({10.3 - 10.2, 0.2}) == 1);
  // Near, yet recorded so.
  CHECK(decimals({1.00000001, 2.0}) == 8);
  CHECK(decimals({1e9 + 1e-5, 1e9 + 1.0 / 3.0}) == -1);
}

TEST_CASE("whole steps keep the differences of the decimals") {
  std::vector<double> a{0.3, 0.2}, b{0.2, 0.1};
  vandro::scale_to_whole(a, 1);
  vandro::scale_to_whole(b, 1);
  CHECK(a[0] - b[0] == a[1] - b[1]);
}

TEST_CASE("sorting stops when it is asked to") {
  std::vector<double> values(300000), sorted(values.size());
  for (std::size_t i = 0; i < values.size(); ++i)
    values[i] = static_cast<double>((i * 7919) % 300007);
  int asked = 0;
  CHECK_FALSE(
      vandro::sort_into(values.data(), values.size(), sorted.data(), [&] { return ++asked < 3; }));
  CHECK(asked == 3);
  CHECK(vandro::sort_into(values.data(), values.size(), sorted.data(), [] { return true; }));
  CHECK(std::is_sorted(sorted.begin(), sorted.end()));
}

}  // namespace sorting_tests
