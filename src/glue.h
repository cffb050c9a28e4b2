// What every glue file needs: calling a kernel on integer or double values, and interrupts.
#ifndef VANDRO_GLUE_H
#define VANDRO_GLUE_H

#include <Rcpp.h>

namespace glue {

// True until the user asks to stop. Never lets R jump out of a kernel.
inline bool keep_going() {
  return R_ToplevelExec([](void*) { R_CheckUserInterrupt(); }, nullptr) == TRUE;
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

}  // namespace glue

#endif
