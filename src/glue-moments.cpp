#include "glue.h"

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
