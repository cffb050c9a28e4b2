// Random assignment of values to two groups of given sizes, within blocks, as bit masks.
//
// A mask of random bits is uniform among those with equally many bits set, and stays uniform when
// bits of the wrong colour, drawn with equal chances, are flipped until the number is right.
#ifndef VANDRO_REASSIGN_HPP
#define VANDRO_REASSIGN_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <vector>

#include "random.hpp"
#include "wide.hpp"

namespace vandro {

// Values that are assigned among themselves: `chosen` of `size` to the first group.
struct Block {
  std::uint32_t size, chosen;
};

namespace detail {

constexpr std::size_t word_bits = 64;

inline std::size_t words_for(std::size_t bits) { return (bits + word_bits - 1) / word_bits; }

// One block: how its mask is drawn at the least cost.
class BlockMask {
 public:
  explicit BlockMask(const Block& block)
      : size_(block.size),
        wanted_(std::min(block.chosen, block.size - block.chosen)),
        inverted_(2 * block.chosen > block.size) {
    double least = 1e300;
    for (std::uint32_t share = 0; share <= 8; ++share) {
      for (std::uint32_t radius = 0; radius < 4096; radius = radius == 0 ? 1 : 2 * radius) {
        for (const bool bulk : {false, true}) {
          if (bulk && (radius > 0 || words() > 2)) continue;
          const double cost = expected_cost(share, radius, bulk);
          if (cost >= least) continue;
          least = cost;
          share_ = share;
          radius_ = radius;
          bulk_ = bulk;
        }
      }
    }
  }
  std::uint32_t size() const { return size_; }
  std::size_t words() const { return words_for(size_); }

  // Whether masks of the right number of bits are drawn until they come, many at once.
  bool in_bulk() const { return bulk_; }

  // `count` masks of one or two words each, one after the other, and up to 32 more.
  VANDRO_INLINE void draw_bulk(RandomBits& random, std::size_t count, std::uint64_t* masks) const {
    const std::uint64_t last = last_word();
    const std::uint64_t turn = inverted_ ? ~std::uint64_t{0} : 0;
    std::size_t at = 0;
    constexpr std::size_t tries = 32;
    std::uint64_t low[tries], high[tries];
    RandomBits state = random;
    while (at < count) {
      for (std::size_t i = 0; i < tries; i += 4) {
        RandomBits::Lanes drawn;
        state.bits(share_, drawn);
        std::memcpy(low + i, &drawn, sizeof drawn);
        if (words() == 1) continue;
        state.bits(share_, drawn);
        std::memcpy(high + i, &drawn, sizeof drawn);
      }
      // Every try is written, and kept by moving on, without a branch.
      if (words() == 1) {
        for (std::size_t i = 0; i < tries; ++i) {
          const std::uint64_t mask = low[i] & last;
          masks[at] = (mask ^ turn) & last;
          at += static_cast<std::uint32_t>(__builtin_popcountll(mask)) == wanted_;
        }
      } else {
        for (std::size_t i = 0; i < tries; ++i) {
          const std::uint64_t mask = high[i] & last;
          masks[2 * at] = low[i] ^ turn;
          masks[2 * at + 1] = (mask ^ turn) & last;
          at += static_cast<std::uint32_t>(__builtin_popcountll(low[i]) +
                                           __builtin_popcountll(mask)) == wanted_;
        }
      }
    }
    random = state;
  }

  // One mask; `mask` has room for a multiple of four words.
  VANDRO_INLINE void draw(RandomBits& random, Random& picks, std::uint64_t* mask) const {
    const std::size_t n = words();
    const std::uint64_t last = last_word();
    std::uint32_t set = 0;
    if (share_ == 0) {
      std::fill(mask, mask + n, 0);
    } else {
      do {
        for (std::size_t w = 0; w < n; w += 4) {
          RandomBits::Lanes drawn;
          random.bits(share_, drawn);
          std::memcpy(mask + w, &drawn, sizeof drawn);
        }
        mask[n - 1] &= last;
        set = 0;
        for (std::size_t w = 0; w < n; ++w) {
          set += static_cast<std::uint32_t>(__builtin_popcountll(mask[w]));
        }
      } while (set > wanted_ + radius_ || set + radius_ < wanted_);
    }
    const std::uint64_t wrong = set > wanted_;
    std::uint32_t flips = set > wanted_ ? set - wanted_ : wanted_ - set;
    while (flips > 0) {
      const std::uint32_t at = picks.below(size_);
      const std::uint64_t hit = ((mask[at / word_bits] >> (at % word_bits)) & 1) ^ wrong ^ 1;
      mask[at / word_bits] ^= hit << (at % word_bits);
      flips -= static_cast<std::uint32_t>(hit);
    }
    if (!inverted_) return;
    for (std::size_t w = 0; w < n; ++w) mask[w] = ~mask[w];
    mask[n - 1] &= last;
  }

 private:
  std::uint64_t last_word() const { return ~std::uint64_t{0} >> (words() * word_bits - size_); }
  // In nanoseconds, about.
  double expected_cost(std::uint32_t share, std::uint32_t radius, bool bulk) const {
    const double n = size_, k = wanted_, p = share / 16.0;
    const double add = 8.0 * n / std::max(1.0, n - k), remove = 8.0 * n / std::max(1.0, k);
    if (share == 0) return radius == 0 && !bulk ? 10.0 + k * add : 1e300;
    int draws = 4;
    for (std::uint32_t s = share; (s & 1) == 0; s >>= 1) --draws;
    const double mean = n * p, sd = std::sqrt(n * p * (1.0 - p));
    double inside = 0.0, flips = 0.0;
    const double low = std::max(k - radius, std::floor(mean - 6.0 * sd));
    const double high = std::min(k + radius, std::ceil(mean + 6.0 * sd));
    for (double set = low; set <= high; ++set) {
      const double z = (set - mean) / sd, weight = std::exp(-0.5 * z * z) / sd * 0.4;
      inside += weight;
      flips += weight * (set > k ? (set - k) * remove : (k - set) * add);
    }
    if (inside < 1e-6) return 1e300;
    const double tries = 0.6 * draws * static_cast<double>(words());
    return bulk ? (tries + 2.0) / inside : (tries + 25.0 + flips) / inside;
  }

  std::uint32_t size_, wanted_;
  bool inverted_;
  bool bulk_ = false;
  std::uint32_t share_ = 0, radius_ = 0;  // share_ of 16 bits are set at first
};

}  // namespace detail

class Reassignment {
 public:
  explicit Reassignment(const std::vector<Block>& blocks) {
    std::size_t longest = 0;
    for (const Block& block : blocks) {
      masks_.emplace_back(block);
      starts_.push_back(size_);
      size_ += block.size;
      longest = std::max(longest, masks_.back().words());
    }
    longest_ = longest;
  }
  std::size_t size() const { return size_; }
  std::size_t words() const { return detail::words_for(size_); }

  // `count` masks; bit i of each: whether value i belongs to the first group. `masks` has room for
  // 64 words more.
  VANDRO_INLINE void draw(RandomBits& random, Random& picks, std::size_t count,
                          std::uint64_t* masks) const {
    if (masks_.size() == 1 && masks_[0].in_bulk()) {
      return masks_[0].draw_bulk(random, count, masks);
    }
    const std::size_t n = words();
    if (masks_.size() == 1) {
      for (std::size_t k = 0; k < count; ++k) masks_[0].draw(random, picks, masks + k * n);
      return;
    }
    std::vector<std::uint64_t> one(longest_ + 4);
    std::fill(masks, masks + count * n, 0);
    for (std::size_t k = 0; k < count; ++k) {
      std::uint64_t* mask = masks + k * n;
      for (std::size_t b = 0; b < masks_.size(); ++b) {
        masks_[b].draw(random, picks, one.data());
        const std::size_t to = starts_[b] / detail::word_bits, by = starts_[b] % detail::word_bits;
        for (std::size_t w = 0; w < masks_[b].words(); ++w) {
          mask[to + w] |= one[w] << by;
          const std::uint64_t rest = by == 0 ? 0 : one[w] >> (detail::word_bits - by);
          if (rest != 0) mask[to + w + 1] |= rest;
        }
      }
    }
  }

 private:
  std::vector<detail::BlockMask> masks_;
  std::vector<std::size_t> starts_;
  std::size_t size_ = 0, longest_ = 0;
};

}  // namespace vandro

#endif
