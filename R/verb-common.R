# What the verbs share: the rows of several outcomes, and refusing what has no answer.

directions <- c("either", "higher", "lower")

# What `one(outcome, ...)` finds for each outcome.
each_outcome <- function(study, one, ...) lapply(study$outcomes, one, ...)

# Turns a reason code of the core into the error that explains it.
abort_reason <- function(reason, outcome, study, call) {
  groups <- study$groups
  name <- outcome$label
  size <- outcome_sizes(outcome)
  short <- if (is_paired(study)) study_direction(study) else groups[size < 2]
  if (reason == "one_value") {
    abort_vandro(
      c(
        "{.val {name}} has too few values to tell its spread.",
        "x" = "{cli::qty(length(short))}Group{?s} {.val {short}} {?has/have} only one value.",
        "i" = "At least two per group are needed here; {.fn describe_study} shows what there is."
      ),
      "one_value",
      outcome = outcome$name, group = short, call = call
    )
  }
  if (reason == "no_spread") {
    means <- vapply(outcome$moments, function(m) format(m$mean), "")
    if (is_paired(study)) {
      abort_vandro(
        c(
          "The changes of {.val {name}} do not vary: there is nothing to judge them by.",
          "x" = "Every change is {means[[3]]}.",
          "i" = "Report the change itself; check that the columns hold measurements."
        ),
        "no_spread",
        outcome = outcome$name, call = call
      )
    }
    abort_vandro(
      c(
        "{.val {name}} does not vary: there is nothing to judge the difference by.",
        "x" = "All values are {means[[1]]} in {.val {groups[[1]]}} and {means[[2]]} in
          {.val {groups[[2]]}}.",
        "i" = "Report the two values themselves; check that the column holds measurements."
      ),
      "no_spread",
      outcome = outcome$name, call = call
    )
  }
  abort_vandro(
    c(
      "The interval for {.val {name}} was not found to full accuracy.",
      "i" = "Its standardized effect is beyond what the exact method covers (|t| above 1e6)."
    ),
    "no_convergence",
    outcome = outcome$name, call = call
  )
}
