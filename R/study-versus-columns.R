# Two groups in two columns or two vectors.

# What belongs to long data only.
long_roles <- c("outcome", "by", "counts", "order", "blocks", "id", "each")

versus_columns <- function(data, columns, options, call) {
  refuse_roles(columns, long_roles, "two columns (first, second)", call)
  names <- c(
    column_name(columns$first, data, "first", call), column_name(columns$second, data, "second", call)
  )
  if (names[[1]] == names[[2]]) abort_same_column(names[[1]], c("first", "second"), call)
  two_samples(lapply(names, function(name) data[[name]]), names, TRUE, options, call)
}

versus_vectors <- function(columns, options, call) {
  refuse_roles(columns, long_roles, "two vectors (first, second)", call)
  parts <- lapply(c("first", "second"), function(arg) {
    if (!is_given(columns[[arg]])) {
      abort_vandro(
        c(
          "{.arg data} is needed, or two vectors {.arg first} and {.arg second}.",
          "x" = "{.arg {arg}} was not given."
        ),
        "missing_argument",
        arg = arg, call = call
      )
    }
    rlang::eval_tidy(columns[[arg]])
  })
  two_samples(parts, c("first", "second"), FALSE, options, call)
}

refuse_roles <- function(columns, roles, shape, call) {
  given <- roles[vapply(columns[roles], is_given, NA)]
  if (length(given) == 0) return(invisible())
  abort_vandro(
    c(
      "{cli::qty(length(given))}{.arg {given}} {?does/do} not go with {shape}.",
      "i" = "Rows that come along need long data, one row per measurement: {.arg outcome} and {.arg by}."
    ),
    "bad_roles",
    roles = given, call = call
  )
}

# Blanks at the end of a column only fill it up to the length of the longer one; a declared code there
# is a missing case.
padding <- function(part) {
  stands <- !is.na(part$values)
  if (!is.null(part$declared)) stands <- stands | part$declared$row > 0
  length(stands) - max(0L, which(stands))
}

two_samples <- function(columns, names, padded, options, call) {
  columns <- in_one_unit(columns, names, call)
  parts <- Map(clean_outcome, columns, names, list(options$missing), options$scale_by, list(call))
  labels <- two_labels(options$groups, names, call)
  values <- lapply(parts, function(part) {
    drop <- if (padded) padding(part) else 0L
    if (drop > 0) part$values[seq_len(length(part$values) - drop)] else part$values
  })
  moments <- lapply(values, core_sample_moments)
  for (k in 1:2) {
    if (any(is.infinite(c(moments[[k]]$min, moments[[k]]$max)))) {
      check_no_infinite(values[[k]], TRUE, names[[k]], call)
    }
  }
  name <- label_as_name(options$label, call)
  if (moments[[1]]$n == 0 || moments[[2]]$n == 0) abort_all_missing(moments, labels, name, call)
  declared <- lapply(1:2, function(k) {
    declared_counts(parts[[k]]$declared, rep(k, length(parts[[k]]$values)), labels)
  })
  lost <- vapply(1:2, function(k) moments[[k]]$missing - sum(declared[[k]]$n), 0)
  left_out <- left_out_table(
    name, list(reason = rep("outcome missing", 2), group = labels, n = lost), declared[[1]],
    declared[[2]]
  )
  record <- new_outcome(
    name, NULL, text_for(options$unit, name, "unit", call)[[1]] %||% own_unit(columns[[1]], options), moments,
    list(kind = "columns", parts = values)
  )
  notes <- note_row_correlation(values[[1]], values[[2]], labels)
  new_study("independent", "values", labels, list(record), left_out, notes)
}

# A unit that came with the column, where the values are still in it.
own_unit <- function(column, options) if (options$scale_by == 1) column_unit(column)

# Labels of two columns or vectors: their names unless said otherwise.
two_labels <- function(groups, names, call) {
  if (is.null(groups)) return(names)
  check_labels(groups, call = call)
}
