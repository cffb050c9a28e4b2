# What vet_assumptions() found: first what stands out, then a line for each topic, the single checks on request.

vet_themes <- list(
  Shape = c("size", "skewness", "kurtosis", "normality"),
  Symmetry = c("symmetry", "zeros"),
  Outliers = c("fences", "far"),
  "Ties and scale" = c("ties", "distinct"),
  "Ends of scale" = c("lowest", "highest"),
  Variances = c("sd_ratio", "deviations", "f_ratio", "error_student", "error_welch"),
  Order = c("order", "error_order"),
  Pairing = "pairing",
  "Not checked" = "hidden"
)

vet_labels <- c(
  size = "Sample size", skewness = "Skewness", kurtosis = "Excess kurtosis", normality = "Normality",
  symmetry = "Quartile skewness", zeros = "Zeros", fences = "Outside fences", far = "Far from median",
  ties = "Ties", distinct = "Distinct values", lowest = "Lowest value", highest = "Highest value",
  sd_ratio = "SD ratio", f_ratio = "F ratio", error_student = "Error, Student", error_welch = "Error, Welch",
  order = "Serial correlation", error_order = "Error, order", pairing = "Correlation"
)

# The same as a phrase in a line of several checks.
vet_phrases <- c(
  size = "n =", skewness = "skewness", kurtosis = "excess kurtosis", normality = "normality",
  symmetry = "quartile skewness", zeros = "zeros", fences = "outside fences", far = "far from median",
  ties = "tied values", distinct = "distinct values", lowest = "at the lowest value", highest = "at the highest value",
  sd_ratio = "SD ratio", f_ratio = "F ratio", error_student = "error rate of Student",
  error_welch = "error rate of Welch", order = "r1 =", error_order = "error rate of a test that ignores the order",
  pairing = "r ="
)

vet_note <- "A check that finds nothing is not evidence that the assumption holds, and no check changes the method."

#' @rdname print.vandro_study
#' @export
format.vandro_assumptions <- function(x, ..., decimals = NULL, details = FALSE, width = cli::console_width()) {
  check_decimals(decimals)
  details <- check_flag(details)
  blocks <- record_blocks(x, function(outcome) {
    cells <- vet_cells(x, outcome)
    c(
      heading_line(paste("Assumptions:", outcome_title(outcome)), study_direction(x$study)),
      stands_out_lines(cells, width),
      if (details) {
        unlist(lapply(unique(cells$theme), theme_lines, cells = cells, width = width))
      } else {
        topic_lines(outcome_rows(x, outcome), cells, width)
      },
      text_entry("Note", vet_note, width),
      if (details) text_entry("Sources", vet_sources(x, outcome), width),
      excluded_entry(x$study, outcome, width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

stands_out_lines <- function(cells, width) {
  at <- which(cells$stands_out)
  if (length(at) == 0) return("  Nothing stands out.")
  c("  What stands out:", unlist(lapply(at, function(i) {
    value <- if (nzchar(cells$value[[i]])) paste0(cells$value[[i]], "; ")
    words <- sprintf("%s%s (matters for %s)", value %||% "", cells$flagged[[i]], cells$matters_for[[i]])
    text_entry(cells$check[[i]], words, width, indent = 4, label_width = 20)
  })))
}

# One line per topic with the values only; a topic that could not be checked says why.
topic_lines <- function(rows, cells, width) {
  unlist(lapply(unique(cells$theme), function(theme) {
    these <- rows[rows$check %in% vet_themes[[theme]], ]
    words <- vapply(unique(these$check), function(check) {
      at <- these[these$check == check, ]
      values <- vapply(seq_len(nrow(at)), function(i) short_value(at[i, ]), "")
      if (all(values == "0")) values <- "none"
      if (check == "hidden") return(sprintf("%s: %s", toString(at$method), at$reading[[1]]))
      if (!any(nzchar(values))) return(at$reading[[1]])
      name <- if (check == "deviations") sub(",.*$", "", at$method[[1]]) else vet_phrases[[check]]
      paste(name, paste(values, collapse = " and "))
    }, "")
    text_entry(theme, paste(unique(words), collapse = "; "), width, label_width = 16)
  }))
}

short_value <- function(row) {
  counted <- c("size", "zeros", "fences", "far", "ties", "distinct", "lowest", "highest")
  if (row$check %in% counted) return(format_count(row$estimate))
  if (!is.na(row$p) && row$check %in% c("normality", "deviations", "f_ratio")) return(format_p(row$p))
  if (is.na(row$estimate)) return("")
  if (grepl("^error", row$check)) return(error_rate_words(row$estimate))
  format_number(row$estimate)
}

error_rate_words <- function(rate) if (rate < 5e-4) "below 0.1%" else format_percent(round(rate, 3))

theme_lines <- function(theme, cells, width) {
  at <- which(cells$theme == theme)
  lines <- lapply(at, function(i) {
    text <- paste0(cells$value[[i]], if (nzchar(cells$value[[i]])) ": ", cells$reading[[i]])
    text_entry(cells$check[[i]], text, width, indent = 4, label_width = 20)
  })
  matters <- paste(unique(cells$matters_for[at]), collapse = "; ")
  c(wrap_lines(sprintf("%s (matters for %s)", theme, matters), width, indent = 2, exdent = 4), unlist(lines))
}

# One line per check with the values of both groups, its reading, and the methods it matters for.
vet_cells <- function(x, outcome) {
  rows <- outcome_rows(x, outcome)
  keys <- ifelse(rows$check == "hidden", paste(rows$check, rows$method), rows$check)
  theme <- rep(names(vet_themes), lengths(vet_themes))
  names(theme) <- unlist(vet_themes)
  per_check <- lapply(unique(keys), function(key) {
    these <- rows[keys == key, ]
    check <- these$check[[1]]
    list(
      theme = theme[[check]], check = check_label(check, these$method[[1]]), value = vet_value(these),
      stands_out = any(these$stands_out), reading = vet_reading(these),
      flagged = if (any(these$stands_out)) vet_reading(these[these$stands_out, ]) else "",
      matters_for = these$matters_for[[1]]
    )
  })
  cells <- bind_rows(per_check)
  lapply(cells, function(column) column[order(match(cells$theme, names(vet_themes)))])
}

check_label <- function(check, method) {
  switch(check,
    hidden = capital(method),
    deviations = sub(",.*$", "", method), # Brown-Forsythe or Levene
    vet_labels[[check]]
  )
}

# "compost 0.41 (SE 0.48), peat -0.22 (SE 0.49)"
vet_value <- function(rows) {
  values <- vapply(seq_len(nrow(rows)), function(i) one_value(rows[i, ]), "")
  if (nrow(rows) == 1) return(values)
  paste(rows$group[nzchar(values)], values[nzchar(values)], collapse = "; ")
}

one_value <- function(row) {
  number <- function(x) format_number(x)
  test <- if (!is.na(row$p)) format_p(row$p)
  counted <- c("zeros", "fences", "far", "ties", "lowest", "highest")
  parts <- if (row$check == "size") {
    format_count(row$estimate)
  } else if (row$check == "distinct") {
    format_count(row$estimate)
  } else if (row$check %in% counted) {
    if (!is.na(row$estimate)) sprintf("%s of %s", format_count(row$estimate), format_count(row$n))
  } else if (row$check %in% c("error_student", "error_welch", "error_order")) {
    if (!is.na(row$estimate)) {
      ends <- format_percent(round(c(row$lower, row$upper), 3))
      paste0(
        error_rate_words(row$estimate),
        if (!is.na(row$lower)) sprintf(" (%s to %s)", ends[[1]], ends[[2]])
      )
    }
  } else if (row$check == "order" && !is.na(row$estimate)) {
    c(
      sprintf("r1 = %s", number(row$estimate)), test,
      sprintf(
        "%s values carry as much information as %s independent ones", format_count(row$n),
        format_count(round(row$statistic))
      )
    )
  } else {
    c(estimate_words(row, number), statistic_words(row), test)
  }
  cases <- if (!is.na(row$cases)) sprintf(" (%s)", row$cases) else ""
  paste0(paste(parts, collapse = ", "), cases)
}

estimate_words <- function(row, number) {
  if (is.na(row$estimate)) return(NULL)
  if (!is.na(row$se)) return(sprintf("%s (SE %s)", number(row$estimate), number(row$se)))
  name <- if (row$check == "pairing") "r = " else ""
  interval <- if (!is.na(row$lower)) {
    sprintf(" [%s to %s, %s]", number(row$lower), number(row$upper), format_percent(row$level))
  }
  paste0(name, number(row$estimate), interval)
}

statistic_words <- function(row) {
  if (is.na(row$statistic)) return(NULL)
  df <- c(row$df, row$df_second)
  df <- df[!is.na(df)]
  degrees <- if (length(df)) sprintf("(%s)", paste(format_df(df), collapse = ", ")) else ""
  decimals <- if (row$statistic_name == "W") 3 else 2
  sprintf("%s%s = %s", row$statistic_name, degrees, format_number(row$statistic, decimals))
}

# One reading where both groups read the same.
vet_reading <- function(rows) {
  if (length(unique(rows$reading)) == 1) return(rows$reading[[1]])
  paste(sprintf("%s: %s", rows$group, rows$reading), collapse = "; ")
}

vet_sources <- function(x, outcome) {
  sources <- unlist(strsplit(outcome_rows(x, outcome)$source, "; ", fixed = TRUE))
  sources <- unique(sources[!is.na(sources) & grepl("[0-9]{4}$", sources)])
  if (length(sources)) paste(sorted_text(sources), collapse = "; ") else "none needed"
}
