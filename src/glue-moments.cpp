// Moments of values, tables of counts and pairs; sorting, quantiles, bootstrap.
#include <vandro/bootstrap.hpp>
#include <vandro/counted.hpp>
#include <vandro/pairs.hpp>
#include <vandro/quantiles.hpp>
#include <vandro/sorting.hpp>

#include "glue.h"

// --- moments.hpp -------------------------------------------------------------------------

// [[Rcpp::export]]
Rcpp::List native_group_moments(SEXP values, Rcpp::IntegerVector codes, int first, int second) {
  std::array<vandro::Moments, 2> out;
  const auto n = glue::common_length({codes.size(), Rf_xlength(values)});
  glue::stop_unless(glue::with_values(values, [&](auto* x) {
    return vandro::group_moments(x, codes.begin(), n, first, second, out, glue::keep_going);
  }));
  return Rcpp::List::create(glue::as_list(out[0]), glue::as_list(out[1]));
}

// [[Rcpp::export]]
Rcpp::List native_moments(SEXP values) {
  vandro::Moments out;
  const auto n = static_cast<std::size_t>(Rf_xlength(values));
  glue::stop_unless(glue::with_values(
      values, [&](auto* x) { return vandro::moments(x, n, out, glue::keep_going); }));
  return glue::as_list(out);
}

// Moments of both groups for every column of a list: entries 2 j and 2 j + 1 of each vector belong
// to column j.
// [[Rcpp::export]]
Rcpp::List native_group_moments_many(Rcpp::List columns, Rcpp::IntegerVector codes, int first,
                                     int second) {
  using Rcpp::_;
  const R_xlen_t count = columns.size();
  const char* const names[] = {"n",  "missing", "base", "scale", "mean",
                               "m2", "m3",      "m4",   "min",   "max"};
  std::vector<Rcpp::NumericVector> out;
  for (std::size_t k = 0; k < 10; ++k) out.emplace_back(2 * count);
  for (R_xlen_t j = 0; j < count; ++j) {
    const SEXP values = columns[j];
    const auto n = glue::common_length({codes.size(), Rf_xlength(values)});
    std::array<vandro::Moments, 2> found;
    glue::stop_unless(glue::with_values(values, [&](auto* x) {
      return vandro::group_moments(x, codes.begin(), n, first, second, found, glue::keep_going);
    }));
    for (R_xlen_t g = 0; g < 2; ++g) {
      const vandro::Moments& m = found[static_cast<std::size_t>(g)];
      const double fields[] = {static_cast<double>(m.n),
                               static_cast<double>(m.missing),
                               m.base,
                               m.scale,
                               m.mean,
                               m.m2,
                               m.m3,
                               m.m4,
                               m.min,
                               m.max};
      for (std::size_t k = 0; k < 10; ++k) out[k][2 * j + g] = fields[k];
    }
  }
  Rcpp::List named(10);
  Rcpp::CharacterVector labels(10);
  for (int k = 0; k < 10; ++k) {
    named[k] = out[static_cast<std::size_t>(k)];
    labels[k] = names[k];
  }
  named.names() = labels;
  return named;
}

// Lists of moments (one per group) of many outcomes as vectors: entry [g][k] has field k of group
// g. All have the fields of the first one, in its order.
// [[Rcpp::export]]
Rcpp::List native_join_moments(Rcpp::List moments) {
  const R_xlen_t count = moments.size();
  const Rcpp::List first = moments[0];
  const R_xlen_t groups = first.size(), fields = Rf_xlength(first[0]);
  Rcpp::List out(groups);
  for (R_xlen_t g = 0; g < groups; ++g) {
    std::vector<double*> to;
    Rcpp::List columns(fields);
    for (R_xlen_t k = 0; k < fields; ++k) {
      Rcpp::NumericVector column(count);
      columns[k] = column;
      to.push_back(REAL(columns[k]));
    }
    columns.names() = Rf_getAttrib(first[g], R_NamesSymbol);
    for (R_xlen_t j = 0; j < count; ++j) {
      const SEXP group = VECTOR_ELT(VECTOR_ELT(moments, j), g);
      if (Rf_xlength(group) != fields) Rcpp::stop("moments differ in their fields");
      for (R_xlen_t k = 0; k < fields; ++k) {
        to[static_cast<std::size_t>(k)][j] = Rf_asReal(VECTOR_ELT(group, k));
      }
    }
    out[g] = columns;
  }
  return out;
}

// --- counted.hpp -------------------------------------------------------------------------

// [[Rcpp::export]]
Rcpp::List native_counted_moments(Rcpp::NumericVector values, Rcpp::NumericVector counts,
                                  Rcpp::IntegerVector codes, int first, int second) {
  std::array<vandro::Moments, 2> out;
  const auto n = glue::common_length({values.size(), counts.size(), codes.size()});
  glue::stop_unless(vandro::counted_moments(values.begin(), counts.begin(), codes.begin(), n, first,
                                            second, out, glue::keep_going));
  return Rcpp::List::create(glue::as_list(out[0]), glue::as_list(out[1]));
}

// [[Rcpp::export]]
Rcpp::NumericVector native_counted_quantiles(Rcpp::NumericVector values, Rcpp::NumericVector counts,
                                             Rcpp::IntegerVector codes, int wanted,
                                             Rcpp::NumericVector probabilities) {
  const auto n = glue::common_length({values.size(), counts.size(), codes.size()});
  return Rcpp::wrap(vandro::counted_quantiles(values.begin(), counts.begin(), codes.begin(), n,
                                              wanted,
                                              Rcpp::as<std::vector<double>>(probabilities)));
}

// --- pairs.hpp ---------------------------------------------------------------------------

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

// --- quantiles.hpp -----------------------------------------------------------------------

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

// --- sorting.hpp -------------------------------------------------------------------------

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

// --- bootstrap.hpp -----------------------------------------------------------------------

namespace {

using Doubles = std::vector<double>;

Rcpp::NumericVector column(const std::vector<vandro::DrawnMoments>& drawn,
                           double vandro::DrawnMoments::*part) {
  Rcpp::NumericVector out(static_cast<R_xlen_t>(drawn.size()));
  for (std::size_t i = 0; i < drawn.size(); ++i) out[static_cast<R_xlen_t>(i)] = drawn[i].*part;
  return out;
}

}  // namespace

// Draws `from` .. `to` - 1; seeds and numbers of draws are whole numbers below 2^53.
// [[Rcpp::export]]
Rcpp::List native_bootstrap_groups(Rcpp::NumericVector first, Rcpp::NumericVector second,
                                   double seed, double from, double to, int threads) {
  using Rcpp::_;
  using vandro::DrawnMoments;
  std::vector<DrawnMoments> a, b;
  glue::stop_unless(
      vandro::bootstrap_groups(Rcpp::as<Doubles>(first), Rcpp::as<Doubles>(second),
                               static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
                               static_cast<std::size_t>(to), threads, a, b, glue::keep_going));
  return Rcpp::List::create(_["mean_first"] = column(a, &DrawnMoments::mean),
                            _["var_first"] = column(a, &DrawnMoments::variance),
                            _["mean_second"] = column(b, &DrawnMoments::mean),
                            _["var_second"] = column(b, &DrawnMoments::variance));
}

// [[Rcpp::export]]
Rcpp::List native_bootstrap_pairs(Rcpp::NumericVector first, Rcpp::NumericVector second,
                                  double seed, double from, double to, int threads) {
  using Rcpp::_;
  using vandro::DrawnMoments;
  glue::common_length({first.size(), second.size()});
  std::vector<vandro::DrawnPairs> drawn;
  glue::stop_unless(
      vandro::bootstrap_pairs(Rcpp::as<Doubles>(first), Rcpp::as<Doubles>(second),
                              static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
                              static_cast<std::size_t>(to), threads, drawn, glue::keep_going));
  std::vector<DrawnMoments> a, b;
  Rcpp::NumericVector covariance(static_cast<R_xlen_t>(drawn.size()));
  for (std::size_t i = 0; i < drawn.size(); ++i) {
    a.push_back(drawn[i].first);
    b.push_back(drawn[i].second);
    covariance[static_cast<R_xlen_t>(i)] = drawn[i].covariance;
  }
  return Rcpp::List::create(_["mean_first"] = column(a, &DrawnMoments::mean),
                            _["var_first"] = column(a, &DrawnMoments::variance),
                            _["mean_second"] = column(b, &DrawnMoments::mean),
                            _["var_second"] = column(b, &DrawnMoments::variance),
                            _["covariance"] = covariance);
}
