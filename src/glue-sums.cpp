// Counted distributions of permuted sums.
#include <vandro/block_sums.hpp>
#include <vandro/crossing.hpp>
#include <vandro/fixed_point.hpp>
#include <vandro/subset_count.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

// --- sum_null.hpp ------------------------------------------------------------------------

namespace {

using Values = std::vector<double>;

Rcpp::List as_list(const vandro::BoundedTail& tail) {
  return Rcpp::List::create(_["p"] = tail.p, _["log_p"] = tail.log_p, _["low"] = tail.low,
                            _["high"] = tail.high);
}

// Greatest step of which all differences of whole numbers are multiples.
double common_step(const Values& first, const Values& second) {
  std::int64_t step = 0;
  const auto base = static_cast<std::int64_t>(first.at(0));
  for (const Values* values : {&first, &second}) {
    for (const double value : *values) {
      step = std::gcd(step, static_cast<std::int64_t>(value) - base);
    }
  }
  return step == 0 ? 1.0 : static_cast<double>(step);
}

// Limits for each alpha: the shifts at which either tail, growing towards the estimate, passes it.
// `tail(shift, low)` gives them; `finish(crossing, alpha, low)` makes one of where it was found.
template <class TailAt, class Finish>
Rcpp::List limits(const TailAt& tail, const Finish& finish, const vandro::BoundedTail& low,
                  const vandro::BoundedTail& high, const Values& alphas, const Values& guesses,
                  double least_p, double reach, double grid, double width) {
  const auto count = static_cast<R_xlen_t>(alphas.size());
  Rcpp::NumericVector lower(count, NA_REAL), upper(count, NA_REAL);
  for (R_xlen_t i = 0; i < count; ++i) {
    const auto at = static_cast<std::size_t>(i);
    if (vandro::above_level(least_p, alphas[at])) continue;
    if (i > 0 && std::fabs(alphas[at] - alphas[0]) <= 1e-12 * alphas[0]) {
      lower[i] = lower[0];
      upper[i] = upper[0];
      continue;
    }
    const vandro::Crossing from =
        vandro::find_crossing([&](double shift) { return tail(shift, true); }, alphas[at], 0.0,
                              low.p, guesses[2 * at], reach, grid, width);
    glue::stop_unless(from.finished);
    lower[i] = finish(from, alphas[at], true);
    // From above, with the sign turned, it grows as well.
    const vandro::Crossing to =
        vandro::find_crossing([&](double shift) { return tail(-shift, false); }, alphas[at], 0.0,
                              high.p, -guesses[2 * at + 1], reach, grid, width);
    glue::stop_unless(to.finished);
    upper[i] = -finish(to, alphas[at], false);
  }
  return Rcpp::List::create(_["low"] = as_list(low), _["high"] = as_list(high), _["lower"] = lower,
                            _["upper"] = upper);
}

double interpolated(const vandro::Crossing& crossing, double alpha) {
  return crossing.interpolated(alpha);
}

}  // namespace

// Greatest whole number of which all `values` are multiples; 1 where all are 0.
// [[Rcpp::export]]
double native_common_step(std::vector<double> values) { return common_step({0.0}, values); }

// Both tails of the sum of the first group at shift 0 and limits of the shift. `step` 0: the values
// are whole numbers and everything is exact; else they are rounded to multiples of it.
// [[Rcpp::export]]
Rcpp::List native_group_null(std::vector<double> first, std::vector<double> second, double step,
                             std::vector<double> alphas, std::vector<double> guesses, double reach,
                             double width) {
  const bool whole = step == 0.0;
  if (whole) step = common_step(first, second);
  const double origin = whole ? first.at(0) : 0.0;
  const auto null =
      vandro::GroupSums::make(vandro::on_grid(first, origin, step),
                              vandro::on_grid(second, origin, step), glue::keep_going);
  glue::stop_unless(null != nullptr);
  const auto tail = [&](double shift, bool low) {
    if (!glue::keep_going()) return -1.0;
    return low ? null->at_most(shift / step).p : null->at_least(shift / step).p;
  };
  const auto most = null->most();
  // In whole numbers the limit is the one fraction, with a denominator of at most `most`, that lies
  // in so narrow a bracket.
  const auto finish = [&](const vandro::Crossing& found, double alpha, bool low) {
    if (!whole) return interpolated(found, alpha);
    const double below = found.below / step, above = found.above / step;
    double best = above;
    for (std::int64_t under = most; under >= 1; --under) {
      // The smallest fraction above `below` whose tail is above alpha.
      for (double over = std::floor(below * static_cast<double>(under)) + 1.0;
           over / static_cast<double>(under) <= best; over += 1.0) {
        const auto whole_over = static_cast<std::int64_t>(over);
        const double p =
            low ? null->at_most(whole_over, under) : null->at_least(-whole_over, under);
        if (!vandro::above_level(p, alpha)) continue;
        best = over / static_cast<double>(under);
        break;
      }
    }
    return best * step;
  };
  const double denominators = static_cast<double>(most) * static_cast<double>(most);
  return limits(tail, finish, null->at_most(0.0), null->at_least(0.0), alphas, guesses,
                null->least_p(), reach, 0.0, whole ? 0.4 * step / denominators : width);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_group_null_cost(std::vector<double> first, std::vector<double> second,
                                           double step) {
  if (step == 0.0) step = common_step(first, second);
  for (double& value : first) value /= step;
  for (double& value : second) value /= step;
  const vandro::Cost cost = vandro::GroupSums::cost(first, second);
  return Rcpp::NumericVector::create(_["seconds"] = 1e-9 * cost.nanoseconds,
                                     _["bytes"] = cost.bytes);
}

// The same for signs of `values` (each standing for `times` changes), or with `sizes` for
// reassignment within blocks, by one distribution for every shift. `exact`: values are multiples of
// `step`, and so are the shifts that are tried.
// [[Rcpp::export]]
Rcpp::List native_shifted_null(std::vector<double> values, std::vector<double> times,
                               std::vector<double> sizes, std::vector<double> chosen, double step,
                               bool exact, double least_p, std::vector<double> alphas,
                               std::vector<double> guesses, double reach, double width) {
  const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
  const auto tails = [&](double shift) {
    Values moved = values;
    for (std::size_t i = 0; i < moved.size(); ++i) moved[i] -= times.at(i) * shift;
    const vandro::GridValues on = vandro::on_grid(moved, 0.0, step);
    return blocks.empty() ? vandro::flip_tails(on, glue::keep_going)
                          : vandro::BlockSums::tails(on, blocks, glue::keep_going);
  };
  const vandro::BothTails now = tails(0.0);
  glue::stop_unless(now.finished);
  const auto tail = [&](double shift, bool low) {
    const vandro::BothTails found = tails(shift);
    if (!found.finished) return -1.0;
    return low ? found.low.p : found.high.p;
  };
  return limits(
      tail, [](const vandro::Crossing& at, double alpha, bool) { return interpolated(at, alpha); },
      now.low, now.high, alphas, guesses, least_p, reach, exact ? step : 0.0, width);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_shifted_null_cost(std::vector<double> values, std::vector<double> sizes,
                                             std::vector<double> chosen, double step) {
  double total = 0.0;
  for (double& value : values) total += std::fabs(value /= step);
  const vandro::Cost cost = sizes.empty()
                                ? vandro::flip_cost(static_cast<double>(values.size()), total)
                                : vandro::BlockSums::cost(values, glue::as_blocks(sizes, chosen));
  return Rcpp::NumericVector::create(_["seconds"] = 1e-9 * cost.nanoseconds,
                                     _["bytes"] = cost.bytes);
}

// --- subset_count.hpp --------------------------------------------------------------------

namespace {

// Reassignment of values, or with no `n_first` signs of changes.
struct CountCase {
  vandro::FixedPoint fixed;
  std::vector<double> times;  // how often a shift is taken off each value
  int chosen;                 // -1: signs
  int threads;
  std::function<bool(double)> keep_going;

  // Assignments in which the growing tail lies, at a shift, with `slack` to either side.
  bool count(int sign, std::int64_t shift, std::int64_t slack, std::uint64_t& out) const {
    std::vector<std::int64_t> values = fixed.values;
    std::int64_t observed = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
      values[i] = sign * values[i] - shift * static_cast<std::int64_t>(times[i]);
      if (chosen < 0) {
        // Flipped changes with a sum of at most 0.
        values[i] = -values[i];
      } else if (times[i] > 0.0) {
        observed += values[i];
      }
    }
    return vandro::SubsetCount(values, chosen).at_least(observed - slack, threads, out, keep_going);
  }
};

// Shifts that count several times in a value need room for that.
vandro::FixedPoint fixed_values(const std::vector<double>& values, const std::vector<double>& times,
                                int n_first, double beyond, double grain) {
  const double most = *std::max_element(times.begin(), times.end());
  const int room = 61 - static_cast<int>(std::ceil(std::log2(std::max(1.0, most))));
  return vandro::fixed_point(values, n_first < 0 ? 0.0 : values.at(0), times, beyond, room, grain);
}

}  // namespace

// Tails of a sum under every reassignment (`n_first` of the values, those in front), or every set
// of signs (`n_first` negative), counted. `sign` 1: the tail that grows with the shift, -1: the
// other. `certain`: counted again beyond what rounding could move.
// [[Rcpp::export]]
Rcpp::List native_count_tail(std::vector<double> values, std::vector<double> times, int n_first,
                             double beyond, int sign, bool certain, int threads, SEXP progress,
                             double grain) {
  const vandro::FixedPoint fixed = fixed_values(values, times, n_first, beyond, grain);
  const CountCase here{fixed, times, n_first, threads, glue::telling(progress)};
  std::uint64_t outer = 0, inner = 0;
  const std::int64_t slack = fixed.slack();
  glue::stop_unless(here.count(sign, 0, slack, outer));
  if (certain) glue::stop_unless(here.count(sign, 0, -slack - 1, inner));
  return Rcpp::List::create(_["count"] = static_cast<double>(outer),
                            _["beyond"] = certain ? static_cast<double>(inner) : NA_REAL,
                            _["inexact"] = static_cast<double>(fixed.inexact));
}

// The shift, less `beyond`, at which the growing tail passes `alpha`, from a `guess` that is within
// about `reach`; `known`: the tail at 0. With the shifts between which it lies.
// [[Rcpp::export]]
Rcpp::NumericVector native_count_limit(std::vector<double> values, std::vector<double> times,
                                       int n_first, double beyond, int sign, double total,
                                       double alpha, double known, double guess, double reach,
                                       double width, int threads, SEXP progress, double grain) {
  const vandro::FixedPoint fixed = fixed_values(values, times, n_first, beyond, grain);
  const CountCase here{fixed, times, n_first, threads, glue::telling(progress)};
  double range = 0.0;
  for (const std::int64_t value : fixed.values) {
    range = std::max(range, 2.0 * std::fabs(static_cast<double>(value)));
  }
  const auto tail = [&](double shift) {
    // Beyond all differences: only the observed assignment is left, or all are.
    if (std::fabs(shift) > 2.0 * range) return shift < 0 ? 0.0 : 1.0;
    std::uint64_t found = 0;
    if (!here.count(sign, static_cast<std::int64_t>(shift), fixed.slack(), found)) return -1.0;
    return static_cast<double>(found) / total;
  };
  const double unit = fixed.unit;
  const vandro::Crossing at =
      vandro::find_crossing(tail, alpha, 0.0, known, guess / unit, reach / unit, 1.0, width / unit);
  glue::stop_unless(at.finished);
  return Rcpp::NumericVector::create(at.interpolated(alpha) * unit, at.below * unit,
                                     at.above * unit);
}

// Half-sums a count passes, for its cost.
// [[Rcpp::export]]
double native_half_sums(int n, int n_first) { return vandro::SubsetCount::half_sums(n, n_first); }
