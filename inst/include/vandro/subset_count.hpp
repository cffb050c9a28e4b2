// How many subsets of up to 64 numbers have a sum of at least so much, counted one for one without
// forming them (Horowitz & Sahni 1974; Schroeppel & Shamir 1981).
//
// The numbers are cut in two halves and each half in two quarters. A half's sums of one size are
// the sums of an entry of its first quarter (a "row") and one of the sorted list of its second:
// every row is a list in order, of which only the place reached is kept. Both halves are swept
// through the same windows of values, the sums of one against what the sums of the other leave
// wanting. All that lay below the window is smaller; within it a table of buckets counts. Time
// grows with 2^(n/2), memory with 2^(n/4).
#ifndef VANDRO_SUBSET_COUNT_HPP
#define VANDRO_SUBSET_COUNT_HPP

#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <numeric>
#include <utility>
#include <vector>

#include "parallel.hpp"

namespace vandro {

namespace detail {

using Sums = std::vector<std::int64_t>;

// Sums of all subsets, in order: by size, or all together as "size" 0.
inline std::vector<Sums> ordered_sums(const Sums& values, bool by_size) {
  std::vector<Sums> out(1, Sums{0});
  Sums moved, merged;
  for (const std::int64_t value : values) {
    if (by_size) out.emplace_back();
    for (std::size_t j = out.size(); j-- > (by_size ? 1 : 0);) {
      moved = by_size ? out[j - 1] : out[j];
      for (std::int64_t& sum : moved) sum += value;
      merged.resize(out[j].size() + moved.size());
      std::merge(out[j].begin(), out[j].end(), moved.begin(), moved.end(), merged.begin());
      out[j] = merged;
    }
  }
  return out;
}

// The sums of one size of a half, swept upwards.
class SumStream {
 public:
  // Sums base + (an entry of rows[i]) + (an entry of lists[size - i]).
  SumStream(const std::vector<Sums>& rows, const std::vector<Sums>& lists, std::size_t size,
            std::int64_t base) {
    for (std::size_t i = 0; i < rows.size(); ++i) {
      if (size < i || size - i >= lists.size()) continue;
      const Sums& list = lists[size - i];
      for (const std::int64_t row : rows[i]) {
        rows_.push_back({list.data(), list.data(), list.data() + list.size(), base + row});
        count_ += list.size();
      }
    }
  }
  std::uint64_t count() const { return count_; }
  std::int64_t least() const {
    std::int64_t out = std::numeric_limits<std::int64_t>::max();
    for (const Row& row : rows_) out = std::min(out, row.base + *row.begin);
    return out;
  }
  std::int64_t most() const {
    std::int64_t out = std::numeric_limits<std::int64_t>::min();
    for (const Row& row : rows_) out = std::max(out, row.base + *(row.end - 1));
    return out;
  }
  // Stands at the first sum of at least `value`; how many lie below.
  std::uint64_t seek(std::int64_t value) {
    std::uint64_t below = 0;
    for (Row& row : rows_) {
      row.at = std::lower_bound(row.begin, row.end, value - row.base);
      below += static_cast<std::uint64_t>(row.at - row.begin);
    }
    return below;
  }
  // Sums below `limit`, less `start`, appended to `out` from where the stream stands. False, and
  // nothing moved, when there are more than `most`.
  bool take(std::int64_t start, std::int64_t limit, std::size_t most,
            std::vector<std::uint64_t>& out) {
    was_.resize(rows_.size());
    std::size_t n = 0;
    for (std::size_t r = 0; r < rows_.size(); ++r) {
      Row& row = rows_[r];
      was_[r] = row.at;
      const auto left = static_cast<std::size_t>(row.end - row.at);
      if (left == 0) continue;
      const std::int64_t reach = limit - row.base, shift = row.base - start;
      if (*row.at >= reach) continue;
      if (out.size() < n + left) out.resize(n + left);
      const std::int64_t* at = row.at;
      std::uint64_t* to = out.data() + n;
      // Most rows have a few sums in a window.
      while (at != row.end && *at < reach) *to++ = static_cast<std::uint64_t>(*at++ + shift);
      n += static_cast<std::size_t>(at - row.at);
      row.at = at;
      if (n > most) {
        for (std::size_t back = 0; back <= r; ++back) rows_[back].at = was_[back];
        return false;
      }
    }
    taken_ = n;
    return true;
  }
  std::size_t taken() const { return taken_; }
  // Passes the sums below `limit` without keeping them.
  std::uint64_t pass(std::int64_t limit) {
    std::uint64_t passed = 0;
    for (Row& row : rows_) {
      const std::int64_t* at = std::lower_bound(row.at, row.end, limit - row.base);
      passed += static_cast<std::uint64_t>(at - row.at);
      row.at = at;
    }
    return passed;
  }

 private:
  struct Row {
    const std::int64_t *at, *begin, *end;
    std::int64_t base;
  };
  std::vector<Row> rows_;
  std::vector<const std::int64_t*> was_;
  std::uint64_t count_ = 0;
  std::size_t taken_ = 0;
};

constexpr std::size_t window_wanted = 16000;
constexpr unsigned bucket_bits = 14;

// Pairs of one number from each of two windows of `width` (a power of two) with the second at most
// the first.
class WindowPairs {
 public:
  std::uint64_t count(const std::uint64_t* first, std::size_t n_first, const std::uint64_t* second,
                      std::size_t n_second, unsigned width_bits) {
    const unsigned shift = width_bits > bucket_bits ? width_bits - bucket_bits : 0;
    const std::size_t buckets = std::size_t{1} << (width_bits - shift);
    start_.assign(buckets + 2, 0);
    held_.resize(n_second + 1);
    for (std::size_t i = 0; i < n_second; ++i) ++start_[(second[i] >> shift) + 2];
    for (std::size_t b = 2; b < buckets + 2; ++b) start_[b] += start_[b - 1];
    for (std::size_t i = 0; i < n_second; ++i)
      held_[start_[(second[i] >> shift) + 1]++] = second[i];
    // start_[b] is now where bucket b begins, start_[b + 1] where it ends.
    std::uint64_t pairs = 0;
    for (std::size_t i = 0; i < n_first; ++i) {
      const std::uint64_t value = first[i];
      const std::size_t bucket = value >> shift;
      const std::uint32_t begin = start_[bucket], end = start_[bucket + 1];
      pairs += begin;
      for (std::uint32_t k = begin; k < end; ++k) pairs += held_[k] <= value;
    }
    return pairs;
  }

 private:
  std::vector<std::uint32_t> start_;
  std::vector<std::uint64_t> held_;
};

// Pairs (a, g), a from `wanted` [from, to), g from `others`, with g <= a.
inline std::uint64_t sweep(SumStream wanted, SumStream others, std::int64_t from, std::int64_t to) {
  std::uint64_t pairs = 0;
  // Below all of `others` nothing pairs; above all of them everything does.
  from = std::max({from, wanted.least(), others.least()});
  const std::int64_t all_above = others.most();
  if (from >= to) return 0;
  wanted.seek(from);
  std::uint64_t below = others.seek(from);
  std::vector<std::uint64_t> first, second;
  WindowPairs inside;
  // A first guess of the width, mended as it goes.
  unsigned bits = 0;
  const double span = static_cast<double>(wanted.most()) - static_cast<double>(wanted.least()) + 1;
  const double share = static_cast<double>(window_wanted) / static_cast<double>(wanted.count());
  if (span * share > 4.0) bits = static_cast<unsigned>(std::min(60.0, std::log2(span * share) - 2));
  constexpr std::size_t most = 8 * window_wanted;
  std::int64_t at = from;
  const std::int64_t end = std::min(to, wanted.most() + 1);
  while (at < end) {
    if (at > all_above) {
      pairs += wanted.pass(to) * others.count();
      break;
    }
    const std::int64_t width = std::int64_t{1} << bits;
    const std::int64_t next = end - at > width ? at + width : end;
    if (bits == 0) {
      // All sums of this window are equal.
      const std::uint64_t equal = wanted.pass(next);
      const std::uint64_t met = others.pass(next);
      pairs += equal * (below + met);
      below += met;
      if (equal + met < window_wanted) bits = 2;
      at = next;
      continue;
    }
    if (!wanted.take(at, next, most, first)) {
      bits = bits > 2 ? bits - 2 : 0;
      continue;
    }
    const std::size_t n_first = wanted.taken();
    if (!others.take(at, next, most, second)) {
      wanted.seek(at);
      bits = bits > 2 ? bits - 2 : 0;
      continue;
    }
    const std::size_t n_second = others.taken();
    pairs += below * n_first;
    if (n_first > 0 && n_second > 0) {
      pairs += inside.count(first.data(), n_first, second.data(), n_second, bits);
    }
    below += n_second;
    at = next;
    const std::size_t larger = std::max(n_first, n_second);
    if (larger > 2 * window_wanted && bits > 0) --bits;
    if (larger < window_wanted / 2 && bits < 60) ++bits;
    if (larger < window_wanted / 16 && bits < 60) ++bits;
  }
  return pairs;
}

}  // namespace detail

// The numbers, halved and quartered once for any number of counts.
class SubsetCount {
 public:
  // Sums of any `chosen` of the values; of any number of them when `chosen` is negative. The sum of
  // the sizes of all values must be below 2^61.
  SubsetCount(const std::vector<std::int64_t>& values, int chosen)
      : chosen_(chosen), by_size_(chosen >= 0) {
    const std::size_t n = values.size(), half = n / 2;
    for (std::size_t h = 0; h < 2; ++h) {
      const std::size_t from = h == 0 ? 0 : half, to = h == 0 ? half : n;
      // Long lists, few rows: a row costs a look in every window.
      const std::size_t middle = from + (to - from) * 2 / 5;
      detail::Sums rows(values.begin() + static_cast<std::ptrdiff_t>(from),
                        values.begin() + static_cast<std::ptrdiff_t>(middle));
      detail::Sums rest(values.begin() + static_cast<std::ptrdiff_t>(middle),
                        values.begin() + static_cast<std::ptrdiff_t>(to));
      if (h == 1) {
        for (std::int64_t& value : rows) value = -value;
        for (std::int64_t& value : rest) value = -value;
      }
      size_[h] = to - from;
      rows_[h] = detail::ordered_sums(rows, by_size_);
      lists_[h] = detail::ordered_sums(rest, by_size_);
    }
  }

  // Sums that the sweep of both halves passes, for the cost of a count.
  static double half_sums(int n, int chosen) {
    const int half = n / 2, rest = n - half;
    if (chosen < 0) return std::ldexp(1.0, half) + std::ldexp(1.0, rest);
    double out = 0.0;
    for (int j = std::max(0, chosen - rest); j <= std::min(half, chosen); ++j) {
      out += choose(half, j) + choose(rest, chosen - j);
    }
    return out;
  }

  // Subsets with a sum of at least `sum`; false when stopped. `keep_going` is told the share done.
  bool at_least(std::int64_t sum, int threads, std::uint64_t& count,
                const std::function<bool(double)>& keep_going = {}) const {
    struct Piece {
      std::size_t first, second;
      std::int64_t from, to;
    };
    std::vector<Piece> pieces;
    const std::size_t chosen = by_size_ ? static_cast<std::size_t>(chosen_) : 0;
    const std::size_t sizes = by_size_ ? std::min(size_[0], chosen) + 1 : 1;
    for (std::size_t j = 0; j < sizes; ++j) {
      if (by_size_ && chosen - j > size_[1]) continue;
      const detail::SumStream all(rows_[0], lists_[0], j, 0);
      const auto low = static_cast<double>(all.least()), high = static_cast<double>(all.most());
      // Sums lie densest in the middle: cuts closer together there.
      const auto cuts = static_cast<std::size_t>(static_cast<double>(all.count()) / 2e6) + 1;
      std::int64_t from = std::numeric_limits<std::int64_t>::min();
      for (std::size_t c = 1; c <= cuts; ++c) {
        const double share = static_cast<double>(c) / static_cast<double>(cuts);
        const double place =
            std::tanh(1.6 * (2.0 * share - 1.0) * std::sqrt(std::fabs(2.0 * share - 1.0))) /
            std::tanh(1.6);
        std::int64_t to = all.most() + 1;
        if (c < cuts)
          to = static_cast<std::int64_t>(0.5 * (low + high) + 0.5 * (high - low) * place);
        pieces.push_back({j, by_size_ ? chosen - j : 0, from, to});
        from = to;
      }
    }
    std::vector<std::uint64_t> found(pieces.size(), 0);
    std::atomic<std::size_t> done{0};
    const auto asked = [&] {
      return !keep_going ||
             keep_going(static_cast<double>(done) / static_cast<double>(pieces.size()));
    };
    const bool finished = in_pieces(
        pieces.size(), threads,
        [&](std::size_t i) {
          const Piece& piece = pieces[i];
          found[i] = detail::sweep(detail::SumStream(rows_[0], lists_[0], piece.first, 0),
                                   detail::SumStream(rows_[1], lists_[1], piece.second, sum),
                                   piece.from, piece.to);
          ++done;
        },
        asked);
    count = std::accumulate(found.begin(), found.end(), std::uint64_t{0});
    return finished;
  }

 private:
  static double choose(int n, int k) {
    double out = 1.0;
    for (int i = 1; i <= k; ++i) out = out * (n - k + i) / i;
    return out;
  }
  int chosen_;
  bool by_size_;
  std::size_t size_[2];
  std::vector<detail::Sums> rows_[2], lists_[2];
};

}  // namespace vandro

#endif
