#include <vandro/evidence.hpp>

#include "glue.h"

// For every prior scale: log of likelihood ratio times prior over each stretch (from[j], to[j]),
// its relative error, and the places below which the shares `p` of the first stretch lie; of scales
// after the first the first and the fourth stretch only, and shares where `all` says so.
// [[Rcpp::export]]
Rcpp::List native_evidence(double t, double df, double size, double location,
                           Rcpp::NumericVector scale, double prior_df, Rcpp::NumericVector from,
                           Rcpp::NumericVector to, Rcpp::NumericVector p, bool all) {
  const vandro::EffectLikelihood likelihood(t, df, size);
  std::vector<double> marks(from.begin(), from.end());
  marks.insert(marks.end(), to.begin(), to.end());
  vandro::EvidenceGrid grid(likelihood, location, {Rcpp::min(scale), Rcpp::max(scale)}, marks);
  const int scales = static_cast<int>(scale.size()), stretches = static_cast<int>(from.size());
  const int shares = static_cast<int>(p.size());
  Rcpp::NumericMatrix log(scales, stretches), error(scales, stretches), quantile(scales, shares);
  for (int i = 0; i < scales; ++i) {
    const vandro::EffectPrior prior(location, scale[i], prior_df);
    for (int j = 0; j < stretches; ++j) {
      if (i > 0 && j > 0 && j != 3) continue;
      vandro::LogMass mass = grid.mass(prior, from[j], to[j]);
      if (mass.error > 1e-11) {
        grid.refine(prior, from[j], to[j]);
        mass = grid.mass(prior, from[j], to[j]);
      }
      log(i, j) = mass.log;
      error(i, j) = mass.error;
    }
    for (int k = 0; k < shares && (i == 0 || all); ++k)
      quantile(i, k) = grid.quantile(prior, from[0], to[0], p[k]);
  }
  return Rcpp::List::create(Rcpp::Named("log") = log, Rcpp::Named("error") = error,
                            Rcpp::Named("quantile") = quantile);
}

// log of the likelihood of each effect over that of no effect.
// [[Rcpp::export]]
Rcpp::NumericVector native_effect_likelihood(double t, double df, double size,
                                             Rcpp::NumericVector effect) {
  const vandro::EffectLikelihood likelihood(t, df, size);
  Rcpp::NumericVector out(effect.size());
  std::transform(effect.begin(), effect.end(), out.begin(),
                 [&](double delta) { return likelihood.log_ratio(delta); });
  return out;
}
