// The largest t statistic of many outcomes in reassignments of the same rows (Westfall & Young
// 1993): every reassignment is the same for all outcomes, so that their dependence is kept.
#ifndef VANDRO_MAX_T_HPP
#define VANDRO_MAX_T_HPP

#include <algorithm>
#include <array>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <mutex>
#include <numeric>
#include <thread>
#include <vector>

#include "enumerate.hpp"
#include "parallel.hpp"
#include "permutation.hpp"
#include "random.hpp"
#include "reassign.hpp"
#include "wide.hpp"

namespace vandro {

enum class JointKind { welch, student, changes };

// `columns` outcomes of `rows` values each, one after the other, missing ones NaN; of two groups
// block by block, the first group's own in front. `sides`: 0 both, 1 higher, -1 lower.
struct JointOutcomes {
  const double* values = nullptr;
  std::size_t rows = 0, columns = 0;
  std::vector<Block> blocks;  // none for changes, whose signs are flipped
  JointKind kind = JointKind::welch;
  int sides = 0;
};

struct MaxT {
  std::vector<double> observed;  // t as asked: its size, or signed towards the side asked
  // Assignments in which the largest of all statistics, or of those whose observed one is no
  // larger, is at least the observed one.
  std::vector<double> single, stepped;
  std::vector<double> largest;  // of each assignment
};

// Masks that one stream of random numbers serves, and that are worked on together: ranges of draws
// begin at multiples of the latter.
constexpr std::size_t max_t_stream = 256;
constexpr std::size_t max_t_piece = 4096;

namespace detail {

constexpr double most_square = 1e30;

// gap^2 / var with the sign of the side asked; without spread 0, or the most there is.
VANDRO_INLINE double signed_square(double gap, double var, int sides) {
  const double whole =
      gap == 0.0 ? 0.0 : std::min(gap * gap / (var > 0.0 ? var : 1e-300), most_square);
  if (sides == 0) return whole;
  return (gap > 0.0) == (sides > 0) ? whole : -whole;
}

template <bool pooled>
VANDRO_WIDE inline void group_squares(const Pair* sums, const double* size_first, std::size_t count,
                                      double n, double sum, double squares, int sides,
                                      double* out) {
  const double dust = 1e-13 * squares;
  for (std::size_t m = 0; m < count; ++m) {
    const double n1 = size_first[m], n2 = n - n1;
    const double s = sums[m][0], q = sums[m][1], rest = sum - s;
    const double ss1 = q - s * s / n1, ss2 = (squares - q) - rest * rest / n2;
    const double one = ss1 > dust ? ss1 : 0.0, two = ss2 > dust ? ss2 : 0.0;
    const double var = pooled ? (one + two) / (n - 2.0) * (n / (n1 * n2))
                              : one / (n1 * (n1 - 1.0)) + two / (n2 * (n2 - 1.0));
    const bool known = pooled ? n1 >= 1.0 && n2 >= 1.0 : n1 >= 2.0 && n2 >= 2.0;
    out[m] = known ? signed_square(s / n1 - rest / n2, var, sides) : 0.0;
  }
}

VANDRO_WIDE inline void change_squares(const Pair* sums, std::size_t count, double n, double sum,
                                       double squares, int sides, double* out) {
  for (std::size_t m = 0; m < count; ++m) {
    const double mean = (2.0 * sums[m][0] - sum) / n;
    const double spread = squares / n - mean * mean;
    const double var = (spread > 1e-13 * squares / n ? spread : 0.0) / (n - 1.0);
    out[m] = signed_square(mean, var, sides);
  }
}

VANDRO_WIDE inline std::uint64_t keep_larger(const double* sizes, std::size_t count,
                                             double threshold, double* running) {
  std::uint64_t reached = 0;
  for (std::size_t m = 0; m < count; ++m) {
    running[m] = running[m] < sizes[m] ? sizes[m] : running[m];
    reached += running[m] >= threshold ? 1U : 0U;
  }
  return reached;
}

// One outcome: tables of its sums, and what turns them into a statistic. Statistics are kept as
// squares with the sign of the side asked, which order as t does without roots.
class JointOne {
 public:
  JointOne(const double* values, std::size_t rows, JointKind kind, int sides)
      : kind_(kind), sides_(sides), present_(words_for(rows), 0) {
    std::vector<Pair> pairs(rows, Pair{0.0, 0.0});
    double centre = 0.0, largest = 0.0;
    for (std::size_t i = 0; i < rows; ++i) {
      if (std::isnan(values[i])) continue;
      n_ += 1.0;
      centre += (values[i] - centre) / n_;
      present_[i / word_bits] |= std::uint64_t{1} << (i % word_bits);
    }
    if (kind == JointKind::changes) centre = 0.0;
    for (std::size_t i = 0; i < rows; ++i) {
      if (!std::isnan(values[i])) largest = std::max(largest, std::fabs(values[i] - centre));
    }
    // Squares stay in range whatever the unit.
    const double unit = largest > 0.0 ? std::ldexp(1.0, -std::ilogb(largest)) : 1.0;
    for (std::size_t i = 0; i < rows; ++i) {
      if (std::isnan(values[i])) continue;
      const double v = (values[i] - centre) * unit;
      pairs[i] = Pair{v, v * v};
      sum_ += v;
      squares_ += v * v;
    }
    complete_ = n_ == static_cast<double>(rows);
    table_ = MaskSums<Pair>(pairs);
  }

  // Raises `running` to the statistic of each mask, and counts those that reach `threshold`.
  std::uint64_t raise(const std::uint64_t* masks, std::size_t count, std::size_t words,
                      double n_first, double threshold, double* running) const {
    std::array<Pair, 128> sums;
    std::array<double, 128> sizes;
    std::array<double, 128> size_first;
    std::uint64_t reached = 0;
    for (std::size_t start = 0; start < count; start += sums.size()) {
      const std::size_t many = std::min(sums.size(), count - start);
      const std::uint64_t* of = masks + start * words;
      table_.sums(of, many, words, sums.data());
      if (complete_) {
        std::fill(size_first.begin(), size_first.end(), n_first);
      } else {
        count_common(of, many, words, present_.data(), size_first.data());
      }
      statistics(sums.data(), size_first.data(), many, sizes.data());
      reached += keep_larger(sizes.data(), many, threshold, running + start);
    }
    return reached;
  }

  double statistic(const std::uint64_t* mask, std::size_t words, double n_first) const {
    double out = -std::numeric_limits<double>::infinity();
    raise(mask, 1, words, n_first, 0.0, &out);
    return out;
  }

 private:
  void statistics(const Pair* sums, const double* size_first, std::size_t count,
                  double* out) const {
    if (kind_ == JointKind::changes) {
      change_squares(sums, count, n_, sum_, squares_, sides_, out);
    } else if (kind_ == JointKind::student) {
      group_squares<true>(sums, size_first, count, n_, sum_, squares_, sides_, out);
    } else {
      group_squares<false>(sums, size_first, count, n_, sum_, squares_, sides_, out);
    }
  }

  JointKind kind_;
  int sides_;
  bool complete_ = true;
  double n_ = 0.0, sum_ = 0.0, squares_ = 0.0;
  std::vector<std::uint64_t> present_;
  MaskSums<Pair> table_{std::vector<Pair>{}};
};

// The observed assignment: those first in their blocks; of changes all signs as they are.
inline std::vector<std::uint64_t> observed_mask(const JointOutcomes& outcomes) {
  std::vector<std::uint64_t> out(words_for(outcomes.rows), 0);
  const auto set = [&](std::size_t i) {
    out[i / word_bits] |= std::uint64_t{1} << (i % word_bits);
  };
  std::size_t start = 0;
  for (const Block& block : outcomes.blocks) {
    for (std::size_t i = 0; i < block.chosen; ++i) set(start + i);
    start += block.size;
  }
  if (outcomes.blocks.empty()) {
    for (std::size_t i = 0; i < outcomes.rows; ++i) set(i);
  }
  return out;
}

// Every assignment, or every set of signs, one mask after the other.
inline std::vector<std::uint64_t> every_mask(const JointOutcomes& outcomes) {
  const std::size_t words = words_for(outcomes.rows);
  std::vector<std::uint64_t> out;
  if (outcomes.blocks.empty()) {
    for (std::uint64_t signs = 0; signs < (std::uint64_t{1} << outcomes.rows); ++signs) {
      out.push_back(signs);
    }
    return out;
  }
  std::vector<unsigned char> first = first_group_flags(outcomes.blocks);
  // The blocks turn like the wheels of a counter: each through its own orders, from the first.
  bool more = true;
  while (more) {
    const std::size_t at = out.size();
    out.resize(at + words, 0);
    for (std::size_t i = 0; i < first.size(); ++i) {
      out[at + i / word_bits] |= std::uint64_t{first[i]} << (i % word_bits);
    }
    more = false;
    auto start = first.begin();
    for (std::size_t b = 0; b < outcomes.blocks.size() && !more; ++b) {
      const auto end = start + static_cast<std::ptrdiff_t>(outcomes.blocks[b].size);
      more = std::prev_permutation(start, end);
      start = end;
    }
  }
  return out;
}

inline double signed_root(double square) {
  return std::copysign(std::sqrt(std::fabs(square)), square);
}
// From here on a square counts as equal to the observed one: its digits run out where t is large.
inline double tie_threshold(double square) {
  const double share = std::min(1e-3, 1e-12 * (4.0 + std::fabs(square)));
  return square - share * std::max(std::fabs(square), 1e-12);
}

// Random masks number `from` to `from` + `count`; `from` is a multiple of max_t_stream.
inline void draw_joint_masks(const JointOutcomes& outcomes, const Reassignment& reassignment,
                             std::uint64_t seed, std::size_t from, std::size_t count,
                             std::vector<std::uint64_t>& masks) {
  const std::size_t words = words_for(outcomes.rows);
  masks.resize(count * words + 64);
  for (std::size_t done = 0; done < count; done += max_t_stream) {
    const std::uint64_t stream = (from + done) / max_t_stream;
    RandomBits bits(seed, stream);
    Random picks(seed, stream);
    const std::size_t many = std::min(max_t_stream, count - done);
    std::uint64_t* to = masks.data() + done * words;
    // What is drawn beyond the end is written over by the next stream.
    if (outcomes.blocks.empty()) {
      draw_signs(bits, outcomes.rows, many, to);
    } else {
      draw_masks(reassignment, bits, picks, many, to);
    }
  }
}

}  // namespace detail

// Draws `from` to `to` - 1 of the random assignments of `seed`, or with `all` those of the list of
// all assignments. Every outcome must have a statistic as observed.
inline bool max_t(const JointOutcomes& outcomes, bool all, std::uint64_t seed, std::size_t from,
                  std::size_t to, int threads, MaxT& out,
                  const std::function<bool()>& keep_going = {}) {
  const std::size_t words = detail::words_for(outcomes.rows), m = outcomes.columns;
  const Reassignment reassignment(outcomes.blocks);
  const std::vector<std::uint64_t> listed =
      all ? detail::every_mask(outcomes) : std::vector<std::uint64_t>{};
  if (all) to = std::min(to, listed.size() / words);
  double n_first = 0.0;
  for (const Block& block : outcomes.blocks) n_first += block.chosen;
  const auto make = [&](std::size_t j) {
    return detail::JointOne(outcomes.values + j * outcomes.rows, outcomes.rows, outcomes.kind,
                            outcomes.sides);
  };
  std::vector<double> square(m);
  const std::vector<std::uint64_t> mask = detail::observed_mask(outcomes);
  for (std::size_t j = 0; j < m; ++j) square[j] = make(j).statistic(mask.data(), words, n_first);
  // From the smallest upwards: what has been passed are the outcomes whose statistic is no larger.
  std::vector<std::size_t> order(m);
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return square[a] < square[b]; });
  std::vector<double> threshold(m);
  for (std::size_t k = 0; k < m; ++k) {
    threshold[k] = detail::tie_threshold(square[order[k]]);
    if (k > 0) threshold[k] = std::max(threshold[k], threshold[k - 1]);
  }
  std::vector<std::uint64_t> stepped(m, 0), ends(m + 1, 0);
  out.largest.assign(to - from, 0.0);
  std::mutex merging;
  std::atomic<bool> stopped{false};
  const std::thread::id caller = std::this_thread::get_id();
  const auto work = [&](std::size_t piece) {
    const std::size_t start = from + piece * max_t_piece, end = std::min(to, start + max_t_piece);
    const std::size_t count = end - start;
    std::vector<std::uint64_t> drawn;
    if (!all) detail::draw_joint_masks(outcomes, reassignment, seed, start, count, drawn);
    const std::uint64_t* masks = all ? listed.data() + start * words : drawn.data();
    std::vector<double> running(count, -std::numeric_limits<double>::infinity());
    std::vector<std::uint64_t> reached(m, 0), below(m + 1, 0);
    auto asked = std::chrono::steady_clock::now();
    for (std::size_t k = 0; k < m && !stopped; ++k) {
      reached[k] = make(order[k]).raise(masks, count, words, n_first, threshold[k], running.data());
      if (k % 64 != 63 || std::this_thread::get_id() != caller || !keep_going) continue;
      const auto now = std::chrono::steady_clock::now();
      if (now - asked < std::chrono::milliseconds(50)) continue;
      asked = now;
      if (!keep_going()) stopped = true;
    }
    for (std::size_t i = 0; i < count; ++i) {
      out.largest[start - from + i] = detail::signed_root(running[i]);
      const auto above = std::upper_bound(threshold.begin(), threshold.end(), running[i]);
      ++below[static_cast<std::size_t>(above - threshold.begin())];
    }
    const std::lock_guard<std::mutex> lock(merging);
    for (std::size_t k = 0; k < m; ++k) stepped[k] += reached[k];
    for (std::size_t k = 0; k <= m; ++k) ends[k] += below[k];
  };
  const std::size_t pieces = (to - from + max_t_piece - 1) / max_t_piece;
  if (!in_pieces(pieces, threads, work, keep_going) || stopped) return false;
  out.observed.resize(m);
  out.single.resize(m);
  out.stepped.resize(m);
  std::uint64_t beyond = 0;
  for (std::size_t k = m; k-- > 0;) {
    beyond += ends[k + 1];
    out.observed[order[k]] = detail::signed_root(square[order[k]]);
    out.single[order[k]] = static_cast<double>(beyond);
    out.stepped[order[k]] = static_cast<double>(stepped[k]);
  }
  return true;
}

}  // namespace vandro

#endif
