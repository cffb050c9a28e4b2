# Values that stand for "not measured": declared codes, blanks, text.

check_missing_codes <- function(missing, call) {
  if (is.null(missing)) return(NULL)
  plain <- is.atomic(missing) && !is.logical(missing) && !is.raw(missing) && length(missing)
  if (plain && all(is_text(as.character(missing)))) return(as.character(missing))
  abort_value(
    missing, "missing", "must list the values that stand for a missing one",
    "missing = c(-99, \"n/a\")", call
  )
}

# Codes as numbers; where one has a decimal comma, the file has it too.
missing_numbers <- function(missing) text_number(sub("^([-+]?[0-9]+),([0-9]+)$", "\\1.\\2", missing))

# An outcome with its declared codes made missing, as numbers, in the unit wanted. `declared` tells per
# row which code stood there (0: none), or is NULL where none was found.
clean_outcome <- function(column, name, missing, scale_by, call) {
  check_bytes(column, name, call)
  if (inherits(column, "haven_labelled")) {
    missing <- unique(c(missing, group_text(declared_in_column(column))))
    column <- as.vector(unclass(column))
  }
  declared <- NULL
  if (length(missing)) {
    codes <- if (is.numeric(column)) missing_numbers(missing) else missing
    known <- if (is.character(column)) trimws(column) else column
    if (is.factor(column)) known <- as.character(column)
    declared <- match(known, codes[!is.na(codes)], nomatch = 0L)
    if (any(declared > 0)) {
      column[declared > 0] <- NA
      declared <- list(row = declared, codes = missing[!is.na(codes)])
    } else {
      declared <- NULL
    }
    if (is.character(column)) column <- numbers_from_text(column, name, call)
  }
  values <- check_outcome(column, name, call)
  if (scale_by != 1) values <- values * scale_by
  list(values = values, declared = declared)
}

# Text whose only words were declared missing is a column of numbers after all.
numbers_from_text <- function(column, name, call) {
  column[!nzchar(trimws(column))] <- NA
  number <- text_number(column)
  if (any(is.na(number) & !is.na(column))) abort_text_outcome(column, name, call)
  number
}

# Group labels declared missing.
clean_groups <- function(by, name, missing, call) {
  by <- plain_codes(by, name, call)
  if (length(missing) == 0) return(by)
  gone <- if (is.numeric(by)) {
    by %in% missing_numbers(missing)
  } else {
    as.character(by) %in% missing
  }
  if (any(gone)) by[gone] <- NA
  by
}

# Rows of `left_out` for the declared codes: one per code and group. `group_of`: 1, 2 or NA per row.
declared_counts <- function(declared, group_of, groups, times = NULL) {
  if (is.null(declared)) return(NULL)
  rows <- which(declared$row > 0 & group_of %in% 1:2)
  if (length(rows) == 0) return(NULL)
  weight <- if (is.null(times)) rep(1, length(rows)) else times[rows]
  cell <- paste(declared$row[rows], group_of[rows])
  count <- rowsum(weight, factor(cell, unique(cell)), reorder = FALSE)[, 1]
  at <- !duplicated(cell)
  list(
    reason = paste0("declared missing: ", declared$codes[declared$row[rows][at]]),
    group = groups[group_of[rows][at]], n = unname(count)
  )
}

left_out_table <- function(name, ..., subgroup = NULL) {
  pieces <- list(...)
  reason <- unlist(lapply(pieces, `[[`, "reason"), use.names = FALSE)
  out <- list(
    outcome = rep(name, length(reason)), reason = reason,
    group = unlist(lapply(pieces, `[[`, "group"), use.names = FALSE),
    n = as.double(unlist(lapply(pieces, `[[`, "n"), use.names = FALSE))
  )
  if (!is.null(subgroup)) out$subgroup <- rep(subgroup, length(reason))
  lean_table(out)
}

bind_left_out <- function(tables) {
  if (length(tables) == 1) return(tables[[1]])
  columns <- names(tables[[1]])
  bound <- lean_table(lapply(stats::setNames(columns, columns), function(column) {
    unlist(lapply(tables, `[[`, column))
  }))
  # Subgroups come part by part: outcome by outcome they read.
  if (is.null(bound$subgroup)) bound else bound[order(match(bound$outcome, unique(bound$outcome))), ]
}

# The rows of cleaned values.
rows_of_clean <- function(clean, rows) {
  if (is.null(rows)) return(clean)
  clean$values <- clean$values[rows]
  if (!is.null(clean$declared)) clean$declared$row <- clean$declared$row[rows]
  clean
}
