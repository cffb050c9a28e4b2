# Plans at the command line: writing one, running it, comparing runs.

cli_plan <- function(parsed) {
  options <- parsed$options
  if (is.null(options$output)) abort_usage("Option {.code --output} is needed: the file of the plan.")
  if (!isTRUE(options$force)) check_output_path(options$output, FALSE, arg = "--output", call = NULL)
  if (identical(parsed$files, "-")) abort_usage("A plan names its data: standard input has no name.")
  study <- cli_study(parsed)
  answers <- cli_asked(study, options)
  name <- options$name %||% study$outcomes[[1]]$name
  write_plan(
    stats::setNames(answers, rep(name, length(answers))), options$output,
    title = options$title, author = options$author, text = shell_text(options$text),
    date = options$date %||% Sys.Date(), by = options[["by-whom"]], conventions = options$conventions,
    seed = cli_numbers(options, "seed"), overwrite = options$force
  )
  inform_vandro(c(
    "i" = "Written: {.file {options$output}}. Next: {.code vandro run {options$output} --output results}"
  ), "plan")
}

# The answers of the questions that are to be planned; none of them is shown.
cli_asked <- function(study, options) {
  wanted <- cli_list(options, "ask") %||%
    c("difference", if (!is.null(options$within)) "equivalence", if (asks_evidence(options)) "evidence")
  unknown <- setdiff(wanted, names(plan_verbs))
  if (length(unknown)) {
    hint <- suggestion(unknown[[1]], names(plan_verbs), "Questions")
    abort_usage(c("Option {.code --ask} names no question {.val {unknown[[1]]}}.", "i" = "{hint}"), option = "ask")
  }
  direction <- c("expect", "beyond")
  without <- function(...) options[setdiff(names(options), c(...))]
  # A reason is that of the bounds where these are asked for, else of the direction.
  directed <- if ((options$expect %||% "either") == "either") without("reason", "within") else without("within")
  ask <- list(
    description = function() cli_describe(study, options), assumptions = function() cli_assumptions(study, options),
    effect = function() cli_effect(study, options), difference = function() cli_difference(study, directed),
    equivalence = function() cli_equivalence(study, without(direction)),
    evidence = function() cli_evidence(study, directed), cross_check = function() cli_cross_check(study, directed)
  )
  lapply(wanted, function(question) quietly(ask[[question]]()))
}

cli_run <- function(parsed) {
  options <- parsed$options
  files <- parsed$files
  if (length(files) == 0) abort_usage("{.code vandro run} needs a PLAN.")
  if (length(files) > 1 && !is.null(options$output) && !grepl("{name}", options$output, fixed = TRUE)) {
    abort_usage("Several plans need folders of their own: {.code --output \"{{name}}-results\"}.")
  }
  kind <- cli_choice(options, "format", c("text", "json", "csv")) %||% "text"
  if (isTRUE(options[["only-check"]])) return(cli_check_plans(parsed))
  found <- cli_each(parsed, function(p) {
    run_plan(
      p$files, p$options$output,
      conventions = options$house, date = options$date %||% Sys.Date(),
      threads = cli_numbers(options, "threads") %||% 1, overwrite = options$force, quiet = isTRUE(options$quiet)
    )
  })
  if (length(found)) {
    texts <- lapply(found, function(run) switch(kind,
      text = format(run, width = 80), json = run_json(run), csv = table_csv(as.data.frame(run))
    ))
    lines <- if (is.null(names(found)) || kind != "text") unlist(texts, use.names = FALSE) else told_files(texts)
    writeLines(enc2utf8(lines), useBytes = TRUE)
  }
  cli_finish(found)
}

cli_check_plans <- function(parsed) {
  found <- cli_each(parsed, function(p) read_plan(p$files))
  lines <- if (is.null(names(found))) format(found[[1]], width = 80) else told_files(lapply(found, format, width = 80))
  writeLines(enc2utf8(lines), useBytes = TRUE)
  cli_finish(found)
}

cli_compare <- function(parsed) {
  if (length(parsed$files) != 2) {
    abort_usage("{.code vandro compare} needs the folders of two runs.")
  }
  kind <- cli_format(parsed$options)
  compared <- compare_runs(parsed$files[[1]], parsed$files[[2]])
  cli_emit(switch(kind,
    text = format(compared, width = 80), json = table_json(as.data.frame(compared)),
    csv = table_csv(as.data.frame(compared))
  ), parsed$options)
}
