# How often do the intervals of gauge_effect() hold the true effect? Run from the project's root after
# `make install`: Rscript validation/interval_coverage.R [replications] [cores]   (an hour for 20000 on two cores).
# Writes inst/validation/interval_coverage.csv, which the vignette on effect sizes tabulates.
source("validation/resumed.R")
arguments <- as.integer(commandArgs(trailingOnly = TRUE))
replications <- if (length(arguments) > 0) arguments[[1]] else 20000L
cores <- if (length(arguments) > 1) arguments[[2]] else 2L
bootstrap_draws <- 999
level <- 0.95
core <- asNamespace("vandro")

# Standardized values, a matrix with one replication per column. "skewed": gamma with shape 2, whose
# skewness is 1.41.
standard_values <- function(rows, columns, shape) {
  x <- if (shape == "normal") stats::rnorm(rows * columns) else (stats::rgamma(rows * columns, 2) - 2) / sqrt(2)
  matrix(x, rows)
}
column_sd <- function(x) sqrt(colSums((x - rep(colMeans(x), each = nrow(x)))^2) / (nrow(x) - 1))

independent_cells <- function() {
  cells <- expand.grid(
    n = c(5, 10, 20, 50, 200), more = c(1, 2), spread = c("1,1", "2,1", "1,2"), effect = c(0, 0.2, 0.5, 0.8, 2),
    shape = c("normal", "skewed"), stringsAsFactors = FALSE
  )
  # With equal sizes 2,1 and 1,2 are one case.
  cells[!(cells$more == 1 & cells$spread == "1,2"), ]
}
paired_cells <- function() {
  expand.grid(
    n = c(5, 10, 20, 50, 200), spread = c("1,1", "2,1"), r = c(0.3, 0.8), effect = c(0, 0.2, 0.5, 0.8, 2),
    shape = c("normal", "skewed"), stringsAsFactors = FALSE
  )
}

# What the effect sizes are in the populations.
true_effects <- function(gap, sd, n, mean_second, sd_change = NULL, r = NULL) {
  parts <- list(
    n_first = n[[1]], n_second = n[[2]], sd_first = sd[[1]], sd_second = sd[[2]], gap = gap,
    mean_first = mean_second + gap, mean_second = mean_second
  )
  if (!is.null(sd_change)) parts[c("sd_change", "r")] <- list(sd_change, r)
  function(estimand) {
    name <- if (estimand == "g") "d_pooled" else sub("^g_", "d_", estimand)
    core$core_effect_point(name, parts)
  }
}

held <- function(interval, truth) {
  inside <- interval$lower <= truth & truth <= interval$upper
  c(coverage = mean(inside), width = stats::median(interval$upper - interval$lower), failed = sum(is.na(inside)))
}

# Every estimand by every interval it has, from the moments of all replications at once.
by_moments <- function(parts, truth, paired) {
  estimands <- core$estimands_where(design = if (paired) "paired" else "independent", offered = TRUE)
  rows <- list()
  for (estimand in setdiff(estimands, c("mean_difference", core$estimands_where(family = "ranks")))) {
    for (method in core$core_interval_methods(estimand, paired)) {
      found <- held(core$core_effect_interval(estimand, parts, level, method), truth(estimand))
      rows[[length(rows) + 1]] <- data.frame(estimand = estimand, method = method, t(found))
    }
  }
  do.call(rbind, rows)
}

difference_rows <- function(parts, truth, paired) {
  group <- function(i, which) list(n = parts[[paste0("n_", which)]], sd = parts[[paste0("sd_", which)]][[i]])
  methods <- if (paired) "paired" else c("welch", "student")
  do.call(rbind, lapply(methods, function(method) {
    reach <- vapply(seq_along(parts$gap), function(i) {
      error <- switch(method,
        paired = core$core_paired_error(list(n = parts$n_first, sd = parts$sd_change[[i]])),
        welch = core$core_welch_error(group(i, "first"), group(i, "second")),
        student = core$core_student_error(group(i, "first"), group(i, "second"))
      )
      core$core_t_reach(error$se, error$df, level)
    }, 0)
    interval <- list(lower = parts$gap - reach, upper = parts$gap + reach)
    data.frame(estimand = "mean_difference", method = method, t(held(interval, truth("mean_difference"))))
  }))
}

by_bootstrap <- function(first, second, truth, paired, estimands, seed) {
  found <- lapply(seq_len(ncol(first)), function(i) {
    samples <- list(core$core_bootstrap_sample(first[, i]), core$core_bootstrap_sample(second[, i]))
    moments <- if (paired) {
      core$core_pair_moments(first[, i], second[, i])
    } else {
      list(moments = list(core$core_sample_moments(first[, i]), core$core_sample_moments(second[, i])), r = NULL)
    }
    parts <- core$core_effect_parts(moments$moments, moments$r)
    drawn <- core$core_bootstrap_parts(samples, parts, paired, seed + i, 0, bootstrap_draws, 1L)
    without <- core$core_jackknife_parts(samples, parts, paired)
    lapply(stats::setNames(nm = estimands), function(estimand) {
      limits <- core$core_bca_limits(
        core$core_effect_point(estimand, parts), core$core_effect_point(estimand, drawn),
        core$core_effect_point(estimand, without$parts), without$group, level
      )
      if (is.null(limits$reason)) c(limits$lower, limits$upper) else c(NA, NA)
    })
  })
  do.call(rbind, lapply(estimands, function(estimand) {
    limits <- vapply(found, `[[`, c(0, 0), estimand)
    interval <- list(lower = limits[1, ], upper = limits[2, ])
    inside <- interval$lower <= truth(estimand) & truth(estimand) <= interval$upper
    data.frame(
      estimand = estimand, method = "bootstrap", coverage = mean(inside, na.rm = TRUE),
      width = stats::median(interval$upper - interval$lower, na.rm = TRUE), failed = sum(is.na(inside))
    )
  }))
}

# The bootstrap takes a thousand times longer than a formula.
drawn_too <- function(cell) {
  cell$n %in% c(5, 10, 50) && cell$effect %in% c(0.5, 2) && !identical(cell$r, 0.8) && !identical(cell$more, 2)
}

independent_cell <- function(cell, seed) {
  set.seed(seed)
  sd <- as.numeric(strsplit(cell$spread, ",")[[1]])
  n <- c(cell$n, cell$n * cell$more)
  gap <- cell$effect * sqrt(mean(sd^2))
  first <- 12 + gap + sd[[1]] * standard_values(n[[1]], replications, cell$shape)
  second <- 12 + sd[[2]] * standard_values(n[[2]], replications, cell$shape)
  parts <- list(
    n_first = n[[1]], n_second = n[[2]], mean_first = colMeans(first), mean_second = colMeans(second),
    sd_first = column_sd(first), sd_second = column_sd(second), gap = colMeans(first) - colMeans(second)
  )
  truth <- true_effects(gap, sd, n, 12)
  found <- rbind(
    difference_rows(parts, truth, FALSE), by_moments(parts, truth, FALSE),
    if (drawn_too(cell)) {
      by_bootstrap(first, second, truth, FALSE, c("mean_difference", "d_pooled", "d_average"), seed)
    }
  )
  data.frame(
    design = "independent", n_first = n[[1]], n_second = n[[2]], sd_first = sd[[1]], sd_second = sd[[2]], r = NA,
    effect = cell$effect, shape = cell$shape, found
  )
}

paired_cell <- function(cell, seed) {
  set.seed(seed)
  sd <- as.numeric(strsplit(cell$spread, ",")[[1]])
  n <- cell$n
  gap <- cell$effect * sqrt(mean(sd^2))
  shared <- standard_values(n, replications, cell$shape)
  own <- function() standard_values(n, replications, cell$shape)
  half <- function(sd) sd * (sqrt(cell$r) * shared + sqrt(1 - cell$r) * own())
  first <- 12 + gap + half(sd[[1]])
  second <- 12 + half(sd[[2]])
  sds <- list(column_sd(first), column_sd(second), column_sd(first - second))
  parts <- list(
    n_first = n, n_second = n, mean_first = colMeans(first), mean_second = colMeans(second),
    sd_first = sds[[1]], sd_second = sds[[2]], gap = colMeans(first - second), sd_change = sds[[3]],
    r = (sds[[1]]^2 + sds[[2]]^2 - sds[[3]]^2) / (2 * sds[[1]] * sds[[2]])
  )
  sd_change <- sqrt(sum(sd^2) - 2 * cell$r * prod(sd))
  truth <- true_effects(gap, sd, c(n, n), 12, sd_change, cell$r)
  found <- rbind(
    difference_rows(parts, truth, TRUE), by_moments(parts, truth, TRUE),
    if (drawn_too(cell)) {
      by_bootstrap(first, second, truth, TRUE, c("mean_difference", "d_change", "d_average"), seed)
    }
  )
  data.frame(
    design = "paired", n_first = n, n_second = n, sd_first = sd[[1]], sd_second = sd[[2]], r = cell$r,
    effect = cell$effect, shape = cell$shape, found
  )
}

run <- function(cells, one, offset) {
  parallel::mclapply(seq_len(nrow(cells)), function(i) {
    resumed(file.path("interval_coverage", replications), offset + i, function() one(cells[i, ], offset + i))
  }, mc.cores = cores, mc.preschedule = FALSE)
}
found <- c(run(independent_cells(), independent_cell, 1000), run(paired_cells(), paired_cell, 5000))
table <- do.call(rbind, found)
table$coverage <- round(table$coverage, 4)
table$width <- signif(table$width, 4)
table$replications <- replications
utils::write.csv(table, "inst/validation/interval_coverage.csv", row.names = FALSE, na = "", quote = FALSE)
