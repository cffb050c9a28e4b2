# The study: what is compared with what, in which direction, and on which numbers.
#
# A list with
#   design     "independent"
#   source     "values" or "summary"
#   groups     the two labels, first minus second
#   announced  TRUE when the direction was not given and had to be announced
#   outcomes   a list with one record per outcome: name, label, unit, moments (one list per group, see
#              core-moments.R) and, from values, `values`, `codes` and the pair `code_of`: the rows as
#              they came, never copied
#   left_out   data frame: outcome, reason, group, n; a row for every reason, also where n is 0

new_study <- function(source, groups, outcomes, left_out, announced = FALSE) {
  structure(
    list(
      design = "independent", source = source, groups = groups, announced = announced,
      outcomes = outcomes, left_out = left_out
    ),
    class = "vandro_study"
  )
}

new_outcome <- function(name, label, unit, moments, values = NULL, codes = NULL, code_of = NULL) {
  list(
    name = name, label = label %||% name, unit = unit, moments = moments,
    values = values, codes = codes, code_of = code_of
  )
}

# A data frame from a list of columns of equal length; data.frame() would cost more than the
# statistics.
lean_table <- function(columns) {
  structure(columns, row.names = .set_row_names(length(columns[[1]])), class = "data.frame")
}

check_study <- function(study, call = rlang::caller_env()) {
  if (inherits(study, "vandro_study")) return(invisible(study))
  hint <- if (is.data.frame(study)) {
    "Declare what is compared first: {.code versus(data, outcome, by)}."
  } else {
    "Make one with {.fn versus} or {.fn versus_summary}."
  }
  found <- class(study)[[1]]
  abort_vandro(
    c("{.arg study} must be a declared comparison.", "x" = "It is of type {.cls {found}}.", "i" = hint),
    "not_a_study",
    call = call
  )
}

# "compost minus peat": the one wording of the direction.
study_direction <- function(study) paste(study$groups[[1]], "minus", study$groups[[2]])

# "Height (cm)", for axes and titles.
outcome_title <- function(outcome) {
  if (is.null(outcome$unit)) outcome$label else sprintf("%s (%s)", outcome$label, outcome$unit)
}

outcome_sizes <- function(outcome) vapply(outcome$moments, `[[`, 0, "n")

# The known values of one group, in row order.
outcome_group_values <- function(outcome, which) {
  used <- outcome$codes == outcome$code_of[[which]]
  values <- outcome$values[which(used)]
  as.double(values[!is.na(values)])
}

# A short name for exactly these numbers, these groups and this direction: two runs on the same data
# carry the same one. Hashes chunks, so that a long outcome is not doubled in memory.
study_fingerprint <- function(study) {
  parts <- lapply(study$outcomes, function(outcome) {
    if (study$source == "summary") {
      keep <- c("n", "mean", "sd")
      hash_numbers(unlist(lapply(outcome$moments, `[`, keep), use.names = FALSE))
    } else {
      lapply(1:2, function(which) hash_numbers(outcome_group_values(outcome, which)))
    }
  })
  text <- c(unlist(parts), study$groups, vapply(study$outcomes, `[[`, "", "name"))
  substr(cli::hash_md5(paste(enc2utf8(text), collapse = "\n")), 1, 12)
}

hash_numbers <- function(x, chunk = 1e6) {
  starts <- seq(1, max(1, length(x)), by = chunk)
  pieces <- vapply(starts, function(from) {
    part <- as.double(x[seq_len(min(chunk, length(x) - from + 1)) + from - 1])
    # paste() reads every number as R's shortest 15 digits would; bytes keep all of them.
    cli::hash_raw_md5(writeBin(part, raw(), endian = "little"))
  }, "")
  paste(pieces, collapse = "")
}

#' A study as a data frame
#'
#' The measurements a study compares, or the published numbers it was declared from.
#'
#' @param x A study from [versus()] or [versus_summary()].
#' @param row.names,optional Ignored.
#' @param ... Not used.
#' @return From values: one row per compared measurement with the columns `outcome`, `group` and
#'   `value`, in the order of the groups and then of the rows. From published numbers: one row per
#'   group with `outcome`, `group`, `n`, `mean` and `sd`.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' head(as.data.frame(study))
#' @export
as.data.frame.vandro_study <- function(x, row.names = NULL, optional = FALSE, ...) {
  per_outcome <- lapply(x$outcomes, function(outcome) {
    if (x$source == "summary") {
      pick <- function(what) vapply(outcome$moments, `[[`, 0, what)
      return(data.frame(
        outcome = outcome$name, group = x$groups, n = pick("n"), mean = pick("mean"), sd = pick("sd")
      ))
    }
    values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
    data.frame(
      outcome = rep(outcome$name, length(unlist(values))),
      group = rep(x$groups, lengths(values)), value = unlist(values)
    )
  })
  do.call(rbind, per_outcome)
}
