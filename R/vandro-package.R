#' @keywords internal
#' @useDynLib vandro, .registration = TRUE
#' @importFrom Rcpp sourceCpp
#' @importFrom rlang %||% .data
"_PACKAGE"
