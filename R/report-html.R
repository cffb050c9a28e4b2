#' Write a report of a comparison
#'
#' One self-contained HTML file: question, data, description, figure, sizes and test, what was seen of the
#' assumptions, sentences, how it was computed, and what is needed to obtain it again. It needs no network,
#' and everything that came from the data is escaped.
#'
#' @param study A study, for example from [versus()] or [versus_paired()].
#' @param file File to write, ending in `.html`.
#' @param ... The question: `method`, `expect`, `beyond`, `level`, `alpha`, `adjust`, `reason` and the options of
#'   rank methods, as in [test_difference()]. A bootstrap interval of the report has a fixed seed, so that the same
#'   call writes the same report.
#' @param within,bounds_in,sd_of Bounds of [test_equivalence()]: the report then tells equivalence too, and `reason` is
#'   the reason for the bounds.
#' @param evidence An answer of [weigh_evidence()] about the same study: the report then tells it too.
#' @param title Title of the report; by default the outcome and the direction.
#' @param author Author, printed under the title.
#' @param date Date printed under the title; a fixed date gives the same file every time.
#' @param overwrite `TRUE` replaces a file that exists.
#' @return `file`, invisibly.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_output`, `vandro_error_package_missing`
#'   (htmltools and jsonlite), and those of the verbs. The file is written whole or not at all.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' file <- tempfile(fileext = ".html")
#' write_report(study, file, title = "Seedlings on two substrates")
#' @export
write_report <- function(study, file, ..., within = NULL, bounds_in = c("outcome", "sd"), sd_of = NULL,
                         evidence = NULL, title = NULL, author = NULL, date = Sys.Date(), overwrite = FALSE) {
  check_study(study)
  check_flag(overwrite)
  title <- check_text(title)
  author <- check_text(author)
  date <- check_text(as.character(date), arg = "date", null = FALSE)
  need_package("htmltools", "to write reports")
  need_package("jsonlite", "to write reports")
  file <- check_report_path(file, overwrite)
  check_report_evidence(evidence, study, rlang::current_env())
  asked <- list(...)
  equivalence <- if (!is.null(within)) {
    report_equivalence_answer(study, asked, list(within = within, bounds_in = bounds_in, sd_of = sd_of))
  }
  if (!is.null(within)) {
    # Of one call both take the same random draws.
    asked$reason <- NULL
    asked$seed <- asked$seed %||% equivalence$settings$seed
  }
  difference <- do.call(test_difference, c(list(study), asked))
  s <- difference$settings
  answers <- list(
    description = describe_study(study, level = s$level), difference = difference, equivalence = equivalence,
    evidence = evidence, effect = report_effect(study, difference),
    assumptions = vet_assumptions(study, alpha = s$alpha, level = s$level)
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
    if (!is.null(answers$equivalence)) section("Equivalence", each(report_equivalence, answer = answers$equivalence)),
    if (!is.null(answers$evidence)) section("Weight of evidence", each(report_evidence, answer = answers$evidence)),
    section("Assumptions", each(report_assumptions, answer = answers$assumptions)),
    report_sentences(answers), report_methods(study, answers),
    report_settings(study, answers)
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
  outcome <- study$outcomes[[i]]
  row <- outcome_rows(difference, outcome, "primary")
  reason <- difference$settings$reason
  expected <- switch(row$expect,
    either = "Either direction was of interest.",
    sprintf(
      "Declared: %s is expected to be %s. Reason: %s.", study$groups[[1]], row$expect,
      if (is.null(reason)) "none on record" else sub("[.]$", "", reason)
    )
  )
  hypotheses <- hypothesis_words(row, outcome, study)
  list(
    htmltools::tags$p(sprintf(
      "%s: do %s and %s differ, by how much, and how sure is that?", capital(outcome$label),
      study$groups[[1]], study$groups[[2]]
    )),
    htmltools::tags$p(
      htmltools::tags$strong("Direction everywhere: "), paste0(study_direction(study), ". "), expected
    ),
    htmltools::tags$p(
      htmltools::tags$strong("H0: "), paste0(hypotheses[[1]], ". "), htmltools::tags$strong("H1: "),
      paste0(hypotheses[[2]], ".")
    ),
    report_claim(study)
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
  report_plot(autoplot(difference, outcome = study$outcomes[[i]]$name))
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
  decimals <- outcome_decimals(outcome)
  rows <- outcome_rows(answers$difference, outcome)
  row <- rows[rows$role == "primary", ]
  effects <- outcome_rows(answers$effect, outcome)
  bound <- if (row$expect != "either") {
    paste0("Bound: ", bound_words(row, row_number(row, outcome, decimals)), ".")
  }
  beside <- if (nrow(rows) > 1) sprintf("Declared: %s; the others stand beside it.", method_names[[row$method]])
  left_out <- effects_left_out(answers$effect, outcome)
  list(
    html_table(
      effect_cells(answers$effect, outcome, decimals),
      paste0(capital(outcome$label), ": effect size, ", study_direction(study)),
      paste(c(
        paste0("Intervals: ", interval_method_words(answers$effect, effects), "."), no_interval_words(effects, study)
      ), collapse = " ")
    ),
    html_table(
      list(
        effect = effect_names(effects$estimand, study), "when to use it" = effects$use,
        source = effects$source
      ),
      "Which effect size for what",
      if (length(left_out)) paste0("Not given: ", paste(names(left_out), left_out, collapse = "; "), ".")
    ),
    html_table(
      test_cells(rows, outcome, decimals),
      paste0("Test of H0: ", hypothesis_words(row, outcome, study)[[1]]),
      paste(c(
        statistic_notes(row, answers$difference, outcome, decimals), beside, bound,
        interval_notes(answers$difference, outcome, decimals)
      ), collapse = " ")
    ),
    if (is_rank_row(row)) {
      html_table(
        quartile_cells(answer_detail(answers$difference, outcome, "ranks"), study, decimals),
        "Quartiles and medians, for description", "Rule 7 of Hyndman & Fan (1996). The test is not one of medians."
      )
    }
  )
}

# One row per method: statistic, p, and the interval of what it estimates.
test_cells <- function(rows, outcome, decimals) {
  each <- lapply(seq_len(nrow(rows)), function(i) rows[i, ])
  statistic <- vapply(each, function(row) {
    value <- if (row$statistic_name == "t") {
      format_number(row$statistic, 2)
    } else if (is_permutation_row(row)) {
      format_number(row$statistic, decimals)
    } else {
      format_short(row$statistic)
    }
    if (is.na(row$statistic)) "" else paste(row$statistic_name, "=", value)
  }, "")
  c(
    list(
      test = capital_each(method_names[rows$method]), statistic = statistic,
      df = ifelse(is.na(rows$df), "", format_df(rows$df)), p = format_p(rows$p, label = "", alpha = rows$alpha)
    ),
    if (!all(is.na(rows$p_adjusted))) {
      list("p adjusted" = ifelse(is.na(rows$p_adjusted), "", format_p(rows$p_adjusted, label = "")))
    },
    list(
      interval = vapply(each, beside_interval, "", decimals),
      sides = ifelse(rows$expect == "either", "two", "one")
    )
  )
}

statistic_notes <- function(row, difference, outcome, decimals) {
  if (is_permutation_row(row)) return(permutation_statistic_notes(row, difference, outcome, decimals))
  if (!is_rank_row(row)) return(sprintf("df: %s.", df_words(row)))
  detail <- answer_detail(difference, outcome, "ranks")
  study <- difference$study
  c(
    sprintf("%s: %s.", capital(row$estimand), estimand_words(row, outcome, study)),
    sprintf("Interval: %s.", rank_interval_words(row, outcome, detail$widest, decimals)),
    if (row$method != "relative") {
      c(paste0(rank_sum_words(row, detail$largest, study), "."), paste0("Critical: ", critical_words(row), "."))
    },
    sprintf("p: %s.", p_source(row)), rank_notes(row, detail, outcome, study, decimals)
  )
}

permutation_statistic_notes <- function(row, difference, outcome, decimals) {
  detail <- answer_detail(difference, outcome, "permutation")
  study <- difference$study
  more <- permuted_estimate_words(row, study, detail)
  c(
    sprintf("Compared: %s%s.", compared_words(row, study), more %||% ""),
    sprintf("Interval: %s.", permutation_interval_words(row, outcome, detail$widest, decimals)),
    sprintf("Counted: %s. Smallest p: %s.", counted_words(row, detail, outcome, study), smallest_words(row)),
    permutation_notes(row, detail, outcome, study)
  )
}

report_assumptions <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  cells <- vet_cells(answer, outcome)
  views <- fitting_vet_views(study, outcome)
  figure <- if (length(views)) {
    page <- autoplot(answer, outcome = outcome$name)
    height <- if (length(views) > 2) 6.4 else 4.2
    htmltools::tags$figure(htmltools::tags$img(
      src = figure_data_uri(page, height = height), alt = page$labels$alt
    ))
  }
  list(
    htmltools::tags$p(vet_note), figure,
    html_table(
      list(
        "looked at" = cells$looked_at, found = cells$value, "how it reads" = cells$reads,
        "leaning on it" = cells$leaning
      ),
      paste("What was seen of the assumptions about", inside_sentence(outcome$label)),
      paste0("Sources: ", vet_sources(answer, outcome), ".")
    )
  )
}

report_sentences <- function(answers) {
  told <- function(voice) {
    bounded <- if (!is.null(answers$equivalence)) equivalence_sentences(answers$equivalence, voice)
    weighed <- if (!is.null(answers$evidence)) narrate(answers$evidence, voice = voice)
    c(narrate(answers$difference, voice = voice), bounded, narrate(answers$effect, voice = voice), weighed)
  }
  journal <- told("journal")
  plain <- told("plain")
  section(
    "Sentences",
    htmltools::tags$h3("For the paper"), paragraphs(journal),
    htmltools::tags$h3("In plain language"), paragraphs(plain)
  )
}

report_methods <- function(study, answers) {
  methods <- answers$difference$settings$method
  adjusted <- !is.na(answers$difference$table$p_adjusted)
  effects <- unique(answers$effect$table$source[nzchar(answers$effect$table$source)])
  section(
    "How it was computed",
    htmltools::tags$p(paste(
      method_texts[[methods[[1]]]], "The method was declared beforehand; no check chose it.",
      if (any(adjusted)) "P-values were adjusted for the number of outcomes by Holm's (1979) method."
    )),
    if (!is.null(answers$equivalence)) htmltools::tags$p(equivalence_method_text),
    if (!is.null(answers$evidence)) htmltools::tags$p(evidence_method_text),
    htmltools::tags$p(sprintf("Effect sizes and their intervals: %s.", paste(effects, collapse = "; "))),
    htmltools::tags$h3("Sources"),
    htmltools::tags$ul(
      class = "sources", lapply(used_sources(method_texts[methods], any(adjusted), answers), htmltools::tags$li)
    )
  )
}

# What the notes about ranks cite.
rank_note_texts <- function(difference) {
  unlist(lapply(difference$study$outcomes, function(outcome) {
    row <- outcome_rows(difference, outcome, "primary")
    if (is_permutation_row(row)) {
      return(permutation_notes(row, answer_detail(difference, outcome, "permutation"), outcome, difference$study))
    }
    if (!is_rank_row(row)) return(NULL)
    c("Hyndman & Fan 1996", rank_notes(row, answer_detail(difference, outcome, "ranks"), outcome, difference$study, 2))
  }))
}

# Only the sources of what was used: those whose author and year stand somewhere in the report.
used_sources <- function(tests, adjusted, answers) {
  cited <- paste(c(
    tests, rank_note_texts(answers$difference), if (!is.null(answers$equivalence)) equivalence_method_text,
    if (!is.null(answers$evidence)) c(evidence_method_text, answers$evidence$settings$strength_source),
    answers$effect$table$source, answers$assumptions$table$source,
    if (adjusted) "Holm 1979", if (!is.null(answers$description$table$median)) "Hyndman & Fan 1996",
    if (answers$description$study$source == "values") "Aldor-Noiman et al. 2013"
  ), collapse = "; ")
  keys <- vapply(names(report_sources), grepl, NA, cited, fixed = TRUE)
  unname(report_sources[keys])
}

seed_words <- function(s) {
  if (is.null(s$seed)) return("none: nothing was drawn at random")
  sprintf("%s, for %s draws", format_count(s$seed), format_count(s$draws))
}

report_settings <- function(study, answers) {
  s <- answers$difference$settings
  settings <- list(
    vandro = s$version, method = paste(s$method, collapse = ", "), expect = s$expect,
    reason = s$reason %||% "none on record", beyond = format_short(s$beyond), level = format_short(s$level),
    alpha = format_short(s$alpha), seed = seed_words(s), "data fingerprint" = study_fingerprint(study)
  )
  settings <- keep_given(c(
    settings, if (!is.null(answers$equivalence)) equivalence_settings(answers$equivalence$settings),
    if (!is.null(answers$evidence)) evidence_settings(answers$evidence$settings)
  ))
  section(
    "Settings",
    html_table(
      list(setting = names(settings), value = unlist(settings, use.names = FALSE)),
      "What is needed to obtain the same numbers again"
    )
  )
}
