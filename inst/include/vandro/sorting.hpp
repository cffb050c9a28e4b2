// Sorting of many numbers, and the decimals they were written with.
//
// Long inputs are dealt into 256 ranges told by a sample, without branches; each range, small
// enough for the cache, is sorted by two passes over the highest bits that differ in it.
#ifndef VANDRO_SORTING_HPP
#define VANDRO_SORTING_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <memory>
#include <utility>
#include <vector>

#include "random.hpp"

namespace vandro {

namespace detail {

// An unsigned number of the same order. -0 must have become 0, NaN must not occur.
inline std::uint64_t key_of(double value) {
  std::uint64_t bits;
  std::memcpy(&bits, &value, sizeof bits);
  return bits ^ ((bits >> 63) != 0 ? ~std::uint64_t{0} : std::uint64_t{1} << 63);
}

constexpr unsigned digit_bits = 11;
constexpr std::size_t digit_size = std::size_t{1} << digit_bits;
constexpr std::size_t in_cache = std::size_t{1} << 16;

// At most `in_cache` values, by the 22 highest bits in which their keys differ; what these leave
// together is sorted by the next ones.
inline void sort_in_cache(double* values, double* spare, std::size_t n) {
  if (n <= 512) return std::sort(values, values + n);
  const auto ends = std::minmax_element(values, values + n);
  const std::uint64_t low = key_of(*ends.first);
  const std::uint64_t span = key_of(*ends.second) - low;
  if (span == 0) return;
  unsigned width = 1;
  while (width < 64 && (span >> width) != 0) ++width;
  const unsigned shift = width > 2 * digit_bits ? width - 2 * digit_bits : 0;
  const auto digits = [low, shift](double value) { return (key_of(value) - low) >> shift; };
  std::array<std::uint32_t, digit_size> lower{}, upper{};
  constexpr std::uint64_t mask = digit_size - 1;
  for (std::size_t i = 0; i < n; ++i) {
    const std::uint64_t d = digits(values[i]);
    ++lower[d & mask];
    ++upper[d >> digit_bits];
  }
  std::uint32_t lower_at = 0, upper_at = 0;
  for (std::size_t d = 0; d < digit_size; ++d) {
    lower_at += std::exchange(lower[d], lower_at);
    upper_at += std::exchange(upper[d], upper_at);
  }
  for (std::size_t i = 0; i < n; ++i) spare[lower[digits(values[i]) & mask]++] = values[i];
  for (std::size_t i = 0; i < n; ++i) values[upper[digits(spare[i]) >> digit_bits]++] = spare[i];
  if (shift == 0) return;
  for (std::size_t from = 0; from < n;) {
    const std::uint64_t same = digits(values[from]);
    std::size_t to = from + 1;
    while (to < n && digits(values[to]) == same) ++to;
    if (to - from > 1) sort_in_cache(values + from, spare, to - from);
    from = to;
  }
}

// 255 splitters as a search tree: the left child of node i is 2 i. Values above a splitter go
// right.
inline std::array<double, 256> splitter_tree(const double* values, std::size_t n) {
  constexpr std::size_t per_range = 16;
  std::vector<double> sample(256 * per_range);
  Random random(n, 0);
  for (double& value : sample) value = values[random.bits() % n];
  std::sort(sample.begin(), sample.end());
  std::array<double, 256> tree{};
  for (std::size_t node = 1; node < 256; ++node) {
    std::size_t level = 1;
    while (level * 2 <= node) level *= 2;
    const std::size_t rank = (2 * (node - level) + 1) * 128 / level;
    tree[node] = sample[rank * per_range];
  }
  return tree;
}

// The leaf of each of `Lanes` values, together: their paths do not wait for one another.
template <std::size_t Lanes>
void find_ranges(const std::array<double, 256>& tree, const double* values, std::uint8_t* range) {
  std::array<std::uint32_t, Lanes> node;
  node.fill(1);
  for (int level = 0; level < 8; ++level) {
    for (std::size_t k = 0; k < Lanes; ++k) {
      node[k] = 2 * node[k] + static_cast<std::uint32_t>(values[k] > tree[node[k]]);
    }
  }
  for (std::size_t k = 0; k < Lanes; ++k) range[k] = static_cast<std::uint8_t>(node[k] - 256);
}

inline void sort_long(double* values, double* spare, std::size_t n) {
  if (n <= in_cache) return sort_in_cache(values, spare, n);
  const std::array<double, 256> tree = splitter_tree(values, n);
  std::vector<std::uint8_t> range(n);
  std::size_t i = 0;
  for (; i + 8 <= n; i += 8) find_ranges<8>(tree, values + i, &range[i]);
  for (; i < n; ++i) find_ranges<1>(tree, values + i, &range[i]);
  std::array<std::size_t, 257> start{};
  for (i = 0; i < n; ++i) ++start[range[i] + std::size_t{1}];
  for (std::size_t r = 0; r < 256; ++r) start[r + 1] += start[r];
  std::array<std::size_t, 257> at = start;
  for (i = 0; i < n; ++i) spare[at[range[i]]++] = values[i];
  for (std::size_t r = 0; r < 256; ++r) {
    double* const part = spare + start[r];
    std::size_t size = start[r + 1] - start[r];
    if (size > in_cache) {
      // Large because its last value is repeated, which no splitter can part: set that one aside.
      const double last = *std::max_element(part, part + size);
      const auto* rest = std::partition(part, part + size, [last](double v) { return v != last; });
      size = static_cast<std::size_t>(rest - part);
    }
    if (size > 1) sort_long(part, values + start[r], size);
  }
  std::copy(spare, spare + n, values);
}

}  // namespace detail

// Into increasing order; -0 becomes 0. NaN must not occur.
inline void sort_values(double* values, std::size_t n) {
  for (std::size_t i = 0; i < n; ++i) values[i] += 0.0;
  if (n <= 512) return std::sort(values, values + n);
  // Not filled with zeros first: every page of it is touched once less.
  const std::unique_ptr<double[]> spare(new double[n]);
  detail::sort_long(values, spare.get(), n);
}

constexpr int most_decimals = 9;

// The fewest decimals, up to nine, with which all values can be written: each is the double nearest
// to that decimal. -1 where there is no such number, or where the digits would not fit into 53
// bits.
class Decimals {
 public:
  void see(const double* values, std::size_t n) {
    for (std::size_t i = 0; i < n && decimals_ >= 0; ++i) {
      while (!holds(values[i])) {
        if (++decimals_ > most_decimals) {
          decimals_ = -1;
          return;
        }
        power_ *= 10.0;
      }
      largest_ = std::max(largest_, std::fabs(values[i]));
    }
    if (decimals_ >= 0 && largest_ * power_ > 0x1p53) decimals_ = -1;
  }
  int decimals() const { return decimals_; }

 private:
  bool holds(double value) const {
    const double scaled = std::nearbyint(value * power_);
    // Division of a whole number by a power of ten up to 10^22 rounds correctly.
    return scaled / power_ == value;
  }
  int decimals_ = 0;
  double power_ = 1.0;
  double largest_ = 0.0;
};

// The same for values that were computed from decimals and are off by a few roundings, 64 units in
// the last place of the largest. The step of the decimals must stand out from that.
inline int rounded_decimals(const std::vector<const std::vector<double>*>& parts) {
  double largest = 0.0;
  for (const auto* part : parts) {
    for (const double value : *part) largest = std::max(largest, std::fabs(value));
  }
  const double slack = 0x1p-46 * largest;
  double power = 1.0;
  for (int decimals = 0; decimals <= most_decimals; ++decimals, power *= 10.0) {
    if (1000.0 * slack * power > 1.0 || largest * power > 0x1p53) return -1;
    const bool all = std::all_of(parts.begin(), parts.end(), [&](const auto* part) {
      return std::all_of(part->begin(), part->end(), [&](double value) {
        return std::fabs(std::nearbyint(value * power) / power - value) <= slack;
      });
    });
    if (all) return decimals;
  }
  return -1;
}

// Decimals of all parts together; -1 where they are no decimals.
inline int common_decimals(const std::vector<const std::vector<double>*>& parts) {
  Decimals exact;
  for (const auto* part : parts) exact.see(part->data(), part->size());
  return exact.decimals() >= 0 ? exact.decimals() : rounded_decimals(parts);
}

// Whole numbers of steps of the last decimal.
inline void scale_to_whole(std::vector<double>& values, int decimals) {
  const double power = std::pow(10.0, decimals);
  for (double& value : values) value = std::nearbyint(value * power) + 0.0;
}

}  // namespace vandro

#endif
