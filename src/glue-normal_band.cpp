#include <vandro/normal_band.hpp>

#include "glue.h"

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
