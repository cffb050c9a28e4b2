// Distributions that use Boost: noncentral t, evidence, the band of the normal quantile plot.
#include <vandro/evidence.hpp>
#include <vandro/noncentral_t.hpp>
#include <vandro/normal_band.hpp>

#include "glue.h"

// --- noncentral_t.hpp --------------------------------------------------------------------

// Limits of the noncentrality; columns lower and upper, NA where the solver did not converge.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_ncp_limits(Rcpp::NumericVector t, Rcpp::NumericVector df, double level,
                                      int threads) {
  const std::size_t n = glue::common_length({t.size(), df.size()});
  std::vector<vandro::NcpLimits> found;
  glue::stop_unless(vandro::ncp_limits(Rcpp::as<std::vector<double>>(t),
                                       Rcpp::as<std::vector<double>>(df), level, found, threads,
                                       glue::keep_going));
  Rcpp::NumericMatrix out(static_cast<int>(n), 2);
  for (std::size_t i = 0; i < n; ++i) {
    out(i, 0) = found[i].converged ? found[i].lower : NA_REAL;
    out(i, 1) = found[i].converged ? found[i].upper : NA_REAL;
  }
  return out;
}

// Both tails of the noncentral t; columns lower and upper.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_noncentral_t(Rcpp::NumericVector t, Rcpp::NumericVector df,
                                        Rcpp::NumericVector ncp) {
  const std::size_t n = glue::common_length({t.size(), df.size(), ncp.size()});
  Rcpp::NumericMatrix out(static_cast<int>(n), 2);
  for (int i = 0; i < static_cast<int>(n); ++i) {
    const vandro::NoncentralT found = vandro::noncentral_t(t[i], df[i], ncp[i]);
    out(i, 0) = found.lower;
    out(i, 1) = found.upper;
  }
  return out;
}

// --- evidence.hpp ------------------------------------------------------------------------

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
  const auto widths = std::minmax_element(scale.begin(), scale.end());
  vandro::EvidenceGrid grid(likelihood, location, {*widths.first, *widths.second}, marks);
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

// --- normal_band.hpp ---------------------------------------------------------------------

// Band at the given places (1 .. n, increasing); columns lower and upper.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_normal_band(double n, Rcpp::IntegerVector places, double level,
                                       int draws, double seed) {
  std::vector<std::size_t> at(places.begin(), places.end());
  vandro::NormalBand band;
  glue::stop_unless(vandro::normal_band(static_cast<std::size_t>(n), at, level,
                                        static_cast<std::size_t>(draws),
                                        static_cast<std::uint64_t>(seed), band, glue::keep_going));
  Rcpp::NumericMatrix out(static_cast<int>(at.size()), 2);
  for (std::size_t i = 0; i < at.size(); ++i) {
    out(static_cast<int>(i), 0) = band.lower[i];
    out(static_cast<int>(i), 1) = band.upper[i];
  }
  return out;
}
