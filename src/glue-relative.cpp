#include <vandro/relative.hpp>

#include "glue.h"

using Rcpp::_;

// Every assignment, or with `draws` above 0 that many random ones.
// [[Rcpp::export]]
Rcpp::List native_relative_null(std::vector<int> runs, std::vector<int> in_first, double draws,
                                double seed, int threads) {
  vandro::RelativeNull null;
  glue::stop_unless(draws > 0
                        ? vandro::sample_relative(runs, in_first, static_cast<std::uint64_t>(seed),
                                                  static_cast<std::size_t>(draws), threads, null,
                                                  glue::keep_going)
                        : vandro::enumerate_relative(runs, in_first, null, glue::keep_going));
  return Rcpp::List::create(_["statistics"] = null.statistics, _["logits"] = null.logits,
                            _["weights"] = null.weights, _["at_least"] = null.at_least,
                            _["at_most"] = null.at_most, _["total"] = null.total);
}

// [[Rcpp::export]]
double native_count_assignments(std::vector<int> runs, double n_first) {
  return vandro::count_assignments(runs, static_cast<std::int64_t>(n_first));
}
