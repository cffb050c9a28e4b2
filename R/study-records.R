# What every reader of a study or its records needs to know.

# A data frame from a list of columns of equal length; data.frame() would cost more than the
# statistics.
lean_table <- function(columns) {
  attr(columns, "row.names") <- c(NA_integer_, -length(columns[[1]]))
  class(columns) <- "data.frame"
  columns
}

# "compost minus peat": the one wording of the direction.
study_direction <- function(study) paste(study$groups[[1]], "minus", study$groups[[2]])

# The rows of a table that are about one record.
is_row_of <- function(table, outcome) {
  at <- table$outcome == outcome$name
  if (!is.null(outcome$subgroup) && !is.null(table$subgroup)) at <- at & table$subgroup %in% outcome$subgroup
  at
}

# What identifies a record in the table of an answer.
record_cells <- function(outcome) {
  c(list(outcome = outcome$name), if (!is.null(outcome$subgroup)) list(subgroup = outcome$subgroup))
}

has_values <- function(study) study$source == "values"

expanded <- function(values, counts) {
  rep(values, check_cases(
    counts, most_expanded, "This method works on single cases, at most {limit} of them.",
    "Methods of means work on the counts: {.code test_difference(study, \"welch\")}.", "too_large"
  ))
}

# What needs every case by itself needs memory for all of them.
most_expanded <- 1e8

is_paired <- function(study) study$design == "paired"

is_database <- function(study) study$source == "database"

check_cases <- function(counts, most, must, way_out, class, name = NULL, call = NULL) {
  if (sum(counts) <= most) return(counts)
  limit <- format_plain(most, big.mark = " ", scientific = FALSE)
  total <- format_plain(sum(counts), digits = 3)
  abort_vandro(c(must, "x" = "The counts stand for {total} cases.", "i" = way_out), class, column = name, call = call)
}
