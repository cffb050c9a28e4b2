# Rows of vet_assumptions(), and which methods depend on what.

# A reading that a reader must see first.
notable <- function(reading) structure(reading, notable = TRUE)

# One row. `...`: whatever of its numbers there is.
check_row <- function(outcome, study, which, check, method, reading, matters_for, source, ...) {
  known <- list(...)
  number <- function(name) as.double(known[[name]] %||% NA_real_)
  text <- function(name) known[[name]] %||% NA_character_
  # A check that was not carried out has no source.
  if (all(vapply(c("estimate", "statistic", "log_p"), function(name) is.na(number(name)), NA))) source <- NA_character_
  label <- if (is.na(which)) NA_character_ else c(study$groups, study_direction(study))[[which]]
  c(record_cells(outcome), list(
    comparison = study_direction(study), group = label, check = check,
    method = method, estimate = number("estimate"), se = number("se"), lower = number("lower"),
    upper = number("upper"), level = number("level"), statistic = number("statistic"),
    statistic_name = text("statistic_name"), df = number("df"), df_second = number("df_second"),
    p = if (is.null(known$log_p)) NA_real_ else core_p_from_log(known$log_p), n = number("n"),
    cases = text("cases"), stands_out = isTRUE(attr(reading, "notable")),
    reading = as.vector(reading), matters_for = matters_for, source = source
  ))
}

# The same check of both groups in neighbouring rows.
side_by_side <- function(per_group) {
  if (length(per_group) == 1) per_group[[1]] else c(rbind(per_group[[1]], per_group[[2]]))
}

# Which methods depend on what is checked, in the words of the table.
depends_on <- list(
  shape = "Student, Welch, d and g, Bayes factor; less so in large samples",
  shape_pairs = "paired t, d and g of changes, Bayes factor; less so with many pairs",
  symmetry = "signed ranks, permuted signs; the mean as a summary of the changes",
  odd = "means, SDs and everything computed from them",
  ties = "rank-based methods",
  ends = "means, SDs, shape",
  spread = "Student, pooled d and g, Bayes factor, rank shift, permuted difference; not Welch",
  spread_pairs = "d (repeated); not the paired t",
  serial = "all methods except run-based permutation",
  pairing = "all methods for independent groups",
  pairing_pairs = "the precision gained by pairing"
)
