#include <vandro/max_t.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

// Draws `from` to `to` of the joint reassignments of all columns of `values`, or of the list of all
// of them.
// [[Rcpp::export]]
Rcpp::List native_max_t(Rcpp::NumericMatrix values, std::vector<double> sizes,
                        std::vector<double> chosen, std::string kind, int sides, bool all,
                        double seed, double from, double to, int threads) {
  vandro::JointOutcomes outcomes;
  outcomes.values = values.begin();
  outcomes.rows = static_cast<std::size_t>(values.nrow());
  outcomes.columns = static_cast<std::size_t>(values.ncol());
  outcomes.blocks = glue::as_blocks(sizes, chosen);
  outcomes.kind = kind == "student"   ? vandro::JointKind::student
                  : kind == "changes" ? vandro::JointKind::changes
                                      : vandro::JointKind::welch;
  outcomes.sides = sides;
  vandro::MaxT found;
  glue::stop_unless(vandro::max_t(outcomes, all, static_cast<std::uint64_t>(seed),
                                  static_cast<std::size_t>(from), static_cast<std::size_t>(to),
                                  threads, found, glue::keep_going));
  return Rcpp::List::create(_["observed"] = found.observed, _["single"] = found.single,
                            _["stepped"] = found.stepped, _["largest"] = found.largest);
}
