# How often equivalence is declared at alpha 0.05: where the true difference lies at the upper bound (it should be at
# most 5 %), and where there is none. Bounds are one SD (of the smaller spread) to either side.
# Usage: Rscript validation/equivalence_rates.R [STUDIES]   (nine minutes for 2000)
library(vandro)
ns <- asNamespace("vandro")
studies <- as.integer(c(commandArgs(trailingOnly = TRUE), 2000)[[1]])
methods <- c("welch", "student", "ranks", "permutation")
shapes <- list(normal = rnorm, skewed = function(n) rexp(n) - 1)
designs <- list(
  list(n = c(10, 10), ratio = 1), list(n = c(20, 20), ratio = 1), list(n = c(10, 30), ratio = 1),
  list(n = c(10, 30), ratio = 2), list(n = c(30, 10), ratio = 2), list(n = c(50, 50), ratio = 1)
)

verdicts <- function(design, draw, shift, seed) {
  study <- suppressMessages(versus(
    first = draw(design$n[[1]]) * design$ratio + shift, second = draw(design$n[[2]]), groups = c("compost", "peat")
  ))
  # As test_equivalence() does, without its warnings, which take longer than all the rest.
  asked <- list(within = list(value = c(-1, 1)), bounds_in = "outcome", alpha = 0.05)
  options <- list(draws = 399, seed = seed, threads = 1, max_memory = 1)
  counting <- ns$check_counting_options(methods, options, c("threads", "max_memory"), NULL)
  ns$equivalence_answer(study, methods, asked, counting, "none", NULL, NULL)$table$verdict
}

rates <- list()
for (design in designs) {
  for (shape in names(shapes)) {
    for (true in c(1, 0)) {
      set.seed(11)
      found <- vapply(seq_len(studies), function(i) verdicts(design, shapes[[shape]], true, i), character(4))
      inside <- rowMeans(found == "equivalent" | found == "different but within bounds")
      rates <- c(rates, list(data.frame(
        n_first = design$n[[1]], n_second = design$n[[2]], sd_ratio = design$ratio, shape = shape,
        true_difference = true, method = methods, shown = 100 * inside,
        inconclusive = 100 * rowMeans(found == "inconclusive"), studies = studies
      )))
    }
  }
}
rates <- do.call(rbind, rates)
dir.create("inst/validation", showWarnings = FALSE)
utils::write.csv(rates, "inst/validation/equivalence_rates.csv", row.names = FALSE)
print(rates, digits = 3)
