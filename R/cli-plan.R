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
  ask <- list(
    description = cli_describe, assumptions = cli_assumptions, effect = cli_effect, difference = cli_difference,
    subgroups = cli_subgroups, equivalence = cli_equivalence, evidence = cli_evidence, cross_check = cli_cross_check
  )
  lapply(wanted, function(question) quietly(ask[[question]](study, planned_options(question, study, options))))
}

# The options that belong to one question: all are given at once here.
planned_options <- function(question, study, options) {
  methods <- cli_list(options, "method")
  # An effect size goes with the primary method; a cross-check asks all methods that apply.
  if (question %in% c("effect", "subgroups", "cross_check")) options$method <- methods <- methods[1]
  # A reason is that of the bounds where these are asked for, else of the direction.
  left <- if (question == "equivalence") {
    c("expect", "beyond", "level")
  } else {
    c("within", if (is.null(options$expect)) "reason")
  }
  args <- list(method = methods, interval = options$interval, adjust = options$adjust)
  if (needs_seed(question, args, study)) options$seed <- options$seed %||% "1" else left <- c(left, "seed")
  options[setdiff(names(options), left)]
}

cli_run <- function(parsed) {
  options <- parsed$options
  files <- parsed$files
  if (length(files) == 0) abort_usage("{.code vandro run} needs a PLAN.")
  check_named_outputs(parsed)
  kind <- cli_choice(options, "format", c("text", "json", "csv")) %||% "text"
  if (kind == "json" && length(files) > 1) {
    abort_usage("Results of several plans are no single JSON: {.file results.json} stands in the folder of each.")
  }
  if (isTRUE(options[["only-check"]])) return(cli_check_plans(parsed))
  found <- cli_each(parsed, function(p) {
    run_plan(
      p$files, p$options$output,
      instead = cli_instead(options), conventions = options$house, date = options$date %||% Sys.Date(),
      threads = cli_numbers(options, "threads") %||% 1, overwrite = options$force, quiet = isTRUE(options$quiet)
    )
  })
  if (length(found)) {
    one <- is.null(names(found))
    put_out(switch(kind,
      text = cli_texts(found),
      json = run_json(found[[1]]),
      csv = table_csv(if (one) as.data.frame(found[[1]]) else by_file(found))
    ))
  }
  cli_finish(found)
}

cli_instead <- function(options) {
  cli_named(options, "instead", ";", "name fields and their values", "height.difference.alpha=0.01")
}

cli_check_plans <- function(parsed) {
  found <- cli_each(parsed, function(p) read_plan(p$files))
  put_out(cli_texts(found))
  cli_finish(found)
}

cli_compare <- function(parsed) {
  if (length(parsed$files) != 2) {
    abort_usage("{.code vandro compare} needs the folders of two runs.")
  }
  kind <- cli_format(parsed$options)
  compared <- compare_runs(parsed$files[[1]], parsed$files[[2]])
  cli_emit(switch(kind,
    text = format(compared, width = cli_width()),
    json = table_json(as.data.frame(compared), "differences"),
    csv = table_csv(as.data.frame(compared))
  ), parsed$options)
}
