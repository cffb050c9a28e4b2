# What may stand in a plan and in a file of conventions: keys and types as data, and the reading by them.

#' The layout of a plan
#'
#' A plan is a YAML file in UTF-8. Keys are those below; a key that is not known is an error that names its line and the
#' nearest known one. Every value is plain text, a number, yes or no, or a list or mapping of these: tags, anchors,
#' aliases and merged mappings are refused, and nothing is evaluated. What is text stays as it is written: a group
#' called `No` or `01` needs no quotes. This is version 1.
#'
#' @name plan_layout
#' @section Top:
#' * `plan: 1`, the version of this layout.
#' * `title`, `author`, `text`: printed on the report.
#' * `declared`: `date` (2026-03-01), `by`, `fingerprint` (that of [read_plan()]).
#' * `departs_from`: the file of the plan declared before; `departures`: reasons, by field (`height.difference.expect:
#'   why`).
#' * `seed`: of what is drawn at random.
#' * `adjust: holm` (or `hochberg`, `benjamini_hochberg`, `bonferroni`): p of the primary tests of all planned
#'   differences adjusted together, over outcomes and comparisons; left out, each comparison is adjusted over its own
#'   outcomes, as [test_difference()] does.
#' * `conventions`: a file of house conventions, or its keys ([read_conventions()]).
#' * `data`, `comparisons`, `outputs`: below.
#' @section Data: A name for each file: `seedlings: seedlings.csv`, or with keys `file`, `decimal_mark`, `thousands`,
#'   `missing`, `encoding`, `sheet` (as in [read_measurements()]), `trust` (`yes` for an .rds file, which can run its
#'   author's code when R reads it) and `fingerprint` (of the bytes: a file that is another one is reported as a
#'   departure). Files are named as seen from the plan.
#' @section Comparisons: A name for each, which becomes part of names of files. Its keys are the arguments of
#'   [versus()] or, with `paired: yes` or a `change`, [versus_paired()]: `outcome`, `by`, `first`, `second`, `change`,
#'   `id`, `counts`, `order`, `dates`, `blocks`, `each`, `rows_in_order`, `groups`
#'   (`[compost, peat]`, or `{compost: 1, peat: 2}`), `unit`, `label`, `missing`, `scale_by`, `claim`, `assigned`.
#'   Published numbers have `n`, `mean`, `sd`, `se`, `lower`, `upper`, `level`, `r`, `mean_change`, `sd_change`,
#'   `se_change` in place of columns. `data` names an entry of `data` (the only one where it is left out), `heading`
#'   the chapter of the report.
#' @section Questions: Under `ask`: `description`, `assumptions`, `effect`, `difference`, `subgroups`, `equivalence`,
#'   `evidence`, `cross_check`, each `yes` or with the arguments of its verb ([describe_study()], [vet_assumptions()],
#'   [gauge_effect()], [test_difference()], [compare_subgroups()], [test_equivalence()], [weigh_evidence()],
#'   [cross_check()]). In place of `method` stand `primary` and `secondary`. A direction (`expect`) and bounds
#'   (`within`) need their `reason`. `ask: [difference, effect]` asks with defaults. `effect` and `cross_check` take
#'   over what `difference` asks.
#' @section Outputs: `report` (html, docx, md, tex), `tables` (csv, html, docx, md, tex, txt), `figures` (png, svg,
#'   pdf): one or a list, or `none`; `parts` of the report ([write_report()]); `columns` and `dpi` of figures.
#' @seealso [read_plan()], [write_plan()], [run_plan()].
#' @examples
#' writeLines(readLines(system.file("examples", "plan.yaml", package = "vandro")))
NULL

plan_layout_version <- 1L

# key = type. Types of single values and lists are below (`plan_readers`); a list is a mapping with keys of its own.
data_fields <- c(
  file = "text", fingerprint = "text", decimal_mark = "text", thousands = "text", missing = "texts", encoding = "text",
  sheet = "sheet", trust = "flag"
)
declaration_fields <- c(
  data = "text", heading = "text", paired = "flag", outcome = "texts", by = "text", first = "texts", second = "texts",
  change = "texts", id = "texts", counts = "text", order = "text", dates = "text", blocks = "text", each = "text",
  rows_in_order = "flag",
  groups = "named_texts", unit = "named_texts", label = "named_texts", missing = "texts", scale_by = "named_numbers",
  claim = "text", assigned = "flag", phrases = "texts",
  n = "numbers", mean = "numbers", sd = "spreads", se = "spreads", lower = "numbers", upper = "numbers",
  level = "number", r = "number", mean_change = "number", sd_change = "number", se_change = "number"
)
# The questions are the places of a report; their keys are the arguments of their verbs.
plan_verbs <- c(
  description = "describe_study", assumptions = "vet_assumptions", effect = "gauge_effect",
  difference = "test_difference", subgroups = "compare_subgroups", equivalence = "test_equivalence",
  evidence = "weigh_evidence",
  cross_check = "cross_check"
)
argument_types <- c(
  set = "text", level = "number", alpha = "number", check_alpha = "number", centre = "text", spread_rule = "number",
  spread_source = "text", limits = "numbers", expect = "text", beyond = "named_numbers", adjust = "text",
  reason = "text", exact = "flag", zeros = "text", statistic = "text", run_length = "run_length", draws = "number",
  seed = "number", max_memory = "number", estimands = "texts", interval = "text", method = "text", size_words = "words",
  size_source = "text", within = "bounds", bounds_in = "text", sd_of = "text", prior_half = "named_numbers",
  prior_location = "named_numbers", prior_df = "number", strength_words = "words", strength_source = "text",
  flagged = "text", simultaneous = "flag", primary = "text", secondary = "texts"
)
# Arguments of the verbs that are no part of what is declared.
not_planned <- c("study", "x", "...", "options", "threads")

one_method_questions <- c("effect", "subgroups")

question_fields <- function(question) {
  verb <- plan_verbs[[question]]
  keys <- names(formals(verb_of(verb)))
  keys <- setdiff(c(keys, names(options_of(verb))), not_planned)
  # The first method of a difference is the primary one; of a plan that is said.
  if ("method" %in% keys && !question %in% one_method_questions) {
    keys <- c("primary", "secondary", setdiff(keys, "method"))
  }
  argument_types[keys]
}

convention_fields <- list(
  conventions = "version", name = "text",
  numbers = c(
    decimals = "number", p_decimals = "number", p_as = "text", leading_zero = "flag", decimal_mark = "text"
  ),
  level = "number", alpha = "number", method = c(independent = "text", paired = "text"),
  checks = c(check_alpha = "number", centre = "text", spread_rule = "number", spread_source = "text"),
  estimands = "texts", size_words = "words", size_source = "text",
  figures = c(base_size = "number", palette = "texts", font = "text", grid = "flag")
)
output_fields <- c(
  report = "texts", tables = "texts", figures = "texts", parts = "texts", columns = "number", dpi = "number"
)
plan_fields <- list(
  plan = "version", title = "text", author = "text",
  declared = c(date = "text", by = "text", fingerprint = "text"),
  departs_from = "text", departures = "reasons", text = "text", seed = "number", adjust = "text",
  conventions = "conventions",
  data = "data", comparisons = "comparisons", outputs = output_fields
)

# Reads a mapping by its fields: unknown keys are errors, values become what is wanted. Order as in the file.
read_fields <- function(value, fields, path, source) {
  if (!is_mapping(value)) {
    what <- if (length(path)) path[[length(path)]] else source$kind
    keys <- cli::cli_vec(names(fields), list("vec-trunc" = 8))
    abort_plan(source, path, c(
      "{.val {what}} must hold keys with values.",
      "x" = "It {written_value(value)}.", "i" = "Keys: {.val {keys}}."
    ))
  }
  refuse_unknown(value, names(fields), path, source)
  lapply(stats::setNames(nm = names(value)), function(key) {
    read_value(value[[key]], fields[[key]], c(path, key), source)
  })
}

refuse_unknown <- function(value, known, path, source) {
  unknown <- setdiff(names(value), known)
  if (length(unknown) == 0) return(invisible())
  key <- unknown[[1]]
  hint <- suggestion(key, known, "Keys here")
  where <- if (length(path)) cli::format_inline(" in {.val {path[[length(path)]]}}") else ""
  abort_plan(source, c(path, key), c("there is no key {.val {key}}{where}.", "i" = "{hint}"), key = key)
}

read_value <- function(value, type, path, source) {
  if (is.list(type) || length(type) > 1) return(read_fields(value, type, path, source))
  plan_readers[[type]](value, path, source)
}

is_mapping <- function(value) is.list(value) && length(value) > 0 && !is.null(names(value))
is_single <- function(value) is.character(value) && length(value) == 1

written_value <- function(value) {
  if (is_mapping(value)) return("holds keys")
  if (is.list(value)) return(if (length(value)) "is a list" else "is empty")
  if (length(value) != 1 || is.na(value)) "has no value" else cli::format_inline("is {.val {value}}")
}

abort_type <- function(value, path, source, wanted, hint = NULL) {
  key <- path[[length(path)]]
  abort_plan(source, path, c("{.val {key}} must be {wanted}.", "x" = "It {written_value(value)}.", "i" = hint))
}

read_single <- function(value, path, source, wanted = "one piece of text") {
  if (!is_single(value)) abort_type(value, path, source, wanted)
  value
}

read_list <- function(value, path, source, wanted = "text, or a list of texts as {.code [a, b]}") {
  if (is_single(value)) return(value)
  plain <- is.list(value) && is.null(names(value)) && length(value) > 0
  if (!plain || !all(vapply(value, is_single, NA))) abort_type(value, path, source, cli::format_inline(wanted))
  unlist(value)
}

read_named <- function(value, path, source, read) {
  if (!is_mapping(value)) return(read(value, path, source))
  out <- lapply(names(value), function(key) read_single(value[[key]], c(path, key), source, "one value"))
  stats::setNames(read(out, path, source), names(value))
}

# `lacking`: NA may stand for a number that there is not.
read_numbers <- function(value, path, source, wanted = "a number, or a list of numbers as {.code [20, 22]}",
                         lacking = FALSE) {
  texts <- read_list(value, path, source, wanted)
  numbers <- plain_numbers(texts)
  odd <- texts[is.na(numbers) & !(lacking & texts == "NA")]
  if (length(odd)) abort_type(odd[[1]], path, source, cli::format_inline(wanted))
  numbers
}

read_one_number <- function(value, path, source) {
  text <- read_single(value, path, source, "a number")
  number <- plain_numbers(text)
  if (is.na(number)) {
    abort_type(text, path, source, "a number", if (grepl("^[0-9]+,[0-9]+$", text)) {
      "Numbers in {.file {source$file}} have a decimal point."
    })
  }
  number
}

# Numbers as they are written in plans and at the command line; NA for all else.
plain_numbers <- function(texts) {
  plain <- grepl("^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$", texts)
  numbers <- rep(NA_real_, length(texts))
  numbers[plain] <- as.numeric(texts[plain])
  numbers[!is.finite(numbers)] <- NA
  numbers
}

plan_readers <- list(
  text = function(value, path, source) read_single(value, path, source),
  texts = function(value, path, source) read_list(value, path, source),
  named_texts = function(value, path, source) read_named(value, path, source, read_list),
  number = read_one_number,
  numbers = function(value, path, source) read_numbers(value, path, source),
  spreads = function(value, path, source) read_numbers(value, path, source, lacking = TRUE),
  named_numbers = function(value, path, source) read_named(value, path, source, read_numbers),
  flag = function(value, path, source) {
    text <- tolower(read_single(value, path, source, "yes or no"))
    if (text %in% c("yes", "true")) return(TRUE)
    if (text %in% c("no", "false")) return(FALSE)
    abort_type(value, path, source, "yes or no")
  },
  sheet = function(value, path, source) {
    text <- read_single(value, path, source, "the name or number of a sheet")
    if (grepl("^[0-9]+$", text)) as.integer(text) else text
  },
  run_length = function(value, path, source) {
    if (identical(value, "estimate")) value else read_one_number(value, path, source)
  },
  # A scheme by its name, or thresholds by their words.
  words = function(value, path, source) {
    if (is_mapping(value)) read_named(value, path, source, read_numbers) else read_single(value, path, source)
  },
  # One number, two, or either of these by outcome.
  bounds = function(value, path, source) {
    wanted <- "one number or two, as {.code 3} or {.code [-2, 3]}, or these by outcome"
    if (!is_mapping(value)) return(read_numbers(value, path, source, wanted))
    lapply(stats::setNames(nm = names(value)), function(key) {
      read_numbers(value[[key]], c(path, key), source, wanted)
    })
  },
  version = function(value, path, source) {
    number <- read_one_number(value, path, source)
    if (number == plan_layout_version) return(number)
    abort_plan(source, path, c(
      "layout {.val {number}} is not known to this version of vandro.",
      "i" = "It knows layout {plan_layout_version}."
    ))
  },
  reasons = function(value, path, source) {
    if (!is_mapping(value)) abort_type(value, path, source, "reasons by field, as {.code height.difference.alpha: why}")
    lapply(stats::setNames(nm = names(value)), function(key) read_single(value[[key]], c(path, key), source))
  },
  conventions = function(value, path, source) {
    if (is_mapping(value)) read_fields(value, convention_fields, path, source) else read_single(value, path, source)
  },
  data = function(value, path, source) {
    read_entries(value, path, source, function(entry, path) {
      if (is_single(entry)) return(list(file = entry))
      read_needed(read_fields(entry, data_fields, path, source), "file", path, source)
    })
  },
  comparisons = function(value, path, source) {
    read_entries(value, path, source, function(entry, path) read_comparison(entry, path, source))
  }
)

# A mapping whose keys the analyst has chosen: they become names of files.
read_entries <- function(value, path, source, read) {
  key <- path[[length(path)]]
  if (!is_mapping(value)) abort_type(value, path, source, "entries, each with a name of its own")
  lapply(stats::setNames(nm = names(value)), function(name) {
    if (!grepl("^[\\p{L}\\p{N}][\\p{L}\\p{N}_-]{0,59}$", enc2utf8(name), perl = TRUE)) {
      abort_plan(source, c(path, name), c(
        "names under {.val {key}} become names of files.",
        "x" = "{.val {name}} holds other signs than letters, digits,
          {.code _} and {.code -}, or is too long.", "i" = "Use {.code heading} for the words of the report."
      ))
    }
    read(value[[name]], c(path, name))
  })
}

read_needed <- function(read, key, path, source) {
  if (!is.null(read[[key]])) return(read)
  name <- if (length(path)) path[[length(path)]] else source$kind
  abort_plan(source, path, c("{.val {name}} needs {.val {key}}.", "i" = "Keys here: {.val {names(read)}}."))
}

# The declaration, and the questions under `ask`.
read_comparison <- function(entry, path, source) {
  read <- read_fields(entry, c(as.list(declaration_fields), list(ask = "ask")), path, source)
  read_needed(read, "ask", path, source)
}

plan_readers$ask <- function(value, path, source) {
  # `ask: [difference, effect]`: each with its defaults.
  if (is_single(value) || (is.list(value) && is.null(names(value)))) {
    names <- read_list(value, path, source)
    value <- stats::setNames(rep(list("yes"), length(names)), names)
  }
  if (!is_mapping(value)) abort_type(value, path, source, "questions, as {.code difference: yes}")
  refuse_unknown(value, names(plan_verbs), path, source)
  lapply(stats::setNames(nm = names(value)), function(question) {
    asked <- value[[question]]
    at <- c(path, question)
    yes <- identical(tolower(asked), "yes")
    if (question == "equivalence" && (yes || (is_mapping(asked) && is.null(asked[["within"]])))) {
      abort_plan(source, at, c("{.val equivalence} needs its bounds: {.val within}, and the {.val reason} for them."))
    }
    if (yes) return(list())
    read <- read_fields(asked, question_fields(question), at, source)
    check_reasoned(read, at, source)
  })
}

# Directions and bounds are declared with their reason, or somebody will have chosen them after looking.
check_reasoned <- function(read, path, source) {
  key <- if ((read$expect %||% "either") != "either") "expect" else if (!is.null(read$within)) "within"
  if (is.null(key) || !is.null(read$reason) || path[[length(path)]] == "cross_check") return(read)
  abort_plan(source, c(path, key), c(
    "{.val {key}} needs a {.val reason} beside it.",
    "i" = "Say why: {.code reason: ...}. Without one, nobody can see that it was not chosen after looking."
  ))
}

# An error of a verb, told with the place in the plan that it belongs to.
at_plan <- function(plan, path, message, code, ...) {
  place <- list2env(list(...), parent = environment())
  rlang::try_fetch(code, vandro_error = function(parent) {
    abort_plan(plan_source(plan), path, paste0(message, "."), parent = parent, .envir = place)
  })
}

plan_source <- function(plan) list(file = plan$file, lines = plan$lines, call = NULL)

# Files are named as seen from the plan.
beside_plan <- function(file, plan) if (is_absolute(file)) file else file.path(dirname(plan), file)

plan_outputs <- function(plan) {
  asked <- plan$fields$outputs
  endings <- function(key, known, default) {
    found <- asked[[key]] %||% default
    if (identical(found, "none")) return(character())
    wrong <- setdiff(found, known)
    if (length(wrong)) {
      hint <- suggestion(wrong[[1]], c(known, "none"))
      abort_plan(plan_source(plan), c("outputs", key), c("{.val {key}} cannot be {.val {wrong[[1]]}}.", "i" = "{hint}"))
    }
    unique(found)
  }
  size <- function(key, default, low, high) {
    at_plan(plan, c("outputs", key), "the size of figures cannot be used", {
      check_whole(asked[[key]] %||% default, low, high, arg = key, call = NULL)
    })
  }
  list(
    report = endings("report", setdiff(report_endings, "htm"), "html"),
    tables = endings("tables", table_endings, c("csv", "html")),
    figures = endings("figures", figure_endings, "png"),
    columns = size("columns", 2, 1, 2), dpi = size("dpi", 300, 30, 2400),
    parts = at_plan(plan, c("outputs", "parts"), "the parts of the report cannot be used", check_parts(asked$parts))
  )
}
