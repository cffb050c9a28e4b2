# The study: what is compared with what, in which direction, and on which numbers.
#
# A list with
#   design     "independent" or "paired"
#   source     "values", "summary", "database" (sums of a table that stays where it is, see study-database.R), or
#              without data "supposed" (a world, see study-world.R) or "printed" (numbers that are audited, see
#              verb-audit.R)
#   groups     the two labels, first minus second
#   made_up    the seed of data that are made up, as text; else NULL
#   announced  TRUE when the direction was not given and had to be announced
#   outcomes   a list with one record per outcome, see new_outcome()
#   left_out   data frame: outcome, reason, group, n; a row for every reason, also where n is 0
#   notes      what the reader of any result should know about the declaration
#   claim      "different" or "same", where it was said what is to be supported
#   assigned   TRUE or FALSE, where it is known whether chance assigned the units
#   phrases    the groups inside a sentence ("on compost"), where the analyst gave them
#   declared   the declaration as R code
#   earlier    which of the two occasions of pairs comes first in time, by the order of columns, levels or codes
#   read       file and options with which read_measurements() read the data
#   each       name and labels of the subgroups within which the comparison is made; records then have a `subgroup`
#   rows       list of per-row vectors that came along: order, blocks, id (each a list of name, values)

new_study <- function(design, source, groups, outcomes, left_out, notes = character(),
                      announced = FALSE, rows = list()) {
  study <- list(
    design = design, source = source, groups = groups, announced = announced,
    outcomes = outcomes, left_out = left_out, notes = as.character(notes), rows = rows
  )
  class(study) <- "vandro_study"
  with_sheet(study)
}

# One outcome. `moments`: a list per group (see core-moments.R), for pairs a third one of the changes.
# `data`: the numbers as they came, never copied where that can be avoided, by `kind`:
#   long     values, codes, code_of (the codes of first and second)
#   counted  the same and counts
#   columns  parts: two vectors of any lengths
#   pairs    parts: two vectors, element by element
#   changes  values
#   summary  nothing
#   database what it takes to ask for more
# `pairs`: for pairs r, up, down, same.
new_outcome <- function(name, label, unit, moments, data, pairs = NULL) {
  label <- printable(if (is.null(label) || !nzchar(label)) trimws(name) else label)
  if (!is.null(unit)) unit <- printable(unit)
  for (m in moments) if (!isTRUE(m$n == 0)) check_magnitude(c(m$base, m$sd, m$min, m$max), label)
  list(name = name, label = label, unit = unit, moments = moments, data = data, pairs = pairs)
}

# Beyond this the limits of intervals may leave the range of a double.
largest_magnitude <- 1e302

check_magnitude <- function(numbers, label) {
  if (!isTRUE(any(abs(numbers) > largest_magnitude))) return(invisible())
  largest <- format_plain(max(abs(numbers), na.rm = TRUE), digits = 3)
  abort_vandro(
    c(
      "The numbers of {.val {label}} are too large to compute with.",
      "x" = "The largest, or their spread, is {largest}; up to {largest_magnitude} they can be compared.",
      "i" = "Change the unit of the outcome; where measurements are declared, by {.arg scale_by}."
    ),
    "out_of_range",
    outcome = label, call = NULL
  )
}

# The moments of all outcomes as vectors, their names and subgroups: made once for a study of many. It hangs on the list
# of outcomes itself, so that any other list of outcomes is without it.
with_sheet <- function(study) {
  if (length(study$outcomes) > 50) attr(study$outcomes, "sheet") <- make_sheet(study$outcomes)
  study
}

outcome_sheet <- function(outcomes) attr(outcomes, "sheet", exact = TRUE) %||% make_sheet(outcomes)

make_sheet <- function(outcomes) {
  list(
    moments = core_join_moments(lapply(outcomes, `[[`, "moments")), names = vapply(outcomes, `[[`, "", "name"),
    subgroups = if (!is.null(outcomes[[1]]$subgroup)) vapply(outcomes, `[[`, "", "subgroup"),
    incomparable = !vapply(outcomes, function(outcome) is.null(outcome$incomparable), NA)
  )
}

# An answer stands for the study it is about.
asked_study <- function(study, call) {
  check_supplied(study, call = call)
  if (inherits(study, "vandro_answer")) study$study else study
}

check_study <- function(study, call = rlang::caller_env()) {
  check_supplied(study, call = call)
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

# The label without its subgroup.
outcome_name <- function(outcome) outcome$plain_label %||% outcome$label

# "Height (cm)"
outcome_title_plain <- function(outcome) {
  label <- outcome_name(outcome)
  if (is.null(outcome$unit)) label else sprintf("%s (%s)", label, outcome$unit)
}

# "Height (cm) (bench north)", for axes and titles.
outcome_title <- function(outcome) {
  title <- outcome_title_plain(outcome)
  if (is.null(outcome$subgroup)) return(title)
  paste0(title, substring(outcome$label, nchar(outcome_name(outcome)) + 1))
}

outcome_sizes <- function(outcome) vapply(outcome$moments[1:2], `[[`, 0, "n")

# One outcome of a study by name, for figures; the first one when none is named.
pick_outcome <- function(study, name, call = rlang::caller_env()) {
  # Reports hand on the record itself.
  if (is.list(name)) return(name)
  # Of a subgroup the name is that of outcome and subgroup: "height: north".
  names <- vapply(study$outcomes, record_name, "")
  if (is.null(name)) {
    if (length(names) > 1) {
      inform_vandro(
        c("i" = "The figure shows {.val {names[[1]]}}. Use {.arg outcome} to choose {.or {.val {names[-1]}}}."),
        "shown",
        outcome = names[[1]]
      )
    }
    return(study$outcomes[[1]])
  }
  study$outcomes[[match(check_choice(name, names, arg = "outcome", call = call), names)]]
}

record_name <- function(outcome) {
  if (is.null(outcome$subgroup)) outcome$name else paste0(outcome$name, ": ", outcome$subgroup)
}

# The same study with one of its outcomes.
one_outcome <- function(study, outcome) {
  study$outcomes <- list(outcome)
  if (!is.null(study$left_out)) study$left_out <- study$left_out[is_row_of(study$left_out, outcome), ]
  study
}

# The known values of one group (pairs: of the complete ones; 3: the changes), in row order.
outcome_group_values <- function(outcome, which) {
  data <- outcome$data
  if (data$kind == "pairs") return(complete_pairs(data)[[which]])
  values <- switch(data$kind,
    long = data$values[which(data$codes == data$code_of[[which]])],
    counted = {
      used <- which(data$codes == data$code_of[[which]])
      expanded(data$values[used], data$counts[used])
    },
    columns = data$parts[[which]],
    changes = if (which == 3) data$values
  )
  as.double(values[!is.na(values)])
}

# Rows of the known values of one group, in row order (pairs: of the complete ones).
known_rows <- function(outcome, which) {
  data <- outcome$data
  rows <- switch(data$kind,
    long = which(data$codes == data$code_of[[which]] & !is.na(data$values)),
    counted = {
      used <- which(data$codes == data$code_of[[which]] & !is.na(data$values))
      expanded(used, data$counts[used])
    },
    columns = which(!is.na(data$parts[[which]])),
    pairs = which(!is.na(data$parts[[1]]) & !is.na(data$parts[[2]])),
    changes = which(!is.na(data$values))
  )
  # Of a subgroup: the rows of the whole data.
  if (is.null(data$rows)) rows else data$rows[rows]
}

# The declared id of each known value, else its row number.
value_labels <- function(study, outcome, which) {
  at <- known_rows(outcome, which)
  if (is.null(study$rows$id)) as.character(at) else printable(group_text(study$rows$id$values[at]))
}

# Known values of one group in the order declared.
ordered_values <- function(study, outcome, which) {
  outcome_group_values(outcome, which)[order(study$rows$order$values[known_rows(outcome, which)])]
}

complete_pairs <- function(data) {
  whole <- !is.na(data$parts[[1]]) & !is.na(data$parts[[2]])
  first <- data$parts[[1]][whole]
  second <- data$parts[[2]][whole]
  list(first, second, first - second)
}

# A short name for exactly these numbers, these groups and this direction: two runs on the same data
# carry the same one. Hashes chunks, so that a long outcome is not doubled in memory.
study_fingerprint <- function(study) {
  parts <- lapply(study$outcomes, function(outcome) {
    if (study$source %in% c("summary", "supposed", "printed", "database")) {
      keep <- c("n", "mean", "sd")
      return(hash_numbers(unlist(lapply(outcome$moments, `[`, keep), use.names = FALSE)))
    }
    data <- outcome$data
    if (data$kind == "counted" && sum(data$counts) > most_expanded) {
      return(hash_numbers(c(data$values, data$counts, match(data$codes, data$code_of))))
    }
    groups <- if (data$kind == "changes") 3 else 1:2
    lapply(groups, function(which) hash_numbers(outcome_group_values(outcome, which)))
  })
  text <- c(unlist(parts), study$groups, vapply(study$outcomes, record_name, ""))
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
#' @param x A study, for example from [versus()].
#' @param row.names,optional Ignored.
#' @param ... Not used.
#' @return From independent values: one row per compared measurement with the columns `outcome`, `group`
#'   and `value`, in the order of the groups and then of the rows. From pairs: one row per complete pair
#'   with `outcome`, `first`, `second` and `change` (only `change` where only changes were given). From
#'   published numbers: one row per group with `outcome`, `group`, `n`, `mean` and `sd`.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' head(as.data.frame(study))
#' @export
as.data.frame.vandro_study <- function(x, row.names = NULL, optional = FALSE, ...) {
  per_outcome <- lapply(x$outcomes, function(outcome) {
    if (!has_values(x)) return(summary_frame(x, outcome))
    if (is_paired(x)) return(pair_frame(outcome))
    values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
    data.frame(
      lapply(record_cells(outcome), rep, length(unlist(values))),
      group = rep(x$groups, lengths(values)), value = unlist(values)
    )
  })
  do.call(rbind, per_outcome)
}

summary_frame <- function(study, outcome) {
  pick <- function(what) vapply(outcome$moments, `[[`, 0, what)
  groups <- c(study$groups, if (is_paired(study)) study_direction(study))
  data.frame(
    record_cells(outcome), group = groups, n = pick("n"), mean = pick("mean"), sd = pick("sd")
  )
}

pair_frame <- function(outcome) {
  if (outcome$data$kind == "changes") {
    change <- outcome_group_values(outcome, 3)
    return(data.frame(lapply(record_cells(outcome), rep, length(change)), change = change))
  }
  whole <- complete_pairs(outcome$data)
  data.frame(
    lapply(record_cells(outcome), rep, length(whole[[1]])), first = whole[[1]], second = whole[[2]],
    change = whole[[3]]
  )
}

check_claim <- function(claim, call) {
  if (is.null(claim)) return(NULL)
  check_choice(claim, c("different", "same"), arg = "claim", call = call)
}

# How the groups are named after "higher" and "than": "on compost", "at noon".
check_phrases <- function(phrases, groups, call) {
  if (is.null(phrases)) return(NULL)
  whole <- is.character(phrases) && length(phrases) == 2 && !anyNA(phrases) && all(nzchar(phrases))
  # Names, if there are any, are the groups'.
  at <- if (is.null(names(phrases))) 1:2 else match(groups, names(phrases))
  if (!whole || anyNA(at)) {
    example <- sprintf("phrases = c(\"on %s\", \"on %s\")", groups[[1]], groups[[2]])
    abort_value(phrases, "phrases", "must be two texts, one for each group", example, call)
  }
  printable(unname(phrases[at]))
}

# A group inside a sentence: the analyst's phrase, or "in the compost group", for pairs "in the noon measurements".
at_group <- function(study, which) {
  if (!is.null(study$phrases)) return(study$phrases[[which]])
  label <- study$groups[[which]]
  if (study$design == "paired") {
    return(if (label %in% c("before", "after")) label else sprintf("in the %s measurements", label))
  }
  sprintf(if (grepl("group$", label)) "in the %s" else "in the %s group", label)
}

check_assigned <- function(assigned, call) {
  if (is.null(assigned)) NULL else check_flag(assigned, arg = "assigned", call = call)
}
