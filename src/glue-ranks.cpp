#include <vandro/ranks.hpp>

#include "glue.h"

using Rcpp::_;

// Both sorted.
// [[Rcpp::export]]
Rcpp::List native_rank_counts(Rcpp::NumericVector first, Rcpp::NumericVector second) {
  const vandro::RankCounts counts =
      vandro::count_ranks(first.begin(), static_cast<std::size_t>(first.size()), second.begin(),
                          static_cast<std::size_t>(second.size()));
  return Rcpp::List::create(_["n_first"] = static_cast<double>(counts.n_first),
                            _["n_second"] = static_cast<double>(counts.n_second),
                            _["u"] = 0.5 * static_cast<double>(counts.doubled_u),
                            _["equal_pairs"] = static_cast<double>(counts.equal_pairs),
                            _["distinct"] = static_cast<double>(counts.distinct),
                            _["tied"] = static_cast<double>(counts.tied),
                            _["tie_sum"] = counts.tie_sum,
                            _["placement_variance"] = Rcpp::NumericVector::create(
                                counts.placement_variance_first, counts.placement_variance_second));
}

// [[Rcpp::export]]
Rcpp::IntegerVector native_tie_runs(Rcpp::NumericVector first, Rcpp::NumericVector second) {
  return Rcpp::wrap(vandro::tie_runs(first.begin(), static_cast<std::size_t>(first.size()),
                                     second.begin(), static_cast<std::size_t>(second.size())));
}

// [[Rcpp::export]]
Rcpp::NumericVector native_placements(Rcpp::NumericVector of, Rcpp::NumericVector among) {
  return Rcpp::wrap(vandro::placements(of.begin(), static_cast<std::size_t>(of.size()),
                                       among.begin(), static_cast<std::size_t>(among.size())));
}

// Changes, sorted.
// [[Rcpp::export]]
Rcpp::List native_signed_counts(Rcpp::NumericVector changes, bool rank_zeros) {
  const vandro::SignedRankCounts counts = vandro::count_signed_ranks(
      changes.begin(), static_cast<std::size_t>(changes.size()), rank_zeros);
  return Rcpp::List::create(_["n"] = static_cast<double>(counts.n),
                            _["zeros"] = static_cast<double>(counts.zeros),
                            _["plus"] = 0.5 * static_cast<double>(counts.doubled_plus),
                            _["minus"] = 0.5 * static_cast<double>(counts.doubled_minus),
                            _["rank_squares"] = counts.rank_squares,
                            _["tied"] = static_cast<double>(counts.tied), _["runs"] = counts.runs);
}
