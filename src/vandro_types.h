// Included by RcppExports.cpp ahead of <Rcpp.h>: the glue needs neither Rcpp's modules nor its
// vector algebra, which take half of the time that compiling takes.
#include <Rcpp/Lightest>
