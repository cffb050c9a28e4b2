# A plan: what was declared, read from its file and checked, without touching the data.

#' Read a plan
#'
#' Reads and checks a plan without running it, so that it can be declared, printed and registered before there are data.
#'
#' @param file The plan, a YAML file in UTF-8. Layout and keys: [plan_layout].
#' @return A plan (class `vandro_plan`): `fields` (what was declared), `record` (named text, one entry per field),
#'   `fingerprint` (of every field that decides numbers), `file`.
#' @section Errors: `vandro_error_plan` for everything that a plan cannot have, with `file`, `line` and `path`:
#'   unknown or misspelt keys (with a suggestion), keys that stand twice, values of the wrong type, a direction or bounds
#'   without a reason, tags, anchors and aliases. `vandro_error_encoding` for a file that is not UTF-8,
#'   `vandro_error_file` for one that is not there. Nothing in a plan is ever evaluated.
#' @seealso [write_plan()], [run_plan()].
#' @examples
#' read_plan(system.file("examples", "plan.yaml", package = "vandro"))
#' @export
read_plan <- function(file) {
  call <- rlang::current_env()
  source <- read_yaml(file, "a plan", "plan: 1", call)
  fields <- read_fields(source$tree, plan_fields, character(), source)
  read_needed(fields, "plan", character(), source)
  read_needed(fields, "comparisons", character(), source)
  refuse_reserved(names(fields$comparisons), source)
  fields$comparisons <- Map(
    check_comparison, fields$comparisons, names(fields$comparisons), MoreArgs = list(fields = fields, source = source)
  )
  check_declared_date(fields$declared$date, source)
  house <- plan_house(fields$conventions, source)
  plan <- list(fields = fields, house = house, file = file, lines = source$lines)
  plan$record <- plan_record(fields)
  plan$fingerprint <- plan_fingerprint(plan)
  structure(plan, class = "vandro_plan")
}

# Where a comparison gets its numbers from: a file that is named under `data`, or numbers of its own.
check_comparison <- function(comparison, name, fields, source) {
  path <- c("comparisons", name)
  summary <- !is.null(comparison$n)
  known <- names(fields$data)
  if (summary) {
    refused <- intersect(names(comparison), c("data", "by", "first", "second", "change", "id", "counts", "missing"))
    if (length(refused)) {
      abort_plan(source, c(path, refused[[1]]), c(
        "{.val {refused[[1]]}} is of measurements, {.val n} of published numbers.", "i" = "Keep one of them."
      ))
    }
    return(comparison)
  }
  if (length(known) == 0) {
    abort_plan(source, path, c(
      "{.val {name}} has neither data nor published numbers.",
      "i" = "Name a file under {.code data}, or give {.code n}, {.code mean} and {.code sd}."
    ))
  }
  if (is.null(comparison$data) && length(known) == 1) comparison$data <- known
  if (is.null(comparison$data)) read_needed(comparison, "data", path, source)
  if (!comparison$data %in% known) {
    hint <- suggestion(comparison$data, known, "There")
    abort_plan(source, c(path, "data"), c("there is no {.val {comparison$data}} under {.code data}.", "i" = "{hint}"))
  }
  columns <- intersect(c("outcome", "first", "second", "change"), names(comparison))
  if (length(columns) == 0) {
    abort_plan(source, path, c(
      "{.val {name}} does not say which columns are compared.",
      "i" = "{.code outcome} and {.code by}, or {.code first} and {.code second}, or {.code change}."
    ))
  }
  comparison
}

# Names of the record's other parts.
refuse_reserved <- function(names, source) {
  taken <- intersect(names, c(setdiff(names(plan_fields), "comparisons")))
  if (length(taken) == 0) return(invisible())
  abort_plan(source, c("comparisons", taken[[1]]), c(
    "a comparison cannot be called {.val {taken[[1]]}}, as a part of the plan is.", "i" = "Give it another name."
  ))
}

check_declared_date <- function(date, source) {
  if (is.null(date) || grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", date) && !is.na(as.Date(date, optional = TRUE))) {
    return(invisible())
  }
  abort_plan(source, c("declared", "date"), c(
    "{.val date} must be a day as {.code 2026-03-01}.", "x" = "It is {.val {date}}."
  ))
}

# Conventions in the plan itself, or in a file beside it.
plan_house <- function(conventions, source) {
  if (is.null(conventions)) return(NULL)
  if (is.character(conventions)) {
    file <- beside_plan(conventions, source$file)
    if (!file.exists(file)) {
      abort_plan(source, "conventions", c("the file of conventions {.file {file}} is not there."))
    }
    return(read_conventions(file))
  }
  house_of(conventions, "conventions", source)
}

# Files are named as seen from the plan.
beside_plan <- function(file, plan) if (is_absolute(file)) file else file.path(dirname(plan), file)
is_absolute <- function(file) grepl("^(/|~|[A-Za-z]:[\\\\/])", file)

#' Read house conventions from a file
#'
#' The same as [house_conventions()], as a YAML file that a group can share. Keys: `conventions: 1` (the layout's
#' version), `name`, `numbers` (`decimals`, `p_decimals`, `p_as`, `leading_zero`, `decimal_mark`), `level`, `alpha`,
#' `method` (`independent`, `paired`), `checks` (`check_alpha`, `centre`, `spread_rule`, `spread_source`), `size_words`
#' (a scheme, or words with the thresholds where they begin), `size_source`, `figures` (`base_size`, `palette`, `font`,
#' `grid`).
#'
#' @param file The file, in UTF-8.
#' @return Conventions (class `vandro_conventions`).
#' @section Errors: `vandro_error_plan` with `file` and `line`, those of [house_conventions()].
#' @examples
#' read_conventions(system.file("examples", "house.yaml", package = "vandro"))
#' @export
read_conventions <- function(file) {
  source <- read_yaml(file, "conventions", "conventions: 1", rlang::current_env())
  fields <- read_fields(source$tree, convention_fields, character(), source)
  read_needed(fields, "conventions", character(), source)
  house_of(fields, character(), source)
}

house_of <- function(fields, path, source) {
  at_fault <- function(code) {
    rlang::try_fetch(code, vandro_error = function(parent) {
      abort_plan(source, path, c("the conventions cannot be used."), parent = parent)
    })
  }
  at_fault({
    style <- if (!is.null(fields$numbers)) do.call(number_style, fields$numbers)
    rest <- fields[setdiff(names(fields), c("conventions", "numbers"))]
    rest$method <- unlist(rest$method)
    rest$name <- rest$name %||% if (length(path)) "conventions of the plan" else basename(source$file)
    do.call(house_conventions, c(list(style = style), rest))
  })
}
