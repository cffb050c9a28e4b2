# What vet_assumptions() saw, as text: sections of checks that the same methods lean on.

vet_themes <- list(
  Shape = c("size", "skewness", "kurtosis", "normality"),
  Symmetry = c("symmetry", "zeros"),
  "Outlying values" = c("fences", "far"),
  "Ties and steps" = c("ties", "distinct"),
  "Ends of the scale" = c("lowest", "highest"),
  Spread = c("sd_ratio", "deviations", "f_ratio", "error_student", "error_welch"),
  Order = c("order", "error_order"),
  Pairing = "pairing",
  "Not to be seen" = "hidden"
)

vet_labels <- c(
  size = "Number", skewness = "Skewness", kurtosis = "Excess kurtosis", normality = "Normality",
  symmetry = "Quartile skewness", zeros = "Zeros", fences = "Beyond fences", far = "Far from median",
  ties = "Ties", distinct = "Different values", lowest = "Lowest value", highest = "Highest value",
  sd_ratio = "SD ratio", f_ratio = "F ratio", error_student = "Error, Student",
  error_welch = "Error, Welch", order = "Neighbours", error_order = "Error, order", pairing = "Rows"
)

vet_note <- paste(
  "Checks inform, they do not choose: the method stays the declared one, and a check that finds nothing is",
  "not evidence that an assumption holds."
)

#' @rdname print.vandro_study
#' @export
format.vandro_assumptions <- function(x, ..., digits = NULL, width = cli::console_width()) {
  check_digits(digits)
  blocks <- record_blocks(x, function(outcome) {
    cells <- vet_cells(x, outcome)
    c(
      heading_line(paste("Assumptions:", outcome_title(outcome)), study_direction(x$study)),
      unlist(lapply(unique(cells$theme), theme_lines, cells = cells, width = width)),
      text_entry("Note", vet_note, width),
      text_entry("Sources", vet_sources(x, outcome), width),
      text_entry("Left out", left_out_words(x$study, outcome), width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

theme_lines <- function(theme, cells, width) {
  at <- which(cells$theme == theme)
  lines <- lapply(at, function(i) {
    text_entry(cells$looked_at[[i]], paste0(cells$value[[i]], if (nzchar(cells$value[[i]])) ": ", cells$reads[[i]]),
      width,
      label_width = 18
    )
  })
  leaning <- paste(unique(cells$leaning[at]), collapse = "; ")
  c(
    cli::ansi_strwrap(paste0(theme, " - leaning on it: ", leaning), width, exdent = 2), unlist(lines)
  )
}

# One line per check with the values of both groups: looked at, value, how it reads, who leans on it.
vet_cells <- function(x, outcome) {
  rows <- outcome_rows(x, outcome)
  keys <- ifelse(rows$check == "hidden", paste(rows$check, rows$method), rows$check)
  theme <- rep(names(vet_themes), lengths(vet_themes))
  names(theme) <- unlist(vet_themes)
  per_check <- lapply(unique(keys), function(key) {
    these <- rows[keys == key, ]
    check <- these$check[[1]]
    list(
      theme = theme[[check]],
      looked_at = check_label(check, these$method[[1]]),
      how = these$method[[1]], value = vet_value(these), reads = vet_reading(these),
      leaning = these$leaning[[1]]
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
        if (row$estimate < 5e-4) "below 0.1%" else format_percent(round(row$estimate, 3)),
        if (!is.na(row$lower)) sprintf(" (%s to %s)", ends[[1]], ends[[2]])
      )
    }
  } else if (row$check == "order" && !is.na(row$estimate)) {
    c(
      sprintf("r1 = %s", number(row$estimate)), test,
      sprintf("%s values tell as much as %s", format_count(row$n), format_count(round(row$statistic)))
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
  if (length(unique(rows$seen)) == 1) return(rows$seen[[1]])
  paste(sprintf("%s: %s", rows$group, rows$seen), collapse = "; ")
}

vet_sources <- function(x, outcome) {
  sources <- unlist(strsplit(outcome_rows(x, outcome)$source, "; ", fixed = TRUE))
  sources <- unique(sources[!is.na(sources) & grepl("[0-9]{4}$", sources)])
  if (length(sources)) paste(sorted_text(sources), collapse = "; ") else "none needed"
}
