# What is known about each effect size: who defined it, what it divides by, when it is the one to use.
# `first` and `second` in a standardizer's words stand for the groups' labels.

estimand_codes <- list(
  independent = c(
    "mean_difference", "mean_ratio", "d_pooled", "g", "d_average", "d_by_first", "d_by_second", "shift",
    "superiority", "rank_biserial", "r_rank"
  ),
  paired = c(
    "mean_difference", "mean_ratio", "d_change", "g_change", "d_average", "d_repeated", "d_by_first",
    "d_by_second", "shift", "rank_biserial", "r_rank"
  )
)
rank_estimands <- c("shift", "superiority", "rank_biserial", "r_rank")

# The short set: the difference, then what goes with the primary method. Where spreads may differ the
# pooled SD does not come first.
usual_estimands <- list(
  welch = c("mean_difference", "d_average", "d_pooled", "g"),
  student = c("mean_difference", "d_pooled", "g"),
  paired = c("mean_difference", "d_average", "d_change", "g_change"),
  ranks = c("shift", "superiority", "rank_biserial"),
  relative = c("superiority", "rank_biserial", "shift"),
  signed_ranks = c("shift", "rank_biserial")
)

# A permutation test has an interval of the difference of its own.
usual_set <- function(method, study) {
  if (method == "permutation") return(setdiff(usual_estimands[[mean_method(study)]], "mean_difference"))
  # A shift needs every pair of values.
  setdiff(usual_estimands[[method]], if (is_database(study)) "shift")
}

standardizer_words <- function(estimand, study) {
  switch(estimand,
    d_pooled = "pooled SD",
    g = "pooled SD, corrected for small samples",
    d_average = if (is_paired(study)) "average SD of both measurements" else "average SD of both groups",
    d_by_first = paste("SD of", study$groups[[1]]),
    d_by_second = paste("SD of", study$groups[[2]]),
    d_change = "SD of the changes",
    g_change = "SD of the changes, corrected for small samples",
    d_repeated = "SD of the changes over sqrt(2 (1 - r))",
    NA_character_
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
    d_repeated = "Morris & DeShon 2002",
    shift = "Hodges & Lehmann 1963",
    superiority = "Mann & Whitney 1947",
    rank_biserial = if (is_paired(study)) "Kerby 2014" else "Cliff 1993",
    r_rank = "Rosenthal 1991"
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
    one_way = "Clopper & Pearson 1934",
    relative = "Brunner & Munzel 2000",
    ranks = ,
    signed_ranks = "Lehmann 1975",
    none = "",
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
    shift = if (paired) {
      "centre of the changes, in the outcome's unit, where outlying changes should count little"
    } else {
      "distance between two distributions of one shape, in the outcome's unit, where outliers should count little"
    },
    superiority = sprintf(
      "chance that a value of %s, drawn at random, is higher than one of %s (equal ones half); needs no shape",
      study$groups[[1]], study$groups[[2]]
    ),
    rank_biserial = if (paired) {
      "ranks of the changes upwards less those downwards, as a share of all: -1 to 1, 0 balanced"
    } else {
      "Cliff's delta, superiority on a scale from -1 to 1: 2 superiority - 1"
    },
    r_rank = "studies that report r = z / sqrt(N); depends on sizes, so not comparable between designs",
    d_repeated = "as d (average), when both measurements spread equally"
  )
}
