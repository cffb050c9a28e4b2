# The same comparison within each subgroup (site, period) of a column, and among several outcomes those that allow none.

# The rows of every subgroup: a factor's in the order of its levels, others as they first appear. NULL without `each`.
find_subgroups <- function(column, missing, call) {
  if (is.null(column)) return(NULL)
  name <- column$name
  values <- clean_groups(column$values, name, missing, call)
  check_group_column(values, name, call)
  found <- found_groups(values)
  if (length(found$label) == 0) {
    abort_vandro(
      c("Subgroups {.val {name}} must hold labels.", "x" = "All {found$missing} values are missing."), "one_group",
      column = name, call = call
    )
  }
  at <- factor(match(group_text(values), found$label), seq_along(found$label))
  list(
    name = name, labels = found$label, lost = found$missing,
    rows = unname(split(seq_along(at), at))
  )
}

# What a record, or a study, holds of its subgroups.
subgroup_of <- function(subgroups, k) {
  if (!is.null(subgroups)) list(name = subgroups$name, label = subgroups$labels[[k]])
}

# Marks a record as that of one subgroup: `rows` are those of the data as given.
in_subgroup <- function(outcome, subgroup, rows) {
  if (is.null(subgroup)) return(outcome)
  outcome$subgroup <- subgroup$label
  outcome$plain_label <- outcome$label
  outcome$label <- printable(sprintf("%s (%s %s)", outcome$label, subgroup$name, subgroup$label))
  outcome$data$rows <- rows
  outcome
}

# A study with its subgroups named, and those rows told that are in none.
with_subgroups <- function(study, subgroups) {
  if (is.null(subgroups)) return(study)
  study$each <- list(name = subgroups$name, labels = subgroups$labels)
  if (subgroups$lost > 0) {
    study$notes <- c(study$notes, sprintf(
      "%s %s no %s and %s in no subgroup.", format_plain(subgroups$lost, big.mark = " "),
      if (subgroups$lost == 1) "row has" else "rows have", subgroups$name, if (subgroups$lost == 1) "is" else "are"
    ))
  }
  study
}

# Whether both groups have values (pairs: whether one is complete).
is_comparable <- function(outcome) {
  m <- outcome$moments
  if (length(m) == 3) m[[3]]$n > 0 else m[[1]]$n > 0 && m[[2]]$n > 0
}

# One outcome without values in a group is an error; among several it is kept, and every answer says why it has none.
# An error too where none of them can be compared: `refuse(record)` signals it.
keep_incomparable <- function(records, groups, refuse) {
  fit <- vapply(records, is_comparable, NA)
  if (all(fit)) return(records)
  if (!any(fit)) refuse(records[[1]])
  records[!fit] <- lapply(records[!fit], function(record) {
    empty <- groups[vapply(record$moments[seq_along(groups)], function(m) m$n == 0, NA)]
    record$incomparable <- if (length(record$moments) == 3) {
      "no complete pair"
    } else {
      paste("no value in", paste(empty, collapse = " and "))
    }
    record
  })
  records
}

# The place of a record in its study.
record_place <- function(study, outcome) {
  which(vapply(study$outcomes, function(one) {
    identical(one$name, outcome$name) && identical(one$subgroup, outcome$subgroup)
  }, NA))
}
