# Assumption checks where single values stay in a database.

# The checks that sums, quartiles and counts allow.
database_checks <- function(outcome, study, ask) {
  outcome <- full_record(outcome)
  looked <- if (is_paired(study)) 3 else 1:2
  per_group <- lapply(looked, function(which) {
    quarters <- quartiles_of(outcome, which)
    c(
      shape_checks(outcome, study, which, NULL, quarters, ask),
      database_oddity_checks(outcome, study, which, quarters)
    )
  })
  c(
    side_by_side(per_group), database_end_checks(outcome, study, ask, looked), spread_checks(outcome, study, ask),
    database_order_checks(outcome, study, ask, looked), database_pairing_checks(outcome, study)
  )
}

# Counts only: which rows they are stays in the database.
database_oddity_checks <- function(outcome, study, which, quarters) {
  m <- outcome$moments[[which]]
  row <- function(...) check_row(outcome, study, which, ..., n = m$n)
  median <- quarters[[2]]
  robust <- 1.4826 * engine_median_distance(outcome, which, median)
  reach <- 1.5 * (quarters[[3]] - quarters[[1]])
  limits <- list(fences = c(quarters[[1]] - reach, quarters[[3]] + reach), far = median + c(-3.5, 3.5) * robust)
  found <- engine_oddities(outcome, which, limits)
  apart <- notable("look these up in the database: recording errors, or true values that influence mean and SD?")
  flat <- robust == 0
  list(
    row("fences", "1.5 box lengths from the quartiles", if (found$fences) apart else "none", depends_on$odd,
      "Tukey 1977",
      estimate = found$fences
    ),
    row("far", "3.5 robust SDs from the median", far_reading(if (!flat) seq_len(found$far), apart), depends_on$odd,
      "Iglewicz & Hoaglin 1993",
      estimate = if (flat) NULL else found$far
    ),
    row("ties", "values equal to another one", ties_reading(found$tied, m$n), depends_on$ties, NA_character_,
      estimate = found$tied
    ),
    row("distinct", "different values", distinct_reading(found$distinct, m$n), depends_on$ties, NA_character_,
      estimate = found$distinct
    )
  )
}

database_end_checks <- function(outcome, study, ask, looked) {
  if (is_paired(study) && !is.na(outcome$moments[[1]]$mean)) looked <- 1:2
  side_by_side(lapply(looked, function(which) {
    m <- outcome$moments[[which]]
    ends <- ask$limits %||% c(m$min, m$max)
    outside <- if (is.null(ask$limits)) 0 else as.double(m$min < ends[[1]] || m$max > ends[[2]])
    at <- engine_count_at(outcome, which, ends)
    lapply(1:2, function(k) {
      end <- c("lowest", "highest")[[k]]
      check_row(outcome, study, which, end, end_words(end, ends[[k]], ask$limits),
        end_reading(at[[k]], m$n, outside, ask), depends_on$ends, NA_character_,
        estimate = at[[k]], n = m$n
      )
    })
  }))
}

database_order_checks <- function(outcome, study, ask, looked) {
  if (!isTRUE(outcome$data$ordered)) return(order_checks(outcome, study, ask, looked))
  c(
    side_by_side(lapply(looked, function(which) {
      list(serial_row(database_serial(outcome, which, ask$alpha), outcome, study, which, ask))
    })),
    list(series_row(database_series(outcome, study, ask$alpha), outcome, study, ask))
  )
}

database_serial <- function(outcome, which, alpha) {
  sums <- engine_serial(outcome, which)
  if (sums$n < 4 || sums$squares == 0) return(list(reason = "too_few"))
  core_serial_from(sums$n, sums$products / sums$squares, alpha)
}

database_series <- function(outcome, study, alpha) {
  if (is_paired(study)) return(database_serial(outcome, 3, alpha))
  if (any(outcome_sizes(outcome) < 4)) return(list(reason = "too_few"))
  sums <- engine_serial_difference(outcome)
  if (sums$squares == 0) list(reason = "no_spread") else core_serial_difference_from(sums, alpha)
}

database_pairing_checks <- function(outcome, study) {
  if (is_paired(study)) return(paired_gain(outcome, study))
  list(check_row(outcome, study, NA, "pairing", "correlation of rows",
    "not checked: the correspondence of rows stays in the database", depends_on$pairing, NA_character_
  ))
}
