#include <vandro/outcomes.hpp>

#include "glue.h"

// [[Rcpp::export]]
Rcpp::List native_welch_many(Rcpp::NumericMatrix values, Rcpp::IntegerVector codes, int first,
                             int second, int sides, double beyond, double level) {
  using Rcpp::_;
  glue::common_length({values.nrow(), codes.size()});
  vandro::WelchMany out;
  glue::stop_unless(vandro::welch_many(values.begin(), static_cast<std::size_t>(values.nrow()),
                                       static_cast<std::size_t>(values.ncol()), codes.begin(),
                                       first, second, {sides, beyond, level}, out,
                                       glue::keep_going));
  return Rcpp::List::create(_["n_first"] = out.n_first, _["n_second"] = out.n_second,
                            _["sd_first"] = out.sd_first, _["sd_second"] = out.sd_second,
                            _["estimate"] = out.estimate, _["se"] = out.se, _["df"] = out.df,
                            _["statistic"] = out.statistic, _["log_p"] = out.log_p,
                            _["reach"] = out.reach);
}
