# Sentences about what was seen of the assumptions.

#' @exportS3Method
tell.vandro_assumptions <- function(x, voice, decimals, ...) {
  narrate_outcomes(x, function(outcome) {
    rows <- outcome_rows(x, outcome)
    parts <- c(
      shape_sentence(rows, x$study, voice), spread_sentence(rows, x$study, voice),
      order_sentence(rows, voice)
    )
    paste(c(parts, "None of these checks changed the method."), collapse = " ")
  })
}

check_rows <- function(rows, check) rows[rows$check == check & !is.na(rows$estimate), ]

shape_sentence <- function(rows, study, voice) {
  skew <- check_rows(rows, "skewness")
  if (nrow(skew) == 0) return("The shape of the distributions could not be checked.")
  odd <- check_rows(rows, "fences")
  what <- if (is_paired(study)) "the changes" else "the values"
  counts <- paste(paste(odd$group, format_count(odd$estimate)), collapse = ", ")
  if (voice == "plain") {
    return(sprintf(
      "Values far from the rest of their group, among %s: %s.", what, counts
    ))
  }
  normality <- rows[rows$check == "normality" & !is.na(rows$p), ]
  skewness <- paste(paste(skew$group, format_number(skew$estimate)), collapse = ", ")
  tests <- sprintf(
    "%s %s = %s, %s", normality$group, normality$statistic_name, format_number(normality$statistic, 3),
    format_p(normality$p)
  )
  sprintf(
    "Skewness of %s: %s; normality (%s): %s; outliers beyond the fences: %s.", what, skewness,
    paste(unique(normality$method), collapse = ", "), paste(tests, collapse = ", "), counts
  )
}

spread_sentence <- function(rows, study, voice) {
  ratio <- check_rows(rows, "sd_ratio")
  if (nrow(ratio) == 0) return(NULL)
  if (voice == "plain") {
    return(sprintf(
      "The standard deviation %s was %s times that %s.", at_group(study, 1), format_number(ratio$estimate),
      at_group(study, 2)
    ))
  }
  student <- check_rows(rows, "error_student")
  error <- if (nrow(student)) {
    sprintf(
      " With the SDs observed, Student's test would reject a true null hypothesis in %s of studies.",
      format_percent(round(student$estimate, 3))
    )
  }
  paste0(sprintf(
    "Ratio of the SDs (%s over %s): %s, %s.", study$groups[[1]], study$groups[[2]],
    format_number(ratio$estimate), ci_words(ratio)
  ), error)
}

order_sentence <- function(rows, voice) {
  order <- check_rows(rows, "order")
  if (nrow(order) == 0 || voice == "plain") return(NULL)
  paste(sprintf(
    "Serial correlation in %s: %s, %s.", order$group, format_number(order$estimate), format_p(order$p)
  ), collapse = " ")
}
