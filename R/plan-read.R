# A plan: what was declared, read from its file and checked, without touching the data.

#' Read a plan
#'
#' Reads and checks a plan without running it, so that it can be declared, printed and registered before there are data.
#'
#' @param file The plan, a YAML file in UTF-8. Layout and keys: [plan_layout].
#' @return A plan (class `vandro_plan`): `fields` (what was declared), `record` (named text, one entry per field),
#'   `fingerprint` (of every field that decides numbers), `file`.
#' @section Errors: `vandro_error_plan` for everything that a plan cannot have, with `file`, `line` and `path`: unknown
#'   or misspelt keys (with a suggestion), keys that stand twice, values of the wrong type, a direction or bounds
#'   without a reason, tags, anchors and aliases. `vandro_error_encoding` for a file that is not UTF-8,
#'   `vandro_error_file` for one that is not there. Nothing in a plan is ever evaluated.
#' @seealso [write_plan()], [run_plan()].
#' @examples
#' read_plan(system.file("examples", "plan.yaml", package = "vandro"))
#' @export
read_plan <- function(file) {
  check_supplied(file)
  source <- read_yaml(file, "a plan", "plan: 1", rlang::current_env())
  plan_of(source$tree, source)
}

# A plan from what stands in its file.
plan_of <- function(tree, source) {
  fields <- read_fields(tree, plan_fields, character(), source)
  read_needed(fields, "plan", character(), source)
  read_needed(fields, "comparisons", character(), source)
  refuse_reserved(names(fields$comparisons), source)
  fields$comparisons <- Map(
    check_comparison, fields$comparisons, names(fields$comparisons),
    MoreArgs = list(fields = fields, source = source)
  )
  check_declared_date(fields$declared$date, source)
  check_adjust(fields, source)
  plan <- list(
    fields = fields, house = plan_house(fields$conventions, source), file = source$file, lines = source$lines,
    tree = tree
  )
  plan$outputs <- plan_outputs(plan)
  plan$record <- plan_record(fields)
  plan$fingerprint <- plan_fingerprint(plan)
  structure(plan, class = "vandro_plan")
}

# The same plan with single fields set to other values, which depart from it. `instead` is named by fields of the
# record.
changed_plan <- function(plan, instead, call) {
  if (is.null(instead)) return(plan)
  if (!is.character(instead) || anyNA(instead) || is.null(names(instead)) || !all(nzchar(names(instead)))) {
    abort_value(
      instead, "instead", "must name fields and their values",
      "instead = c(height.difference.alpha = \"0.01\")", call
    )
  }
  source <- list(file = plan$file, kind = "a plan", example = "", lines = plan$lines, call = NULL)
  changed <- rlang::try_fetch(
    {
      tree <- plan$tree
      for (field in names(instead)) {
        tree <- set_field(
          tree, long_path(field, tree),
          written_tree(instead[[field]], source)
        )
      }
      plan_of(tree, source)
    },
    vandro_error_plan = function(parent) {
      abort_vandro("The plan cannot be changed so: {.val {names(instead)}}.", "plan", parent = parent, call = call)
    }
  )
  changed$base <- plan
  changed$instead <- instead
  changed
}

written_tree <- function(text, source) {
  lines <- paste("value:", text)
  refuse_extras(without_texts(lines, "x"), source)
  parse_yaml(lines, source)$value
}

# height.difference.alpha is comparisons, height, ask, difference, alpha in the file.
long_path <- function(field, tree) {
  path <- strsplit(field, ".", fixed = TRUE)[[1]]
  if (!path[[1]] %in% names(tree$comparisons)) return(path)
  asks <- length(path) > 1 && path[[2]] %in% names(plan_verbs)
  c("comparisons", path[[1]], if (asks) "ask", path[-1])
}

set_field <- function(tree, path, value) {
  if (length(path) == 0) return(value)
  # A question with its defaults, or a list of such, gets keys of its own.
  if (is.list(tree) && length(tree) && is.null(names(tree))) {
    tree <- stats::setNames(rep(list("yes"), length(tree)), unlist(tree))
  }
  if (!is.list(tree)) tree <- list()
  tree[[path[[1]]]] <- set_field(tree[[path[[1]]]], path[-1], value)
  tree
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
        "{.val {refused[[1]]}} is of measurements, {.val n} of published numbers.",
        "i" = "Keep one of them."
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
    "a comparison cannot be called {.val {taken[[1]]}}, as a part of the plan is.",
    "i" = "Give it another name."
  ))
}

# One family, or one for each comparison.
check_adjust <- function(fields, source) {
  adjust <- fields$adjust
  if (is.null(adjust)) return(invisible())
  ways <- setdiff(adjust_ways, joint_ways)
  if (!adjust %in% ways) {
    abort_plan(source, "adjust", c("{.val adjust} must be one of {.val {ways}}.", "x" = "It is {.val {adjust}}."))
  }
  own <- Filter(function(name) !is.null(fields$comparisons[[name]]$ask$difference$adjust), names(fields$comparisons))
  if (length(own) == 0) return(invisible())
  abort_plan(source, c("comparisons", own[[1]], "ask", "difference", "adjust"), c(
    "{.val adjust} is set for the whole plan already.",
    "i" = "Keep one of the two."
  ))
}

check_declared_date <- function(date, source) {
  if (is.null(date) || grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", date) && !is.na(as.Date(date, optional = TRUE))) {
    return(invisible())
  }
  abort_plan(source, c("declared", "date"), c(
    "{.val date} must be a day as {.code 2026-03-01}.",
    "x" = "It is {.val {date}}."
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
  check_supplied(file)
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
    rest$estimands <- unlist(rest$estimands)
    rest$name <- rest$name %||% if (length(path)) "conventions of the plan" else basename(source$file)
    do.call(house_conventions, c(list(style = style), rest))
  })
}
