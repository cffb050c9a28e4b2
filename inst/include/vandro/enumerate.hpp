// Every reassignment of values to two groups, within blocks, and every set of signs.
#ifndef VANDRO_ENUMERATE_HPP
#define VANDRO_ENUMERATE_HPP

#include <cstddef>
#include <cstdint>
#include <functional>
#include <vector>

#include "location.hpp"
#include "permutation.hpp"
#include "reassign.hpp"

namespace vandro {

namespace detail {

constexpr std::uint64_t visits_between_looks = std::uint64_t{1} << 16;

// Of each block the members of its smaller group are chosen, one after the other.
// `walk.enter(depth, value, sign)` moves a value into the first group (sign 1) or out of it (-1),
// `walk.leave(value, sign)` takes that back, `walk.visit(depth)` sees the division.
template <class Walk>
class Divisions {
 public:
  Divisions(const std::vector<Block>& blocks, Walk& walk, const std::function<bool()>& keep_going)
      : walk_(walk), keep_going_(keep_going) {
    std::size_t start = 0;
    for (const Block& block : blocks) {
      const bool turned = 2 * block.chosen > block.size;
      parts_.push_back({start, start + block.size,
                        turned ? block.size - block.chosen : block.chosen, turned ? -1 : 1});
      start += block.size;
    }
  }
  bool run() {
    into_block(0, 0);
    return !stopped_;
  }

 private:
  struct Part {
    std::size_t from, to, chosen;
    int sign;
  };
  void into_block(std::size_t b, std::size_t depth) {
    if (b < parts_.size()) return choose(b, parts_[b].from, parts_[b].chosen, depth);
    see(depth);
  }
  VANDRO_INLINE void see(std::size_t depth) {
    walk_.visit(depth);
    if (++visits_ % visits_between_looks == 0 && keep_going_ && !keep_going_()) stopped_ = true;
  }
  void choose(std::size_t b, std::size_t from, std::size_t left, std::size_t depth) {
    if (left == 0) return into_block(b + 1, depth);
    const Part& part = parts_[b];
    if (left == 1 && b + 1 == parts_.size()) {
      // The last choice of all, without another call for each.
      for (std::size_t i = from; i < part.to && !stopped_; ++i) {
        walk_.enter(depth, i, part.sign);
        see(depth + 1);
        walk_.leave(i, part.sign);
      }
      return;
    }
    for (std::size_t i = from; i + left <= part.to && !stopped_; ++i) {
      walk_.enter(depth, i, part.sign);
      choose(b, i + 1, left - 1, depth + 1);
      walk_.leave(i, part.sign);
    }
  }
  std::vector<Part> parts_;
  Walk& walk_;
  const std::function<bool()>& keep_going_;
  std::uint64_t visits_ = 0;
  bool stopped_ = false;
};

// Values of blocks whose larger group is chosen from start in the first group.
template <class Use>
void for_turned(const std::vector<Block>& blocks, const Use& use) {
  std::size_t start = 0;
  for (const Block& block : blocks) {
    if (2 * block.chosen > block.size) {
      for (std::size_t i = 0; i < block.size; ++i) use(start + i);
    }
    start += block.size;
  }
}

inline std::size_t most_chosen(const std::vector<Block>& blocks) {
  std::size_t out = 0;
  for (const Block& block : blocks) out += std::min(block.chosen, block.size - block.chosen);
  return out;
}

inline std::vector<unsigned char> first_group_flags(const std::vector<Block>& blocks) {
  std::vector<unsigned char> out;
  for (const Block& block : blocks) {
    for (std::size_t i = 0; i < block.size; ++i) out.push_back(i < block.chosen ? 1 : 0);
  }
  return out;
}

}  // namespace detail

// The fall of the first group's sum, and how many values changed sides, in every reassignment.
template <class Result>
bool every_sum(const std::vector<std::int64_t>& values, const std::vector<Block>& blocks,
               Result& result, const std::function<bool()>& keep_going = {}) {
  struct Walk {
    const std::vector<std::int64_t>& values;
    const std::vector<unsigned char> first;
    Result& result;
    std::int64_t fall = 0, moved = 0;
    void enter(std::size_t, std::size_t i, int sign) {
      fall -= sign * values[i];
      moved += (sign > 0) != (first[i] != 0);
    }
    void leave(std::size_t i, int sign) {
      fall += sign * values[i];
      moved -= (sign > 0) != (first[i] != 0);
    }
    void visit(std::size_t) { result.add(fall, static_cast<double>(moved)); }
  };
  Walk walk{values, detail::first_group_flags(blocks), result};
  walk.fall = detail::first_group_sum(values, blocks);
  detail::for_turned(blocks, [&](std::size_t i) { walk.fall -= values[i]; });
  return detail::Divisions<Walk>(blocks, walk, keep_going).run();
}

// Welch's t in every reassignment of centred values.
template <class Result>
bool every_studentized(const std::vector<double>& values, const std::vector<Block>& blocks,
                       Result& result, const std::function<bool()>& keep_going = {}) {
  struct Walk {
    const std::vector<double>& values;
    const StudentizedParts parts;
    Result& result;
    // Sums of each depth, so that nothing is taken back in doubles.
    std::vector<double> sums, squares;
    void enter(std::size_t depth, std::size_t i, int sign) {
      sums[depth + 1] = sums[depth] + sign * values[i];
      squares[depth + 1] = squares[depth] + sign * values[i] * values[i];
    }
    void leave(std::size_t, int) {}
    void visit(std::size_t depth) { result.add(parts.t(sums[depth], squares[depth])); }
  };
  double first = 0.0;
  for (const Block& block : blocks) first += block.chosen;
  const std::size_t depth = detail::most_chosen(blocks) + 1;
  Walk walk{values, StudentizedParts(values, first), result, std::vector<double>(depth, 0.0),
            std::vector<double>(depth, 0.0)};
  detail::for_turned(blocks, [&](std::size_t i) {
    walk.sums[0] += values[i];
    walk.squares[0] += values[i] * values[i];
  });
  return detail::Divisions<Walk>(blocks, walk, keep_going).run();
}

// The fall of a difference of trimmed means in every reassignment.
template <class Result>
bool every_location(const GroupLocation& location, const std::vector<Block>& blocks, Result& result,
                    const std::function<bool()>& keep_going = {}) {
  struct Walk {
    const GroupLocation& location;
    Result& result;
    std::int64_t observed;
    std::vector<std::uint64_t> mask;
    void turn(std::size_t i) {
      mask[i / detail::word_bits] ^= std::uint64_t{1} << (i % detail::word_bits);
    }
    void enter(std::size_t, std::size_t i, int) { turn(i); }
    void leave(std::size_t i, int) { turn(i); }
    void visit(std::size_t) { result.add(observed - location.at(mask.data()), 1.0); }
  };
  Walk walk{location, result, location.observed(),
            std::vector<std::uint64_t>(detail::second_group_mask(blocks).size(), 0)};
  detail::for_turned(blocks, [&](std::size_t i) { walk.turn(i); });
  return detail::Divisions<Walk>(blocks, walk, keep_going).run();
}

// Every set of signs of up to 62 changes, each told from the last by one flip (Gray's code).
// `turn(i, on)` flips change i, `visit()` sees the signs.
template <class Turn, class Visit>
bool every_sign(std::size_t n, const Turn& turn, const Visit& visit,
                const std::function<bool()>& keep_going) {
  visit();
  std::uint64_t set = 0;
  for (std::uint64_t i = 1; i < (std::uint64_t{1} << n); ++i) {
    const auto at = static_cast<std::size_t>(__builtin_ctzll(i));
    set ^= std::uint64_t{1} << at;
    turn(at, ((set >> at) & 1) != 0);
    visit();
    if (i % detail::visits_between_looks == 0 && keep_going && !keep_going()) return false;
  }
  return true;
}

template <class Result>
bool every_flip(const std::vector<std::int64_t>& values, const std::vector<double>& weights,
                Result& result, const std::function<bool()>& keep_going = {}) {
  std::int64_t sum = 0;
  double moved = 0.0;
  return every_sign(
      values.size(),
      [&](std::size_t i, bool on) {
        sum += on ? values[i] : -values[i];
        moved += on ? weights[i] : -weights[i];
      },
      [&] { result.add(sum, moved); }, keep_going);
}

template <class Result>
bool every_flipped_location(const ChangeLocation& location, std::size_t n, Result& result,
                            const std::function<bool()>& keep_going = {}) {
  std::uint64_t mask = 0;
  const std::int64_t observed = location.observed();
  return every_sign(
      n, [&](std::size_t i, bool) { mask ^= std::uint64_t{1} << i; },
      [&] { result.add(observed - location.at(&mask), 1.0); }, keep_going);
}

}  // namespace vandro

#endif
