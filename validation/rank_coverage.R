# How often the intervals of rank-based effect sizes hold the true value; writes inst/validation/rank_coverage.csv.
# Run after `make install`, from the project's root: Rscript validation/rank_coverage.R (three minutes).
library(vandro)
ns <- asNamespace("vandro")
set.seed(20261123)
level <- 0.95
holds <- function(limits, truth) isTRUE(limits[[1]] <= truth && truth <= limits[[2]])

# Populations: normal with equal or threefold SD in the second group, and scores in five steps (many ties).
populations <- list(
  normal = list(draw = function(n, shift, which) stats::rnorm(n, if (which == 1) shift else 0)),
  unequal = list(draw = function(n, shift, which) {
    if (which == 1) stats::rnorm(n, shift) else stats::rnorm(n, 0, 3)
  }),
  scores = list(draw = function(n, shift, which) {
    pmin(4, pmax(0, round(stats::rnorm(n, 2 + if (which == 1) shift else 0))))
  })
)
true_superiority <- function(name, shift) {
  if (name == "normal") return(stats::pnorm(shift / sqrt(2)))
  if (name == "unequal") return(stats::pnorm(shift / sqrt(10)))
  steps <- c(-Inf, 0:3 + 0.5, Inf)
  first <- diff(stats::pnorm(steps, 2 + shift))
  second <- diff(stats::pnorm(steps, 2))
  sum(outer(first, second) * (outer(1:5, 1:5, ">") + outer(1:5, 1:5, "==") / 2))
}

two_samples <- function(name, sizes, shift, studies, boot_studies, draws = 999) {
  draw <- populations[[name]]$draw
  truth <- true_superiority(name, shift)
  share <- sizes[[1]] / sum(sizes)
  true_r <- (truth - 0.5) * sqrt(12 * share * (1 - share))
  hits <- c(relative = 0, shift = 0)
  none <- c(relative = 0, shift = 0)
  boot <- c(superiority = 0, r_rank = 0)
  boot_none <- boot
  for (i in seq_len(studies)) {
    samples <- ns$core_rank_samples(draw(sizes[[1]], shift, 1), draw(sizes[[2]], shift, 2))
    counts <- ns$core_rank_counts(samples)
    found <- list(lower = NA, upper = NA)
    if (counts$sd > 0) found <- ns$core_relative_inference(counts, "either", level, 0.05)
    hits[["relative"]] <- hits[["relative"]] + holds(c(found$lower, found$upper), truth)
    if (name == "normal") {
      exact <- ns$core_rank_inference(samples, counts, "either", level, 0.05, TRUE)
      if (is.na(exact$lower)) none[["shift"]] <- none[["shift"]] + 1
      hits[["shift"]] <- hits[["shift"]] + holds(c(exact$lower, exact$upper), shift)
    }
    if (i > boot_studies) next
    drawn <- ns$core_rank_draws(samples, "drop", i, 0, draws, 1L, FALSE)
    influence <- ns$core_rank_jackknife(samples)
    estimate <- list(share = counts$u / counts$pairs, z = counts$z)
    for (code in names(boot)) {
      limits <- ns$core_bca_limits(
        ns$core_rank_effect(code, estimate, sum(sizes)), ns$core_rank_effect(code, drawn, sum(sizes)),
        influence$values, influence$group, level
      )
      if (!is.null(limits$reason)) {
        boot_none[[code]] <- boot_none[[code]] + 1
      } else {
        boot[[code]] <- boot[[code]] + holds(c(limits$lower, limits$upper), if (code == "r_rank") true_r else truth)
      }
    }
  }
  data.frame(
    design = "independent", population = name, n_first = sizes[[1]], n_second = sizes[[2]], shift = shift,
    estimand = c("superiority", if (name == "normal") "shift", names(boot)),
    interval = c("relative", if (name == "normal") "ranks", "bootstrap", "bootstrap"),
    coverage = c(
      hits[["relative"]] / studies, if (name == "normal") hits[["shift"]] / (studies - none[["shift"]]),
      boot / (boot_studies - boot_none)
    ),
    without = c(0, if (name == "normal") none[["shift"]] / studies, boot_none / boot_studies),
    studies = c(studies, if (name == "normal") studies, boot_studies, boot_studies), row.names = NULL
  )
}

pairs <- function(n, centre, studies, boot_studies, draws = 999) {
  truth <- c(rank_biserial = 2 * stats::pnorm(centre * sqrt(2)) - 1)
  truth[["r_rank"]] <- truth[["rank_biserial"]] * sqrt(3) / 2
  hits <- 0
  none <- 0
  boot <- boot_none <- c(rank_biserial = 0, r_rank = 0)
  for (i in seq_len(studies)) {
    sample <- ns$core_change_sample(stats::rnorm(n, centre))
    counts <- ns$core_signed_counts(sample)
    exact <- ns$core_signed_rank_inference(sample, counts, "either", level, 0.05, TRUE)
    if (is.na(exact$lower)) none <- none + 1
    hits <- hits + holds(c(exact$lower, exact$upper), centre)
    if (i > boot_studies) next
    drawn <- ns$core_rank_draws(sample, "drop", i, 0, draws, 1L, FALSE)
    influence <- ns$core_rank_jackknife(sample)
    estimate <- list(share = counts$plus / counts$total, z = counts$z)
    for (code in names(boot)) {
      limits <- ns$core_bca_limits(
        ns$core_rank_effect(code, estimate, n), ns$core_rank_effect(code, drawn, n), influence$values,
        influence$group, level
      )
      if (code == "rank_biserial" && estimate$share %in% c(0, 1)) {
        ends <- ns$core_balance_limits(2 * estimate$share - 1, n, level)
        limits <- list(lower = ends[[1]], upper = ends[[2]])
      }
      if (!is.null(limits$reason)) {
        boot_none[[code]] <- boot_none[[code]] + 1
      } else {
        boot[[code]] <- boot[[code]] + holds(c(limits$lower, limits$upper), truth[[code]])
      }
    }
  }
  data.frame(
    design = "paired", population = "normal", n_first = n, n_second = n, shift = centre,
    estimand = c("shift", names(boot)), interval = c("signed_ranks", "bootstrap", "bootstrap"),
    coverage = c(hits / (studies - none), boot / (boot_studies - boot_none)),
    without = c(none / studies, boot_none / boot_studies), studies = c(studies, boot_studies, boot_studies),
    row.names = NULL
  )
}

sizes <- list(c(6, 6), c(10, 10), c(20, 20), c(50, 50), c(10, 30))
cases <- expand.grid(
  name = names(populations), size = seq_along(sizes), shift = c(0, 0.5, 1.5), stringsAsFactors = FALSE
)
rows <- c(
  Map(function(name, size, shift) {
    two_samples(name, sizes[[size]], shift, 4000, 1000)
  }, cases$name, cases$size, cases$shift),
  lapply(c(6, 10, 20, 50), function(n) do.call(rbind, lapply(c(0, 0.5, 1), function(c) pairs(n, c, 4000, 1000))))
)
table <- do.call(rbind, unname(rows))
table$coverage <- round(table$coverage, 4)
table$without <- round(table$without, 4)
utils::write.csv(table, "inst/validation/rank_coverage.csv", row.names = FALSE, quote = FALSE)
