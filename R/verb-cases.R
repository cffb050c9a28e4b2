# Every method on every outcome of a study: numbers as columns, one entry per outcome, so that ten thousand outcomes
# take the path of one.

# A list with
#   columns   the columns of the table, outcome by outcome, the primary method first
#   matched   columns of the intervals that agree with the tests, in the same order
#   found     per row what a method that counts found; NULL for means
#   outcomes  of each row, the number of its outcome
infer_cases <- function(study, methods, question, call) {
  parts <- lapply(methods, function(method) infer_method(study, method, methods, question, call))
  for (part in parts) settle_reasons(part, study, call)
  count <- length(study$outcomes)
  at <- order(rep(seq_len(count), length(methods)))
  bind <- function(what) {
    if (length(parts) == 1) return(parts[[1]][[what]])
    names <- names(parts[[1]][[what]])
    lapply(stats::setNames(nm = names), function(name) {
      unlist(lapply(parts, function(part) part[[what]][[name]]), use.names = FALSE)[at]
    })
  }
  found <- unlist(lapply(parts, function(part) part$found %||% vector("list", count)), recursive = FALSE)[at]
  reason <- unlist(lapply(parts, `[[`, "reason"))[at]
  columns <- bind("columns")
  if (any(!is.na(reason))) columns$reason <- reason
  list(columns = columns, matched = bind("matched"), found = found, outcomes = rep(seq_len(count), length(methods))[at])
}

infer_method <- function(study, method, methods, question, call) {
  role <- if (method == methods[[1]]) "primary" else "beside"
  if (counts_values(method)) {
    counted_cases(study, method, methods, role, question, call)
  } else {
    mean_cases(study, method, methods, role, question)
  }
}

# Means: all outcomes in one stroke.
mean_cases <- function(study, method, methods, role, question) {
  outcomes <- study$outcomes
  sheet <- outcome_sheet(outcomes)
  m <- sheet$moments
  errors <- mean_errors(method, m)
  found <- core_t_inference(
    mean_gap(method, m), errors$se, errors$df, question$beyond, question$expect, question$level, question$alpha
  )
  code <- errors$reason
  code[is.na(code)] <- (found$reason %||% code)[is.na(code)]
  range <- rounding_ranges(outcomes, method, question)
  columns <- c(shared_columns(study, method, role, question, sheet), found[c(
    "estimate", "se", "lower", "upper", "at_least", "at_most", "statistic", "df", "p", "log_p"
  )], list(
    estimand = method_fact(method, "estimands")[[1]], statistic_name = "t", p_kind = method_fact(method, "p_kind"),
    p_least = range$least, p_most = range$most
  ))
  columns <- lapply(columns[difference_columns(study)], rep_len, length(outcomes))
  # A method that counts gives every row of the call its columns.
  empty <- counting_columns(list(), methods)
  list(
    columns = c(columns, lapply(empty, rep, length(outcomes))),
    matched = found[c("matched_level", "matched_lower", "matched_upper", "p_two_sided")],
    code = code, reason = reason_sentences(code, study)
  )
}

# Ranks and permutations: one outcome after the other. Among several, one without an answer does not stop the rest.
counted_cases <- function(study, method, methods, role, question, call) {
  found <- each_outcome(study, infer_difference, study, method, question, call)
  lost <- vapply(found, is_unanswered, NA)
  template <- found[!lost][[1]]
  rows <- lapply(found, function(one) {
    own <- if (is_unanswered(one)) without_numbers(template) else one
    c(list(
      estimand = own$estimand %||% "mean_difference", estimate = own$estimate, se = own$se, lower = own$lower,
      upper = own$upper, at_least = own$at_least, at_most = own$at_most, statistic = own$statistic,
      statistic_name = own$statistic_name %||% "t", df = own$df, p = own$p, p_kind = own$kind, log_p = own$log_p,
      p_least = NA_real_, p_most = NA_real_
    ), counting_columns(own, methods))
  })
  columns <- bind_rows(rows)
  more <- setdiff(names(columns), difference_columns(study))
  shared <- shared_columns(study, method, role, question, outcome_sheet(study$outcomes))
  whole <- lapply(c(shared, columns)[difference_columns(study)], rep_len, length(found))
  list(
    columns = c(whole, columns[more]),
    matched = bind_rows(lapply(found, function(one) {
      lapply(stats::setNames(nm = c("matched_level", "matched_lower", "matched_upper", "p_two_sided")), function(name) {
        as.double((if (!is_unanswered(one)) one[[name]]) %||% NA_real_)
      })
    })),
    found = lapply(found, function(one) if (!is_unanswered(one)) one),
    reason = vapply(found, function(one) if (is_unanswered(one)) first_sentence(one) else NA_character_, "")
  )
}

# The columns of test_difference(), in their order.
difference_columns <- function(study) {
  c(
    "outcome", if (!is.null(study$each)) "subgroup", "comparison", "method", "role", "estimand", "estimate", "se",
    "lower", "upper", "level", "at_least", "at_most", "statistic", "statistic_name", "df", "p", "p_kind", "log_p",
    "alpha", "expect", "beyond", "n_first", "n_second", "p_least", "p_most"
  )
}

shared_columns <- function(study, method, role, question, sheet) {
  list(
    outcome = sheet$names, subgroup = sheet$subgroups,
    comparison = study_direction(study), method = method, role = role, level = question$level, alpha = question$alpha,
    expect = question$expect, beyond = question$beyond, n_first = sheet$moments[[1]]$n, n_second = sheet$moments[[2]]$n
  )
}

# Columns of methods that count, where one of the call's methods does.
counting_columns <- function(found, methods) {
  ranked <- any(method_is(methods, "ranks"))
  permuted <- any(method_is(methods, "reassignment"))
  if (!ranked && !permuted) return(NULL)
  c(counted_columns(found, ranked), if (permuted) permutation_columns(found))
}

# What was found, with nothing in it.
without_numbers <- function(found) {
  keep <- c("estimand", "statistic_name")
  found[setdiff(names(found), keep)] <- lapply(found[setdiff(names(found), keep)], function(x) {
    if (is.numeric(x)) NA_real_ else if (is.character(x)) NA_character_ else NULL
  })
  found
}

infer_difference <- function(outcome, study, method, question, call) {
  infer <- switch(method_fact(method, "family"),
    means = mean_inference, ranks = rank_inference, reassignment = permutation_inference
  )
  infer(outcome, study, method, question, call)
}

# How often Student's test would reject a true null hypothesis with the SDs seen; NA for other methods.
student_true_size <- function(outcome, method, question) {
  m <- outcome$moments
  if (method != "student" || min(m[[1]]$n, m[[2]]$n) < 2) return(NA_real_)
  ratio <- core_variance_ratio(m[[1]], m[[2]], question$level)
  if (!is.null(ratio$reason)) return(NA_real_)
  core_true_size("student", m[[1]]$n, m[[2]]$n, ratio$ratio, question$alpha)
}

mean_inference <- function(outcome, study, method, question, call) {
  m <- outcome$moments
  error <- mean_error(method, m)
  if (!is.null(error$reason)) abort_reason(error$reason, outcome, study, call)
  found <- core_t_inference(
    mean_gap(method, m), error$se, error$df, question$beyond, question$expect, question$level, question$alpha
  )
  if (!is.null(found$reason)) abort_reason(found$reason, outcome, study, call)
  found
}

# What the rounding of published numbers leaves open about p; NA from values.
rounding_range <- function(outcome, method, question) {
  open <- rounded_errors(outcome, method)
  if (is.null(open)) return(c(NA_real_, NA_real_))
  core_p_range(open$gaps, open$errors, question$beyond, question$expect)
}

rounding_ranges <- function(outcomes, method, question) {
  if (is.null(outcomes[[1]]$data$ends)) return(list(least = NA_real_, most = NA_real_))
  range <- vapply(outcomes, rounding_range, c(0, 0), method, question)
  list(least = range[1, ], most = range[2, ])
}

# Ends of the difference and standard errors at the corners of the SDs that rounding leaves open; NULL from values.
rounded_errors <- function(outcome, method) {
  ends <- outcome$data$ends
  if (is.null(ends)) return(NULL)
  m <- outcome$moments
  with_sds <- function(sds) Map(function(m, sd) utils::modifyList(m, list(sd = max(sd, 0))), m, sds)
  errors <- if (length(m) == 3) {
    lapply(ends$sd[[1]], function(sd) mean_error(method, with_sds(list(m[[1]]$sd, m[[2]]$sd, sd))))
  } else {
    corners <- expand.grid(first = ends$sd[[1]], second = ends$sd[[2]])
    Map(function(first, second) mean_error(method, with_sds(list(first, second))), corners$first, corners$second)
  }
  list(gaps = ends$gap, errors = Filter(function(error) is.null(error$reason), errors))
}
