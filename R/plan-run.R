# Carrying out a plan: data, studies, answers, as declared and in the order of the file.

#' Run a plan
#'
#' Carries out a plan as it was declared: reads its data, declares its comparisons, asks its questions, and writes
#' report, tables, figures, numbers and the record into one folder, all of it or nothing. What was planned, what was
#' asked in addition (exploratory) and what departed from the plan is told apart everywhere.
#'
#' @param plan A plan's file, or what [read_plan()] returned.
#' @param output Folder to write, made if it is not there; `NULL` writes nothing.
#' @param ... Must be empty.
#' @param instead Fields of the plan to be set to other values for this run, named as in the record:
#'   `c(height.difference.alpha = "0.01", height.difference.secondary = "[ranks, student]")`. They are reported as
#'   departures.
#' @param conventions House conventions in place of those of the plan.
#' @param date Date printed on the report and kept in the results; the only thing that differs when a plan is run again
#'   on the same data.
#' @param threads Threads of what is drawn at random; no number depends on them.
#' @param overwrite `TRUE` replaces the folder of an earlier run. A folder that holds anything else is never replaced.
#' @param quiet `TRUE` keeps the progress to itself.
#' @return A run (class `vandro_run`): `plan`, `answers` (by comparison and place in a report; `agreement` is the
#'   cross-check), `studies`, `standing` (data frame
#'   with `study`, `question`, `standing` ("planned", "as a rule": what goes with it in every report, "in addition",
#'   "departed", "not run") and `what`), `data`, `runs` (set-ups that were run into this folder, one row each), `date`,
#'   `output` and `files` (what was written where).
#' @section Folder: `report.html` (and other formats), `tables/` (one CSV for each question over all comparisons, in
#'   full precision; one table for papers for each comparison), `figures/`, `results.json`, `record.txt` (one line per
#'   field of the set-up), `runs.csv`, `plan.yaml` (the plan's file; what `instead` did to it is in the record).
#'   `runs.csv` keeps every different set-up that was run into the folder, so that the report can say how many ways of
#'   asking were tried; running the same again adds nothing.
#' @section JSON layout, version 1: `results.json` is an object with `layout` ("vandro-run"), `layout_version` (1),
#'   `date`, `version`, `plan` (`title`, `fingerprint`, `declared`, `departs_from`, `record`), `data` (`name`, `file`,
#'   `fingerprint`), `standing` (as above), `runs`, and `answers`: an array of objects with `study`, `question`,
#'   `standing` and `answer` (layout of [export_answer()]). Its JSON Schema is in `system.file("schema", package =
#'   "vandro")`.
#' @section Randomness: What is drawn has the seed of the question, else that of the plan, else 1.
#' @section Departures: A plan that names an earlier one (`departs_from`) is compared with it field by field. Questions
#'   that were not in it were asked in addition, and are exploratory; fields that differ are departures, with the reason
#'   given under `departures`. Where a plan holds the fingerprint it was declared with and has another one now, the
#'   report says so. Tests that the report tells without having been asked by the plan (whether the methods agree) count
#'   as asked in addition; description, checks and the size of what was asked go with it as a rule.
#' @section Errors: Those of [read_plan()] and of the verbs, with the line of the plan they belong to;
#'   `vandro_error_file_exists`, `vandro_error_output`.
#' @seealso [compare_runs()] for what differs between two runs.
#' @examples
#' plan <- system.file("examples", "plan.yaml", package = "vandro")
#' run <- run_plan(plan, quiet = TRUE)
#' run
#' run$answers$height$difference
#'
#' # One thing changed, and what that does
#' compare_runs(run, run_plan(plan, instead = c(height.difference.primary = "student"), quiet = TRUE))
#' @export
run_plan <- function(plan, output = NULL, ..., instead = NULL, conventions = NULL, date = Sys.Date(), threads = 1,
                     overwrite = FALSE, quiet = FALSE) {
  check_supplied(plan)
  refuse_more(...)
  plan <- changed_plan(check_plan(plan), instead, rlang::current_env())
  check_flag(overwrite)
  check_flag(quiet)
  plan$declared_house <- plan$house
  plan$house <- check_conventions(conventions) %||% plan$house
  date <- check_date(date)
  threads <- check_whole(threads, 1, 256)
  if (!is.null(output)) output <- check_run_folder(output, overwrite)
  data <- read_plan_data(plan)
  studies <- lapply(stats::setNames(nm = names(plan$fields$comparisons)), function(name) {
    declare_planned(plan, name, data)
  })
  tell <- if (quiet) function(...) NULL else plan_progress(plan, studies, !is.null(output))
  chapters <- lapply(stats::setNames(nm = names(studies)), function(name) {
    ask_planned(plan, name, studies[[name]], threads, tell)
  })
  if (!(plan$fields$adjust %||% "none") %in% "none") chapters <- adjust_together(chapters, plan)
  run <- structure(list(
    plan = plan, answers = chapters, studies = studies, standing = plan_standing(plan, chapters, data),
    data = data_table(data), date = date, version = getNamespaceVersion("vandro")[["version"]]
  ), class = "vandro_run")
  run$runs <- runs_so_far(run, output)
  if (!is.null(output)) {
    run$output <- output
    run$files <- write_run(run, output, plan$outputs, tell, overwrite)
  }
  run
}

check_plan <- function(plan, call = rlang::caller_env()) {
  if (inherits(plan, "vandro_plan")) return(plan)
  if (is.character(plan) && length(plan) == 1) return(read_plan(plan))
  found <- describe_value(plan)
  abort_vandro(
    c("{.arg plan} must be the file of a plan, or a plan that was read.", "x" = "It is {found}."), "bad_value",
    arg = "plan", call = call
  )
}

# list by name: file, fingerprint of its bytes, frame.
read_plan_data <- function(plan) {
  entries <- plan$fields$data
  lapply(stats::setNames(nm = names(entries)), function(name) {
    entry <- entries[[name]]
    file <- beside_plan(entry$file, plan$file)
    options <- entry[setdiff(names(entry), c("file", "fingerprint", "trust"))]
    if (file_ending(file) == "rds" && !isTRUE(entry$trust)) refuse_rds(plan, name)
    frame <- at_plan(
      plan, c("data", name, "file"), "data {.val {name}} could not be read",
      rlang::inject(read_measurements(file, quiet = TRUE, !!!options)),
      name = name
    )
    list(file = entry$file, fingerprint = file_fingerprint(file), frame = frame)
  })
}

# Whoever runs a plan of another person need not run code with it.
refuse_rds <- function(plan, name) {
  abort_plan(plan_source(plan), c("data", name, "file"), c(
    "data {.val {name}} is an .rds file, which can run its author's code when R reads it.",
    "i" = "If you trust it, say {.code trust: yes} beside {.code file}. A CSV or Parquet file runs nothing."
  ))
}

file_fingerprint <- function(file) substr(unname(tools::md5sum(file)), 1, 12)

data_table <- function(data) {
  of <- function(what) unname(vapply(data, `[[`, "", what))
  data.frame(
    name = as.character(names(data)), file = as.character(of("file")),
    fingerprint = as.character(of("fingerprint"))
  )
}

summary_keys <- c(
  "n", "mean", "sd", "se", "lower", "upper", "level", "r", "mean_change", "sd_change", "se_change", "groups", "outcome",
  "unit", "label", "claim", "assigned", "phrases"
)

declare_planned <- function(plan, name, data) {
  fields <- plan$fields$comparisons[[name]]
  pairs <- isTRUE(fields$paired) || any(c("change", "r", "mean_change", "sd_change", "se_change") %in% names(fields))
  told <- fields[setdiff(names(fields), c("data", "heading", "paired", "ask"))]
  told <- lapply(told, function(value) if (is.list(value)) unlist(value) else value)
  published <- !is.null(fields$n)
  declare <- if (published) {
    told <- told[intersect(names(told), summary_keys)]
    if (pairs) versus_paired_summary else versus_summary
  } else {
    told <- c(list(data = data[[fields$data]]$frame), told)
    if (pairs) versus_paired else versus
  }
  at_plan(
    plan, c("comparisons", name), "{.val {name}} could not be declared", quietly(rlang::inject(declare(!!!told))),
    name = name
  )
}

# The answers of one comparison: those that were planned, and those that a report shows in addition.
ask_planned <- function(plan, name, study, threads, tell) {
  asked <- plan$fields$comparisons[[name]]$ask
  given <- list()
  # Size and cross-check take over what the difference asks, wherever it stands.
  order <- c("difference", setdiff(names(asked), c("difference", "cross_check")), "cross_check")
  for (question in intersect(order, names(asked))) {
    tell(name, question)
    given[[question]] <- at_plan(
      plan, c("comparisons", name, "ask", question), "{.val {question}} of {.val {name}} could not be carried out",
      with_origin(ask_question(plan, question, asked[[question]], study, given, threads), "plan"),
      name = name, question = question
    )
  }
  tell(name, "the other parts of the report")
  names(given)[names(given) == "cross_check"] <- "agreement"
  base <- unlisted_question(plan, given, study)
  at_plan(plan, c("comparisons", name), "{.val {name}} could not be carried out",
    quietly(report_answers(study, given, base, NULL, plan$house, NULL, NULL)),
    name = name
  )
}

# A difference that nobody planned is asked with the plan's seed.
unlisted_question <- function(plan, given, study) {
  if (!is.null(given$difference) || !is.null(given$equivalence)) return(list())
  method <- conventional(list(), "test_difference", study, plan$house)$method
  if (any(method %in% methods_where(draws = TRUE))) list(seed = plan$fields$seed %||% 1) else list()
}

ask_question <- function(plan, question, fields, study, given, threads) {
  if (question == "cross_check" && length(fields) == 0 && !is.null(given$difference %||% given$equivalence)) {
    difference <- given$difference %||% difference_of(given$equivalence)
    return(report_agreement(study, difference$settings, given$equivalence))
  }
  verb <- plan_verbs[[question]]
  args <- fields[setdiff(names(fields), c("primary", "secondary"))]
  house <- conventional(list(), verb, study, plan$house)
  usual <- if (!is.null(fields$secondary)) methods_where(design = study$design)[[1]]
  primary <- fields$primary %||% house$method %||% usual
  if (!question %in% one_method_questions) args$method <- c(primary, fields$secondary)
  args <- inherit_question(question, args, given)
  args <- conventional(keep_given(args), verb, study, plan$house)
  if (needs_seed(question, args, study)) args$seed <- args$seed %||% plan$fields$seed %||% 1
  if (threads > 1 && "threads" %in% names(options_of(verb))) args$threads <- threads
  quietly(rlang::inject((!!verb_of(verb))(study, !!!with_method_options(args))))
}

# What follows from the difference that was declared, where the question does not say otherwise.
inherit_question <- function(question, args, given) {
  s <- given$difference$settings
  if (is.null(s)) return(args)
  if (question == "effect") {
    args$method <- args$method %||% s$method[[1]]
  } else if (question == "subgroups" && method_fact(s$method[[1]], "subgroups")) {
    args$method <- args$method %||% s$method[[1]]
  } else if (question == "cross_check" && is.null(args$within)) {
    inherited <- c("expect", "beyond", "alpha", if (is.null(args$expect)) "reason")
    for (key in setdiff(inherited, names(args))) args[[key]] <- s[[key]]
    args$method <- args$method %||% s$method[[1]]
  }
  args
}

needs_seed <- function(question, args, study) {
  switch(question,
    difference = ,
    equivalence = any(args$method %in% methods_where(draws = TRUE)) || any(args$adjust %in% joint_ways),
    effect = identical(args$interval, "bootstrap") || identical(args$method[1], "signed_ranks"),
    # One method stands for all that apply.
    cross_check = study$source == "values" &&
      (length(args$method) < 2 || any(args$method %in% methods_where(draws = TRUE))),
    FALSE
  )
}

# p of the primary tests of all planned differences as one family.
adjust_together <- function(chapters, plan) {
  asked <- Filter(function(name) "difference" %in% names(plan$fields$comparisons[[name]]$ask), names(chapters))
  rows <- lapply(chapters[asked], function(answers) answers$difference$table[c("role", "p")])
  together <- adjusted_p(do.call(rbind, rows), plan$fields$adjust)
  of <- rep(asked, vapply(rows, nrow, 0L))
  for (name in asked) {
    difference <- chapters[[name]]$difference
    table <- difference$table
    table$p_adjusted <- together[of == name]
    difference$settings$adjust <- plan$fields$adjust
    difference$detail$joint <- NULL
    difference$detail$adjusted_over <- sum(!is.na(together))
    chapters[[name]]$difference <- with_table(difference, table)
  }
  chapters
}

# A function that tells what is being done, and how far.
plan_progress <- function(plan, studies, writes) {
  total <- sum(lengths(lapply(plan$fields$comparisons, `[[`, "ask"))) + length(studies) + writes
  at <- 0
  function(name, what) {
    at <<- at + 1
    inform_lines(sprintf("[%d/%d] %s: %s", at, total, name, what), "progress")
  }
}
