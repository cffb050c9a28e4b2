# Rows of vet_assumptions(), and which methods depend on what.

# One row. `...`: whatever of its numbers there is.
check_row <- function(outcome, study, which, check, method, reading, leaning, source, ...) {
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
    cases = text("cases"), seen = reading, leaning = leaning, source = source
  ))
}

# The same check of both groups in neighbouring rows.
side_by_side <- function(per_group) {
  if (length(per_group) == 1) per_group[[1]] else c(rbind(per_group[[1]], per_group[[2]]))
}

# Who leans on what, in the words of the table.
leans_on <- list(
  shape = "Student, Welch, d and g, Bayes factor: less, the larger the groups",
  shape_pairs = "paired t, d and g of changes, Bayes factor: less, the more pairs",
  symmetry = "signed ranks, permuted signs; the mean as a summary of the changes",
  odd = "means, SDs and all that is made of them",
  ties = "rank-based methods",
  ends = "means, SDs, shape",
  spread = "Student, pooled d and g, Bayes factor, rank shift, permuted difference; not Welch",
  spread_pairs = "d (repeated); not the paired t",
  serial = "every method but runs of a permutation test",
  pairing = "every method for independent groups",
  pairing_pairs = "the gain of every paired method"
)
