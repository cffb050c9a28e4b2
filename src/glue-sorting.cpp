#include <vandro/sorting.hpp>

#include "glue.h"

// Decimals of all values in a list of vectors together; -1 where they are no decimals.
// [[Rcpp::export]]
int native_decimals(Rcpp::List parts) {
  std::vector<std::vector<double>> values;
  std::vector<const std::vector<double>*> pointers;
  for (R_xlen_t i = 0; i < parts.size(); ++i) {
    values.push_back(Rcpp::as<std::vector<double>>(parts[i]));
  }
  for (const auto& part : values) pointers.push_back(&part);
  return vandro::common_decimals(pointers);
}

// As whole steps of the last decimal.
// [[Rcpp::export]]
Rcpp::NumericVector native_whole(Rcpp::NumericVector values, int decimals) {
  auto whole = Rcpp::as<std::vector<double>>(values);
  vandro::scale_to_whole(whole, decimals);
  return Rcpp::wrap(whole);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_sorted(Rcpp::NumericVector values) {
  Rcpp::NumericVector out = Rcpp::no_init(values.size());
  glue::stop_unless(vandro::sort_into(values.begin(), static_cast<std::size_t>(values.size()),
                                      out.begin(), glue::keep_going));
  return out;
}
