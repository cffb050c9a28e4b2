// Sorting of many numbers, and the decimals they were written with.
//
// Long inputs are dealt into at most 256 ranges by a table made from a sample; each range, small
// enough for the cache, is sorted by two passes over 22 bits of where a value lies between its
// ends.
#ifndef VANDRO_SORTING_HPP
#define VANDRO_SORTING_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <functional>
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

// Insertion into values that are nearly in order. Gives up, false, when it takes long.
inline bool finish(double* values, std::size_t n) {
  std::size_t moves = 0;
  for (std::size_t i = 1; i < n; ++i) {
    const double value = values[i];
    if (values[i - 1] <= value) continue;
    std::size_t at = i;
    for (; at > 0 && values[at - 1] > value; --at) values[at] = values[at - 1];
    values[at] = value;
    moves += i - at;
    if (moves > 4 * n) return false;
  }
  return true;
}

constexpr unsigned digit_bits = 11;
constexpr std::size_t digit_size = std::size_t{1} << digit_bits;
constexpr std::size_t in_cache = std::size_t{1} << 16;

// At most `in_cache` values, by the 22 bits of their place between the smallest and the largest.
inline void sort_in_cache(double* values, double* spare, std::size_t n) {
  if (n <= 256) return std::sort(values, values + n);
  const auto ends = std::minmax_element(values, values + n);
  const double low = *ends.first, span = *ends.second - low;
  if (span == 0.0) return;
  constexpr double places = static_cast<double>(digit_size * digit_size) * (1.0 - 1e-9);
  const double scale = places / span;
  if (!std::isfinite(span) || !std::isfinite(scale)) return std::sort(values, values + n);
  const auto digits = [low, scale](double value) {
    return static_cast<std::uint32_t>((value - low) * scale);
  };
  std::array<std::uint32_t, digit_size> lower{}, upper{};
  constexpr std::uint32_t mask = digit_size - 1;
  for (std::size_t i = 0; i < n; ++i) {
    const std::uint32_t d = digits(values[i]);
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
  if (!finish(values, n)) std::sort(values, values + n);
}

// Which of 256 ranges a value belongs to; larger values never to an earlier one. Cells of equal
// width, or, where that leaves too many values in one of them, cells by leading bits, which are
// fine near 0.
class Ranges {
 public:
  Ranges(const double* values, std::size_t n) {
    std::vector<double> sample(size);
    Random random(n, 0);
    for (double& value : sample) value = values[random.bits() % n] + 0.0;
    std::sort(sample.begin(), sample.end());
    low_ = sample.front();
    const double span = sample.back() - low_;
    scale_ = static_cast<double>(cells - 3) / span;
    linear_ = span > 0.0 && std::isfinite(span) && std::isfinite(scale_);
    low_key_ = key_of(low_);
    const std::uint64_t key_span = key_of(sample.back()) - low_key_;
    while ((key_span >> shift_) >= cells - 2) ++shift_;
    if (linear_ && fullest_cell(sample) > size / 64) {
      const std::size_t by_width = fullest_cell(sample);
      linear_ = false;
      linear_ = fullest_cell(sample) >= by_width;
    }
    // A range is a 254th of the sample; below and above the sample there is one range each.
    std::size_t below = 0;
    const std::size_t top = cell(sample.back());
    for (std::size_t c = 1; c <= top; ++c) {
      range_[c] = static_cast<std::uint8_t>(1 + below * 254 / size);
      while (below < size && cell(sample[below]) <= c) ++below;
    }
    for (std::size_t c = top + 1; c < cells; ++c) range_[c] = 255;
  }
  std::uint8_t operator()(double value) const { return range_[cell(value)]; }

 private:
  static constexpr std::size_t size = 4096;
  static constexpr std::size_t cells = std::size_t{1} << 14;

  std::size_t cell(double value) const {
    if (value < low_) return 0;
    if (linear_) {
      return 1 + static_cast<std::size_t>(
                     std::min((value - low_) * scale_, static_cast<double>(cells - 2)));
    }
    return 1 + std::min<std::size_t>((key_of(value) - low_key_) >> shift_, cells - 2);
  }

  std::size_t fullest_cell(const std::vector<double>& sample) const {
    std::size_t out = 0, run = 0;
    for (std::size_t i = 0; i < size; ++i) {
      run = i > 0 && cell(sample[i]) == cell(sample[i - 1]) ? run + 1 : 1;
      out = std::max(out, run);
    }
    return out;
  }

  double low_ = 0.0, scale_ = 0.0;
  bool linear_ = true;
  std::uint64_t low_key_ = 0;
  unsigned shift_ = 0;
  std::array<std::uint8_t, cells> range_{};
};

// Every value to the part of `out` that begins at its range's `start`. Eight values of a range are
// written together: 256 places written to in turn would not fit into the processor's list of pages.
inline void scatter(const double* in, const std::uint8_t* range, std::size_t n,
                    const std::array<std::size_t, 257>& start, double* out) {
  constexpr std::size_t together = 8;
  std::array<std::size_t, 257> at = start;
  std::array<std::array<double, together>, 256> waiting;
  std::array<std::uint8_t, 256> held{};
  for (std::size_t i = 0; i < n; ++i) {
    const std::uint8_t r = range[i];
    waiting[r][held[r]] = in[i] + 0.0;
    if (++held[r] < together) continue;
    std::memcpy(out + at[r], waiting[r].data(), sizeof waiting[r]);
    at[r] += together;
    held[r] = 0;
  }
  for (std::size_t r = 0; r < 256; ++r) std::copy_n(waiting[r].begin(), held[r], out + at[r]);
}

inline void sort_range(double* values, double* scratch, std::size_t n);

// `scratch`: room for `in_cache` values. False where `keep_going` said so between two ranges.
inline bool deal(const double* in, std::size_t n, double* out, double* scratch,
                 const std::function<bool()>& keep_going = {}) {
  const auto ranges = std::make_unique<Ranges>(in, n);
  const std::unique_ptr<std::uint8_t[]> range(new std::uint8_t[n]);
  std::array<std::size_t, 257> start{};
  for (std::size_t i = 0; i < n; ++i) {
    range[i] = (*ranges)(in[i] + 0.0);
    ++start[range[i] + std::size_t{1}];
  }
  for (std::size_t r = 0; r < 256; ++r) start[r + 1] += start[r];
  scatter(in, range.get(), n, start, out);
  for (std::size_t r = 0; r < 256; ++r) {
    if (keep_going && !keep_going()) return false;
    sort_range(out + start[r], scratch, start[r + 1] - start[r]);
  }
  return true;
}

inline void sort_range(double* values, double* scratch, std::size_t n) {
  if (n <= in_cache) return sort_in_cache(values, scratch, n);
  // A value that is repeated very often, or many that share their leading bits: dealt again,
  // closer.
  const double first = values[0];
  if (std::all_of(values, values + n, [first](double value) { return value == first; })) return;
  const std::vector<double> copy(values, values + n);
  deal(copy.data(), n, values, scratch);
}

}  // namespace detail

// `in` in increasing order to `out`, which must be another place; -0 becomes 0. NaN must not occur.
// False where `keep_going` ended it.
inline bool sort_into(const double* in, std::size_t n, double* out,
                      const std::function<bool()>& keep_going = {}) {
  const std::unique_ptr<double[]> scratch(new double[std::min(n, detail::in_cache)]);
  if (n > detail::in_cache) return detail::deal(in, n, out, scratch.get(), keep_going);
  for (std::size_t i = 0; i < n; ++i) out[i] = in[i] + 0.0;
  detail::sort_in_cache(out, scratch.get(), n);
  return true;
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
