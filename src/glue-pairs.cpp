#include <vandro/pairs.hpp>

#include "glue.h"

// [[Rcpp::export]]
Rcpp::List native_pair_moments(Rcpp::NumericVector first, Rcpp::NumericVector second) {
  using Rcpp::_;
  vandro::PairMoments out;
  const auto n = glue::common_length({first.size(), second.size()});
  glue::stop_unless(vandro::pair_moments(first.begin(), second.begin(), n, out, glue::keep_going));
  const auto count = [](std::int64_t k) { return static_cast<double>(k); };
  return Rcpp::List::create(
      _["first"] = glue::as_list(out.first), _["second"] = glue::as_list(out.second),
      _["change"] = glue::as_list(out.change), _["cross"] = out.cross, _["up"] = count(out.up),
      _["down"] = count(out.down), _["same"] = count(out.same),
      _["only_first"] = count(out.only_first), _["only_second"] = count(out.only_second),
      _["neither"] = count(out.neither));
}
