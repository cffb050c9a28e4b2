# One compact table for a publication.

#' A table for a publication
#'
#' One row for each outcome: n, mean and SD of both groups, the difference and a standardized effect with their
#' intervals, the test last; below it notes on direction, method, standardizer, spread and what was left out. Every
#' number is one of [test_difference()], [gauge_effect()] and [vet_assumptions()], rounded for print and in full in the
#' data frame.
#'
#' @param study A study of one or several outcomes, or an answer of [test_difference()]. For an answer of
#'   [test_equivalence()], the table also has the bounds, the p-value of both one-sided tests and the verdict.
#' @param ... Of a study the question: `method`, `expect`, `beyond`, `level`, `alpha`, `adjust` and what else
#'   [test_difference()]
#'   takes.
#' @param estimands Which effect size, a code of [gauge_effect()]. `NULL`: the one that goes with the method, as in
#'   [narrate()].
#' @param checks `FALSE` leaves the note on spread out.
#' @param decimals Decimals of numbers in the outcome's unit; `NULL`: three digits of the smaller SD.
#' @param style How numbers are written, from [number_style()]; files of CSV have every digit all the same.
#' @param title Caption of the table.
#' @param file Also write it there: `.docx` (a table that can be edited, by pandoc), `.html`, `.md`, `.tex` (a `table`
#'   for a LaTeX document), `.csv` (every digit, a column for each number) or `.txt`.
#' @param overwrite `TRUE` replaces a file that exists.
#' @return A table (class `vandro_results`). `as.data.frame()` gives the numbers unrounded, `print()` the text; in R
#'   Markdown it becomes a table.
#' @section Errors: `vandro_error_output` for other endings, `vandro_error_file_exists`, `vandro_error_file_is_input`
#'   (the file was read in this session), `vandro_error_package_missing` (rmarkdown with pandoc, for
#'   Word), and those of the verbs.
#' @examples
#' study <- versus(seedlings, c(height, leaf_area), substrate,
#'   groups = c("compost", "peat"), unit = c(height = "cm", leaf_area = "cm\u00b2")
#' )
#' results_table(study)
#' as.data.frame(results_table(study))
#' results_table(study, method = "ranks", file = tempfile(fileext = ".md"))
#' @export
results_table <- function(study, ..., estimands = NULL, checks = TRUE, decimals = NULL, style = NULL, title = NULL,
                          file = NULL, overwrite = FALSE) {
  check_supplied(study)
  equivalence <- if (inherits(study, "vandro_equivalence")) study
  if (!is.null(equivalence)) study <- difference_of(equivalence)
  if (!inherits(study, "vandro_difference")) check_study(study)
  check_flag(checks)
  check_flag(overwrite)
  check_decimals(decimals)
  style <- check_style(style)
  title <- check_text(title)
  estimands <- check_text(estimands)
  if (!is.null(file)) file <- check_table_path(file, overwrite)
  if (inherits(study, "vandro_difference")) {
    refuse_more(...)
    difference <- study
    study <- difference$study
  } else {
    difference <- test_difference(study, ...)
  }
  method <- difference$settings$method[[1]]
  effect <- effect_beside(difference, estimands %||% closing_estimand(method, study))
  numbers <- bind_rows(lapply(study$outcomes, results_row, difference, effect, equivalence))
  table <- with_style(style, structure(
    list(
      numbers = lean_table(numbers),
      cells = c(results_cells(study, difference, effect, decimals), bounds_cells(study, equivalence, decimals)),
      title = title %||% study_title(study),
      notes = c(
        results_notes(study, difference, effect), bounds_note(equivalence),
        if (checks && !is_paired(study)) spread_notes(study, vetted_as(difference))
      )
    ),
    class = "vandro_results"
  ))
  if (!is.null(file)) write_results(table, file)
  table
}

table_endings <- c("docx", "html", "md", "tex", "csv", "txt")

check_table_path <- function(file, overwrite, call = rlang::caller_env()) {
  file <- check_output_path(file, overwrite, arg = "file", call = call)
  if (file_ending(file) == "docx") need_pandoc(call)
  if (file_ending(file) %in% table_endings) return(file)
  abort_ending(file, table_endings, "file", call)
}

# Everything unrounded.
results_row <- function(outcome, difference, effect, equivalence) {
  row <- outcome_rows(difference, outcome, "primary")
  size <- outcome_rows(effect, outcome)
  m <- outcome$moments
  n <- outcome_sizes(outcome)
  c(record_cells(outcome), list(
    comparison = row$comparison, method = row$method, n_first = n[[1]],
    mean_first = m[[1]]$mean, sd_first = m[[1]]$sd, n_second = n[[2]], mean_second = m[[2]]$mean, sd_second = m[[2]]$sd,
    estimand = row$estimand, estimate = row$estimate, lower = row$lower, upper = row$upper, level = row$level,
    effect = size$estimand, effect_estimate = size$estimate, effect_lower = size$lower, effect_upper = size$upper,
    statistic = row$statistic, statistic_name = row$statistic_name, df = row$df, p = row$p, p_adjusted = row$p_adjusted
  ), if (!is.null(equivalence)) {
    bounds <- outcome_rows(equivalence, outcome, "primary")
    list(
      bound_low = bounds$bound_low, bound_high = bounds$bound_high, p_equivalence = bounds$p,
      p_equivalence_adjusted = bounds$p_adjusted, verdict = bounds$verdict
    )
  })
}

# Returns columns of the bounds, the p-value of both one-sided tests (adjusted for several outcomes) and the verdict.
bounds_cells <- function(study, equivalence, decimals) {
  if (is.null(equivalence)) return(NULL)
  rows <- lapply(study$outcomes, function(outcome) outcome_rows(equivalence, outcome, "primary"))
  each <- function(f) vapply(seq_along(rows), function(i) f(rows[[i]], study$outcomes[[i]]), "")
  list(
    bounds = each(function(row, outcome) {
      shown <- row_decimals(row, outcome_decimals(outcome, decimals))
      if (is.na(row$bound_low)) "" else paste(format_number(c(row$bound_low, row$bound_high), shown), collapse = " to ")
    }),
    "p (equivalence)" = each(function(row, outcome) {
      p <- if (is.na(row$p_adjusted)) row$p else row$p_adjusted
      if (is.na(p)) "" else bare_p(p, alpha = row$alpha)
    }),
    verdict = each(function(row, outcome) if (is.na(row$verdict)) "" else row$verdict)
  )
}

bounds_note <- function(equivalence) {
  if (is.null(equivalence)) return(NULL)
  s <- equivalence$settings
  adjusted <- any(!is.na(equivalence$table$p_adjusted))
  c(
    sprintf(
      "p (equivalence): the larger p-value of the two one-sided tests against the bounds%s, alpha %s.",
      if (adjusted) sprintf(", adjusted for %s by %s", adjusted_over(equivalence), adjust_phrase(equivalence)) else "",
      format_short(s$alpha)
    ),
    if (is.null(s$reason)) "No reason for these bounds was given." else
      sprintf("Reason for the bounds: %s.", sub("[.]$", "", s$reason))
  )
}

results_cells <- function(study, difference, effect, decimals) {
  each <- function(f) vapply(study$outcomes, f, "")
  row_of <- function(outcome) outcome_rows(difference, outcome, "primary")
  answered <- answered_records(difference)[[1]]
  row <- row_of(answered)
  size <- outcome_rows(effect, answered)
  mean_sd <- function(k) {
    function(outcome) {
      m <- outcome$moments[[k]]
      usual <- outcome_decimals(outcome, decimals)
      number <- function(what) format_number(m[[what]], level_decimals(what, outcome, usual))
      if (is.na(m$mean)) "" else sprintf("%s (%s)", number("mean"), if (is.na(m$sd)) "-" else number("sd"))
    }
  }
  headed <- function(name) sprintf("%s [%s CI]", name, format_percent(row$level))
  count <- function(k) function(outcome) format_count(outcome_sizes(outcome)[[k]])
  cells <- list(outcome = each(if (is.null(study$each)) outcome_title else outcome_title_plain))
  if (!is.null(study$each)) cells[[study$each$name]] <- each(function(outcome) outcome$subgroup)
  cells[[if (is_paired(study)) "pairs" else paste(study$groups[[1]], "n")]] <- each(count(1))
  cells[[paste(study$groups[[1]], "mean (SD)")]] <- each(mean_sd(1))
  if (!is_paired(study)) cells[[paste(study$groups[[2]], "n")]] <- each(count(2))
  cells[[paste(study$groups[[2]], "mean (SD)")]] <- each(mean_sd(2))
  cells[[headed(effect_names(row$estimand, study))]] <- each(function(outcome) {
    r <- row_of(outcome)
    cell_with_limits(r, row_decimals(r, outcome_decimals(outcome, decimals)))
  })
  if (size$estimand != row$estimand) {
    cells[[headed(effect_names(size$estimand, study))]] <- each(function(outcome) {
      r <- outcome_rows(effect, outcome)
      cell_with_limits(r, if (in_outcome_unit(r)) outcome_decimals(outcome, decimals) else 2)
    })
  }
  cells[[test_heading(row)]] <- each(function(outcome) test_cell(row_of(outcome)))
  p_cell <- function(p) if (is.na(p)) "" else bare_p(p, alpha = row$alpha)
  cells$p <- each(function(outcome) p_cell(row_of(outcome)$p))
  if (any(!is.na(difference$table$p_adjusted))) {
    cells[[adjusted_heading(difference)]] <- each(function(outcome) p_cell(row_of(outcome)$p_adjusted))
  }
  cells[vapply(cells, function(column) any(nzchar(column)), NA)]
}

# An estimate with its interval, where there is one.
cell_with_limits <- function(row, decimals) {
  text <- format_number(c(row$estimate, row$lower, row$upper), decimals)
  if (text[[2]] == "" || text[[3]] == "") return(text[[1]])
  sprintf("%s [%s%s %s]", text[[1]], text[[2]], limit_separator(), text[[3]])
}

adjusted_heading <- function(difference) sprintf("p (%s)", adjust_names[[difference$settings$adjust]])

test_heading <- function(row) if (is.na(row$df)) row$statistic_name else sprintf("%s (df)", row$statistic_name)

test_cell <- function(row) {
  if (is.na(row$statistic)) return("")
  value <- if (row$statistic_name %in% c("U", "W")) format_count(row$statistic) else format_number(row$statistic)
  if (is.na(row$df)) value else sprintf("%s (%s)", value, format_df(row$df))
}

# --- notes -------------------------------------------------------------------------------------------

results_notes <- function(study, difference, effect) {
  answered <- answered_records(difference)[[1]]
  row <- outcome_rows(difference, answered, "primary")
  size <- outcome_rows(effect, answered)
  expected <- sprintf("one-sided (%s expected to be %s)", study$groups[[1]], row$expect)
  sides <- if (row$expect == "either") "two-sided" else expected
  left_out <- unlist(lapply(study$outcomes, function(outcome) {
    words <- excluded_words(study, outcome)
    if (!is.null(words)) sprintf("%s: excluded %s.", outcome$label, words)
  }))
  c(
    sprintf("Differences are %s.", study_direction(study)),
    sprintf(
      "Test: %s, %s%s%s.", method_phrase(row$method), sides,
      if (row$beyond == 0) "" else sprintf(", of a difference of %s", format_short(row$beyond)), how_counted(difference)
    ),
    if (!is.na(size$standardizer) && size$estimand != row$estimand) {
      sprintf("%s: standardizer %s.", effect_names(size$estimand, study), size$standardizer)
    },
    if (!is.null(effect$settings$seed)) {
      sprintf(
        "%s: interval by bootstrap, %s draws, seed %s.", capital(effect_names(size$estimand, study)),
        format_count(effect$settings$draws), format_count(effect$settings$seed)
      )
    },
    unique(trimws(setdiff(parted_effects(difference, effect), ""))),
    if (any(!is.na(difference$table$p_adjusted))) {
      sprintf(
        "%s: adjusted for %s by %s.", adjusted_heading(difference), adjusted_over(difference), adjust_phrase(difference)
      )
    },
    left_out, unlist(lapply(study$outcomes, function(outcome) {
      reason <- no_result(difference, outcome)
      if (!is.null(reason)) paste("No result:", reason)
    })), made_up_sentence(study)
  )
}

# How p of ranks and permutations came about.
how_counted <- function(difference) {
  s <- difference$settings
  if (!counts_values(s$method[[1]])) return("")
  kinds <- unique(difference$table$p_kind[difference$table$role == "primary"])
  seed <- if (!is.null(s$seed)) sprintf(", seed %s", format_count(s$seed))
  paste0(sprintf(", p %s", paste(kinds, collapse = " or ")), seed)
}

# The checks at the levels of an answer.
vetted_as <- function(difference) {
  s <- difference$settings
  vet_assumptions(difference$study, alpha = s$alpha, level = s$level)
}

# Ratio of the SDs and the test of the deviations, which chose nothing.
spread_notes <- function(study, vetted) {
  if (is_paired(study)) return(NULL)
  said <- unlist(lapply(study$outcomes, function(outcome) {
    rows <- outcome_rows(vetted, outcome)
    ratio <- rows[rows$check == "sd_ratio" & !is.na(rows$estimate), ]
    deviations <- rows[rows$check == "deviations" & !is.na(rows$p), ]
    if (nrow(ratio) == 0) return(NULL)
    number <- format_number(c(ratio$estimate, ratio$lower, ratio$upper))
    test <- if (nrow(deviations)) {
      sprintf(
        ", %s F(%s, %s) = %s, %s", sub(",.*", "", deviations$method), format_df(deviations$df),
        format_df(deviations$df_second), format_number(deviations$statistic), format_p(deviations$p)
      )
    }
    interval <- sprintf("[%s%s %s]", number[[2]], limit_separator(), number[[3]])
    paste0(paste(inside_sentence(outcome$label), number[[1]], interval), test)
  }))
  if (length(said) == 0) return(NULL)
  sprintf(
    "Ratio of the SDs: %s. This is not evidence of equal variances, and it did not choose the test.",
    paste(said, collapse = "; ")
  )
}

# --- kinds of files ----------------------------------------------------------------------------------

#' @rdname print.vandro_study
#' @export
format.vandro_results <- function(x, ..., width = cli::console_width()) {
  c(x$title, text_table(x$cells), wrap_lines(results_note(x), width))
}

#' @rdname print.vandro_study
#' @export
print.vandro_results <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @export
as.data.frame.vandro_results <- function(x, row.names = NULL, optional = FALSE, ...) x$numbers

#' @rdname knit_print
#' @exportS3Method knitr::knit_print
knit_print.vandro_results <- function(x, ...) {
  knitr::asis_output(paste(c("", "", results_markdown(x), "", ""), collapse = "\n"))
}

results_note <- function(x) paste("Note.", paste(x$notes, collapse = " "))

write_results <- function(x, file) {
  switch(file_ending(file),
    csv = write_whole_text(file, table_csv(x$numbers)),
    txt = write_whole_text(file, format(x, width = 80)),
    md = write_whole_text(file, results_markdown(x)),
    tex = write_whole_text(file, latex_table(x$cells, x$title, results_note(x))),
    html = write_whole_text(file, results_html(x)),
    docx = convert_to_word(results_markdown(x), ".md", file)
  )
}

results_markdown <- function(x) {
  c(markdown_table(x$cells), "", paste("Table:", markdown_plain(x$title)), "", markdown_paragraph(results_note(x)))
}

results_html <- function(x) {
  need_package("htmltools", "to write HTML")
  style <- paste(
    "body{font-family:sans-serif;margin:1.5em}table{border-collapse:collapse}",
    "caption{text-align:left;font-weight:bold;padding-bottom:.4em}.note{max-width:60em}",
    "tbody *{white-space:nowrap}",
    "th,td{padding:.25em .7em;text-align:left;font-weight:normal}.number{text-align:right!important}",
    "thead th{font-weight:bold;border-top:1px solid;border-bottom:1px solid}",
    "tbody tr:last-child>*{border-bottom:1px solid}"
  )
  c(
    "<!DOCTYPE html>", "<html lang=\"en\">", "<head>", "<meta charset=\"utf-8\">",
    as.character(htmltools::tags$title(x$title)), sprintf("<style>%s</style>", style), "</head>", "<body>",
    as.character(html_table(x$cells, x$title, results_note(x))), "</body>", "</html>"
  )
}
