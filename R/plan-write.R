# A plan from studies and the questions asked of them.

#' Write a plan
#'
#' Writes what was declared and asked as a plan: a YAML file with the data and how they are read, the comparisons with
#' their directions, the questions with primary and secondary methods, bounds and reasons. [run_plan()] carries it out.
#' The plan is read back and its comparisons are made again from the file before it is written, so that a plan is never
#' about other numbers than the study it came from.
#'
#' @param x A study, an answer, or a list of these; names become the names of comparisons. Studies stand for the
#'   difference by the default method, answers for what they asked. Answers of one study share a comparison.
#' @param file The plan to write.
#' @param ... Must be empty.
#' @param data File that the data are in, where they were not read by [read_measurements()]: one path, or one for each
#'   comparison by its name.
#' @param title,author,text Printed on the report.
#' @param date Day on which it is declared.
#' @param by Who declares it.
#' @param conventions File of house conventions ([read_conventions()]), as seen from the plan.
#' @param outputs List: `report`, `tables`, `figures` (endings of files, or `"none"`), `parts`, `columns`,
#'   `dpi`.
#' @param seed Seed of what is drawn at random.
#' @param overwrite `TRUE` replaces a file that exists.
#' @return The plan as [read_plan()] returns it, invisibly.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_file_is_input`, `vandro_error_output`;
#'   `vandro_error_plan_data` where the data come from
#'   no file, or the file gives another study; `vandro_error_no_source` for a direction or bounds without a reason;
#'   `vandro_error_not_an_answer` for answers that have no place in a plan.
#' @seealso Layout: [plan_layout].
#' @examples
#' path <- system.file("extdata", "seedlings.csv", package = "vandro")
#' study <- versus(read_measurements(path, quiet = TRUE), height, substrate,
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' file <- tempfile(fileext = ".yaml")
#' write_plan(list(height = test_difference(study, c("welch", "ranks"))), file)
#' writeLines(readLines(file))
#' @export
write_plan <- function(x, file, ..., data = NULL, title = NULL, author = NULL, text = NULL, date = Sys.Date(),
                       by = NULL, conventions = NULL, outputs = NULL, seed = NULL, overwrite = FALSE) {
  check_supplied(x)
  check_supplied(file)
  refuse_more(...)
  call <- rlang::current_env()
  check_flag(overwrite)
  file <- check_output_path(file, overwrite)
  if (!is.null(outputs)) check_known_names(outputs, names(output_fields), "outputs", call)
  items <- report_items(x, NULL)
  groups <- planned_groups(items)
  sources <- plan_sources(groups, data, file, call)
  fields <- keep_given(list(
    plan = plan_layout_version, title = check_text(title), author = check_text(author),
    declared = keep_given(list(date = check_date(date), by = check_text(by))),
    text = check_text(text), seed = if (!is.null(seed)) check_number(seed), conventions = check_text(conventions),
    data = if (length(sources$entries)) sources$entries,
    comparisons = Map(planned_comparison, groups, sources$names, MoreArgs = list(call = call)),
    outputs = outputs
  ))
  # Read back beside its place, from where it sees its files.
  draft <- draft_name(dirname(file), ".yaml")
  on.exit(unlink(draft))
  write_whole_text(draft, plan_lines(fields), call)
  plan <- read_plan(draft)
  check_same_studies(plan, groups, call)
  fields$declared$fingerprint <- plan$fingerprint
  write_whole_text(file, plan_lines(fields), call)
  invisible(read_plan(file))
}

plan_lines <- function(fields) {
  c(
    "# A plan for vandro: what is compared, how, and why, declared before looking. In a shell:",
    "#   vandro run FILE --output FOLDER", "", yaml_block(fields)
  )
}

# By comparison: list(study, answers), under the names of the items or of their outcomes.
planned_groups <- function(items) {
  studies <- lapply(items, function(item) if (inherits(item, "vandro_study")) item else item$study)
  keys <- vapply(studies, study_key, "")
  given <- names(items) %||% rep("", length(items))
  groups <- lapply(unique(keys), function(key) {
    at <- which(keys == key)
    list(study = studies[[at[[1]]]], answers = Filter(function(item) inherits(item, "vandro_answer"), items[at]))
  })
  names <- vapply(seq_along(groups), function(i) {
    own <- given[keys == unique(keys)[[i]] & nzchar(given)]
    name <- if (length(own)) own[[1]] else groups[[i]]$study$outcomes[[1]]$name
    name <- gsub("^[^\\p{L}\\p{N}]+", "", gsub("[^\\p{L}\\p{N}_-]+", "_", name, perl = TRUE), perl = TRUE)
    if (name %in% c("", setdiff(names(plan_fields), "comparisons"))) paste0("comparison_", i) else substr(name, 1, 50)
  }, "")
  stats::setNames(groups, make.unique(names, "_"))
}

# Entries of `data`, one for each file and way of reading, and which of them each comparison has.
plan_sources <- function(groups, data, file, call) {
  entries <- lapply(names(groups), function(name) {
    study <- groups[[name]]$study
    if (study$source == "summary") return(NULL)
    path <- if (is.null(names(data))) data else if (name %in% names(data)) data[[name]]
    entry <- if (is.null(path)) study$read else list(file = normalizePath(check_readable(path, call)))
    if (is.null(entry)) abort_no_file(name, call)
    entry$fingerprint <- file_fingerprint(entry$file)
    # Who plans it has read it.
    if (file_ending(entry$file) == "rds") entry$trust <- TRUE
    entry$file <- path_from(entry$file, dirname(file))
    entry[c("file", "fingerprint", setdiff(names(entry), c("file", "fingerprint")))]
  })
  own <- !vapply(entries, is.null, NA)
  distinct <- unique(entries[own])
  stems <- vapply(distinct, function(entry) {
    gsub("[^\\p{L}\\p{N}_-]+", "_", sub("[.][^.]*$", "", basename(entry$file)), perl = TRUE)
  }, "")
  stems[!grepl("^[\\p{L}\\p{N}]", stems, perl = TRUE)] <- "data"
  names(distinct) <- make.unique(substr(stems, 1, 50), "_")
  list(entries = distinct, names = vapply(entries, function(entry) {
    if (is.null(entry)) NA_character_ else names(distinct)[vapply(distinct, identical, NA, entry)]
  }, ""))
}

abort_no_file <- function(name, call) {
  abort_vandro(
    c(
      "A plan needs the file that the data of {.val {name}} are in.",
      "i" = "Read them with {.fn read_measurements}, or name the file: {.code write_plan(..., data = \"data.csv\")}."
    ),
    "plan_data",
    call = call
  )
}

planned_comparison <- function(group, data, call) {
  c(
    if (!is.na(data)) list(data = data), declaration_of(group$study, call),
    list(ask = planned_questions(group$answers, call))
  )
}

# The declaration as fields of a plan, from its R code, of which only names and plain values are taken.
declaration_of <- function(study, call) {
  code <- rlang::parse_expr(study$declared)
  verb <- as.character(code[[1]])
  args <- as.list(code)[-1]
  names(args) <- names(args) %||% rep("", length(args))
  summary <- grepl("summary", verb)
  if (summary && length(study$outcomes) > 1) {
    abort_vandro(
      c(
        "In a plan, each comparison of published numbers has one outcome.",
        "x" = "This study has {length(study$outcomes)}.",
        "i" = "Declare them one by one with {.fn versus_summary}, and give them as a list."
      ),
      "plan_data",
      call = call
    )
  }
  if (!summary) {
    # The data frame comes first; columns of pairs may come by position.
    args <- if ("data" %in% names(args)) args[names(args) != "data"] else args[-1]
    args <- named_columns(args, verb)
  }
  values <- lapply(stats::setNames(nm = names(args)), function(name) {
    value <- plain_value(args[[name]])
    if (is.null(value) && name == "outcome") value <- unique(vapply(study$outcomes, `[[`, "", "name"))
    if (is.null(value)) abort_not_plain(name, args[[name]], call)
    if (name == "missing") as.character(value) else value
  })
  if (!summary && is.null(values$groups) && is.null(values$change)) values$groups <- study$groups
  # In a plan labels name codes as they do in R.
  c(if (verb == "versus_paired" && is.null(values$change)) list(paired = TRUE), values[!names(values) == "rows"])
}

named_columns <- function(args, verb) {
  bare <- !nzchar(names(args))
  if (!any(bare)) return(args)
  roles <- if (verb == "versus") {
    c("outcome", "by", "groups")
  } else {
    list("change", c("first", "second"), c("outcome", "by", "id"))[[sum(bare)]]
  }
  names(args)[bare] <- roles[seq_len(sum(bare))]
  args
}

# What a plain expression stands for: a name, a value, some of these; NULL for everything else. Nothing is evaluated.
plain_value <- function(x) {
  if (is.symbol(x)) return(as.character(x))
  if (is.atomic(x)) return(x)
  head <- if (is.call(x) && is.symbol(x[[1]])) as.character(x[[1]]) else ""
  if (head %in% c("$", "[[")) return(if (identical(x[[2]], quote(.data))) as.character(x[[3]]))
  if (!head %in% c("-", ":", "c", "list")) return(NULL)
  parts <- lapply(as.list(x)[-1], plain_value)
  if (any(vapply(parts, is.null, NA))) return(NULL)
  switch(head, "-" = if (length(parts) == 1) -parts[[1]], ":" = seq(parts[[1]], parts[[2]]), unlist(parts))
}

abort_not_plain <- function(name, expression, call) {
  written <- paste(deparse(expression), collapse = " ")
  abort_vandro(
    c(
      "{.arg {name}} cannot be written into a plan as it was declared.",
      "x" = "It is {.code {written}}.",
      "i" = "Declare it by names and plain values."
    ),
    "plan_data",
    call = call
  )
}

planned_questions <- function(answers, call) {
  if (length(answers) == 0) return(list(difference = list()))
  for (answer in answers) if (!length(question_of(answer))) abort_not_planned(answer, call)
  questions <- lapply(answers, planned_question, call)
  names(questions) <- vapply(answers, question_of, "")
  twice <- which(duplicated(names(questions)))
  if (length(twice)) abort_second_answer(answers[[twice[[1]]]], call)
  questions[order(match(names(questions), names(plan_verbs)))]
}

question_of <- function(answer) names(plan_verbs)[plan_verbs == answer$settings$verb]

planned_question <- function(answer, call) {
  question <- question_of(answer)
  asked <- own_settings(answer)
  asked$threads <- NULL
  # What would be taken over from the difference is said where it was asked otherwise.
  own <- switch(question, cross_check = c("expect", "beyond", "alpha"), effect = , subgroups = "method")
  for (key in setdiff(own, names(asked))) asked[[key]] <- answer$settings[[key]]
  if (is.null(asked$reason) && (!is.null(asked$within) || (asked$expect %||% "either") != "either")) {
    abort_no_reason(question, call)
  }
  if (question %in% one_method_questions) return(asked)
  # The primary method is said even where it is the default: a plan declares it.
  methods <- answer$settings$method
  asked$method <- NULL
  c(keep_given(list(
    primary = if (length(methods)) methods[[1]], secondary = if (length(methods) > 1) methods[-1]
  )), asked)
}

abort_no_reason <- function(question, call) {
  abort_vandro(
    c(
      "A plan needs the reason for a direction and for bounds ({.val {question}}).",
      "i" = "Ask with {.code reason = \"...\"}, so that nobody asks whether it was chosen after looking."
    ),
    "no_source",
    call = call
  )
}

# The file must give the studies that the plan was written from.
check_same_studies <- function(plan, groups, call) {
  data <- read_plan_data(plan)
  for (name in names(groups)) {
    again <- declare_planned(plan, name, data)
    if (study_key(again) == study_key(groups[[name]]$study)) next
    abort_vandro(
      c(
        "The file does not give the study of {.val {name}}.",
        "x" = "Read from {.file {data[[plan$fields$comparisons[[name]]$data]]$file}} and declared again the values are
          others.",
        "i" = "Save the data as they were compared to a file of their own, and read that."
      ),
      "plan_data",
      call = call
    )
  }
}

# Answers that were tried or compared after looking at the data cannot be declared beforehand.
abort_not_planned <- function(answer, call) {
  verb <- answer$settings$verb
  abort_vandro(
    c(
      "An answer of {.fn {verb}} is no question of a plan.", "i" = "Leave it out: the plan declares what comes before."
    ),
    "not_an_answer",
    call = call
  )
}

# A plan asks each question about a study once.
abort_second_answer <- function(item, call) {
  verb <- item$settings$verb
  comparison <- study_direction(item$study)
  abort_vandro(
    c(
      "There are two answers of {.fn {verb}} about the same study ({comparison}).",
      "i" = "Ask once with several methods, as {.code test_difference(study, c(\"welch\", \"ranks\"))}."
    ),
    "contradiction",
    call = call
  )
}
