#include <testthat/vendor/catch.h>

#include <vandro/location.hpp>

namespace location_tests {

TEST_CASE("trimmed means of two groups, by hand") {
  // First group 7, 1, 4 (median 4, without the shift 3), second group 2, 9 (mean 5.5).
  const vandro::GroupLocation location({7, 1, 4, 2, 9}, {{5, 3}}, 1, 0, 1);
  CHECK(location.scale() == 2.0);
  CHECK(location.observed() == 3 * 2 - 11 * 1);
  // The first group's values stay shifted wherever they go: 6, 2, 9 against 0, 3.
  const std::uint64_t mask = 0b11001;
  CHECK(location.at(&mask) == 6 * 2 - 3 * 1);
}

TEST_CASE("trimmed sums of changes, by hand; a bit flips a sign") {
  const vandro::ChangeLocation location({1, 2, 9, 4}, 1, 0);
  CHECK(location.scale() == 2.0);
  CHECK(location.observed() == 2 + 4);
  std::uint64_t mask = 0b0100;
  CHECK(location.at(&mask) == 1 + 2);
  mask = 0b1010;
  CHECK(location.at(&mask) == -2 + 1);
  const vandro::ChangeLocation shifted({1, 2, 9, 4}, 1, 3);
  CHECK(shifted.observed() == -1 + 1);
}

}  // namespace location_tests
