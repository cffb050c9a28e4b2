# A study less some of its rows: for looking at what a result owes to them. The data as declared stay as they are.

# The study of one outcome without the known values in `rows`, a list with the row numbers of each group (pairs: one
# element). What is left out is counted, as everything left out is.
study_without <- function(study, outcome, rows) {
  removed <- removed_counts(outcome$data, rows)
  outcome$data <- blank_rows(outcome$data, rows_in_subgroup(outcome$data, rows))
  remade <- remade_moments(outcome$data)
  outcome$moments <- remade$moments
  outcome$pairs <- remade$pairs
  less <- one_outcome(study, outcome)
  less$left_out <- bind_left_out(list(less$left_out, left_out_table(outcome$name, list(
    reason = rep("flagged as outlying", length(removed)),
    group = if (is_paired(study)) NA_character_ else study$groups, n = removed
  ), subgroup = outcome$subgroup)))
  less
}

# Of a subgroup: places among its own rows.
rows_in_subgroup <- function(data, rows) if (is.null(data$rows)) rows else lapply(rows, match, data$rows)

# Values, not rows: a row of counts stands for many.
removed_counts <- function(data, rows) {
  counted <- data$kind == "counted"
  vapply(rows_in_subgroup(data, rows), function(at) if (counted) sum(data$counts[at]) else as.double(length(at)), 0)
}

# The values in those rows become missing ones.
blank_rows <- function(data, rows) {
  switch(data$kind,
    long = ,
    counted = ,
    changes = data$values[unlist(rows)] <- NA,
    columns = for (k in 1:2) data$parts[[k]][rows[[k]]] <- NA,
    pairs = for (k in 1:2) data$parts[[k]][rows[[1]]] <- NA
  )
  data
}

remade_moments <- function(data) {
  switch(data$kind,
    long = list(moments = core_group_moments(data$values, data$codes, data$code_of[[1]], data$code_of[[2]])),
    counted = list(moments = core_counted_moments(
      data$values, data$counts, data$codes, data$code_of[[1]], data$code_of[[2]]
    )),
    columns = list(moments = lapply(data$parts, core_sample_moments)),
    pairs = {
      found <- core_pair_moments(data$parts[[1]], data$parts[[2]])
      list(moments = found$moments, pairs = found[c("r", "up", "down", "same")])
    },
    changes = change_record(data$values)
  )
}
