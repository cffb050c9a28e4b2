// Order statistics of all differences between two samples, or of all means of two changes (Walsh
// averages), without forming them.
//
// Both samples sorted, the sums lie in a matrix whose rows and columns increase. Between two bounds
// known for a rank, cells are drawn at random; two of them bracket the rank closely, and one walk
// along the staircase of the matrix counts what lies below each (Johnson & Mizoguchi 1978; Monahan
// 1984). Rounding keeps rows and columns in order, so that the result is exactly the order
// statistic of the rounded sums.
#ifndef VANDRO_PAIRWISE_HPP
#define VANDRO_PAIRWISE_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <vector>

#include "random.hpp"

namespace vandro {

class PairwiseSums {
 public:
  // All rows[i] + columns[j]; with `triangle` (rows and columns are the same) those with i <= j
  // only. Both increasing and finite.
  PairwiseSums(const std::vector<double>& rows, const std::vector<double>& columns, bool triangle)
      : n_(rows.size()), m_(columns.size()), triangle_(triangle) {
    constexpr double infinity = std::numeric_limits<double>::infinity();
    // Beyond the ends, the walk is led along the border without being asked where it is.
    rows_.reserve(n_ + 1);
    rows_.assign(rows.begin(), rows.end());
    rows_.push_back(infinity);
    columns_.reserve(m_ + 1);
    columns_.push_back(-infinity);
    columns_.insert(columns_.end(), columns.begin(), columns.end());
  }

  std::uint64_t size() const {
    const auto n = static_cast<std::uint64_t>(n_);
    return triangle_ ? n * (n + 1) / 2 : n * static_cast<std::uint64_t>(m_);
  }

  // The sums of the given ranks, 0 .. size() - 1, in increasing order. False when `keep_going` said
  // no.
  bool select(const std::vector<std::uint64_t>& ranks, std::vector<double>& out,
              const std::function<bool()>& keep_going = {}) const {
    out.assign(ranks.size(), 0.0);
    if (ranks.empty()) return true;
    auto below = std::make_shared<Bound>(), above = std::make_shared<Bound>();
    below->ends.resize(n_);
    for (std::size_t i = 0; i < n_; ++i) below->ends[i] = first_of(i);
    above->ends.assign(n_, static_cast<std::uint32_t>(m_));
    above->count = size();
    std::vector<Search> open{{0, ranks.size(), below, above}};
    Random random(size(), 1);
    while (!open.empty()) {
      if (keep_going && !keep_going()) return false;
      std::vector<Search> wide;
      for (const Search& search : open) {
        const bool few = search.active() <= std::max<std::uint64_t>(4096, (n_ + m_) / 2);
        if (few) {
          gather(ranks, search, out);
        } else {
          place_cuts(ranks, search, random, wide);
        }
      }
      count_cuts(wide);
      open.clear();
      for (const Search& search : wide) part(ranks, search, out, open);
    }
    return true;
  }

 private:
  // Of every row, the end of the part that is at most a value; `count`: how many cells these are.
  struct Bound {
    std::vector<std::uint32_t> ends;
    std::uint64_t count = 0;
    double value = 0.0;
  };

  using Shared = std::shared_ptr<const Bound>;
  // The ranks number `from` .. `to` - 1, all above `below` and none above `above`, and where to cut
  // next.
  struct Search {
    std::size_t from, to;
    Shared below, above;
    double low = 0.0, high = 0.0;
    Shared at_low = nullptr, at_high = nullptr;
    bool parts_one_value = false;
    std::uint64_t active() const { return above->count - below->count; }
  };

  std::uint32_t first_of(std::size_t row) const {
    return triangle_ ? static_cast<std::uint32_t>(row) : 0;
  }

  double cell(std::size_t row, std::size_t column) const {
    return rows_[row] + columns_[column + 1];
  }

  // Steps left along a row while above the value, else down: n + m steps without a branch, several
  // values at a time, none waiting for another.
  template <std::size_t Values>
  void walk(const std::shared_ptr<Bound>* bounds) const {
    std::size_t row[Values], column[Values];
    double value[Values];
    std::uint32_t* ends[Values];
    for (std::size_t k = 0; k < Values; ++k) {
      row[k] = 0;
      column[k] = m_;
      value[k] = bounds[k]->value;
      bounds[k]->ends.resize(n_ + 1);
      ends[k] = bounds[k]->ends.data();
    }
    const double* const rows = rows_.data();
    const double* const columns = columns_.data();
    for (std::size_t step = 0; step < n_ + m_; ++step) {
      for (std::size_t k = 0; k < Values; ++k) {
        const bool inside = rows[row[k]] + columns[column[k]] <= value[k];
        ends[k][row[k]] = static_cast<std::uint32_t>(column[k]);
        row[k] += inside;
        column[k] -= !inside;
      }
    }
    for (std::size_t k = 0; k < Values; ++k) {
      Bound& bound = *bounds[k];
      bound.ends.pop_back();
      for (std::size_t i = 0; i < n_; ++i) {
        bound.ends[i] = std::max(bound.ends[i], first_of(i));
        bound.count += bound.ends[i] - first_of(i);
      }
    }
  }

  // Calls each(row, column) for `size` cells between the bounds, one drawn from each stretch of
  // equal length.
  template <class Each>
  void draw(const Bound& below, const Bound& above, std::uint64_t size, Random& random,
            Each each) const {
    const double stretch =
        static_cast<double>(above.count - below.count) / static_cast<double>(size);
    std::uint64_t passed = 0, drawn = 0;
    double next = random.uniform() * stretch;
    for (std::size_t i = 0; i < n_ && drawn < size; ++i) {
      const std::uint64_t inside = above.ends[i] - below.ends[i];
      while (inside > 0 && drawn < size && next < static_cast<double>(passed + inside)) {
        const auto at =
            static_cast<std::uint64_t>(std::max(0.0, next - static_cast<double>(passed)));
        each(i, below.ends[i] + std::min(at, inside - 1));
        ++drawn;
        next = (static_cast<double>(drawn) + random.uniform()) * stretch;
      }
      passed += inside;
    }
  }

  // Brackets the ranks of a search by cells drawn from it. Ranks far apart part ways here.
  void place_cuts(const std::vector<std::uint64_t>& ranks, const Search& search, Random& random,
                  std::vector<Search>& out) const {
    const auto size = std::min<std::uint64_t>(std::max<std::uint64_t>((n_ + m_) / 8, 256), 65536);
    std::vector<double> sample;
    sample.reserve(size);
    draw(*search.below, *search.above, size, random,
         [&](std::size_t i, std::uint64_t j) { sample.push_back(cell(i, j)); });
    std::sort(sample.begin(), sample.end());
    const double drawn = static_cast<double>(sample.size());
    const double scale = drawn / static_cast<double>(search.active());
    const auto at = [&](std::size_t which, double sds) {
      const double place = (static_cast<double>(ranks[which] - search.below->count) + 0.5) * scale;
      const double sd = std::sqrt(place * std::max(0.0, 1.0 - place / drawn)) + 1.0;
      return sample[static_cast<std::size_t>(std::clamp(place + sds * sd, 0.0, drawn - 1.0))];
    };
    constexpr double reach = 1.5;
    for (std::size_t first = search.from; first < search.to;) {
      std::size_t last = first + 1;
      while (last < search.to && at(last, -reach) <= at(last - 1, reach)) ++last;
      Search next = search;
      next.from = first;
      next.to = last;
      if (search.parts_one_value) {
        next.high = at(first + (last - first) / 2, 0.0);
        next.low = just_below(next.high);
      } else {
        next.low = just_below(at(first, -reach));
        next.high = at(last - 1, reach);
      }
      out.push_back(next);
      first = last;
    }
  }

  // Counts what lies below all cuts, several in one walk.
  void count_cuts(std::vector<Search>& searches) const {
    std::vector<std::shared_ptr<Bound>> cuts;
    for (Search& search : searches) {
      for (const double value : {search.low, search.high}) {
        cuts.push_back(std::make_shared<Bound>());
        cuts.back()->value = value;
      }
      search.at_low = cuts[cuts.size() - 2];
      search.at_high = cuts.back();
    }
    std::size_t done = 0;
    for (; cuts.size() - done >= 6; done += 6) walk<6>(&cuts[done]);
    for (; cuts.size() - done >= 4; done += 4) walk<4>(&cuts[done]);
    for (; done < cuts.size(); done += 2) walk<2>(&cuts[done]);
  }

  // Goes on with the ranks below, between and above the two cuts.
  void part(const std::vector<std::uint64_t>& ranks, const Search& search, std::vector<double>& out,
            std::vector<Search>& open) const {
    const auto begin = ranks.begin();
    const auto split = [&](std::uint64_t count) {
      return static_cast<std::size_t>(
          std::lower_bound(begin + static_cast<std::ptrdiff_t>(search.from),
                           begin + static_cast<std::ptrdiff_t>(search.to), count) -
          begin);
    };
    const std::size_t low = split(search.at_low->count), high = split(search.at_high->count);
    const auto go_on = [&](std::size_t from, std::size_t to, const Shared& below,
                           const Shared& above) {
      if (from == to) return;
      open.push_back({from, to, below, above});
      // Repeated values stall the bracket: next time one value is parted from both sides.
      open.back().parts_one_value = 2 * open.back().active() > search.active();
    };
    go_on(search.from, low, search.below, search.at_low);
    if (just_below(search.high) <= search.low) {
      std::fill(out.begin() + static_cast<std::ptrdiff_t>(low),
                out.begin() + static_cast<std::ptrdiff_t>(high), search.high);
    } else {
      go_on(low, high, search.at_low, search.at_high);
    }
    go_on(high, search.to, search.at_high, search.above);
  }

  void gather(const std::vector<std::uint64_t>& ranks, const Search& search,
              std::vector<double>& out) const {
    const Bound &below = *search.below, &above = *search.above;
    std::vector<double> cells;
    cells.reserve(search.active());
    for (std::size_t i = 0; i < n_; ++i) {
      for (std::size_t j = below.ends[i]; j < above.ends[i]; ++j) cells.push_back(cell(i, j));
    }
    auto start = cells.begin();
    for (std::size_t k = search.from; k < search.to; ++k) {
      const auto at = cells.begin() + static_cast<std::ptrdiff_t>(ranks[k] - below.count);
      std::nth_element(start, at, cells.end());
      start = at;
      out[k] = *at;
    }
  }

  static double just_below(double value) {
    return std::nextafter(value, -std::numeric_limits<double>::infinity());
  }

  std::size_t n_, m_;
  bool triangle_;
  std::vector<double> rows_, columns_;
};

inline std::vector<double> negated(const std::vector<double>& sorted) {
  std::vector<double> out;
  out.reserve(sorted.size());
  for (auto at = sorted.rbegin(); at != sorted.rend(); ++at) out.push_back(0.0 - *at);
  return out;
}

}  // namespace vandro

#endif
