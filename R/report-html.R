#' Write a report of a comparison
#'
#' One self-contained HTML file: question, data, description, figure, sizes and test, sentences, how
#' it was computed, and what is needed to obtain it again. It needs no network, and everything that
#' came from the data is escaped.
#'
#' @param study A study from [versus()] or [versus_summary()].
#' @param file File to write, ending in `.html`.
#' @param ... Must be empty.
#' @param title Title of the report; by default the outcome and the direction.
#' @param author Author, printed under the title.
#' @param date Date printed under the title; a fixed date gives the same file every time.
#' @param expect,beyond,level,alpha The question, as in [test_difference()].
#' @param overwrite `TRUE` replaces a file that exists.
#' @return `file`, invisibly.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_output`, `vandro_error_package_missing`
#'   (htmltools and jsonlite), and those of the verbs. The file is written whole or not at all.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' file <- tempfile(fileext = ".html")
#' write_report(study, file, title = "Seedlings on two substrates")
#' @export
write_report <- function(study, file, ..., title = NULL, author = NULL, date = Sys.Date(),
                         expect = "either", beyond = 0, level = 0.95, alpha = 0.05,
                         overwrite = FALSE) {
  rlang::check_dots_empty()
  check_study(study)
  check_flag(overwrite)
  title <- check_text(title)
  author <- check_text(author)
  date <- check_text(as.character(date), arg = "date", null = FALSE)
  need_package("htmltools", "to write reports")
  need_package("jsonlite", "to write reports")
  file <- check_report_path(file, overwrite)
  answers <- list(
    description = describe_study(study, level = level),
    difference = test_difference(study, expect = expect, beyond = beyond, level = level, alpha = alpha),
    effect = gauge_effect(study, level = level)
  )
  title <- title %||% sprintf("%s: %s", study$outcomes[[1]]$label, study_direction(study))
  page <- report_page(study, answers, title, author, date)
  write_whole_text(file, page)
}

check_report_path <- function(file, overwrite, call = rlang::caller_env()) {
  file <- check_output_path(file, overwrite, arg = "file", call = call)
  if (grepl("[.]html?$", file, ignore.case = TRUE)) return(file)
  abort_vandro(
    c("{.arg file} must end in {.val .html}.", "x" = "It is {.file {file}}."),
    "output",
    file = file, call = call
  )
}

report_page <- function(study, answers, title, author, date) {
  tags <- htmltools::tags
  body <- list(
    tags$header(
      tags$h1(title),
      tags$p(class = "meta", paste(c(author, date), collapse = ", "))
    ),
    report_question(study, answers$difference), report_data(study),
    report_description(study, answers$description), report_figure(study, answers$difference),
    report_sizes(study, answers), report_sentences(answers), report_methods(study, answers),
    report_settings(study, answers$difference)
  )
  style <- paste(readLines(system.file("report", "style.css", package = "vandro")), collapse = "\n")
  # The frame is written out: htmltools would move a head it finds inside a page out of it.
  paste(c(
    "<!DOCTYPE html>", "<html lang=\"en\">", "<head>", "<meta charset=\"utf-8\">",
    "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">",
    as.character(tags$title(title)), "<style>", style, "</style>", "</head>", "<body>",
    as.character(tags$main(body)), "</body>", "</html>"
  ), collapse = "\n")
}

section <- function(heading, ...) {
  htmltools::tags$section(htmltools::tags$h2(heading), ...)
}

paragraphs <- function(text) lapply(unclass(text), htmltools::tags$p)

# Text columns to the left, numbers to the right; the first column names the row.
html_table <- function(cells, caption, note = NULL) {
  tags <- htmltools::tags
  # Limits read "1.89 to 5.02": numbers too.
  numeric <- vapply(cells, function(column) all(grepl("^[-0-9.e+ to%<>]*$", column)), NA)
  class <- ifelse(numeric, "number", "text")
  head <- Map(function(name, class) tags$th(scope = "col", class = class, name), names(cells), class)
  body <- lapply(seq_along(cells[[1]]), function(row) {
    values <- lapply(cells, `[[`, row)
    tags$tr(
      tags$th(scope = "row", values[[1]]),
      unname(Map(function(value, class) tags$td(class = class, value), values[-1], class[-1]))
    )
  })
  tags$div(class = "table", tags$table(
    tags$caption(caption), tags$thead(tags$tr(unname(head))), tags$tbody(body)
  ), if (!is.null(note)) tags$p(class = "note", note))
}

report_question <- function(study, difference) {
  row <- difference$table[1, ]
  outcome <- study$outcomes[[1]]
  expected <- switch(row$expect,
    either = "Either direction was of interest.",
    higher = sprintf("Declared: %s is expected to be higher.", study$groups[[1]]),
    lower = sprintf("Declared: %s is expected to be lower.", study$groups[[1]])
  )
  section(
    "Question",
    htmltools::tags$p(sprintf(
      "%s: do %s and %s differ, by how much, and how sure is that?", capital(outcome$label),
      study$groups[[1]], study$groups[[2]]
    )),
    htmltools::tags$p(
      htmltools::tags$strong("Direction everywhere: "), paste0(study_direction(study), ". "), expected,
      sprintf(" Null hypothesis: %s.", null_words(row, outcome, outcome_decimals(outcome)))
    )
  )
}

report_data <- function(study) {
  outcome <- study$outcomes[[1]]
  section(
    "Data",
    htmltools::tags$p(sprintf(
      "%s; %s: %s.", capital(outcome_title(outcome)), design_words(study),
      group_size_words(study, outcome)
    )),
    htmltools::tags$p(
      htmltools::tags$strong("Left out: "), paste0(left_out_words(study, outcome), ".")
    )
  )
}

report_description <- function(study, answer) {
  outcome <- study$outcomes[[1]]
  cells <- description_cells(answer, outcome, outcome_decimals(outcome))
  level <- format_percent(answer$settings$level)
  section(
    "Description",
    html_table(
      cells$centre, paste("Mean and spread of", outcome_title(outcome)),
      sprintf("SE: standard error. Lower, upper: %s interval, t for a mean, Welch for the difference.", level)
    ),
    if (!is.null(cells$shape)) {
      html_table(
        cells$shape, paste("Distribution of", outcome_title(outcome)),
        "Quartiles q1 and q3 by rule 7 of Hyndman & Fan (1996); skewness G1 and excess kurtosis G2."
      )
    }
  )
}

report_figure <- function(study, difference) {
  plot <- autoplot(difference)
  alt <- plot$labels$alt
  section(
    "Figure",
    htmltools::tags$figure(htmltools::tags$img(src = figure_data_uri(plot), alt = alt))
  )
}

# The figure inside the page: as lines where the machine can draw them, else as points.
figure_data_uri <- function(plot, width = 7.2, height = 4.6) {
  vector <- isTRUE(capabilities("cairo"))
  draft <- tempfile(fileext = if (vector) ".svg" else ".png")
  on.exit(unlink(draft))
  if (vector) {
    grDevices::svg(draft, width, height)
  } else {
    grDevices::png(draft, width, height, units = "in", res = 160)
  }
  device <- grDevices::dev.cur()
  tryCatch(print(plot), finally = grDevices::dev.off(device))
  bytes <- readBin(draft, "raw", file.size(draft))
  # The device numbers its surfaces through a session: the same input must give the same file.
  if (vector) bytes <- charToRaw(sub(" id=\"surface[0-9]+\"", "", rawToChar(bytes)))
  type <- if (vector) "image/svg+xml" else "image/png"
  paste0("data:", type, ";base64,", gsub("\n", "", jsonlite::base64_enc(bytes)))
}

report_sizes <- function(study, answers) {
  outcome <- study$outcomes[[1]]
  row <- answers$difference$table[1, ]
  matched <- answers$difference$detail$matched[[1]]
  raw <- raw_number(outcome, outcome_decimals(outcome))
  bound <- if (row$expect != "either") paste0("Bound: ", bound_words(row, raw), ".")
  notes <- paste(interval_notes(row, matched, raw), collapse = " ")
  section(
    "Size of the difference, then the test",
    html_table(
      effect_cells(answers$effect, outcome, outcome_decimals(outcome)),
      paste("Effect size:", study_direction(study)),
      paste0("Intervals: ", interval_method_words(answers$effect$table), ".")
    ),
    html_table(
      list(
        test = "Welch", t = format_number(row$statistic, 2), df = format_df(row$df),
        p = format_p(row$p, label = ""), sides = if (row$expect == "either") "two" else "one"
      ),
      paste0("Test of: ", null_words(row, outcome, 2)),
      paste(c(bound, if (nzchar(notes)) notes), collapse = " ")
    )
  )
}

report_sentences <- function(answers) {
  journal <- c(narrate(answers$difference), narrate(answers$effect))
  plain <- c(narrate(answers$difference, voice = "plain"), narrate(answers$effect, voice = "plain"))
  section(
    "Sentences",
    htmltools::tags$h3("For the paper"), paragraphs(journal),
    htmltools::tags$h3("In plain language"), paragraphs(plain)
  )
}

report_methods <- function(study, answers) {
  section(
    "How it was computed",
    htmltools::tags$p(
      "The difference of the two means was tested by Welch's test, which does not assume equal spread",
      "(Welch 1947; degrees of freedom after Satterthwaite 1946), with the interval from the same",
      "standard error and t distribution. The method was declared beforehand; no check chose it."
    ),
    htmltools::tags$p(
      "d is the difference divided by the pooled standard deviation (Cohen 1988), g is d times the exact",
      "small-sample correction of Hedges (1981). Their intervals invert the noncentral t distribution",
      "(Steiger & Fouladi 1997) and are exact for normal populations with equal spread."
    ),
    htmltools::tags$h3("Sources"),
    htmltools::tags$ul(class = "sources", lapply(report_sources, htmltools::tags$li))
  )
}

report_sources <- c(
  "Cohen, J. (1988). Statistical power analysis for the behavioral sciences, 2nd ed.",
  paste(
    "Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size and related",
    "estimators. Journal of Educational Statistics 6, 107-128."
  ),
  paste(
    "Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance components.",
    "Biometrics Bulletin 2, 110-114."
  ),
  paste(
    "Steiger, J. H. & Fouladi, R. T. (1997). Noncentrality interval estimation and the evaluation of",
    "statistical models. In: What if there were no significance tests?, 221-257."
  ),
  paste(
    "Welch, B. L. (1947). The generalization of \"Student's\" problem when several different population",
    "variances are involved. Biometrika 34, 28-35."
  )
)

report_settings <- function(study, difference) {
  s <- difference$settings
  section(
    "Settings",
    html_table(
      list(
        setting = c(
          "vandro", "method", "expect", "beyond", "level", "alpha", "seed", "data fingerprint"
        ),
        value = c(
          s$version, s$method, s$expect, format_short(s$beyond), format_short(s$level),
          format_short(s$alpha), "none: nothing was drawn at random", study_fingerprint(study)
        )
      ),
      "What is needed to obtain the same numbers again"
    )
  )
}
