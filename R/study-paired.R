#' Declare a comparison of paired measurements
#'
#' Two measurements of the same units (before and after, left and right, two instruments). Pairs are made
#' by a key, or stand side by side in one row; never by row order unless you say so.
#'
#' @param data A data frame. It is never changed. A table of a database stays there, as in [versus()].
#'   Left out, `first` and `second` (or `change`) are plain vectors.
#' @param ... Which columns, by position or by name:
#'   * wide, one row per unit: `first, second` (and, by name, `id` to tell the units by);
#'   * long, two rows per unit: `outcome, by, id`, the measurement, the occasion and the key (several
#'     key columns as `id = c(plot, plant)`);
#'   * ready-made changes: `change` (and, by name, `id`).
#' @param groups The two occasions, first minus second. Long: as in [versus()]. Wide: labels for the two
#'   columns in their order. Changes: what was subtracted from what, `c("noon", "dawn")` for noon minus
#'   dawn.
#' @param unit,label,missing,scale_by,claim,assigned,phrases,dates As in [versus()].
#' @param order,blocks Column by which the units are ordered, or of blocks of units. In long data, both halves of a pair
#'   must give the same sequence, in a database the same value, and lie in the same block.
#' @param each Column of subgroups (site, period) within each of which the comparison is made, as in [versus()]. Both
#'   halves of a pair must lie in the same one.
#' @param rows_in_order `TRUE` pairs the rows of long data without a key: the first row of one occasion
#'   with the first of the other, and so on.
#' @return A study (class `vandro_study`), see [versus()]. Every number is about the complete pairs.
#' @section Missing values: A pair that lacks one half is left out whole and counted by the half it lacks.
#'   Keys that occur on one occasion only are listed in a note.
#' @section Notes: Pairs whose halves hardly go together (correlation at most 0.1) are noted: the key may
#'   be wrong.
#' @section Errors: As [versus()], and `vandro_error_no_key` (long data without `id`),
#'   `vandro_error_duplicate_key` (with the keys), `vandro_error_no_pairs`, `vandro_error_bad_roles`
#'   (columns that do not make one of the three shapes).
#' @examples
#' # Wide: noon and dawn of each plant stand in one row
#' versus_paired(conductance, noon, dawn, unit = "mmol", label = "Leaf conductance")
#'
#' # Long: the key makes the pairs, whatever the order of the rows
#' versus_paired(conductance_long, conductance, time, plant,
#'   groups = c("noon", "dawn"), unit = "mmol", label = "Leaf conductance"
#' )
#'
#' # Only the changes
#' changes <- data.frame(change = conductance$noon - conductance$dawn)
#' versus_paired(changes, change, groups = c("noon", "dawn"))
#' @export
versus_paired <- function(data, ..., groups = NULL, unit = NULL, label = NULL, order = NULL,
                          blocks = NULL, missing = NULL, scale_by = 1, rows_in_order = FALSE, claim = NULL,
                          assigned = NULL, each = NULL, phrases = NULL, dates = NULL) {
  call <- rlang::current_env()
  roles <- paired_roles(rlang::enquos(...), call)
  check_flag(rows_in_order)
  options <- list(
    groups = groups, unit = unit, label = label, missing = check_missing_codes(missing, call),
    scale_by = check_scale(scale_by, call), rows_in_order = rows_in_order,
    dates = check_dates(dates, call), order = rlang::enquo(order), blocks = rlang::enquo(blocks),
    each = rlang::enquo(each)
  )
  if (base::missing(data)) {
    data <- vectors_as_data(roles, call)
    roles[] <- lapply(names(roles), function(name) rlang::as_quosure(as.name(name), emptyenv()))
  }
  study <- if (is_lazy_table(data)) {
    versus_paired_database(data, roles, options, call)
  } else {
    frame <- own_data(check_data_frame(data))
    switch(attr(roles, "shape"),
      wide = paired_wide(frame, roles, options, call),
      long = paired_long(frame, roles, options, call),
      changes = paired_changes(frame, roles, options, call)
    )
  }
  study$claim <- check_claim(claim, call)
  study$assigned <- check_assigned(assigned, call)
  study$phrases <- check_phrases(phrases, study$groups, call)
  study$declared <- declared_call("versus_paired", call)
  study$read <- attr(data, "vandro_read")
  announce_direction(study)
  announce_notes(study$notes)
  study
}

# Positions or names -> list of quosures by role, with the shape they make.
paired_roles <- function(given, call) {
  known <- c("first", "second", "outcome", "by", "id", "change")
  by_name <- nzchar(names(given))
  unknown <- setdiff(names(given)[by_name], known)
  if (length(unknown)) {
    hint <- suggestion(unknown[[1]], known, "Columns are named as")
    abort_vandro(
      c("{.arg {unknown[[1]]}} is not an argument.", "i" = "{hint}"), "bad_roles",
      roles = unknown, call = call
    )
  }
  if (any(!by_name)) {
    by_position <- list("change", c("first", "second"), c("outcome", "by", "id"))
    count <- sum(!by_name)
    if (count <= 3) names(given)[!by_name] <- by_position[[count]]
    if (count > 3 || anyDuplicated(names(given))) abort_roles(given, call)
  }
  shapes <- list(
    wide = c("first", "second"), long = c("outcome", "by"), changes = "change"
  )
  fits <- vapply(shapes, function(shape) setequal(setdiff(names(given), "id"), shape), NA)
  if (!any(fits)) abort_roles(given, call)
  structure(given, shape = names(shapes)[fits])
}

abort_roles <- function(given, call) {
  said <- names(given)
  abort_vandro(
    c(
      "Pairs are declared by {.arg first} and {.arg second}, by {.arg outcome}, {.arg by} and
        {.arg id}, or by {.arg change}.",
      "x" = if (length(said)) "Given: {.arg {said}}." else "No column was given."
    ),
    "bad_roles",
    roles = said, call = call
  )
}

vectors_as_data <- function(roles, call) {
  vectors <- lapply(roles, rlang::eval_tidy)
  lengths <- lengths(vectors)
  if (length(unique(lengths)) > 1) {
    abort_vandro(
      c(
        "Paired vectors must be equally long.",
        "x" = "Lengths: {.val {lengths}}.",
        "i" = "For independent samples use {.code versus(first = , second = )}."
      ),
      "unequal_lengths",
      lengths = lengths, call = call
    )
  }
  lean_table(vectors)
}

paired_rows <- function(data, roles, options, call) {
  rows <- list(
    order = check_order(optional_column(options$order, data, "order", call), options$dates, call),
    blocks = optional_column(options$blocks, data, "blocks", call),
    id = if (!is.null(roles$id)) key_column(roles$id, data, call)
  )
  rows[lengths(rows) > 0]
}

# One or several key columns as one vector; NA where any part is missing.
key_column <- function(quosure, data, call) {
  names <- column_names(quosure, data, "id", call)
  parts <- lapply(names, function(name) {
    values <- data[[name]]
    if (!is.atomic(values) || !is.null(dim(values))) abort_column_type(values, name, "id", call)
    check_bytes(values, name, call)
    plain_codes(values, name, call)
  })
  if (length(parts) == 1) return(list(name = names, values = parts[[1]]))
  # Paste alone could make one key of two: lengths keep the parts apart.
  words <- lapply(parts, group_text)
  text <- lapply(words, function(word) paste0(nchar(word), ":", word))
  key <- do.call(paste, c(words, sep = " / "))
  exact <- do.call(paste, text)
  key[Reduce(`|`, lapply(parts, is.na))] <- NA
  twins <- stats::ave(seq_along(key), key, FUN = function(i) length(unique(exact[i]))) > 1
  key[twins & !is.na(key)] <- exact[twins & !is.na(key)]
  list(name = paste(names, collapse = " / "), values = key)
}

# --- wide -------------------------------------------------------------------------------------------

paired_wide <- function(data, roles, options, call) {
  names <- c(
    column_name(roles$first, data, "first", call), column_name(roles$second, data, "second", call)
  )
  if (names[[1]] == names[[2]]) abort_same_column(names[[1]], c("first", "second"), call)
  if (holds_occasions(data[[names[[2]]]], data[[names[[1]]]])) {
    # Two columns by position and a key by name are long data when the second holds occasions.
    if (is.null(roles$id)) abort_no_key(names, data, call)
    long <- list(outcome = roles$first, by = roles$second, id = roles$id)
    return(paired_long(data, long, options, call))
  }
  columns <- in_one_unit(lapply(names, function(name) data[[name]]), names, call)
  parts <- Map(clean_outcome, columns, names, list(options$missing), options$scale_by, list(call))
  labels <- two_labels(options$groups, names, call)
  name <- label_as_name(options$label, call)
  subgroups <- find_subgroups(optional_column(options$each, data, "each", call), options$missing, call)
  made <- each_subgroup(subgroups, function(rows, subgroup) {
    pair_outcome(lapply(parts, rows_of_clean, rows), name, options, labels, call,
      unit = text_for(options$unit, name, "unit", call)[[1]] %||% own_unit(columns[[1]], options),
      subgroup = subgroup, rows = rows
    )
  })
  study <- pair_study(made, labels, paired_rows(data, roles, options, call), FALSE, character(), subgroups, call)
  study$earlier <- which.min(match(names, names(data)))
  study
}

# make(rows, subgroup) for every subgroup, or once over all rows.
each_subgroup <- function(subgroups, make) {
  if (is.null(subgroups)) return(list(make(NULL, NULL)))
  lapply(seq_along(subgroups$labels), function(k) make(subgroups$rows[[k]], subgroup_of(subgroups, k)))
}

# `parts`: two cleaned outcomes, element by element.
pair_outcome <- function(parts, name, options, labels, call, label = NULL, unit = NULL, extra = NULL, subgroup = NULL,
                         rows = NULL) {
  values <- lapply(parts, function(part) as.double(part$values))
  found <- core_pair_moments(values[[1]], values[[2]])
  for (k in 1:2) {
    if (any(is.infinite(c(found$moments[[k]]$min, found$moments[[k]]$max)))) {
      check_no_infinite(values[[k]], TRUE, labels[[k]], call)
    }
  }
  declared <- lapply(1:2, function(k) {
    declared_counts(parts[[k]]$declared, rep(k, length(values[[k]])), labels)
  })
  left_out <- left_out_table(
    name,
    # The half that is missing is the one the other lacks.
    list(
      reason = rep("half missing", 2), group = labels, n = c(found$only_second, found$only_first)
    ),
    list(reason = "both halves missing", group = NA_character_, n = found$neither),
    declared[[1]], declared[[2]], extra,
    subgroup = subgroup$label
  )
  unit <- unit %||% text_for(options$unit, name, "unit", call)[[1]]
  outcome <- new_outcome(
    name, label, unit, found$moments, list(kind = "pairs", parts = values),
    found[c("r", "up", "down", "same")]
  )
  list(outcome = in_subgroup(outcome, subgroup, rows), left_out = left_out, found = found)
}

abort_no_pairs <- function(found, labels, name, call) {
  abort_vandro(
    c(
      "{.val {name}} must have at least one complete pair.",
      "x" = "{found$only_first} unit{?s} with {.val {labels[[1]]}} only, {found$only_second} with
        {.val {labels[[2]]}} only, {found$neither} with neither.",
      "i" = "Check that the two halves carry the same key."
    ),
    "no_pairs",
    call = call
  )
}

pair_study <- function(made, labels, rows, announced, notes, subgroups, call) {
  records <- keep_incomparable(lapply(made, `[[`, "outcome"), labels, function(record) {
    abort_no_pairs(made[[1]]$found, labels, record$name, call)
  })
  whole <- Filter(is_comparable, records)[[1]]
  study <- new_study(
    "paired", "values", labels, records, bind_left_out(lapply(made, `[[`, "left_out")),
    c(notes, note_weak_pairing(whole$pairs$r, whole$moments[[3]]$n), note_incomparable(records)), announced, rows
  )
  with_subgroups(study, subgroups)
}

# --- changes ----------------------------------------------------------------------------------------

paired_changes <- function(data, roles, options, call) {
  column <- column_name(roles$change, data, "change", call)
  labels <- if (is.null(options$groups)) c("first", "second") else check_labels(options$groups, call)
  clean <- clean_outcome(data[[column]], column, options$missing, options$scale_by, call)
  clean$unit <- own_unit(data[[column]], options)
  subgroups <- find_subgroups(optional_column(options$each, data, "each", call), options$missing, call)
  made <- each_subgroup(subgroups, function(rows, subgroup) {
    change_outcome(rows_of_clean(clean, rows), column, options, subgroup, rows, call)
  })
  records <- keep_incomparable(lapply(made, `[[`, "outcome"), labels, function(record) {
    abort_vandro(
      c("Changes {.val {column}} must have at least one value.", "x" = "All are missing."),
      "all_missing",
      column = column, call = call
    )
  })
  study <- new_study(
    "paired", "values", labels, records, bind_left_out(lapply(made, `[[`, "left_out")), note_incomparable(records),
    is.null(options$groups), paired_rows(data, roles, options, call)
  )
  with_subgroups(study, subgroups)
}

change_outcome <- function(clean, column, options, subgroup, rows, call) {
  record <- change_record(clean$values)
  change <- record$moments[[3]]
  if (any(is.infinite(c(change$min, change$max)))) check_no_infinite(clean$values, TRUE, column, call)
  declared <- declared_counts(clean$declared, rep(1L, length(clean$values)), c(NA, NA))
  left_out <- left_out_table(
    column,
    list(reason = "change missing", group = NA_character_, n = change$missing - sum(declared$n)), declared,
    subgroup = subgroup$label
  )
  outcome <- new_outcome(
    column, text_for(options$label, column, "label", call)[[1]],
    text_for(options$unit, column, "unit", call)[[1]] %||% clean$unit, record$moments,
    list(kind = "changes", values = clean$values), record$pairs
  )
  list(outcome = in_subgroup(outcome, subgroup, rows), left_out = left_out)
}

# What changes alone tell: nothing of the halves, moments and signs of the changes.
change_record <- function(values) {
  change <- core_sample_moments(values)
  signs <- sign(values[!is.na(values)])
  list(
    moments = list(core_unknown_moments(change$n), core_unknown_moments(change$n), change),
    pairs = list(r = NA_real_, up = sum(signs > 0), down = sum(signs < 0), same = sum(signs == 0))
  )
}
