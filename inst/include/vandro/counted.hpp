// Frequency data: every value with the number of times it occurs. The values are streamed through
// the same blocks as the expanded data would be, so that the results are the same to the last
// digit, in constant memory.
#ifndef VANDRO_COUNTED_HPP
#define VANDRO_COUNTED_HPP

#include <utility>

#include "moments.hpp"
#include "quantiles.hpp"

namespace vandro {

namespace detail {

inline bool counted_pass(const double* x, const double* counts, const int* codes, std::size_t n,
                         int first, int second, const std::array<double, 2>& scales,
                         std::array<Moments, 2>& out, const KeepGoing& keep_going) {
  std::array<Collector, 2> groups{Collector(scales[0]), Collector(scales[1])};
  std::array<std::array<double, block_rows>, 2> buffers;
  std::array<std::size_t, 2> at{0, 0};
  std::size_t in_chunk = 0;
  std::size_t chunks = 0;
  for (std::size_t i = 0; i < n; ++i) {
    auto left = static_cast<std::uint64_t>(counts[i]);
    while (left > 0) {
      const auto rows =
          static_cast<std::size_t>(std::min<std::uint64_t>(left, chunk_rows - in_chunk));
      for (std::size_t g = 0; g < 2; ++g) {
        if (codes[i] != (g == 0 ? first : second)) continue;
        std::fill_n(buffers[g].begin() + static_cast<std::ptrdiff_t>(at[g]), rows, x[i]);
        at[g] += rows;
      }
      left -= rows;
      in_chunk += rows;
      if (in_chunk < chunk_rows) break;
      in_chunk = 0;
      for (std::size_t g = 0; g < 2; ++g) {
        if (at[g] < block_rows - chunk_rows) continue;
        groups[g].take(buffers[g].data(), at[g]);
        at[g] = 0;
      }
      if (!may_go_on(chunk_rows * chunks++, keep_going)) return false;
    }
  }
  for (std::size_t g = 0; g < 2; ++g) {
    groups[g].take(buffers[g].data(), at[g]);
    out[g] = groups[g].total();
  }
  return true;
}

}  // namespace detail

// As group_moments() on the data with row i repeated counts[i] times (whole numbers from 0).
inline bool counted_moments(const double* x, const double* counts, const int* codes, std::size_t n,
                            int first, int second, std::array<Moments, 2>& out,
                            const KeepGoing& keep_going = {}) {
  std::array<double, 2> scales{1.0, 1.0};
  if (!detail::counted_pass(x, counts, codes, n, first, second, scales, out, keep_going)) {
    return false;
  }
  scales = {detail::needed_scale(out[0]), detail::needed_scale(out[1])};
  if (scales[0] == 1.0 && scales[1] == 1.0) return true;
  return detail::counted_pass(x, counts, codes, n, first, second, scales, out, keep_going);
}

// As quantiles() on the expanded values of the rows whose code is `wanted`.
inline std::vector<double> counted_quantiles(const double* x, const double* counts,
                                             const int* codes, std::size_t n, int wanted,
                                             const std::vector<double>& probabilities) {
  std::vector<std::pair<double, double>> known;
  double total = 0.0;
  for (std::size_t i = 0; i < n; ++i) {
    if (codes[i] != wanted || x[i] != x[i] || counts[i] <= 0.0) continue;
    known.emplace_back(x[i], counts[i]);
    total += counts[i];
  }
  std::sort(known.begin(), known.end());
  // The value at position `rank` (from 0) of the expanded, sorted sample.
  const auto at = [&](double rank) {
    double seen = 0.0;
    for (const auto& entry : known) {
      seen += entry.second;
      if (rank < seen) return entry.first;
    }
    return known.back().first;
  };
  std::vector<double> out;
  for (const double p : probabilities) {
    if (known.empty()) {
      out.push_back(std::numeric_limits<double>::quiet_NaN());
      continue;
    }
    const double position = (total - 1.0) * p;
    out.push_back(interpolate(at(std::floor(position)), at(std::ceil(position)),
                              position - std::floor(position)));
  }
  return out;
}

}  // namespace vandro

#endif
