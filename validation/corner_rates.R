# Corners that the other maps do not enter: changes of which a quarter is 0, groups that alternate along one series,
# blocks, bounds in SD units, very small groups beside large ones, intervals against the tests that they invert.
# Writes inst/validation/corner_rates.csv; run after `make install`, from the project's root:
# Rscript validation/corner_rates.R [STUDIES]   (some ten minutes for 2000)
suppressMessages(library(vandro))
studies <- as.integer(c(commandArgs(trailingOnly = TRUE), 2000)[[1]])
quiet <- function(x) suppressMessages(suppressWarnings(x))
two <- function(first, second, ...) quiet(versus(first = first, second = second, groups = c("compost", "peat"), ...))
changed <- function(x) quiet(versus_paired(data.frame(change = x), change = change, groups = c("noon", "dawn")))
tested <- function(...) quiet(test_difference(...))
holds <- function(table, truth) isTRUE(table$lower[[1]] <= truth && truth <= table$upper[[1]])
series <- function(n, r) as.vector(stats::filter(c(rnorm(1) / sqrt(1 - r^2), rnorm(n - 1)), r, "recursive"))

# A share of studies in per cent, with what it should be.
corner <- function(corner, case, n, what, should, one, count = studies) {
  set.seed(7)
  found <- vapply(seq_len(count), one, NA)
  data.frame(
    corner = corner, case = case, n = n, what = what, should = should, percent = round(100 * mean(found, na.rm = TRUE), 2),
    studies = sum(!is.na(found))
  )
}

# 0, 1 and 2 in 25, 50 and 25 % of units: symmetric about 1, and a quarter does not change.
zeros <- lapply(c(30, 60, 120, 250), function(n) {
  corner("a quarter of zeros", "signed ranks, true centre 1", n, "interval holds the centre", ">= 95", function(i) {
    holds(tested(changed(sample(c(0, 1, 1, 2), n, TRUE)), "signed_ranks", exact = FALSE)$table, 1)
  })
})

small <- list(
  corner("3 + 30 values, SD 100 to 1", "Brunner-Munzel, true chance .5", "3 + 30", "interval holds .5", "about 95", function(i) {
    holds(tested(two(rnorm(3, 0, 100), rnorm(30)), "relative")$table, 0.5)
  }),
  corner("3 + 30 values, SD 100 to 1", "Brunner-Munzel, true chance .5", "3 + 30", "p at most .05, called exact", "0", function(i) {
    found <- tested(two(rnorm(3, 0, 100), rnorm(30)), "relative")
    found$table$p <= 0.05 && any(grepl("exact p", narrate(found)))
  }),
  corner("5 + 3 values", "permutation of medians", "5 + 3", "finite limits where no shift is rejected", "0", function(i) {
    # With 56 assignments, and medians that many of them share, 2.5 % cannot be reached.
    row <- tested(two(rnorm(5), rnorm(3)), "permutation", statistic = "median")$table
    is.finite(row$lower) && is.finite(row$upper)
  }, min(studies, 400))
)

series_of_groups <- lapply(c(alternating = "alternating", halves = "halves"), function(how) {
  first <- if (how == "alternating") rep(c(TRUE, FALSE), 30) else rep(c(TRUE, FALSE), each = 30)
  study <- function() {
    x <- series(60, 0.8)
    quiet(versus(
      data.frame(x = x, side = ifelse(first, "compost", "peat"), hour = 1:60), x, side,
      groups = c("compost", "peat"), order = hour
    ))
  }
  seen <- function(pattern) {
    function(i) {
      table <- quiet(vet_assumptions(study()))$table
      any(grepl(pattern, table$seen[table$check %in% c("order", "error_order")]))
    }
  }
  wrong <- if (how == "alternating") "every p too small|p-values too small" else "p-values larger"
  rbind(
    corner(paste("one series,", how), "Welch, neighbours correlate by .8", 60, "rejects a true null", "5", function(i) {
      tested(study())$table$p <= 0.05
    }),
    corner(paste("one series,", how), "check of the order", 60, "says the wrong direction", "at most 5", seen(wrong), min(studies, 500))
  )
})

blocks <- local({
  study <- function(shift) {
    block <- rep(1:10, each = 4)
    side <- rep(c("compost", "compost", "peat", "peat"), 10)
    x <- rnorm(40) + rnorm(10, 0, 2)[block] + shift * (side == "compost")
    quiet(versus(data.frame(x, side, block), x, side, groups = c("compost", "peat"), blocks = block))
  }
  list(
    corner("blocks with an SD of 2", "Welch, which ignores them", 40, "rejects a true null", "5", function(i) {
      tested(study(0))$table$p <= 0.05
    }),
    corner("blocks with an SD of 2", "permutation within blocks", 40, "rejects a true null", "5", function(i) {
      tested(study(0), "permutation", draws = 499, seed = i)$table$p <= 0.05
    }, min(studies, 1000)),
    corner("blocks with an SD of 2", "permutation within blocks", 40, "interval holds a difference of 1", "95", function(i) {
      holds(tested(study(1), "permutation", draws = 499, seed = i)$table, 1)
    }, min(studies, 1000))
  )
})

bounds <- local({
  inside <- function(study, ...) {
    grepl("within|equivalent", quiet(test_equivalence(study, 1, ..., bounds_in = "sd"))$table$verdict)
  }
  list(
    corner("bounds of 1 SD, true difference at the bound", "pairs, SD of the changes", 100, "shown to lie within", "5", function(i) {
      inside(changed(rnorm(100, 1)))
    }, max(studies, 4000)),
    corner("bounds of 1 SD, true difference at the bound", "Student, pooled SD", "50 + 50", "shown to lie within", "5", function(i) {
      inside(two(rnorm(50, 1), rnorm(50)), "student")
    }, max(studies, 4000)),
    corner("bounds of 1 SD, true difference at the bound", "Welch, average SD, SD 2 to 1", "50 + 50", "shown to lie within", "5", function(i) {
      inside(two(rnorm(50, sqrt(2.5), 2), rnorm(50)))
    }, max(studies, 4000))
  )
})

inverted <- lapply(list(c(6, 6), c(4, 12), c(20, 20)), function(n) {
  name <- paste(n, collapse = " + ")
  samples <- function() list(rexp(n[[1]]) * 3 - 2, rexp(n[[2]]))
  rbind(
    corner("studentized permutation, skewed, SD 3 to 1", "interval against p", name, "a shift in the interval is rejected, or the reverse", "0", function(i) {
      x <- samples()
      study <- two(x[[1]], x[[2]])
      row <- tested(study, "permutation", draws = if (sum(n) > 16) 499, seed = if (sum(n) > 16) i)$table
      if (anyNA(c(row$lower, row$upper))) return(NA)
      shift <- row$lower + (row$upper - row$lower) * sample(c(-0.02, 0.02, 0.98, 1.02), 1)
      p <- tested(study, "permutation", beyond = shift, draws = if (sum(n) > 16) 499, seed = if (sum(n) > 16) i)$table$p
      (p <= 0.05) == (row$lower <= shift && shift <= row$upper)
    }, min(studies, 500)),
    corner("studentized permutation, skewed, SD 3 to 1", "true difference 0", name, "interval holds the difference", "95", function(i) {
      x <- samples()
      row <- tested(two(x[[1]], x[[2]]), "permutation", draws = if (sum(n) > 16) 499, seed = if (sum(n) > 16) i)$table
      isTRUE(row$lower <= 0 && 0 <= row$upper) || is.na(row$lower) || is.na(row$upper)
    }, min(studies, 1000))
  )
})

table <- do.call(rbind, c(zeros, small, series_of_groups, blocks, bounds, inverted))
row.names(table) <- NULL
utils::write.csv(table, "inst/validation/corner_rates.csv", row.names = FALSE)
print(table[c("corner", "case", "n", "what", "should", "percent")], right = FALSE)
