#include <vandro/quantiles.hpp>

#include "glue.h"

// [[Rcpp::export]]
Rcpp::NumericVector native_group_quantiles(SEXP values, Rcpp::IntegerVector codes, int wanted,
                                           double expected, Rcpp::NumericVector probabilities) {
  const auto n = static_cast<std::size_t>(codes.size());
  if (static_cast<std::size_t>(Rf_xlength(values)) != n)
    Rcpp::stop("values and codes differ in length");
  auto group = glue::with_values(values, [&](auto* x) {
    return vandro::gather_group(x, codes.begin(), n, wanted, static_cast<std::size_t>(expected));
  });
  return Rcpp::wrap(vandro::quantiles(group, Rcpp::as<std::vector<double>>(probabilities)));
}
