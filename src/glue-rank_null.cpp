#include <vandro/signed_rank_null.hpp>

#include "glue.h"

using Rcpp::_;

namespace {

using Points = Rcpp::NumericVector;

// Tails at the doubled statistics `at` and at both ends, and the limits that keep within each of
// `alphas`.
Rcpp::List described(const vandro::RankNull* null, const Points& at, const Points& alphas) {
  glue::stop_unless(null != nullptr);
  const R_xlen_t n = at.size(), limits = alphas.size();
  Points p_low(n), log_low(n), p_high(n), log_high(n), low(limits), high(limits), tail_low(limits),
      tail_high(limits);
  for (R_xlen_t i = 0; i < n; ++i) {
    const auto w = static_cast<std::int64_t>(at[i]);
    const vandro::Tail below = null->at_most(w), above = null->at_least(w);
    p_low[i] = below.p;
    log_low[i] = below.log_p;
    p_high[i] = above.p;
    log_high[i] = above.log_p;
  }
  for (R_xlen_t i = 0; i < limits; ++i) {
    // Interval and test mostly ask for the same tail.
    if (i > 0 && std::fabs(alphas[i] - alphas[0]) <= 1e-12 * alphas[0]) {
      low[i] = low[0];
      high[i] = high[0];
      tail_low[i] = tail_low[0];
      tail_high[i] = tail_high[0];
      continue;
    }
    const std::int64_t from_below = vandro::low_limit(*null, alphas[i]);
    const std::int64_t from_above = vandro::high_limit(*null, alphas[i]);
    low[i] = static_cast<double>(from_below);
    high[i] = static_cast<double>(from_above);
    tail_low[i] = null->at_most(from_below).p;
    tail_high[i] = null->at_least(from_above).p;
  }
  return Rcpp::List::create(
      _["p_low"] = p_low, _["log_low"] = log_low, _["p_high"] = p_high, _["log_high"] = log_high,
      _["limit_low"] = low, _["limit_high"] = high, _["tail_low"] = tail_low,
      _["tail_high"] = tail_high, _["log_least"] = null->at_most(null->least()).log_p,
      _["log_most"] = null->at_least(null->most()).log_p,
      _["least"] = static_cast<double>(null->least()),
      _["most"] = static_cast<double>(null->most()), _["step"] = static_cast<double>(null->step()));
}

Rcpp::NumericVector described(const vandro::Cost& cost) {
  return Rcpp::NumericVector::create(_["seconds"] = 1e-9 * cost.nanoseconds,
                                     _["bytes"] = cost.bytes);
}

}  // namespace

// Doubled U of the first group; `runs` of equal values, all 1 without ties.
// [[Rcpp::export]]
Rcpp::List native_rank_sum_null(std::vector<int> runs, double n_first, bool tied,
                                Rcpp::NumericVector at, Rcpp::NumericVector alphas) {
  const auto n = static_cast<std::int64_t>(n_first);
  std::unique_ptr<vandro::RankNull> null;
  if (tied) {
    null = vandro::TiedRankSum::make(runs, n, glue::keep_going);
  } else {
    null = vandro::UntiedRankSum::make(n, static_cast<std::int64_t>(runs.size()) - n,
                                       glue::keep_going);
  }
  return described(null.get(), at, alphas);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_rank_sum_cost(double n_first, double n_second, bool tied) {
  return described(tied ? vandro::TiedRankSum::cost(n_first, n_second)
                        : vandro::UntiedRankSum::cost(n_first, n_second));
}

// Doubled sum of the ranks of positive changes; `below`: zeros that took the lowest ranks.
// [[Rcpp::export]]
Rcpp::List native_signed_rank_null(std::vector<int> runs, double below, Rcpp::NumericVector at,
                                   Rcpp::NumericVector alphas) {
  const auto null =
      vandro::SignedRankSum::make(runs, static_cast<std::int64_t>(below), glue::keep_going);
  return described(null.get(), at, alphas);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_signed_rank_cost(double n) {
  return described(vandro::SignedRankSum::cost(n));
}
