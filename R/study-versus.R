#' Declare a comparison of two independent groups
#'
#' Says once what is compared with what. Everything computed from the study follows the same
#' direction, *first group minus second group*, and prints it.
#'
#' @param data A data frame: long (one row per measurement), wide (one column per group), or with a
#'   column of counts. It is never changed. A table of a database (of package dbplyr) stays there, see section
#'   Databases. Left out, `first` and `second` are plain vectors.
#' @param outcome The column of measurements: a bare name, a string, or `.data[["name"]]`. Several at
#'   once: `c(height, dry_mass)` or tidyselect's helpers; all verbs then give a row for each. `NA`, `NaN`
#'   and blanks are missing.
#' @param by The column that tells the groups apart: labels, a factor, or codes.
#' @param groups Which two groups, first minus second: `c("compost", "peat")`. Codes get labels by
#'   name: `c(compost = 1, peat = 2)`. Left out, the levels of a factor are taken in their order and
#'   other values as they first appear, and a message says which direction that is; with more than two
#'   groups it must be given. For two columns or vectors: their labels, in the order first, second.
#' @param unit Unit of the outcome, carried to every table, axis and sentence: `"cm"`. For several
#'   outcomes one for all, or by name: `c(height = "cm", dry_mass = "g")`.
#' @param label Name of the outcome as it should read: `"Stem height"`. Default: the column's name.
#' @param order Column by which the rows are ordered in time or space: numbers, dates or times. Text is accepted if it
#'   can be read in one way only: `"2026-03-31 14:05"`, `"31/03/2026"`, `"31 March 2026"`, `"14:05"`, `"2026-W13"`.
#' @param dates Which number of dates such as `"03/04/2026"` comes first, `"day_month"` or `"month_day"`. If `NULL` (the
#'   default), such dates are accepted only where one of them settles it. Dates with points have the day first.
#' @param blocks Column of blocks within which the groups were assigned.
#' @param ... Must be empty.
#' @param first,second Two columns (with `data`) or two vectors (without), one per group. In columns
#'   trailing blanks are padding; blanks in the middle are missing cases.
#' @param id Column that names the unit a row belongs to. Units that occur in both groups are noted.
#' @param counts Column with the number of times each row occurs (frequency data). The results are those
#'   of the expanded data, to the last digit, without expanding them.
#' @param missing Values that stand for a missing one, in the outcome or the groups:
#'   `c(-99, "n/a")`. They are counted by group and value.
#' @param scale_by Factor by which the outcome is multiplied, to change its unit:
#'   `scale_by = 0.01, unit = "m"`.
#' @param claim What is to be supported, where that is settled: `"different"` or `"same"`. A test of a difference cannot
#'   support sameness, and says so to a study that claims it; [test_equivalence()] can.
#' @param phrases Two texts that name the groups inside a sentence, in the order of `groups`: `c("on compost", "on
#'   peat")` or `c("at noon", "at dawn")`. If `NULL` (the default), sentences say "in the compost group".
#' @param assigned Whether chance assigned the units to the groups (of pairs: the order of the two measurements), where
#'   that is known. Only with `TRUE` is a difference told in words of cause, see [narrate()].
#' @param each Column of subgroups (site, period): the same comparison within each of them. All verbs then give a row
#'   for every outcome and subgroup; [compare_subgroups()] tests whether the differences differ.
#' @return A study (class `vandro_study`) to be given to [describe_study()], [test_difference()],
#'   [gauge_effect()], [narrate()], [write_report()] or `plot()`. Printing it shows the direction,
#'   the number of values per group and everything that was left out.
#' @section Missing values: Rows without an outcome or without a group, and rows of other groups, are
#'   left out, counted by reason, and printed with every result.
#' @section Classes of columns: The study is the same whatever class the columns have. `NA` among the levels of a factor
#'   is a missing value. 64-bit integers keep all their digits as groups, subgroups and keys. Values that a labelled
#'   column declares missing are missing, and counted. Durations (`difftime`) are converted to the unit of the first
#'   column, and the unit comes along. The columns of a data.table are copied, so that changing it in place leaves the
#'   study as it was.
#' @section Notes: Group labels that differ only in case or blanks, units in both groups, and two samples
#'   of equal size whose rows go together (correlation at least 0.5, p at most 0.001) are noted in a
#'   message and with the study: they may be pairs, see [versus_paired()]. Nothing is changed for it.
#'   Of several outcomes or subgroups, one in which a group has no values is kept and noted; answers then have a row for
#'   it that says why there is no result.
#' @section Errors: All errors have the class `vandro_error` and a class of their own:
#'   `vandro_error_missing_column`, `vandro_error_duplicate_columns`, `vandro_error_empty_data`,
#'   `vandro_error_not_numeric` (with the first row and value that is no number), `vandro_error_column_type` (a matrix
#'   or a list where one value a row is meant), `vandro_error_encoding` (bytes that are no text in UTF-8),
#'   `vandro_error_infinite`, `vandro_error_one_group`, `vandro_error_many_groups`,
#'   `vandro_error_unknown_group`, `vandro_error_bad_groups`, `vandro_error_codes` (codes or keys that print alike, or
#'   that a double cannot tell apart), `vandro_error_units_differ`, `vandro_error_all_missing`,
#'   `vandro_error_bad_counts`, `vandro_error_order`. Of a database also `vandro_error_connection_lost`,
#'   `vandro_error_engine` (names what the engine could not compute), `vandro_error_table_changed`,
#'   `vandro_error_needs_values`.
#' @section Databases: A lazy table, such as `dplyr::tbl(connection, "seedlings")`, is summed by its own engine: one
#'   query for the groups and all outcomes, with sums about a shift near the mean, and a second one only where that
#'   shift was too far from a group's mean to keep the digits. Quartiles, ranks, ties and products of neighbours (with
#'   `order`) are asked for when a verb needs them. Only reading queries are sent and only aggregates come back. `NULL`
#'   and NaN are missing and counted. What needs single values (permutation, bootstrap, exact ranks, shifts, figures of
#'   points) says so; [take_sample()] fetches a random sample of the rows. Left out `groups` are taken in alphabetical
#'   order. See `vignette("databases")`.
#' @section Dependencies: Means and spreads are computed here, in one pass (Chan, Golub & LeVeque 1983;
#'   Pebay 2008), relative to the first value of each group, so that an offset of 1e9 costs no digits.
#' @references Chan, T. F., Golub, G. H. & LeVeque, R. J. (1983). Algorithms for computing the sample
#'   variance. *The American Statistician* 37, 242-247.
#'
#'   Pebay, P. (2008). Formulas for robust, one-pass parallel computation of covariances and
#'   arbitrary-order statistical moments. Sandia Report SAND2008-6212.
#' @seealso [versus_paired()] for two measurements of the same units; [versus_summary()] for published
#'   n, mean and SD; [read_measurements()] for files.
#' @examples
#' versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#'
#' # Codes get their labels here; several outcomes at once
#' versus(seedlings, c(height, dry_mass),
#'   by = substrate_code, groups = c(compost = 1, peat = 2),
#'   unit = c(height = "cm", dry_mass = "g")
#' )
#'
#' # Two vectors; a column of counts
#' versus(first = c(21.5, 23.1, 19.8), second = c(18.2, 17.5), groups = c("compost", "peat"))
#' versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
#' @export
versus <- function(data, outcome, by, groups = NULL, unit = NULL, label = NULL, order = NULL,
                   blocks = NULL, ..., first, second, id = NULL, counts = NULL, missing = NULL,
                   scale_by = 1, claim = NULL, assigned = NULL, each = NULL, phrases = NULL, dates = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  columns <- list(
    outcome = rlang::enquo(outcome), by = rlang::enquo(by), first = rlang::enquo(first),
    second = rlang::enquo(second), order = rlang::enquo(order), blocks = rlang::enquo(blocks),
    id = rlang::enquo(id), counts = rlang::enquo(counts), each = rlang::enquo(each)
  )
  options <- list(
    groups = groups, unit = unit, label = label, missing = check_missing_codes(missing, call),
    scale_by = check_scale(scale_by, call), dates = check_dates(dates, call)
  )
  study <- if (base::missing(data)) {
    versus_vectors(columns, options, call)
  } else if (is_lazy_table(data)) {
    versus_database(data, columns, options, call)
  } else if (is_given(columns$first) || is_given(columns$second)) {
    versus_columns(own_data(check_data_frame(data)), columns, options, call)
  } else {
    versus_long(own_data(check_data_frame(data)), columns, options, call)
  }
  study$claim <- check_claim(claim, call)
  study$assigned <- check_assigned(assigned, call)
  study$phrases <- check_phrases(phrases, study$groups, call)
  study$declared <- declared_call("versus", call)
  if (!base::missing(data)) study$read <- attr(data, "vandro_read")
  announce_direction(study)
  announce_notes(study$notes)
  study
}

# Returns R code that leaves one row for each unit.
averaging_code <- function(outcomes, id, by) {
  if (is.null(id)) return(NULL)
  left <- code_names(outcomes)
  if (length(left) > 1) left <- sprintf("cbind(%s)", toString(left))
  sprintf("aggregate(%s ~ %s + %s, data, mean)", left, code_names(id$name), code_names(by))
}

check_scale <- function(scale_by, call) {
  if (identical(scale_by, 1)) return(1)
  scale_by <- check_number(scale_by, call = call)
  if (scale_by != 0) return(scale_by)
  abort_vandro(
    c("{.arg scale_by} must not be 0.", "i" = "It multiplies the outcome to change its unit."),
    "bad_value",
    arg = "scale_by", value = scale_by, call = call
  )
}

# --- long data --------------------------------------------------------------------------------------

versus_long <- function(data, columns, options, call) {
  names <- column_names(columns$outcome, data, "outcome", call)
  by <- column_name(columns$by, data, "by", call)
  if (by %in% names) abort_same_column(by, c("outcome", "by"), call)
  role <- function(name) optional_column(columns[[name]], data, name, call)
  rows <- list(order = check_order(role("order"), options$dates, call), blocks = role("blocks"), id = role("id"))
  # A row that stands for many has no place of its own in an order.
  if (is_given(columns$counts)) refuse_roles(columns, c("order", "blocks", "id"), "counts", call)
  times <- check_counts(role("counts"), call)
  labels_of_rows <- clean_groups(data[[by]], by, options$missing, call)
  grouping <- resolve_groups(labels_of_rows, options$groups, by, times, call)
  subgroups <- find_subgroups(role("each"), options$missing, call)
  units <- text_for(options$unit, names, "unit", call)
  labels <- text_for(options$label, names, "label", call)
  # By place: looking up ten thousand names one by one takes long.
  clean <- Map(function(name, at, unit, label) {
    column <- .subset2(data, at)
    one <- clean_outcome(column, name, options$missing, options$scale_by, call)
    c(one, list(name = name, label = label, unit = unit %||% own_unit(column, options)))
  }, names, match(names, names(data)), units, labels, USE.NAMES = FALSE)
  made <- lapply(long_parts(grouping, labels_of_rows, times, subgroups), long_outcomes, clean, call)
  records <- in_outcome_order(lapply(made, `[[`, "records"))
  records <- keep_incomparable(records, grouping$labels, function(record) {
    abort_all_missing(record$moments, grouping$labels, record$name, call)
  })
  notes <- c(
    note_near_labels(grouping$found, by),
    note_repeated_id(rows$id, grouping$codes, grouping$code_of, averaging_code(names, rows$id, by)),
    note_row_correlation_long(clean[[1]]$values, grouping, times), note_incomparable(records)
  )
  study <- new_study(
    "independent", "values", grouping$labels, records, bind_left_out(lapply(made, `[[`, "left_out")), notes,
    grouping$announced, rows[lengths(rows) > 0]
  )
  with_subgroups(study, subgroups)
}

# Records part by part -> outcome by outcome.
in_outcome_order <- function(parts) {
  if (length(parts) == 1) return(parts[[1]])
  unlist(lapply(seq_along(parts[[1]]), function(j) lapply(parts, `[[`, j)), recursive = FALSE)
}

# The rows that one record is made of: all, or those of each subgroup.
long_parts <- function(grouping, labels_of_rows, times, subgroups) {
  if (is.null(subgroups)) return(list(list(grouping = grouping, times = times)))
  lapply(seq_along(subgroups$labels), function(k) {
    rows <- subgroups$rows[[k]]
    own <- grouping
    own$codes <- grouping$codes[rows]
    found <- found_groups(labels_of_rows[rows], times[rows])
    other <- !found$label %in% grouping$key
    own$others <- stats::setNames(found$count[other], label_text(found$label[other]))
    own$no_group <- found$missing
    list(grouping = own, times = times[rows], rows = rows, subgroup = subgroup_of(subgroups, k))
  })
}

# The records of all outcomes over the rows of one part; moments of all of them in one call.
long_outcomes <- function(part, clean, call) {
  grouping <- part$grouping
  codes <- grouping$codes
  code_of <- grouping$code_of
  values <- lapply(clean, function(one) if (is.null(part$rows)) one$values else one$values[part$rows])
  if (!is.null(part$times)) values <- lapply(values, as.double)
  moments <- if (is.null(part$times)) {
    core_group_moments_many(values, codes, code_of[[1]], code_of[[2]])
  } else {
    lapply(values, core_counted_moments, part$times, codes, code_of[[1]], code_of[[2]])
  }
  records <- Map(function(one, values, moments) {
    check_finite_moments(moments, values, grouping, one$name, call)
    data <- if (is.null(part$times)) {
      list(kind = "long", values = values, codes = codes, code_of = code_of)
    } else {
      list(kind = "counted", values = values, counts = part$times, codes = codes, code_of = code_of)
    }
    in_subgroup(new_outcome(one$name, one$label, one$unit, moments, data), part$subgroup, part$rows)
  }, clean, values, moments)
  list(records = unname(records), left_out = long_left_out(records, clean, part))
}

# What was left out of every record: a row for each reason, also where it is none.
long_left_out <- function(records, clean, part) {
  grouping <- part$grouping
  labels <- grouping$labels
  others <- grouping$others
  reasons <- c("outcome missing", "outcome missing", "group missing", rep("other group", length(others)))
  count <- length(records)
  lost <- vapply(records, function(record) {
    c(record$moments[[1]]$missing, record$moments[[2]]$missing)
  }, c(0, 0))
  out <- list(
    outcome = rep(vapply(clean, `[[`, "", "name"), each = length(reasons)), reason = rep(reasons, count),
    group = rep(c(labels, NA, names(others)), count),
    n = c(rbind(lost, matrix(as.double(c(grouping$no_group, others)), length(reasons) - 2, count)))
  )
  coded <- which(vapply(clean, function(one) !is.null(one$declared), NA))
  if (length(coded)) out <- with_declared(out, coded, clean, part, length(reasons))
  if (!is.null(part$subgroup)) out$subgroup <- rep(part$subgroup$label, length(out$n))
  lean_table(out)
}

# Declared codes after the missing values they are part of, from which they are taken off. `size`: rows of each record.
with_declared <- function(out, coded, clean, part, size) {
  grouping <- part$grouping
  for (j in rev(coded)) {
    row <- if (is.null(part$rows)) clean[[j]]$declared$row else clean[[j]]$declared$row[part$rows]
    counts <- declared_counts(
      list(row = row, codes = clean[[j]]$declared$codes), match(grouping$codes, grouping$code_of), grouping$labels,
      part$times
    )
    if (is.null(counts)) next
    at <- (j - 1) * size + 1:2
    out$n[at] <- out$n[at] - declared_per_group(counts, grouping$labels)
    name <- rep(clean[[j]]$name, length(counts$n))
    out <- Map(append, out, list(name, counts$reason, counts$group, as.double(counts$n)), after = at[[2]])
  }
  out
}

declared_per_group <- function(declared, groups) {
  if (is.null(declared)) return(c(0, 0))
  vapply(groups, function(group) sum(declared$n[declared$group == group]), 0, USE.NAMES = FALSE)
}

# Only samples small enough that looking costs nothing; the values of the groups in row order.
note_row_correlation_long <- function(values, grouping, times) {
  if (!is.null(times)) return(NULL)
  first <- which(grouping$codes == grouping$code_of[[1]])
  second <- which(grouping$codes == grouping$code_of[[2]])
  if (length(first) != length(second) || length(first) > 1e5) return(NULL)
  note_row_correlation(values[first], values[second], grouping$labels)
}

# How often each row occurs: whole numbers from 0; a missing count would lose rows in silence.
check_counts <- function(column, call) {
  if (is.null(column)) return(NULL)
  name <- column$name
  x <- column$values
  bad <- if (is.numeric(x)) which(!is.finite(x) | x < 0 | x != round(x)) else seq_along(x)
  if (length(bad) == 0) return(check_counts_total(as.double(x), name, call))
  row <- bad[[1]]
  value <- format_plain(x[[row]])
  abort_vandro(
    c(
      "Counts {.val {name}} must be whole numbers from 0.",
      "x" = "Row {row} holds {.val {value}}."
    ),
    "bad_counts",
    column = name, row = row, call = call
  )
}

# Every case is summed, so that the results are those of the expanded data; more would take minutes.
most_cases <- 1e10

check_counts_total <- function(counts, name, call) {
  check_cases(
    counts, most_cases, "The counts in {.val {name}} must stand for at most {limit} cases.",
    "Compare the groups from their sizes, means and SDs with {.fn versus_summary}.", "bad_counts", name, call
  )
}

# What only the values can show: infinite ones.
check_finite_moments <- function(moments, values, grouping, name, call) {
  ends <- c(moments[[1]]$min, moments[[1]]$max, moments[[2]]$min, moments[[2]]$max)
  if (any(is.infinite(ends))) check_no_infinite(values, grouping$codes %in% grouping$code_of, name, call)
}
