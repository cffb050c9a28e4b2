# Quantiles of one group by rule 7 of Hyndman & Fan (1996); `count` is its number of known values.
core_group_quantiles <- function(values, codes, wanted, count, probabilities) {
  if (count == 0) return(rep(NA_real_, length(probabilities)))
  native_group_quantiles(values, codes, wanted, count, probabilities)
}
