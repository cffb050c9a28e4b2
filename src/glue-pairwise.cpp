#include <vandro/pairwise.hpp>

#include "glue.h"

// The sums rows[i] + columns[j] of the given ranks, 1 the smallest; with `triangle` those with i <=
// j only.
// [[Rcpp::export]]
Rcpp::NumericVector native_pairwise(std::vector<double> rows, std::vector<double> columns,
                                    bool triangle, Rcpp::NumericVector ranks) {
  std::vector<std::uint64_t> from_zero;
  for (const double rank : ranks) from_zero.push_back(static_cast<std::uint64_t>(rank) - 1);
  std::vector<double> out;
  glue::stop_unless(
      vandro::PairwiseSums(rows, columns, triangle).select(from_zero, out, glue::keep_going));
  return Rcpp::wrap(out);
}
