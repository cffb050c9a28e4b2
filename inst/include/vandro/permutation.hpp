// Random reassignment of values to two groups, and random signs of changes.
//
// A shift of the first group by d moves an exchanged value out of it by d: where `moved` values
// changed sides and the sum of the first group fell by `fall`, the statistic is as large as the
// observed one for every shift of at least fall / moved. These critical shifts give p and both
// limits of an interval from one pass.
#ifndef VANDRO_PERMUTATION_HPP
#define VANDRO_PERMUTATION_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <functional>
#include <limits>
#include <memory>
#include <mutex>
#include <vector>

#include "parallel.hpp"
#include "random.hpp"
#include "reassign.hpp"
#include "tails.hpp"
#include "wide.hpp"

namespace vandro {

namespace detail {

typedef double Pair __attribute__((vector_size(16)));

// Sums of the values whose bits are set, by tables of all sums of eight neighbours, or of four
// where so many tables would not stay near the processor.
template <class Number>
class MaskSums {
 public:
  explicit MaskSums(const std::vector<Number>& values)
      : bits_(values.size() > 65536 ? 4 : 8),
        groups_((values.size() + bits_ - 1) / bits_),
        entries_(std::size_t{1} << bits_),
        table_(groups_ * entries_, Number{}) {
    for (std::size_t g = 0; g < groups_; ++g) {
      Number* of = &table_[g * entries_];
      for (std::size_t v = 1; v < entries_; ++v) {
        const std::size_t at = g * bits_ + static_cast<std::size_t>(__builtin_ctzll(v));
        of[v] = of[v & (v - 1)];
        if (at < values.size()) of[v] += values[at];
      }
    }
  }

  void sums(const std::uint64_t* masks, std::size_t count, std::size_t words, Number* out) const {
    std::fill(out, out + count, Number{});
    if (bits_ == 4) {
      for (std::size_t g = 0; g < groups_; ++g) {
        const Number* of = &table_[g * entries_];
        const std::size_t word = g / 16, by = 4 * (g % 16);
        for (std::size_t m = 0; m < count; ++m) out[m] += of[(masks[m * words + word] >> by) & 15];
      }
      return;
    }
    const auto* bytes = reinterpret_cast<const unsigned char*>(masks);
    std::size_t g = 0;
    for (; g + 4 <= groups_; g += 4) {
      const Number *a = &table_[g * 256], *b = a + 256, *c = b + 256, *d = c + 256;
      for (std::size_t m = 0; m < count; ++m) {
        const unsigned char* at = bytes + m * words * 8 + g;
        out[m] += (a[at[0]] + b[at[1]]) + (c[at[2]] + d[at[3]]);
      }
    }
    for (; g < groups_; ++g) {
      const Number* of = &table_[g * 256];
      for (std::size_t m = 0; m < count; ++m) out[m] += of[bytes[m * words * 8 + g]];
    }
  }

 private:
  std::size_t bits_, groups_, entries_;
  std::vector<Number> table_;
};

VANDRO_WIDE inline void draw_masks(const Reassignment& reassignment, RandomBits& bits,
                                   Random& picks, std::size_t count, std::uint64_t* masks) {
  reassignment.draw(bits, picks, count, masks);
}

VANDRO_WIDE inline void draw_signs(RandomBits& bits, std::size_t n, std::size_t count,
                                   std::uint64_t* masks) {
  const std::size_t words = words_for(n);
  const std::uint64_t last = ~std::uint64_t{0} >> (words * word_bits - n);
  for (std::size_t w = 0; w < count * words; w += 4) {
    RandomBits::Lanes drawn;
    bits.bits(drawn);
    std::memcpy(masks + w, &drawn, sizeof drawn);
  }
  for (std::size_t m = 0; m < count; ++m) masks[m * words + words - 1] &= last;
}

// Bits set in each mask and in `with`.
VANDRO_WIDE inline void count_common(const std::uint64_t* masks, std::size_t count,
                                     std::size_t words, const std::uint64_t* with, double* out) {
  for (std::size_t m = 0; m < count; ++m) {
    std::uint32_t set = 0;
    for (std::size_t w = 0; w < words; ++w) {
      set += static_cast<std::uint32_t>(__builtin_popcountll(masks[m * words + w] & with[w]));
    }
    out[m] = set;
  }
}

// Masks that one stream of random numbers serves: of long ones fewer, so that work can be stopped.
inline std::size_t stream_size(std::size_t words) {
  return std::clamp<std::size_t>((std::size_t{1} << 19) / words, 16, 1024);
}

// Masks that are drawn and worked on together: many, so that a table is read once for all of them.
inline std::size_t batch_size(std::size_t words) {
  return std::clamp<std::size_t>((std::size_t{1} << 21) / words, 1, 128);
}

// Draws masks and hands them on, a batch at a time, to `use(masks, count, result)`. Streams of
// random numbers belong to the masks' numbers, whatever the number of threads. `from`: number of
// the first one, a multiple of stream_size().
template <class Result, class Draw, class Use>
bool for_masks(std::size_t words, std::uint64_t seed, std::size_t draws, int threads,
               const Draw& draw, const Use& use, Result& result,
               const std::function<bool()>& keep_going, std::size_t from = 0) {
  const std::size_t batch = batch_size(words);
  std::mutex merging;
  const std::size_t of_stream = stream_size(words);
  const std::size_t first_stream = from / of_stream;
  const std::size_t streams = (draws + of_stream - 1) / of_stream;
  // Few results to merge, yet short enough to be stopped.
  const std::size_t together = words <= 4 ? 16 : 1;
  return in_pieces((streams + together - 1) / together, threads,
                   [&](std::size_t piece) {
                     std::unique_lock<std::mutex> lock(merging);
                     Result own = result.fresh();
                     lock.unlock();
                     std::vector<std::uint64_t> masks(batch * words + 64);
                     const std::size_t end = std::min(streams, (piece + 1) * together);
                     for (std::size_t stream = piece * together; stream < end; ++stream) {
                       RandomBits bits(seed, first_stream + stream);
                       Random picks(seed, first_stream + stream);
                       std::size_t left = std::min(of_stream, draws - stream * of_stream);
                       while (left > 0) {
                         const std::size_t count = std::min(batch, left);
                         draw(bits, picks, count, masks.data());
                         use(masks.data(), count, own);
                         left -= count;
                       }
                     }
                     lock.lock();
                     result.merge(own);
                   },
                   keep_going);
}

inline std::vector<std::uint64_t> second_group_mask(const std::vector<Block>& blocks) {
  std::size_t n = 0;
  for (const Block& block : blocks) n += block.size;
  std::vector<std::uint64_t> out(words_for(n), 0);
  std::size_t at = 0;
  for (const Block& block : blocks) {
    for (std::size_t i = block.chosen; i < block.size; ++i) {
      out[(at + i) / word_bits] |= std::uint64_t{1} << ((at + i) % word_bits);
    }
    at += block.size;
  }
  return out;
}

// Those first in their blocks: the first group as observed.
template <class Number>
Number first_group_sum(const std::vector<Number>& values, const std::vector<Block>& blocks) {
  Number sum{};
  std::size_t at = 0;
  for (const Block& block : blocks) {
    for (std::size_t i = 0; i < block.chosen; ++i) sum += values[at + i];
    at += block.size;
  }
  return sum;
}

template <class Use, class Result>
bool for_reassignments(const std::vector<Block>& blocks, std::uint64_t seed, std::size_t draws,
                       int threads, const Use& use, Result& result,
                       const std::function<bool()>& keep_going, std::size_t from = 0) {
  const Reassignment reassignment(blocks);
  return for_masks(
      reassignment.words(), seed, draws, threads,
      [&](RandomBits& bits, Random& picks, std::size_t count, std::uint64_t* masks) {
        draw_masks(reassignment, bits, picks, count, masks);
      },
      use, result, keep_going, from);
}

}  // namespace detail

// Sums of the first group in `draws` random reassignments of `values`, which stand block by block
// with the first group's own in front. The sum of their sizes must be below 2^62.
template <class Result>
bool reassign_sums(const std::vector<std::int64_t>& values, const std::vector<Block>& blocks,
                   std::uint64_t seed, std::size_t draws, int threads, Result& result,
                   const std::function<bool()>& keep_going = {}, std::size_t from = 0) {
  const detail::MaskSums<std::int64_t> table(values);
  const std::vector<std::uint64_t> second = detail::second_group_mask(blocks);
  const std::int64_t observed = detail::first_group_sum(values, blocks);
  const std::size_t words = second.size();
  return detail::for_reassignments(
      blocks, seed, draws, threads,
      [&](const std::uint64_t* masks, std::size_t count, Result& own) {
        std::array<std::int64_t, 128> sums;
        std::array<double, 128> moved{};
        table.sums(masks, count, words, sums.data());
        if (own.wants_moved()) {
          detail::count_common(masks, count, words, second.data(), moved.data());
        }
        for (std::size_t m = 0; m < count; ++m) own.add(observed - sums[m], moved[m]);
      },
      result, keep_going, from);
}

// Sums of the changes whose sign is flipped; `weights`: how many changes each value stands for.
template <class Result>
bool flip_sums(const std::vector<std::int64_t>& values, const std::vector<double>& weights,
               std::uint64_t seed, std::size_t draws, int threads, Result& result,
               const std::function<bool()>& keep_going = {}, std::size_t from = 0) {
  const detail::MaskSums<std::int64_t> table(values);
  const bool single =
      std::all_of(weights.begin(), weights.end(), [](double w) { return w == 1.0; });
  const detail::MaskSums<double> weighing(single ? std::vector<double>() : weights);
  const std::size_t words = detail::words_for(values.size());
  const std::vector<std::uint64_t> all(words, ~std::uint64_t{0});
  return detail::for_masks(
      words, seed, draws, threads,
      [&](RandomBits& bits, Random&, std::size_t count, std::uint64_t* masks) {
        detail::draw_signs(bits, values.size(), count, masks);
      },
      [&](const std::uint64_t* masks, std::size_t count, Result& own) {
        std::array<std::int64_t, 128> sums;
        std::array<double, 128> moved{};
        table.sums(masks, count, words, sums.data());
        if (own.wants_moved() && single) {
          detail::count_common(masks, count, words, all.data(), moved.data());
        } else if (own.wants_moved()) {
          weighing.sums(masks, count, words, moved.data());
        }
        for (std::size_t m = 0; m < count; ++m) own.add(sums[m], moved[m]);
      },
      result, keep_going, from);
}

// Welch's t of a division of centred values into two groups, from the sums of one of them.
struct StudentizedParts {
  double n_first, n_second, sum, squares;

  StudentizedParts(const std::vector<double>& values, double first)
      : n_first(first), n_second(static_cast<double>(values.size()) - first), sum(0), squares(0) {
    for (const double value : values) {
      sum += value;
      squares += value * value;
    }
  }
  double se_squared(double s, double q) const {
    const double rest = sum - s, rest_q = squares - q;
    const double first = q - s * s / n_first, second = rest_q - rest * rest / n_second;
    // Constant groups leave rounding dust.
    const double dust = 1e-13 * squares;
    return (first > dust ? first / (n_first * (n_first - 1.0)) : 0.0) +
           (second > dust ? second / (n_second * (n_second - 1.0)) : 0.0);
  }
  double t(double s, double q) const {
    const double gap = s / n_first - (sum - s) / n_second, se2 = se_squared(s, q);
    if (se2 > 0.0) return gap / std::sqrt(se2);
    return gap == 0.0 ? 0.0 : std::copysign(std::numeric_limits<double>::infinity(), gap);
  }
};

// Welch's t in random reassignments; `values` as above, centred. Result: a Histogram.
template <class Result>
bool reassign_studentized(const std::vector<double>& values, const std::vector<Block>& blocks,
                          std::uint64_t seed, std::size_t draws, int threads, Result& result,
                          const std::function<bool()>& keep_going = {}, std::size_t from = 0) {
  std::vector<detail::Pair> pairs;
  for (const double value : values) pairs.push_back(detail::Pair{value, value * value});
  const detail::MaskSums<detail::Pair> table(pairs);
  double first = 0.0;
  for (const Block& block : blocks) first += block.chosen;
  const StudentizedParts parts(values, first);
  const std::size_t words = detail::words_for(values.size());
  return detail::for_reassignments(
      blocks, seed, draws, threads,
      [&](const std::uint64_t* masks, std::size_t count, Result& own) {
        std::array<detail::Pair, 128> sums;
        table.sums(masks, count, words, sums.data());
        for (std::size_t m = 0; m < count; ++m) own.add(parts.t(sums[m][0], sums[m][1]));
      },
      result, keep_going, from);
}

}  // namespace vandro

#endif
