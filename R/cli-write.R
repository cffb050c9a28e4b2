# Commands that write for readers: sentences, tables, reports.

# The style of numbers where an option asks for one; what no option says is as the house has it.
cli_style <- function(options) {
  asked <- keep_given(list(
    decimals = cli_numbers(options, "unitless-decimals"), p_decimals = cli_numbers(options, "p-decimals"),
    p_as = cli_choice(options, "p-as", c("value", "inequality")), leading_zero = cli_yes(options, "leading-zero"),
    decimal_mark = cli_choice(options, "written-decimal-mark", c(".", ","))
  ))
  if (length(asked)) do.call(number_style, utils::modifyList(unclass(options$house$style %||% number_style()), asked))
}

cli_narrate <- function(parsed) {
  options <- parsed$options
  kind <- cli_format(options, c("text", "json"))
  if (kind == "text") check_named_outputs(parsed)
  found <- cli_each(parsed, cli_sentences)
  if (!is.null(options$output)) cli_finish(found)
  if (length(found) == 0) return(cli_finish(found))
  if (kind == "json") {
    cli_emit(sentences_json(found), options)
  } else if (is.null(options$output) && !is.null(names(found))) {
    cli_emit(titled_texts(lapply(found, format, width = cli_width())), options)
  } else {
    files <- names(found) %||% ""
    for (i in seq_along(found)) cli_emit(format(found[[i]], width = cli_width()), name_output(options, files[[i]]))
  }
  cli_finish(found)
}

sentences_json <- function(found) {
  files <- names(found)
  told <- lapply(found, function(text) I(as.character(text)))
  layout <- list(layout = "vandro-sentences", layout_version = 1L)
  json_lines(c(layout, if (is.null(files)) {
    list(sentences = told[[1]])
  } else {
    list(files = lapply(files, function(file) list(file = file, sentences = told[[file]])))
  }))
}

cli_sentences <- function(parsed) {
  options <- parsed$options
  how <- keep_given(list(
    voice = cli_choice(options, "voice", c("journal", "plain", "claim")), decimals = cli_numbers(options, "decimals"),
    style = cli_style(options), explain = cli_yes(options, "explain"), sources = cli_yes(options, "sources")
  ))
  asked <- list()
  estimands <- cli_list(options, "estimands")
  about <- if (asks_rehearsal(options)) {
    refuse_file(parsed)
    cli_rehearse(options)
  } else {
    study <- cli_study(parsed)
    if (asks_evidence(options)) {
      cli_evidence(study, options)
    } else if (!is.null(options$within)) {
      cli_equivalence(study, options)
    } else {
      asked <- conventional(cli_question(options), "test_difference", study, options$house)
      estimands <- estimands %||% house_estimands(options$house, study)
      study
    }
  }
  rlang::inject(narrate(about, !!!asked, !!!how, estimands = estimands))
}

# Into a file by its ending, else as text, JSON or CSV to standard output.
cli_table <- function(parsed) {
  options <- parsed$options
  check_named_outputs(parsed)
  kind <- cli_choice(options, "format", c("text", "json", "csv")) %||% "text"
  found <- cli_each(parsed, cli_table_file)
  if (is.null(options$output) && length(found)) {
    numbers <- if (is.null(names(found))) as.data.frame(found[[1]]) else by_file(found)
    put_out(switch(kind,
      csv = table_csv(numbers),
      json = table_json(numbers, "results"),
      cli_texts(found)
    ))
  }
  cli_finish(found)
}

cli_table_file <- function(parsed) {
  options <- parsed$options
  study <- cli_study(parsed)
  bounded <- !is.null(options$within)
  asked <- if (!bounded) conventional(cli_question(options), "test_difference", study, options$house)
  about <- if (bounded) cli_equivalence(study, options) else study
  rlang::inject(results_table(about, !!!asked, !!!keep_given(list(
    estimands = options$estimands %||% house_estimands(options$house, study)[1],
    decimals = cli_numbers(options, "decimals"), style = cli_style(options),
    title = options$title, checks = cli_yes(options, "checks"), file = options$output, overwrite = options$force
  ))))
}

cli_report <- function(parsed) {
  if (is.null(parsed$options$output)) abort_usage("Option {.code --output} is needed: the file of the report.")
  check_named_outputs(parsed)
  cli_finish(cli_each(parsed, cli_report_file))
}

# A shell has no easy line breaks: "\\n" is one.
shell_text <- function(text) if (!is.null(text)) gsub("\\n", "\n", text, fixed = TRUE)

cli_parts <- function(options) {
  parts <- cli_list(options, "parts")
  for (part in parts) cli_choice(list(parts = sub("^-", "", part)), "parts", names(part_headings))
  parts
}

cli_report_file <- function(parsed) {
  options <- parsed$options
  texts <- keep_given(list(
    title = options$title, author = options$author, date = options$date, style = cli_style(options),
    text = shell_text(options$text), estimands = cli_list(options, "estimands"), parts = cli_parts(options),
    conventions = options$house
  ))
  study <- cli_study(parsed)
  answers <- keep_given(list(
    if (asks_evidence(options)) cli_evidence(study, options[setdiff(names(options), c("within", "reason"))]),
    # An effect size goes with the primary method.
    if (asks_words(options)) {
      options$method <- cli_list(options, "method")[1]
      cli_effect(study, options)
    },
    if (asks_checks(options)) cli_assumptions(study, options)
  ))
  rlang::inject(write_report(
    c(list(study), answers), options$output,
    overwrite = options$force, !!!cli_question(parsed$options), !!!cli_within(options), !!!texts
  ))
}

# Whether options of effect sizes, or of checks, ask for an answer that the report would otherwise make itself.
asks_words <- function(options) any(c("size-words", "size-source") %in% names(keep_given(options)))

asks_checks <- function(options) {
  any(c("check-alpha", "centre", "spread-rule", "spread-source", "limits") %in% names(keep_given(options)))
}
