# Why there is no number: the codes that the core returns, in words.
#   code, class   what the core says; the class of the error
#   short         in a table cell, after the name of an effect size
#   words         function(f): what is wrong, what was found, what to do, as templates in which `name` is the outcome
#                 and `estimand` the effect size; of f$paired, f$means (as text), f$groups and f$lone (labels, quoted),
#                 f$t_limit, f$no_values and f$instead (why there are no single values, and what there is)
reason_entry <- function(code, class, short, words) whole_entry()

reason_entries <- catalogue(
  reason_entry("one_value", "one_value", "a group has only one value", function(f) {
    c(
      "{.val {name}} has too few values to tell its spread.",
      "x" = sprintf("%s has only one value.", paste("Group", f$lone, collapse = " and ")),
      "i" = "At least two are needed here; {.fn describe_study} shows what there is."
    )
  }),
  reason_entry("no_spread", "no_spread", "nothing varies", function(f) {
    if (f$paired) {
      return(c(
        "The changes of {.val {name}} do not vary: there is nothing to judge them by.",
        "x" = sprintf("Every change is %s.", f$means[[3]]),
        "i" = "Report the change itself; check that the columns hold measurements."
      ))
    }
    c(
      "{.val {name}} does not vary: there is nothing to judge the difference by.",
      "x" = sprintf(
        "All values are %s in %s and %s in %s.", f$means[[1]], f$groups[[1]], f$means[[2]], f$groups[[2]]
      ),
      "i" = "Report the two values themselves; check that the column holds measurements."
    )
  }),
  reason_entry("flat_group", "flat_group", "that group does not vary", function(f) {
    c(
      "{.val {estimand}} divides by the SD of a group of {.val {name}} that does not vary.",
      "i" = "Choose another standardizer, for example {.code estimands = \"d_average\"}."
    )
  }),
  reason_entry("not_positive", "not_positive", "needs values that are not negative and means above 0", function(f) {
    c(
      "A ratio of means of {.val {name}} has no meaning.",
      "x" = sprintf(
        "It needs an outcome without negative values and with means above 0; the means are %s and %s.",
        f$means[[1]], f$means[[2]]
      ),
      "i" = "Report the difference."
    )
  }),
  reason_entry("too_few_for_g", "too_few_for_g", "does not exist with one degree of freedom", function(f) {
    c(
      "{.val {estimand}} of {.val {name}} does not exist with one degree of freedom.",
      "i" = "The small-sample correction needs two. Ask for d, which is not corrected."
    )
  }),
  reason_entry("no_correlation", "needs_values", "needs the correlation of the measurements", function(f) {
    c(
      "{.val {estimand}} of {.val {name}} needs the correlation of the two measurements.",
      "i" = "Declare the pairs by both measurements, or from published numbers by {.arg r} or {.arg sd_change}."
    )
  }),
  reason_entry("no_halves", "needs_values", "needs both measurements", function(f) {
    c(
      "{.val {estimand}} of {.val {name}} needs the SDs of both measurements.",
      "x" = "The study has their changes only.",
      "i" = "Declare both measurements, or ask for {.val d_change}."
    )
  }),
  reason_entry("out_of_range", "out_of_range", "beyond the range of numbers", function(f) {
    c(
      "The numbers of {.val {name}}, or limits of intervals, leave the range that a computer can hold.",
      "i" = "Check that the values are measurements; else change the unit ({.arg scale_by}), or ask for a lower level."
    )
  }),
  reason_entry("spread_lost", "spread_lost", "the spread is lost in rounding", function(f) {
    c(
      "The SD of {.val {name}} is lost in rounding: it is too small against the distance from the value tested.",
      "x" = sprintf("t would be above %s.", f$t_limit),
      "i" = "Check {.arg beyond} and the bounds, and that the values are measurements."
    )
  }),
  reason_entry("needs_measurements", "needs_values", "needs the measurements", function(f) {
    c("Ranks and reassignments of {.val {name}} need the measurements.", "x" = f$no_values, "i" = f$instead)
  }),
  reason_entry("all_zero", "all_zero", "every change is zero", function(f) {
    c(
      "Every change of {.val {name}} equals the null value: there is nothing to rank.",
      "x" = sprintf("Mean change: %s.", f$means[[3]]),
      "i" = "Report that nothing changed; check that the columns hold measurements."
    )
  }),
  reason_entry("limits_crossed", "limits_crossed", "the limits cross", function(f) {
    c(
      "The tests of {.val {name}} against both bounds contradict each other: their limits cross.",
      "x" = "So many values are tied that the distribution of ranks differs from bound to bound.",
      "i" = "Take another method."
    )
  }),
  reason_entry("no_bootstrap", "no_bootstrap", "too few different values for a bootstrap interval", function(f) {
    c(
      "The bootstrap has no interval for {.val {estimand}} of {.val {name}}.",
      "x" = "Too few different values, or too few draws, to tell where its limits lie.",
      "i" = "Leave out {.code interval = \"bootstrap\"}, ask for a lower {.arg level} or more {.arg draws}."
    )
  }),
  reason_entry("no_convergence", "no_convergence", "not found to full accuracy", function(f) {
    c(
      "The interval for {.val {name}} was not found to full accuracy.",
      "i" = "Its standardized effect is beyond what the exact method covers (|t| above 1e6)."
    )
  })
)

reason_fact <- function(code, field) entry_field(reason_entries, code, field)
