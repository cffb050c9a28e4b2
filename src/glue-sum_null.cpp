#include <vandro/block_sums.hpp>
#include <vandro/crossing.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

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
