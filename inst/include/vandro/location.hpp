// Trimmed means and medians under reassignment and random signs. A median is a mean trimmed to the
// one or two values in the middle. Values are whole numbers, so that ties are ties.
#ifndef VANDRO_LOCATION_HPP
#define VANDRO_LOCATION_HPP

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <numeric>
#include <vector>

#include "permutation.hpp"
#include "reassign.hpp"

namespace vandro {

// Difference of the trimmed means of two groups, times the product of the numbers of values that
// are left. The sum of the sizes of all values times their number must be below 2^62.
class GroupLocation {
 public:
  // `trims`: how many values are left out at each end of the first and of the second group. `shift`
  // is taken off the first group's values.
  GroupLocation(std::vector<std::int64_t> values, const std::vector<Block>& blocks,
                std::size_t trim_first, std::size_t trim_second, std::int64_t shift)
      : values_(std::move(values)), mask_(detail::second_group_mask(blocks)) {
    for (std::uint64_t& word : mask_) word = ~word;
    std::size_t first = 0;
    for (const Block& block : blocks) first += block.chosen;
    sizes_[1] = first;
    sizes_[0] = values_.size() - first;
    trims_[1] = trim_first;
    trims_[0] = trim_second;
    for (std::size_t i = 0; i < values_.size(); ++i) {
      if (bit(mask_.data(), i)) values_[i] -= shift;
    }
    order_.resize(values_.size());
    std::iota(order_.begin(), order_.end(), 0U);
    std::sort(order_.begin(), order_.end(),
              [this](std::uint32_t a, std::uint32_t b) { return values_[a] < values_[b]; });
  }
  std::int64_t at(const std::uint64_t* mask) const {
    std::int64_t sums[2] = {0, 0};
    std::size_t seen[2] = {0, 0};
    for (const std::uint32_t i : order_) {
      const std::size_t group = bit(mask, i) ? 1 : 0;
      const std::size_t place = seen[group]++;
      if (place >= trims_[group] && place < sizes_[group] - trims_[group])
        sums[group] += values_[i];
    }
    return sums[1] * left(0) - sums[0] * left(1);
  }
  std::int64_t observed() const { return at(mask_.data()); }
  double scale() const { return static_cast<double>(left(0)) * static_cast<double>(left(1)); }

 private:
  static bool bit(const std::uint64_t* mask, std::size_t i) {
    return ((mask[i / detail::word_bits] >> (i % detail::word_bits)) & 1) != 0;
  }
  std::int64_t left(std::size_t group) const {
    return static_cast<std::int64_t>(sizes_[group] - 2 * trims_[group]);
  }
  std::vector<std::int64_t> values_;
  std::vector<std::uint64_t> mask_;
  std::vector<std::uint32_t> order_;
  std::size_t sizes_[2], trims_[2];
};

// Sum of the changes that trimming leaves; a bit that is set flips a sign.
class ChangeLocation {
 public:
  ChangeLocation(std::vector<std::int64_t> values, std::size_t trim, std::int64_t shift)
      : values_(std::move(values)), trim_(trim) {
    for (std::int64_t& value : values_) value -= shift;
    order_.resize(values_.size());
    std::iota(order_.begin(), order_.end(), 0U);
    std::sort(order_.begin(), order_.end(), [this](std::uint32_t a, std::uint32_t b) {
      return std::abs(values_[a]) < std::abs(values_[b]);
    });
  }
  std::int64_t at(const std::uint64_t* mask) const {
    const std::size_t n = values_.size();
    std::int64_t sum = 0;
    std::size_t place = 0;
    const auto add = [&](std::int64_t value) {
      if (place >= trim_ && place < n - trim_) sum += value;
      ++place;
    };
    // Negative ones from the largest size down, then the others upwards.
    for (std::size_t k = n; k-- > 0;) {
      const std::int64_t value = signed_value(mask, order_[k]);
      if (value < 0) add(value);
    }
    for (std::size_t k = 0; k < n; ++k) {
      const std::int64_t value = signed_value(mask, order_[k]);
      if (value >= 0) add(value);
    }
    return sum;
  }
  std::int64_t observed() const {
    const std::vector<std::uint64_t> none(detail::words_for(values_.size()), 0);
    return at(none.data());
  }
  double scale() const { return static_cast<double>(values_.size() - 2 * trim_); }

 private:
  std::int64_t signed_value(const std::uint64_t* mask, std::size_t i) const {
    const bool flipped = ((mask[i / detail::word_bits] >> (i % detail::word_bits)) & 1) != 0;
    return flipped ? -values_[i] : values_[i];
  }
  std::vector<std::int64_t> values_;
  std::vector<std::uint32_t> order_;
  std::size_t trim_;
};

// `draws` random reassignments, or signs: `result` is given the fall of the statistic below the
// observed one, as a whole number.
template <class Result>
bool reassign_location(const GroupLocation& location, const std::vector<Block>& blocks,
                       std::uint64_t seed, std::size_t draws, int threads, Result& result,
                       const std::function<bool()>& keep_going = {}) {
  const std::int64_t observed = location.observed();
  const std::size_t words = detail::second_group_mask(blocks).size();
  return detail::for_reassignments(
      blocks, seed, draws, threads,
      [&](const std::uint64_t* masks, std::size_t count, Result& own) {
        for (std::size_t m = 0; m < count; ++m)
          own.add(observed - location.at(masks + m * words), 1.0);
      },
      result, keep_going);
}

template <class Result>
bool flip_location(const ChangeLocation& location, std::size_t n, std::uint64_t seed,
                   std::size_t draws, int threads, Result& result,
                   const std::function<bool()>& keep_going = {}) {
  const std::int64_t observed = location.observed();
  const std::size_t words = detail::words_for(n);
  return detail::for_masks(
      words, seed, draws, threads,
      [&](RandomBits& bits, Random&, std::size_t count, std::uint64_t* masks) {
        detail::draw_signs(bits, n, count, masks);
      },
      [&](const std::uint64_t* masks, std::size_t count, Result& own) {
        for (std::size_t m = 0; m < count; ++m)
          own.add(observed - location.at(masks + m * words), 1.0);
      },
      result, keep_going);
}

}  // namespace vandro

#endif
