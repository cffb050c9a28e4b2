#include <vandro/moments.hpp>

#include "glue.h"

namespace {

Rcpp::List as_list(const vandro::Moments& m) {
  using Rcpp::_;
  return Rcpp::List::create(_["n"] = static_cast<double>(m.n),
                            _["missing"] = static_cast<double>(m.missing), _["base"] = m.base,
                            _["scale"] = m.scale, _["mean"] = m.mean, _["m2"] = m.m2,
                            _["m3"] = m.m3, _["m4"] = m.m4, _["min"] = m.min, _["max"] = m.max);
}

}  // namespace

// [[Rcpp::export]]
Rcpp::List native_group_moments(SEXP values, Rcpp::IntegerVector codes, int first, int second) {
  std::array<vandro::Moments, 2> out;
  const auto n = static_cast<std::size_t>(codes.size());
  if (static_cast<std::size_t>(Rf_xlength(values)) != n)
    Rcpp::stop("values and codes differ in length");
  glue::stop_unless(glue::with_values(values, [&](auto* x) {
    return vandro::group_moments(x, codes.begin(), n, first, second, out, glue::keep_going);
  }));
  return Rcpp::List::create(as_list(out[0]), as_list(out[1]));
}
