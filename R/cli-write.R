# Commands that write for readers: sentences, tables, reports.

# The style of numbers, where an option asks for one.
cli_style <- function(options) {
  asked <- keep_given(list(
    decimals = cli_numbers(options, "decimals"), p_decimals = cli_numbers(options, "p-decimals"),
    p_as = cli_choice(options, "p-as", c("value", "inequality")), leading_zero = cli_yes(options, "leading-zero"),
    decimal_mark = cli_choice(options, "decimal-mark", c(".", ","))
  ))
  if (length(asked)) do.call(number_style, asked)
}

cli_narrate <- function(parsed) {
  options <- parsed$options
  how <- keep_given(list(
    voice = cli_choice(options, "voice", c("journal", "plain", "claim")), digits = cli_numbers(options, "digits"),
    style = cli_style(options), explain = cli_yes(options, "explain"), sources = cli_yes(options, "sources")
  ))
  asked <- list()
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
      asked <- cli_question(options)
      study
    }
  }
  cli_emit(format(do.call(narrate, c(list(about), asked, how)), width = 80), options)
}

# Into a file by its ending, else as text or CSV to standard output.
cli_table <- function(parsed) {
  options <- parsed$options
  format <- cli_choice(options, "format", c("text", "json", "csv")) %||% "text"
  table <- do.call(results_table, c(list(cli_study(parsed)), cli_question(options), keep_given(list(
    estimand = options$estimand, digits = cli_numbers(options, "digits"), style = cli_style(options),
    title = options$title, file = options$output, overwrite = options$force
  ))))
  if (is.null(options$output)) {
    numbers <- as.data.frame(table)
    writeLines(enc2utf8(switch(format,
      csv = table_csv(numbers), json = table_json(numbers), format(table, width = 80)
    )), useBytes = TRUE)
  }
}

cli_report <- function(parsed) {
  options <- parsed$options
  if (is.null(options$output)) abort_usage("Option {.code --output} is needed: the file of the report.")
  # A shell has no easy line breaks: "\\n" is one.
  texts <- keep_given(list(
    title = options$title, author = options$author, date = options$date, style = cli_style(options),
    text = if (!is.null(options$text)) gsub("\\n", "\n", options$text, fixed = TRUE),
    explain = cli_yes(options, "explain")
  ))
  study <- cli_study(parsed)
  evidence <- if (asks_evidence(options)) {
    list(evidence = cli_evidence(study, options[setdiff(names(options), c("within", "reason"))]))
  }
  do.call(write_report, c(
    list(study, options$output, overwrite = options$force), cli_question(options), cli_within(options), evidence, texts
  ))
}
