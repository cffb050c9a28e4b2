# How often permutation tests reject a true null hypothesis at alpha 0.05, and how often their 95 % intervals hold the
# true shift: unequal spreads and sizes, and series in which neighbours resemble each other.
# Usage: Rscript validation/permutation_rates.R [STUDIES]   (some six minutes for 4000)
suppressMessages(library(vandro))
ns <- asNamespace("vandro")
studies <- as.integer(c(commandArgs(trailingOnly = TRUE), 4000)[[1]])
alphas <- c(0.025, 0.025)
draws <- 999

verdict <- function(found, true) {
  p <- min(1, 2 * min(found$low$p, found$high$p))
  c(
    rejected = p <= 0.05, missed = isTRUE(found$lower[[1]] > true) || isTRUE(found$upper[[1]] < true),
    none = anyNA(c(found$lower[[1]], found$upper[[1]]))
  )
}

two_groups <- function(n, ratio, draw, statistic, seed, shift = 0) {
  first <- draw(n[[1]]) * ratio + shift
  sample <- ns$core_group_sample(first, draw(n[[2]]))
  estimate <- ns$core_permuted_estimate(sample)
  total <- ns$core_assignments(sample)
  count <- if (total <= 1000) 0 else draws
  if (statistic == "studentized") {
    ns$core_studentized_inference(sample, estimate, alphas, count, seed)
  } else {
    ns$core_sums_inference(sample, alphas, count, seed)
  }
}

# A series in which neighbours correlate by r.
series <- function(n, r) as.vector(stats::filter(c(rnorm(1) / sqrt(1 - r^2), rnorm(n - 1)), r, "recursive"))

run_length <- function(values, how) {
  if (how == "single") return(1)
  ns$core_run_length(ns$core_serial(values)$r, length(values))
}

changes <- function(n, r, how, seed) {
  values <- series(n, r)
  run <- ns$core_runs(n, run_length(values, how))
  sample <- ns$core_flip_sample(values, run = run)
  count <- if (length(sample$values) <= 9) 0 else draws
  ns$core_sums_inference(sample, alphas, count, seed)
}

both_series <- function(n, r, how, seed) {
  first <- series(n, r)
  second <- series(n, r)
  length <- if (how == "single") 1 else {
    ns$core_run_length((ns$core_serial(first)$r + ns$core_serial(second)$r) / 2, n)
  }
  run <- ns$core_runs(n, length, full = TRUE)
  sample <- ns$core_run_sample(first, second, run, run)
  ns$core_sums_inference(sample, alphas, if (ns$core_assignments(sample) <= 1000) 0 else draws, seed)
}

shapes <- list(normal = rnorm, skewed = function(n) rexp(n) - 1)
cases <- list()
for (n in list(c(6, 6), c(10, 30), c(30, 10), c(50, 50))) {
  for (ratio in c(1, 3)) {
    for (shape in names(shapes)) {
      for (statistic in c("studentized", "difference")) {
        cases <- c(cases, list(list(
          design = "two groups", n_first = n[[1]], n_second = n[[2]], sd_ratio = ratio, shape = shape, r = 0,
          way = statistic, run = local({
            n <- n; ratio <- ratio; shape <- shape; statistic <- statistic
            function(seed) two_groups(n, ratio, shapes[[shape]], statistic, seed)
          })
        )))
      }
    }
  }
}
for (n in c(40, 120)) {
  for (r in c(0, 0.3, 0.6)) {
    for (how in c("single", "runs")) {
      for (design in c("changes", "two series")) {
        cases <- c(cases, list(list(
          design = design, n_first = n, n_second = n, sd_ratio = 1, shape = "normal", r = r, way = how, run = local({
            n <- n; r <- r; how <- how; one <- if (design == "changes") changes else both_series
            function(seed) one(n, r, how, seed)
          })
        )))
      }
    }
  }
}
rows <- lapply(seq_along(cases), function(i) {
  set.seed(i)
  case <- cases[[i]]
  found <- vapply(seq_len(studies), function(k) verdict(case$run(k), 0), c(rejected = NA, missed = NA, none = NA))
  case$run <- NULL
  data.frame(
    case, studies = studies, rejected = 100 * mean(found["rejected", ]), covered = 100 * mean(!found["missed", ]),
    without = 100 * mean(found["none", ])
  )
})
utils::write.csv(do.call(rbind, rows), "inst/validation/permutation_rates.csv", row.names = FALSE, quote = FALSE)
