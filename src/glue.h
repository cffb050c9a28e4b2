// What every glue file needs: calling a kernel on integer or double values, and interrupts.
#ifndef VANDRO_GLUE_H
#define VANDRO_GLUE_H

#include <Rcpp/Lightest>
#include <functional>
#include <vandro/moments.hpp>

namespace glue {

// True until the user asks to stop. Never lets R jump out of a kernel.
inline bool keep_going() {
  return R_ToplevelExec([](void*) { R_CheckUserInterrupt(); }, nullptr) == TRUE;
}

// The same, telling an R function the share of the work done. Nothing is thrown through a kernel.
inline std::function<bool(double)> telling(SEXP progress) {
  if (Rf_isNull(progress)) return [](double) { return keep_going(); };
  const Rcpp::Function tell(progress);
  return [tell](double share) {
    try {
      tell(share);
    } catch (...) {
      return false;
    }
    return keep_going();
  };
}

inline void stop_unless(bool finished) {
  if (!finished) throw Rcpp::internal::InterruptedException();
}

// `run` with a pointer to the values, whichever of the two numeric types they have.
template <class Run>
auto with_values(SEXP values, Run run) {
  if (TYPEOF(values) == INTSXP) return run(static_cast<const int*>(INTEGER(values)));
  if (TYPEOF(values) == REALSXP) return run(static_cast<const double*>(REAL(values)));
  Rcpp::stop("values must be integer or double");
}

inline Rcpp::List as_list(const vandro::Moments& m) {
  using Rcpp::_;
  return Rcpp::List::create(_["n"] = static_cast<double>(m.n),
                            _["missing"] = static_cast<double>(m.missing), _["base"] = m.base,
                            _["scale"] = m.scale, _["mean"] = m.mean, _["m2"] = m.m2,
                            _["m3"] = m.m3, _["m4"] = m.m4, _["min"] = m.min, _["max"] = m.max);
}

// Vectors that go together must be equally long, or a kernel would read past an end.
inline std::size_t common_length(std::initializer_list<R_xlen_t> lengths) {
  for (R_xlen_t length : lengths) {
    if (length != *lengths.begin()) Rcpp::stop("vectors differ in length");
  }
  return static_cast<std::size_t>(*lengths.begin());
}

}  // namespace glue

#endif
