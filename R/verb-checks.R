# The single checks of vet_assumptions(): each turns numbers of the core into rows that say how they read.

# --- shape ------------------------------------------------------------------------------------------

# `values`: NULL where they stay in a database.
shape_checks <- function(outcome, study, which, values, quarters, ask) {
  m <- outcome$moments[[which]]
  paired <- is_paired(study)
  matters_for <- depends_on[[if (paired) "shape_pairs" else "shape"]]
  row <- function(...) check_row(outcome, study, which, ..., n = m$n)
  skew_error <- core_skewness_error(m$n)
  tail_error <- core_kurtosis_error(m$n)
  rows <- list(
    row("size", "number of values", number_reading(m$n), matters_for, NA_character_, estimate = m$n),
    row("skewness", "G1", skewness_reading(m$skewness, skew_error, ask), matters_for, "Joanes & Gill 1998",
      estimate = m$skewness, se = skew_error
    ),
    row("kurtosis", "G2", kurtosis_reading(m$kurtosis, tail_error, ask), matters_for, "Joanes & Gill 1998",
      estimate = m$kurtosis, se = tail_error
    ),
    normality_row(row, values, m, matters_for, ask)
  )
  if (!paired) return(rows)
  bowley <- core_quartile_skewness(quarters[[1]], quarters[[2]], quarters[[3]])
  zeros <- if (is.null(values)) outcome$pairs$same else sum(values == 0)
  c(rows, list(
    row("symmetry", "skewness of the quartiles", symmetry_reading(bowley), depends_on$symmetry, "Yule 1911",
      estimate = bowley
    ),
    row("zeros", "count", zeros_reading(zeros, m$n), depends_on$symmetry, NA_character_,
      estimate = zeros
    )
  ))
}

normality_row <- function(row, values, m, matters_for, ask) {
  small <- !is.null(values) && m$n <= 5000
  found <- if (small) core_shapiro_wilk(values) else core_omnibus(m$n, m$skewness, m$kurtosis)
  method <- if (small) "Shapiro-Wilk" else "omnibus of skewness and kurtosis"
  source <- if (small) "Shapiro & Wilk 1965; Royston 1995" else "D'Agostino & Pearson 1973"
  if (is.na(found$log_p)) {
    reading <- if (m$n < if (small) 3 else 20) "not known: too few values" else "not known: the values do not vary"
    return(row("normality", method, reading, matters_for, source))
  }
  row("normality", method, normality_reading(found$log_p, m$n, ask), matters_for, source,
    statistic = found$statistic, statistic_name = if (small) "W" else "K2",
    df = if (small) NULL else 2, log_p = found$log_p
  )
}

zeros_reading <- function(zeros, n) {
  if (zeros == 0) return("none")
  reading <- "changes of exactly 0 have no direction"
  if (zeros > 0.1 * n) notable(reading) else reading
}

number_reading <- function(n) {
  if (n < 10) return(notable("too small for checks of shape; the assumptions need support from elsewhere"))
  if (n < 30) return("checks of shape detect only strong departures")
  if (n <= 1000) return("means of this many values are close to normal unless the values are very skewed")
  "checks of shape detect departures too small to matter for means"
}

beyond_chance <- function(estimate, se, ask) {
  abs(estimate) > stats::qnorm(1 - ask$check_alpha / 2) * se
}

skewness_reading <- function(skewness, se, ask) {
  if (is.na(skewness)) return("not known: fewer than 3 values, or all equal")
  side <- if (skewness > 0) "high" else "low"
  if (beyond_chance(skewness, se, ask)) {
    return(notable(sprintf("a longer tail of %s values than expected in normal samples of this size", side)))
  }
  "as expected in normal samples of this size"
}

kurtosis_reading <- function(kurtosis, se, ask) {
  if (is.na(kurtosis)) return("not known: fewer than 4 values, or all equal")
  if (beyond_chance(kurtosis, se, ask)) {
    return(notable(sprintf(
      "%s tails than expected in normal samples of this size", if (kurtosis > 0) "heavier" else "lighter"
    )))
  }
  "as expected in normal samples of this size"
}

normality_reading <- function(log_p, n, ask) {
  if (log_p <= log(ask$check_alpha)) {
    many <- if (n > 1000) "; a sample this large shows even a harmless departure" else ""
    return(notable(paste0("the distribution departs from a normal one", many)))
  }
  "no departure from a normal distribution detected"
}

symmetry_reading <- function(bowley) {
  if (is.na(bowley)) return("not known: half of the changes or more are equal")
  if (abs(bowley) < 0.1) return("the median lies about midway between the quartiles")
  sprintf("the middle half of the changes extends farther %s", if (bowley > 0) "up" else "down")
}

# --- outlying values, ties, ends --------------------------------------------------------------------

oddity_checks <- function(outcome, study, which, values, quarters) {
  n <- length(values)
  row <- function(...) check_row(outcome, study, which, ..., n = n)
  labels <- function(at) case_words(outcome, study, which, at)
  fences <- core_beyond_fences(values, quarters[[1]], quarters[[3]])
  far <- core_far_from_median(values, quarters[[2]])
  repeats <- core_repeats(values)
  apart <- notable("look these up: a recording error, or a true value that influences mean and SD?")
  list(
    row("fences", "1.5 box lengths from the quartiles", if (length(fences)) apart else "none",
      depends_on$odd, "Tukey 1977",
      estimate = length(fences), cases = labels(fences)
    ),
    row("far", "3.5 robust SDs from the median", far_reading(far, apart), depends_on$odd, "Iglewicz & Hoaglin 1993",
      estimate = if (is.null(far)) NULL else length(far), cases = labels(far)
    ),
    row("ties", "values equal to another one", ties_reading(repeats$tied, n), depends_on$ties, NA_character_,
      estimate = repeats$tied
    ),
    row("distinct", "different values", distinct_reading(repeats$distinct, n), depends_on$ties, NA_character_,
      estimate = repeats$distinct
    )
  )
}

# The scale has its ends where it was measured: of pairs both measurements are looked at.
end_checks <- function(outcome, study, ask) {
  looked <- if (outcome$data$kind == "changes") 3 else 1:2
  side_by_side(lapply(looked, function(which) {
    values <- outcome_group_values(outcome, which)
    n <- length(values)
    found <- core_repeats(values, ask$limits)
    row <- function(check, value, count) {
      check_row(outcome, study, which, check, end_words(check, value, ask$limits),
        end_reading(count, n, found$outside, ask), depends_on$ends, NA_character_,
        estimate = count, n = n
      )
    }
    list(row("lowest", found$low, found$at_low), row("highest", found$high, found$at_high))
  }))
}

# Up to ten, by row number or declared id; the rest is counted.
case_words <- function(outcome, study, which, at, most = 10) {
  if (length(at) == 0) return(NULL)
  labels <- value_labels(study, outcome, which)[at]
  more <- if (length(labels) > most) sprintf(" and %d more", length(labels) - most) else ""
  paste0(paste(utils::head(labels, most), collapse = ", "), more)
}

far_reading <- function(far, apart) {
  if (is.null(far)) return("not known: half of the values or more are equal")
  if (length(far)) apart else "none"
}

ties_reading <- function(tied, n) {
  if (tied == 0) "none" else if (tied < n / 2) "some ranks are shared" else notable("most ranks are shared")
}

distinct_reading <- function(distinct, n) {
  if (n >= 10 && distinct < n / 2 && (distinct <= 10 || distinct < n / 4)) {
    notable("a coarse scale: few distinct values for this sample size")
  } else {
    "a fine scale for this sample size"
  }
}

end_words <- function(end, value, limits) {
  if (is.null(limits)) return(paste("values equal to the", end, "observed"))
  sprintf("values at %s, the %s possible", format_plain(value, digits = 15), end)
}

end_reading <- function(count, n, outside, ask) {
  if (!is.null(ask$limits) && outside > 0) return(notable("some values lie outside the declared limits: check both"))
  if (count >= 3 && count >= 0.1 * n) {
    return(notable("values pile up at this end: the scale cuts off what lies beyond, which pulls mean and SD inward"))
  }
  "no pile-up at this end"
}

# --- order and pairing ------------------------------------------------------------------------------

order_checks <- function(outcome, study, ask, looked) {
  row <- function(which, ...) check_row(outcome, study, which, "order", ...)
  if (is.null(study$rows$order)) {
    return(list(row(NA, "correlation of neighbouring values", "not checked: no order of measurement was declared",
      depends_on$serial, "Bartlett 1946"
    )))
  }
  c(
    side_by_side(lapply(looked, function(which) {
      list(serial_row(core_serial(ordered_values(study, outcome, which), ask$alpha), outcome, study, which, ask))
    })),
    list(series_row(series_of(outcome, study, ask$alpha), outcome, study, ask))
  )
}

# Serial correlation of the changes, or of the difference of two groups along the order that they share.
series_of <- function(outcome, study, alpha = 0.05) {
  if (is_database(study)) return(database_series(outcome, study, alpha))
  if (is_paired(study)) return(core_serial(ordered_values(study, outcome, 3), alpha))
  place <- lapply(1:2, function(which) as.double(study$rows$order$values[known_rows(outcome, which)]))
  values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
  core_serial_difference(values[[1]], values[[2]], place[[1]], place[[2]], alpha)
}

serial_row <- function(found, outcome, study, which, ask) {
  row <- function(...) check_row(outcome, study, which, "order", "correlation of neighbouring values", ...)
  if (!is.null(found$reason)) return(row(series_unknown, depends_on$serial, "Bartlett 1946"))
  row(serial_reading(found, ask), depends_on$serial, "Bartlett 1946; Bayley & Hammersley 1946",
    estimate = found$r, se = found$se, statistic = found$effective_n, statistic_name = "effective n",
    log_p = found$log_p, n = found$n
  )
}
series_unknown <- "not known: too few values, or all equal"

series_row <- function(found, outcome, study, ask) {
  row <- function(...) {
    check_row(outcome, study, if (is_paired(study)) 3 else NA, "error_order",
      "rejections of a true null hypothesis, with the dependence observed", ...
    )
  }
  if (!is.null(found$reason)) return(row(series_unknown, depends_on$serial, "Bayley & Hammersley 1946"))
  row(
    series_reading(found, ask), depends_on$serial, "Bayley & Hammersley 1946", estimate = found$naive_error, n = found$n
  )
}

series_reading <- function(found, ask) {
  if (!depends(found, ask$check_alpha)) {
    return("the serial correlation behind this rate could be due to chance")
  }
  notable(if (found$naive_error > ask$alpha) {
    "intervals that ignore the order are too narrow, and p-values too small"
  } else {
    "intervals that ignore the order are wider than necessary, and p-values larger"
  })
}

depends <- function(found, check_alpha) is.null(found$reason) && found$log_p <= log(check_alpha)

serial_reading <- function(found, ask) {
  if (!depends(found, ask$check_alpha)) {
    return("no correlation between neighbouring values detected")
  }
  notable(if (found$r > 0) "neighbouring values resemble each other" else "neighbouring values alternate")
}

pairing_checks <- function(outcome, study) {
  if (is_paired(study)) return(paired_gain(outcome, study))
  row <- function(...) check_row(outcome, study, NA, "pairing", "correlation of rows", ...)
  rows <- matched_rows(outcome, study)
  if (is.null(rows)) {
    return(list(row("not checked: no row of one group corresponds to a row of the other",
      depends_on$pairing, NA_character_
    )))
  }
  found <- core_row_correlation(rows[[1]], rows[[2]])
  reading <- if (is.na(found$r)) {
    "not known: a group does not vary"
  } else if (is_strong(found$r, found$n)) {
    notable("rows are correlated as pairs are: if a row is one unit measured twice, declare pairs")
  } else {
    "no more correlation than expected by chance; the design decides whether rows are pairs"
  }
  list(row(reading, depends_on$pairing, NA_character_, estimate = found$r, n = found$n))
}

# Values of both groups that would belong together: in one row, with the same key, or, where the groups are
# equally large, at the same place of the row order. NULL where there is no such thing.
matched_rows <- function(outcome, study) {
  data <- outcome$data
  if (data$kind == "columns") {
    rows <- lapply(data$parts, as.double)
  } else if (data$kind == "long" && !is.null(study$rows$id)) {
    id <- study$rows$id$values
    return(rows_by_key(data, if (is.null(data$rows)) id else id[data$rows]))
  } else if (data$kind == "long") {
    rows <- lapply(1:2, function(which) as.double(data$values[which(data$codes == data$code_of[[which]])]))
  } else {
    return(NULL)
  }
  # Sorted values go together whatever they are.
  if (length(rows[[1]]) != length(rows[[2]]) || (is_sorted(rows[[1]]) && is_sorted(rows[[2]]))) NULL else rows
}

rows_by_key <- function(data, id) {
  at <- lapply(1:2, function(which) which(data$codes == data$code_of[[which]]))
  keys <- lapply(at, function(rows) id[rows])
  both <- intersect(keys[[1]], keys[[2]])
  if (length(both) < 3 || anyDuplicated(keys[[1]]) || anyDuplicated(keys[[2]])) return(NULL)
  Map(function(at, keys) as.double(data$values[at[match(both, keys)]]), at, keys)
}

# Half-widths of 95 % intervals of the mean change, and of the difference if the halves were independent groups.
paired_reach <- function(m) {
  if (m[[3]]$n < 2) return(Inf)
  error <- core_paired_error(m[[3]])
  if (is.null(error$reason)) core_t_reach(error$se, error$df, 0.95) else 0
}
independent_reach <- function(m) {
  error <- core_one_error(core_welch_errors(m[[1]], m[[2]]))
  if (is.null(error$reason)) core_t_reach(error$se, error$df, 0.95) else Inf
}

paired_gain <- function(outcome, study) {
  r <- outcome$pairs$r %||% NA_real_
  m <- outcome$moments
  reading <- if (is.na(r)) {
    "cannot be checked: both measurements are needed, and must vary"
  } else if (paired_reach(m) < independent_reach(m)) {
    "pairing makes the interval narrower than with independent groups of this size"
  } else {
    notable("pairing does not make the interval narrower here: check that both measurements are from the same unit")
  }
  list(check_row(outcome, study, NA, "pairing", "correlation of both measurements", reading, depends_on$pairing_pairs,
    NA_character_,
    estimate = r, n = m[[3]]$n
  ))
}

# What published numbers do not show, said once for each.
hidden_checks <- function(outcome, study) {
  hidden <- c(shape = "shape", odd = "outliers", ties = "ties and ends", serial = "order")
  matters_for <- depends_on[names(hidden)]
  if (is_paired(study)) matters_for$shape <- depends_on$shape_pairs
  Map(function(what, matters_for) {
    check_row(
      outcome, study, NA, "hidden", what, "cannot be checked: the single measurements are needed", matters_for,
      NA_character_
    )
  }, unname(hidden), unname(matters_for))
}
