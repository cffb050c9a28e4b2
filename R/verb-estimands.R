# What is known about each effect size: who defined it, what it divides by, when it is the one to use.
# `first` and `second` in a standardizer's words stand for the groups' labels.

estimand_codes <- list(
  independent = c(
    "mean_difference", "mean_ratio", "d_pooled", "g", "d_average", "d_by_first", "d_by_second"
  ),
  paired = c(
    "mean_difference", "mean_ratio", "d_change", "g_change", "d_average", "d_repeated", "d_by_first",
    "d_by_second"
  )
)

# The short set: the difference, then what goes with the primary method. Where spreads may differ the
# pooled SD does not come first.
usual_estimands <- list(
  welch = c("mean_difference", "d_average", "d_pooled", "g"),
  student = c("mean_difference", "d_pooled", "g"),
  paired = c("mean_difference", "d_average", "d_change", "g_change")
)

standardizer_words <- function(estimand, study) {
  switch(estimand,
    mean_difference = ,
    mean_ratio = NA_character_,
    d_pooled = "pooled SD",
    g = "pooled SD, corrected for small samples",
    d_average = if (is_paired(study)) "average SD of both measurements" else "average SD of both groups",
    d_by_first = paste("SD of", study$groups[[1]]),
    d_by_second = paste("SD of", study$groups[[2]]),
    d_change = "SD of the changes",
    g_change = "SD of the changes, corrected for small samples",
    d_repeated = "SD of the changes over sqrt(2 (1 - r))"
  )
}

estimand_sources <- function(estimand, study) {
  switch(estimand,
    mean_difference = "",
    mean_ratio = "Bonett & Price 2020",
    d_pooled = "Cohen 1988",
    g = ,
    g_change = "Hedges 1981",
    d_average = "Bonett 2008",
    d_by_first = ,
    d_by_second = "Glass 1976",
    d_change = "Cohen 1988",
    d_repeated = "Morris & DeShon 2002"
  )
}

interval_sources <- function(method, estimand, study) {
  switch(method,
    welch = "Welch 1947",
    student = ,
    paired = "Student 1908",
    bonett = "Bonett 2008",
    log_delta = "Bonett & Price 2020",
    bootstrap = "Efron 1987",
    noncentral_t = if (is_paired(study) && estimand %in% c("d_average", "d_repeated")) {
      "Algina & Keselman 2003"
    } else if (estimand == "d_average") {
      "Delacre et al. 2021"
    } else {
      "Steiger & Fouladi 1997"
    }
  )
}

use_words <- function(estimand, study) {
  paired <- is_paired(study)
  switch(estimand,
    mean_difference = "wherever readers know the unit: report it first",
    mean_ratio = "outcomes with a true zero, when effects act in proportion",
    d_pooled = "groups with about equal spread; comparison with studies that report d",
    g = "as d (pooled), without its upward bias in small samples; for combining studies",
    d_average = if (paired) {
      "distance between the two measurements, comparable with studies of independent groups"
    } else {
      "groups whose spreads differ or are not known to be equal; goes with Welch's test"
    },
    d_by_first = sprintf("%s is the standard that %s is held against", study$groups[[1]], study$groups[[2]]),
    d_by_second = sprintf("%s is the standard that %s is held against", study$groups[[2]], study$groups[[1]]),
    d_change = "how consistent the changes are; planning of paired studies; not a distance between the means",
    g_change = "as d (changes), without its upward bias in small samples",
    d_repeated = "as d (average), when both measurements spread equally"
  )
}
