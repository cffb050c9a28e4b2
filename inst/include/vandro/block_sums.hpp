// Exact distribution of the first group's sum when values are reassigned within blocks.
#ifndef VANDRO_BLOCK_SUMS_HPP
#define VANDRO_BLOCK_SUMS_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <numeric>
#include <utility>
#include <vector>

#include "sum_null.hpp"

namespace vandro {

// The sum of the first group when values are reassigned within blocks; they stand block by block,
// the first group's own in front. Tails at the observed sum.
class BlockSums {
 public:
  static BothTails tails(const GridValues& values, const std::vector<Block>& blocks,
                         const std::function<bool()>& keep_going = {}) {
    BothTails out;
    const std::size_t half = blocks.size() / 2;
    BlockSums sums;
    detail::Counts low{1.0}, high{1.0};
    for (std::size_t b = 0; b < blocks.size(); ++b) {
      if (keep_going && !keep_going()) return out;
      sums.add(values, blocks[b], b < half ? low : high);
    }
    const detail::Counts below = detail::running_from_below(high);
    const detail::Counts above = detail::running_from_above(high);
    const auto tail = [&](double sum, bool lower) {
      const double ends = static_cast<double>(low.size() + high.size());
      const auto at = static_cast<std::int64_t>(std::clamp(sum, -1.0, ends));
      return lower ? detail::product_sum(low, below, at, 0.0, below.back())
                   : detail::product_sum(low, above, at, above.front(), 0.0);
    };
    const double observed = static_cast<double>(sums.observed_);
    out.finished = true;
    // A smaller shift raises the observed sum against the others: the growing tail is the upper
    // one.
    if (values.rest.empty()) {
      const double up = std::min(1.0, tail(observed, false));
      const double down = std::min(1.0, tail(observed, true));
      out.low = detail::certain_tail({up, std::log(up)});
      out.high = detail::certain_tail({down, std::log(down)});
      return out;
    }
    const double one = std::exp(-sums.log_all_);
    const double least = sums.rest_observed_ - sums.rest_largest_ - detail::rest_slack;
    const double largest = sums.rest_observed_ - sums.rest_least_ + detail::rest_slack;
    const double mean = observed + sums.rest_observed_ - sums.rest_mean_;
    const double whole = std::floor(mean - 0.5), share = mean - 0.5 - whole;
    out.low = detail::bounded_tail(tail(std::ceil(observed + largest), false),
                                   tail(std::ceil(observed + least), false),
                                   tail(whole + 1.0, false), tail(whole + 2.0, false), share, one);
    out.high = detail::bounded_tail(tail(std::floor(observed + least), true),
                                    tail(std::floor(observed + largest), true), tail(whole, true),
                                    tail(whole + 1.0, true), share, one);
    return out;
  }

  // `values` in steps of the grid.
  static Cost cost(const std::vector<double>& values, const std::vector<Block>& blocks) {
    double steps = 0.0, reach = 1.0, most = 0.0;
    std::size_t at = 0;
    for (std::size_t b = 0; b < blocks.size(); ++b) {
      if (b == blocks.size() / 2) reach = 1.0;
      const Block& block = blocks[b];
      const auto ends =
          std::minmax_element(values.begin() + static_cast<std::ptrdiff_t>(at),
                              values.begin() + static_cast<std::ptrdiff_t>(at + block.size));
      reach += (*ends.second - *ends.first) * std::min(block.chosen, block.size - block.chosen);
      steps += reach * block.size * (block.chosen + 1.0) / 2.0;
      most = std::max(most, reach * (block.chosen + 2.0));
      at += block.size;
    }
    return {steps, 16.0 * most};
  }

 private:
  // One more block: its values one by one, by how many of them were chosen.
  void add(const GridValues& values, const Block& block, detail::Counts& sums) {
    const auto from = values.whole.begin() + static_cast<std::ptrdiff_t>(at_);
    std::vector<std::int64_t> scores(from, from + block.size);
    const std::int64_t least = *std::min_element(scores.begin(), scores.end());
    for (std::size_t i = 0; i < block.chosen; ++i) observed_ += scores[i] - least;
    std::vector<std::int64_t> ordered = scores;
    for (std::int64_t& score : ordered) score -= least;
    std::sort(ordered.begin(), ordered.end());
    const std::size_t chosen = block.chosen;
    const std::int64_t high = std::accumulate(ordered.end() - static_cast<std::ptrdiff_t>(chosen),
                                              ordered.end(), std::int64_t{0});
    std::vector<detail::Counts> rows(chosen + 1);
    rows[0] = sums;
    for (std::size_t j = 1; j <= chosen; ++j) {
      rows[j].assign(sums.size() + static_cast<std::size_t>(high), 0.0);
    }
    std::vector<std::size_t> reach(chosen + 1, 0);
    reach[0] = sums.size();
    for (std::size_t i = 0; i < ordered.size(); ++i) {
      const auto score = static_cast<std::size_t>(ordered[i]);
      for (std::size_t j = std::min(i + 1, chosen); j >= 1; --j) {
        if (reach[j - 1] == 0) continue;
        detail::add_counts(rows[j].data() + score, rows[j - 1].data(), reach[j - 1]);
        reach[j] = std::max(reach[j], reach[j - 1] + score);
      }
    }
    const detail::Scaled ways = detail::binomial(block.size, block.chosen);
    log_all_ += ways.log2() * std::log(2.0);
    sums = rows[chosen];
    for (double& sum : sums) {
      sum = std::ldexp(sum / ways.mantissa, -static_cast<int>(ways.exponent));
    }
    if (!values.rest.empty()) {
      const auto rest = values.rest.begin() + static_cast<std::ptrdiff_t>(at_);
      const detail::RestSums bounds(std::vector<double>(rest, rest + block.size), block.size);
      rest_least_ += bounds.least[chosen];
      rest_largest_ += bounds.largest[chosen];
      rest_mean_ += static_cast<double>(chosen) * bounds.mean;
      for (std::size_t i = 0; i < chosen; ++i)
        rest_observed_ += *(rest + static_cast<std::ptrdiff_t>(i));
    }
    at_ += block.size;
  }

  std::size_t at_ = 0;
  std::int64_t observed_ = 0;
  double log_all_ = 0.0, rest_least_ = 0.0, rest_largest_ = 0.0, rest_mean_ = 0.0,
         rest_observed_ = 0.0;
};

}  // namespace vandro

#endif
