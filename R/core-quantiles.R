# Quantiles of one group by rule 7 of Hyndman & Fan (1996); `count` is its number of known values.
core_group_quantiles <- function(values, codes, wanted, count, probabilities) {
  if (count == 0) return(rep(NA_real_, length(probabilities)))
  native_group_quantiles(values, codes, wanted, count, probabilities)
}

# The same of one sample, and of frequency data.
core_sample_quantiles <- function(values, probabilities) {
  found <- native_quantiles(values, probabilities)
  if (anyNA(found)) rep(NA_real_, length(probabilities)) else found
}

core_counted_quantiles <- function(values, counts, codes, wanted, probabilities) {
  found <- native_counted_quantiles(values, counts, codes, wanted, probabilities)
  if (anyNA(found)) rep(NA_real_, length(probabilities)) else found
}
