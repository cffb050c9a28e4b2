#include <vandro/quantiles.hpp>

#include "glue.h"

// [[Rcpp::export]]
Rcpp::NumericVector native_group_quantiles(SEXP values, Rcpp::IntegerVector codes, int wanted,
                                           double expected, Rcpp::NumericVector probabilities) {
  const auto n = glue::common_length({codes.size(), Rf_xlength(values)});
  auto group = glue::with_values(values, [&](auto* x) {
    return vandro::gather_group(x, codes.begin(), n, wanted, static_cast<std::size_t>(expected));
  });
  return Rcpp::wrap(vandro::quantiles(group, Rcpp::as<std::vector<double>>(probabilities)));
}

// [[Rcpp::export]]
Rcpp::NumericVector native_quantiles(Rcpp::NumericVector values,
                                     Rcpp::NumericVector probabilities) {
  std::vector<double> known;
  known.reserve(static_cast<std::size_t>(values.size()));
  for (const double v : values) {
    if (v == v) known.push_back(v);
  }
  return Rcpp::wrap(vandro::quantiles(known, Rcpp::as<std::vector<double>>(probabilities)));
}
