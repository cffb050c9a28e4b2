#' Write a report of a comparison
#'
#' One self-contained HTML file: question, data, description, figure, sizes and test, sentences, how
#' it was computed, and what is needed to obtain it again. It needs no network, and everything that
#' came from the data is escaped.
#'
#' @param study A study, for example from [versus()] or [versus_paired()].
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
  each <- function(part, ...) lapply(seq_along(study$outcomes), part, study = study, ...)
  body <- list(
    tags$header(
      tags$h1(title),
      tags$p(class = "meta", paste(c(author, date), collapse = ", "))
    ),
    section("Question", each(report_question, difference = answers$difference)),
    section("Data", each(report_data), lapply(study$notes, report_note)),
    section("Description", each(report_description, answer = answers$description)),
    section("Figure", each(report_figure, difference = answers$difference)),
    section("Size of the difference, then the test", each(report_sizes, answers = answers)),
    report_sentences(answers), report_methods(study), report_settings(study, answers$difference)
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

report_question <- function(i, study, difference) {
  row <- difference$table[i, ]
  outcome <- study$outcomes[[i]]
  expected <- switch(row$expect,
    either = "Either direction was of interest.",
    higher = sprintf("Declared: %s is expected to be higher.", study$groups[[1]]),
    lower = sprintf("Declared: %s is expected to be lower.", study$groups[[1]])
  )
  list(
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

report_data <- function(i, study) {
  outcome <- study$outcomes[[i]]
  list(
    htmltools::tags$p(sprintf(
      "%s; %s: %s.", capital(outcome_title(outcome)), design_words(study),
      group_size_words(study, outcome)
    )),
    htmltools::tags$p(
      htmltools::tags$strong("Left out: "), paste0(left_out_words(study, outcome), ".")
    )
  )
}

report_note <- function(note) htmltools::tags$p(htmltools::tags$strong("Note: "), note)

report_description <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  cells <- description_cells(answer, outcome, outcome_decimals(outcome))
  list(
    html_table(
      cells$centre, paste("Mean and spread of", outcome_title(outcome)),
      sprintf("SE: standard error. Lower, upper: intervals at %s.", description_interval_words(answer))
    ),
    if (!is.null(cells$shape)) {
      html_table(
        cells$shape, paste("Distribution of", outcome_title(outcome)),
        "Quartiles q1 and q3 by rule 7 of Hyndman & Fan (1996); skewness G1 and excess kurtosis G2."
      )
    },
    if (length(pair_words(outcome))) htmltools::tags$p(paste0("Pairs: ", pair_words(outcome), "."))
  )
}

report_figure <- function(i, study, difference) {
  plot <- autoplot(difference, outcome = study$outcomes[[i]]$name)
  htmltools::tags$figure(htmltools::tags$img(src = figure_data_uri(plot), alt = plot$labels$alt))
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

report_sizes <- function(i, study, answers) {
  outcome <- study$outcomes[[i]]
  row <- answers$difference$table[i, ]
  effects <- answers$effect$table[answers$effect$table$outcome == outcome$name, ]
  raw <- raw_number(outcome, outcome_decimals(outcome))
  bound <- if (row$expect != "either") paste0("Bound: ", bound_words(row, raw), ".")
  notes <- interval_notes(row, answers$difference$detail$matched[[i]], raw)
  list(
    html_table(
      effect_cells(answers$effect, outcome, outcome_decimals(outcome)),
      paste0(capital(outcome$label), ": effect size, ", study_direction(study)),
      paste0("Intervals: ", interval_method_words(effects), ".")
    ),
    html_table(
      c(
        list(
          test = capital(method_names[[row$method]]), t = format_number(row$statistic, 2),
          df = format_df(row$df), p = format_p(row$p, label = "")
        ),
        if (!is.na(row$p_adjusted)) list("p adjusted" = format_p(row$p_adjusted, label = "")),
        list(sides = if (row$expect == "either") "two" else "one")
      ),
      paste0("Test of: ", null_words(row, outcome, 2)),
      paste(c(bound, notes), collapse = " ")
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

report_methods <- function(study) {
  tests <- list(
    independent = c(
      "The difference of the two means was tested by Welch's test, which does not assume equal spread",
      "(Welch 1947; degrees of freedom after Satterthwaite 1946), with the interval from the same",
      "standard error and t distribution. The method was declared beforehand; no check chose it."
    ),
    paired = c(
      "The mean of the changes was tested by the paired t test (Student 1908), with the interval from",
      "the same standard error and t distribution on one degree of freedom less than there are pairs.",
      "The method was declared beforehand; no check chose it."
    )
  )
  divisor <- if (is_paired(study)) "standard deviation of the changes" else "pooled standard deviation"
  populations <- if (is_paired(study)) "normal changes" else "normal populations with equal spread"
  several <- if (length(study$outcomes) > 1) {
    "P-values were adjusted for the number of outcomes by Holm's (1979) method."
  }
  section(
    "How it was computed",
    htmltools::tags$p(paste(c(tests[[study$design]], several), collapse = " ")),
    htmltools::tags$p(
      sprintf("d is the difference divided by the %s (Cohen 1988), g is d times the exact", divisor),
      "small-sample correction of Hedges (1981). Their intervals invert the noncentral t distribution",
      sprintf("(Steiger & Fouladi 1997) and are exact for %s.", populations)
    ),
    htmltools::tags$h3("Sources"),
    htmltools::tags$ul(class = "sources", lapply(used_sources(study), htmltools::tags$li))
  )
}

# Only the sources of what was used.
used_sources <- function(study) {
  leave <- if (is_paired(study)) c("Satterthwaite", "Welch") else "Student"
  if (length(study$outcomes) == 1) leave <- c(leave, "Holm")
  report_sources[!grepl(paste0("^(", paste(leave, collapse = "|"), ")"), report_sources)]
}

report_sources <- c(
  "Cohen, J. (1988). Statistical power analysis for the behavioral sciences, 2nd ed.",
  paste(
    "Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size and related",
    "estimators. Journal of Educational Statistics 6, 107-128."
  ),
  paste(
    "Holm, S. (1979). A simple sequentially rejective multiple test procedure. Scandinavian Journal of",
    "Statistics 6, 65-70."
  ),
  paste(
    "Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance components.",
    "Biometrics Bulletin 2, 110-114."
  ),
  paste(
    "Steiger, J. H. & Fouladi, R. T. (1997). Noncentrality interval estimation and the evaluation of",
    "statistical models. In: What if there were no significance tests?, 221-257."
  ),
  "Student (1908). The probable error of a mean. Biometrika 6, 1-25.",
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
