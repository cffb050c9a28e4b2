# The single checks of vet_assumptions(): each turns numbers of the core into rows that say how they read.

# --- shape ------------------------------------------------------------------------------------------

# `values`: NULL where they stay in a database.
shape_checks <- function(outcome, study, which, values, quarters, ask) {
  m <- outcome$moments[[which]]
  paired <- is_paired(study)
  leaning <- leans_on[[if (paired) "shape_pairs" else "shape"]]
  row <- function(...) check_row(outcome, study, which, ..., n = m$n)
  skew_error <- core_skewness_error(m$n)
  tail_error <- core_kurtosis_error(m$n)
  rows <- list(
    row("size", "number of values", number_seen(m$n), leaning, NA_character_, estimate = m$n),
    row("skewness", "G1", skewness_seen(m$skewness, skew_error, ask), leaning, "Joanes & Gill 1998",
      estimate = m$skewness, se = skew_error
    ),
    row("kurtosis", "G2", kurtosis_seen(m$kurtosis, tail_error, ask), leaning, "Joanes & Gill 1998",
      estimate = m$kurtosis, se = tail_error
    ),
    normality_row(row, values, m, leaning, ask)
  )
  if (!paired) return(rows)
  bowley <- core_quartile_skewness(quarters[[1]], quarters[[2]], quarters[[3]])
  zeros <- if (is.null(values)) outcome$pairs$same else sum(values == 0)
  c(rows, list(
    row("symmetry", "skewness of the quartiles", symmetry_seen(bowley), leans_on$symmetry, "Yule 1911",
      estimate = bowley
    ),
    row("zeros", "count", if (zeros) "changes of exactly 0 carry no direction" else "none", leans_on$symmetry,
      NA_character_,
      estimate = zeros
    )
  ))
}

normality_row <- function(row, values, m, leaning, ask) {
  small <- !is.null(values) && m$n <= 5000
  found <- if (small) core_shapiro_wilk(values) else core_omnibus(m$n, m$skewness, m$kurtosis)
  method <- if (small) "Shapiro-Wilk" else "omnibus of skewness and kurtosis"
  source <- if (small) "Shapiro & Wilk 1965; Royston 1995" else "D'Agostino & Pearson 1973"
  if (is.na(found$log_p)) {
    seen <- if (m$n < if (small) 3 else 20) "too few values to look" else "the values do not vary"
    return(row("normality", method, seen, leaning, source))
  }
  row("normality", method, normality_seen(found$log_p, m$n, ask), leaning, source,
    statistic = found$statistic, statistic_name = if (small) "W" else "K2",
    df = if (small) NULL else 2, log_p = found$log_p
  )
}

number_seen <- function(n) {
  if (n < 10) {
    return("so few that checks of shape see next to nothing: what the methods lean on must come from elsewhere")
  }
  if (n < 30) return("checks of shape see strong departures only")
  if (n <= 1000) return("means of so many values vary about normally, unless the values are very skewed")
  "checks of shape find departures that are too small to matter for means"
}

beyond_chance <- function(estimate, se, ask) {
  abs(estimate) > stats::qnorm(1 - ask$check_alpha / 2) * se
}

skewness_seen <- function(skewness, se, ask) {
  if (is.na(skewness)) return("not known: fewer than 3 values, or no spread")
  side <- if (skewness > 0) "high" else "low"
  if (beyond_chance(skewness, se, ask)) {
    return(sprintf("a long tail of %s values, longer than chance gives normal samples of this size", side))
  }
  "within what chance gives normal samples of this size; not evidence of symmetry"
}

kurtosis_seen <- function(kurtosis, se, ask) {
  if (is.na(kurtosis)) return("not known: fewer than 4 values, or no spread")
  if (beyond_chance(kurtosis, se, ask)) {
    return(sprintf(
      "tails %s than chance gives normal samples of this size", if (kurtosis > 0) "heavier" else "lighter"
    ))
  }
  "within what chance gives normal samples of this size; not evidence of normal tails"
}

normality_seen <- function(log_p, n, ask) {
  if (log_p <= log(ask$check_alpha)) {
    many <- if (n > 1000) "; in so many values even a harmless one shows" else ""
    return(paste0("a departure from the normal shape beyond chance", many))
  }
  few <- if (n < 30) "; so few values hide all but strong departures" else ""
  paste0("no departure seen, which is not evidence of normality", few)
}

symmetry_seen <- function(bowley) {
  if (is.na(bowley)) return("not known: half of the changes or more are equal")
  if (abs(bowley) < 0.1) return("the median lies about midway between the quartiles")
  sprintf("the middle half of the changes reaches farther %s", if (bowley > 0) "up" else "down")
}

# --- outlying values, ties, ends --------------------------------------------------------------------

oddity_checks <- function(outcome, study, which, values, quarters) {
  n <- length(values)
  row <- function(...) check_row(outcome, study, which, ..., n = n)
  labels <- function(at) case_words(outcome, study, which, at)
  fences <- core_beyond_fences(values, quarters[[1]], quarters[[3]])
  far <- core_far_from_median(values, quarters[[2]])
  repeats <- core_repeats(values)
  apart <- "look these up: a slip of the pen, or a true value that moves mean and SD?"
  list(
    row("fences", "1.5 box lengths from the quartiles", if (length(fences)) apart else "none beyond",
      leans_on$odd, "Tukey 1977",
      estimate = length(fences), cases = labels(fences)
    ),
    row("far", "3.5 robust SDs from the median", far_seen(far, apart), leans_on$odd, "Iglewicz & Hoaglin 1993",
      estimate = if (is.null(far)) NULL else length(far), cases = labels(far)
    ),
    row("ties", "values equal to another one", ties_seen(repeats$tied, n), leans_on$ties, NA_character_,
      estimate = repeats$tied
    ),
    row("distinct", "different values", distinct_seen(repeats$distinct, n), leans_on$ties, NA_character_,
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
        end_seen(count, n, found$outside, ask), leans_on$ends, NA_character_,
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

far_seen <- function(far, apart) {
  if (is.null(far)) return("not known: half of the values or more are equal")
  if (length(far)) apart else "none so far away"
}

ties_seen <- function(tied, n) {
  if (tied == 0) "none" else if (tied < n / 2) "some ranks are shared" else "most ranks are shared"
}

distinct_seen <- function(distinct, n) {
  if (n >= 10 && distinct < n / 2 && (distinct <= 10 || distinct < n / 4)) {
    "a coarse scale: few steps for so many values"
  } else {
    "a fine scale for this number of values"
  }
}

end_words <- function(end, value, limits) {
  if (is.null(limits)) return(paste("values at the", end, "one seen"))
  sprintf("values at %s, the %s possible", format_plain(value, digits = 15), end)
}

end_seen <- function(count, n, outside, ask) {
  if (!is.null(ask$limits) && outside > 0) return("some values lie outside the limits declared: check both")
  if (count >= 3 && count >= 0.1 * n) {
    return("values pile up at this end: what would lie beyond is cut off, mean and SD are drawn in")
  }
  "no pile at this end"
}

# --- order and pairing ------------------------------------------------------------------------------

order_checks <- function(outcome, study, ask, looked) {
  row <- function(which, ...) check_row(outcome, study, which, "order", ...)
  if (is.null(study$rows$order)) {
    return(list(row(NA, "correlation of neighbours", "not looked at: no order of measurement was declared",
      leans_on$serial, "Bartlett 1946"
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
  row <- function(...) check_row(outcome, study, which, "order", "correlation of neighbours", ...)
  if (!is.null(found$reason)) return(row(series_unknown, leans_on$serial, "Bartlett 1946"))
  row(serial_seen(found, ask), leans_on$serial, "Bartlett 1946; Bayley & Hammersley 1946",
    estimate = found$r, se = found$se, statistic = found$effective_n, statistic_name = "effective n",
    log_p = found$log_p, n = found$n
  )
}
series_unknown <- "not known: too few values, or no spread"

series_row <- function(found, outcome, study, ask) {
  row <- function(...) {
    check_row(outcome, study, if (is_paired(study)) 3 else NA, "error_order",
      "rejections of a true null, with dependence as seen", ...
    )
  }
  if (!is.null(found$reason)) return(row(series_unknown, leans_on$serial, "Bayley & Hammersley 1946"))
  row(series_seen(found, ask), leans_on$serial, "Bayley & Hammersley 1946", estimate = found$naive_error, n = found$n)
}

series_seen <- function(found, ask) {
  if (!depends(found, ask$check_alpha)) {
    return("the serial correlation behind this rate could be due to chance")
  }
  if (found$naive_error > ask$alpha) return("intervals that ignore the order are too narrow, and p-values too small")
  "intervals that ignore the order are wider than necessary, and p-values larger"
}

depends <- function(found, check_alpha) is.null(found$reason) && found$log_p <= log(check_alpha)

serial_seen <- function(found, ask) {
  if (!depends(found, ask$check_alpha)) {
    return("no dependence on the neighbour seen, which is not evidence of independence")
  }
  if (found$r > 0) "neighbouring values resemble each other" else "neighbouring values alternate"
}

pairing_checks <- function(outcome, study) {
  if (is_paired(study)) return(paired_gain(outcome, study))
  row <- function(...) check_row(outcome, study, NA, "pairing", "correlation of rows", ...)
  rows <- matched_rows(outcome, study)
  if (is.null(rows)) {
    return(list(row("not looked at: nothing tells which rows of the groups would belong together",
      leans_on$pairing, NA_character_
    )))
  }
  found <- core_row_correlation(rows[[1]], rows[[2]])
  seen <- if (is.na(found$r)) {
    "not known: a group does not vary"
  } else if (is_strong(found$r, found$n)) {
    "rows go together as pairs do: if a row is one unit measured twice, the design is another one"
  } else {
    "rows do not go together more than chance allows; whether they are pairs is a matter of the design"
  }
  list(row(seen, leans_on$pairing, NA_character_, estimate = found$r, n = found$n))
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
  seen <- if (is.na(r)) {
    "cannot be looked at: needs both measurements, and that they vary"
  } else if (paired_reach(m) < independent_reach(m)) {
    "pairing makes the interval narrower than that of independent groups of this size"
  } else {
    "pairing does not make the interval narrower here: check that both halves belong to the same unit"
  }
  list(check_row(outcome, study, NA, "pairing", "correlation of the halves", seen, leans_on$pairing_pairs,
    NA_character_,
    estimate = r, n = m[[3]]$n
  ))
}

# What published numbers do not show, said once for each.
hidden_checks <- function(outcome, study) {
  hidden <- c(shape = "shape", odd = "outlying values", ties = "ties and ends", serial = "order")
  leaning <- leans_on[names(hidden)]
  if (is_paired(study)) leaning$shape <- leans_on$shape_pairs
  Map(function(what, leaning) {
    check_row(outcome, study, NA, "hidden", what, "cannot be looked at: needs the measurements", leaning, NA_character_)
  }, unname(hidden), unname(leaning))
}
