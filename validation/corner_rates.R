# Corners that the other maps do not enter: changes of which a quarter is 0, groups along one series, blocks, bounds in
# SD units, very small groups beside large ones, intervals against the tests that they invert.
# Writes inst/validation/corner_rates.csv; run after `make install`, from the project's root:
# Rscript validation/corner_rates.R [STUDIES]   (some ten minutes for 2000)
suppressMessages(library(vandro))
studies <- as.integer(c(commandArgs(trailingOnly = TRUE), 2000)[[1]])
groups <- c("compost", "peat")
quiet <- function(x) suppressMessages(suppressWarnings(x))
two <- function(first, second) quiet(versus(first = first, second = second, groups = groups))
changed <- function(x) quiet(versus_paired(data.frame(change = x), change = change, groups = c("noon", "dawn")))
tested <- function(...) quiet(test_difference(...))
rejected <- function(...) tested(...)$table$p[[1]] <= 0.05
holds <- function(truth, ...) {
  table <- tested(...)$table
  # Where there is no limit every value is held.
  !isTRUE(table$lower[[1]] > truth) && !isTRUE(table$upper[[1]] < truth)
}
series <- function(n, r) as.vector(stats::filter(c(rnorm(1) / sqrt(1 - r^2), rnorm(n - 1)), r, "recursive"))

# Of many studies how many per cent do what `one()` asks, beside what should be.
corner <- function(corner, case, n, what, should, one, count = studies) {
  set.seed(7)
  found <- vapply(seq_len(count), one, NA)
  data.frame(
    corner = corner, case = case, n = paste(n, collapse = " + "), what = what, should = should,
    percent = round(100 * mean(found, na.rm = TRUE), 2), studies = sum(!is.na(found))
  )
}

# 0, 1 and 2 in 25, 50 and 25 % of units: symmetric about 1, and a quarter does not change.
zeros <- lapply(c(30, 60, 120, 250), function(n) {
  corner("a quarter of zeros", "signed ranks", n, "interval holds the true centre, 1", ">= 95", function(i) {
    holds(1, changed(sample(c(0, 1, 1, 2), n, TRUE)), "signed_ranks", exact = FALSE)
  })
})

small <- local({
  spread <- function() two(rnorm(3, 0, 100), rnorm(30))
  list(
    corner("SD 100 to 1", "Brunner-Munzel", c(3, 30), "interval holds the true chance, 0.5", "95", function(i) {
      holds(0.5, spread(), "relative")
    }),
    corner("SD 100 to 1", "Brunner-Munzel", c(3, 30), "rejects; the distributions differ", "", function(i) {
      rejected(spread(), "relative")
    }),
    corner("SD 100 to 1", "Brunner-Munzel", c(3, 30), "calls p exact without saying for what", "0", function(i) {
      any(grepl("exact p", narrate(tested(spread(), "relative"))))
    }, min(studies, 200)),
    # Of 56 assignments so many share a median that no shift is rejected at 2.5 %.
    corner("few medians", "permutation of medians", c(5, 3), "limits where no shift is rejected", "0", function(i) {
      table <- tested(two(rnorm(5), rnorm(3)), "permutation", statistic = "median")$table
      is.finite(table$lower) && is.finite(table$upper)
    }, min(studies, 200))
  )
})

one_series <- lapply(c("alternating", "halves"), function(how) {
  side <- if (how == "alternating") rep(groups, 30) else rep(groups, each = 30)
  study <- function() {
    quiet(versus(data.frame(x = series(60, 0.8), side, hour = 1:60), x, side, groups = groups, order = hour))
  }
  other <- if (how == "alternating") "p(-values)? too small" else "p-values larger"
  name <- paste("one series, r = 0.8,", how)
  rbind(
    corner(name, "Welch, which ignores it", 60, "rejects a true null", "5", function(i) rejected(study())),
    corner(name, "check of the order", 60, "names the wrong direction", "0", function(i) {
      table <- quiet(vet_assumptions(study()))$table
      any(grepl(other, table$reading[table$check %in% c("order", "error_order")]))
    }, min(studies, 500))
  )
})

blocks <- local({
  block <- rep(1:10, each = 4)
  side <- rep(groups, 20)
  study <- function(shift) {
    x <- rnorm(40) + rnorm(10, 0, 2)[block] + shift * (side == groups[[1]])
    quiet(versus(data.frame(x, side, block), x, side, groups = groups, blocks = block))
  }
  name <- "blocks with an SD of 2"
  within <- function(...) corner(name, "permutation within blocks", 40, ..., count = min(studies, 1000))
  list(
    corner(name, "Welch, which ignores them", 40, "rejects a true null", "5", function(i) rejected(study(0))),
    within("rejects a true null", "5", function(i) rejected(study(0), "permutation", draws = 499, seed = i)),
    within("interval holds the true difference, 1", "95", function(i) {
      holds(1, study(1), "permutation", draws = 499, seed = i)
    })
  )
})

bounds <- local({
  shown <- function(case, n, study, ...) {
    corner("difference at a bound of 1 SD", case, n, "declared to lie within", "5", function(i) {
      grepl("within|equivalent", quiet(test_equivalence(study(), 1, ..., bounds_in = "sd"))$table$verdict)
    }, 2 * studies)
  }
  list(
    shown("pairs, SD of the changes", 100, function() changed(rnorm(100, 1))),
    shown("Student, pooled SD", c(50, 50), function() two(rnorm(50, 1), rnorm(50)), "student"),
    shown("Welch, average SD, SD 2 to 1", c(50, 50), function() two(rnorm(50, sqrt(2.5), 2), rnorm(50)))
  )
})

# Skewed values whose means are equal.
inverted <- lapply(list(c(6, 6), c(4, 12), c(20, 20)), function(n) {
  study <- function() two(rexp(n[[1]]) * 3 - 2, rexp(n[[2]]))
  ask <- function(study, i, ...) {
    options <- if (sum(n) > 16) list(draws = 499, seed = i)
    do.call(tested, c(list(study, "permutation", ...), options))$table
  }
  name <- "permutation of t, skewed, SD 3 to 1"
  rbind(
    corner(name, "interval against p at its ends", n, "disagree", "0", function(i) {
      asked <- study()
      row <- ask(asked, i)
      if (anyNA(c(row$lower, row$upper))) return(NA)
      shift <- row$lower + (row$upper - row$lower) * sample(c(-0.02, 0.02, 0.98, 1.02), 1)
      (ask(asked, i, beyond = shift)$p <= 0.05) == (row$lower <= shift && shift <= row$upper)
    }, min(studies, 500)),
    corner(name, "interval", n, "holds the true difference, 0", "95", function(i) {
      row <- ask(study(), i)
      !isTRUE(row$lower > 0) && !isTRUE(row$upper < 0)
    }, min(studies, 1000))
  )
})

table <- do.call(rbind, c(zeros, small, one_series, blocks, bounds, inverted))
row.names(table) <- NULL
utils::write.csv(table, "inst/validation/corner_rates.csv", row.names = FALSE)
print(table, right = FALSE)
