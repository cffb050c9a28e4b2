# How often every test rejects what is true, and so how often the interval that agrees with it misses the true value:
# writes inst/validation/error_rates.csv, the map of the vignette on validation. Run after `make install` from the
# project's root: Rscript validation/error_rates.R [replications] [cores]   (an hour and a half for 20000 on two cores).
suppressMessages(library(vandro))
source("validation/resumed.R")
core <- asNamespace("vandro")
arguments <- as.integer(commandArgs(trailingOnly = TRUE))
replications <- c(arguments, 20000L)[[1]]
cores <- if (length(arguments) > 1) arguments[[2]] else 2L
alpha <- 0.05

# One row of the map. `low`, `high`: rejections to either side of a two-sided test, which miss the interval below and
# above. `null`: whether what the test says it tests is true in this world.
rate_row <- function(question, design, world, n, method, nominal, low, high, null = TRUE, studies = replications,
                     undefined = 0) {
  rate <- low + high
  data.frame(
    question = question, design = design, world = world, n_first = n[[1]], n_second = n[[2]], method = method,
    nominal = nominal, rate = rate, low = low, high = high, error = sqrt(rate * (1 - rate) / studies),
    undefined = undefined, null_true = null, replications = studies
  )
}

# --- two groups and pairs, values independent of each other --------------------------------------------

group_worlds <- list(
  "normal" = list(sd = c(1, 1)),
  "skewed" = list(sd = c(1, 1), shape = "skewed"),
  "strongly skewed" = list(sd = c(1, 1), shape = "strongly_skewed"),
  "heavy tails" = list(sd = c(1, 1), shape = "heavy_tailed"),
  "rounded to one SD" = list(sd = c(1, 1), rounded_to = 1),
  "second spread twice the first" = list(sd = c(1, 2)),
  "first spread twice the second" = list(sd = c(2, 1)),
  "skewed, second spread twice" = list(sd = c(1, 2), shape = "skewed"),
  "skewed, first spread twice" = list(sd = c(2, 1), shape = "skewed"),
  "first skewed, second normal" = list(sd = c(1, 1), shape = c("skewed", "normal"))
)
group_sizes <- list(
  c(5, 5), c(10, 10), c(20, 20), c(50, 50), c(100, 100), c(500, 500), c(5, 15), c(10, 30), c(50, 150), c(125, 375)
)
# Ranks test that both populations are the same; relative effects that neither tends to higher values, which symmetry
# makes true; the others that the means are the same.
group_nulls <- function(name, world) {
  same <- world$sd[[1]] == world$sd[[2]] && length(world$shape) < 2
  even <- same || is.null(world$shape)
  c(welch = TRUE, student = TRUE, ranks = same, relative = even, studentized = TRUE, difference = TRUE)
}
pair_worlds <- list(
  "normal" = list(), "skewed" = list(shape = "skewed"), "strongly skewed" = list(shape = "strongly_skewed"),
  "heavy tails" = list(shape = "heavy_tailed"), "rounded to one SD" = list(rounded_to = 1)
)
pair_sizes <- list(5, 10, 20, 50, 100, 500)
pair_nulls <- function(name, world) {
  even <- is.null(world$shape) || world$shape == "heavy_tailed"
  c(paired = TRUE, signed_ranks = even, permutation = even)
}

shape_of <- function(world) if (is.null(world$shape)) "normal" else world$shape

rates_to <- function(world, n, methods, expect, statistic, seed, within = NULL) {
  sides <- core$core_sides(expect, 0, within, if (is.null(within)) alpha / 2 else alpha)
  options <- list(draws = replications, threads = 1L, widths = FALSE, statistic = statistic, seed = seed)
  plan <- core$core_rehearsal_plan(sides, 1 - alpha, world, n[[1]], n[[2]], options)
  core$core_rehearsed(world, n[[1]], n[[2]], methods, plan, 0, replications, 1L)
}

both_sides <- function(design, name, world, n, methods, statistic, as, nulls, seed) {
  high <- rates_to(world, n, methods, "higher", statistic, seed)
  low <- rates_to(world, n, methods, "lower", statistic, seed)
  do.call(rbind, lapply(seq_along(methods), function(i) {
    rate_row(
      "difference", design, name, n, as[[i]], alpha, low[i, "rejected"] / replications,
      high[i, "rejected"] / replications, nulls[[as[[i]]]],
      undefined = high[i, "undefined"] / replications
    )
  }))
}

group_task <- function(name, n, seed) {
  asked <- group_worlds[[name]]
  world <- suppose_world(0, sd = asked$sd, shape = shape_of(asked), rounded_to = asked$rounded_to)
  nulls <- group_nulls(name, asked)
  means <- c("welch", "student", "ranks", "relative", "permutation")
  rbind(
    both_sides("groups", name, world, n, means, "studentized", c(means[-5], "studentized"), nulls, seed),
    both_sides("groups", name, world, n, "permutation", "difference", "difference", nulls, seed)
  )
}

pair_task <- function(name, n, seed) {
  asked <- pair_worlds[[name]]
  world <- suppose_world(0, sd_change = 1, shape = shape_of(asked), rounded_to = asked$rounded_to)
  methods <- c("paired", "signed_ranks", "permutation")
  both_sides("pairs", name, world, c(n, n), methods, "difference", methods, pair_nulls(name, asked), seed)
}

# Equivalence: the true difference lies at the upper bound, one SD (of the smaller spread) away.
equivalence_task <- function(design, name, n, seed) {
  groups <- design == "groups"
  asked <- (if (groups) group_worlds else pair_worlds)[[name]]
  shape <- shape_of(asked)
  bound <- if (groups) min(asked$sd) else 1
  world <- if (groups) {
    suppose_world(bound, sd = asked$sd, shape = shape, rounded_to = asked$rounded_to)
  } else {
    suppose_world(bound, sd_change = 1, shape = shape, rounded_to = asked$rounded_to)
  }
  methods <- if (groups) c("welch", "student", "ranks", "permutation") else c("paired", "signed_ranks", "permutation")
  n <- rep_len(n, 2)
  found <- rates_to(world, n, methods, "either", if (groups) "studentized" else "difference", seed, c(-bound, bound))
  # Rounding moves a group by whole steps only where its shift is whole, as here.
  nulls <- if (groups) group_nulls(name, asked) else pair_nulls(name, asked)
  as <- if (groups) c(methods[-4], "studentized") else methods
  do.call(rbind, lapply(seq_along(methods), function(i) {
    rate_row(
      "equivalence", design, name, n, as[[i]], alpha, 0, found[i, "rejected"] / replications, nulls[[as[[i]]]],
      undefined = found[i, "undefined"] / replications
    )
  }))
}

# --- neighbours resemble each other ---------------------------------------------------------------------

# Normal series with correlation r of neighbours, one per column.
series <- function(n, r) {
  z <- matrix(stats::rnorm(n * replications), n)
  if (n > 1) for (i in 2:n) z[i, ] <- r * z[i - 1, ] + sqrt(1 - r^2) * z[i, ]
  z
}
moments_of <- function(x) {
  mean <- colMeans(x)
  list(n = rep(nrow(x), ncol(x)), mean = mean, sd = sqrt(colSums((x - rep(mean, each = nrow(x)))^2) / (nrow(x) - 1)))
}
tails_of <- function(estimate, error) {
  t <- estimate / error$se
  c(low = mean(t < stats::qt(alpha / 2, error$df)), high = mean(t > stats::qt(1 - alpha / 2, error$df)))
}
counted_tails <- function(one) {
  found <- vapply(seq_len(replications), one, c(low = 0, high = 0))
  rowMeans(found <= alpha / 2, na.rm = TRUE)
}

# Both tails of a two-sided test that rejects on the side of z.
sided <- function(found) {
  c(low = if (found$z < 0) found$p / 2 else 1, high = if (found$z > 0) found$p / 2 else 1)
}

serial_groups <- function(r, n, seed) {
  set.seed(seed)
  first <- series(n, r)
  second <- series(n, r)
  a <- moments_of(first)
  b <- moments_of(second)
  gap <- a$mean - b$mean
  # Some thousand assignments tell a rate as well as all.
  draws <- 999
  tails <- list(
    welch = tails_of(gap, core$core_welch_errors(a, b)), student = tails_of(gap, core$core_student_errors(a, b)),
    ranks = counted_tails(function(i) {
      samples <- core$core_rank_samples(first[, i], second[, i])
      sided(core$core_rank_inference(samples, core$core_rank_counts(samples), "either", 0.95, alpha, n <= 50))
    }),
    relative = counted_tails(function(i) {
      samples <- core$core_rank_samples(first[, i], second[, i])
      # As test_difference() does: below 10 values a group t is replaced by its values under assignment.
      drawn <- if (n < 10) core$core_relative_assignments(samples)
      p <- core$core_relative_inference(core$core_rank_counts(samples), "higher", 0.95, alpha, drawn)$p
      q <- core$core_relative_inference(core$core_rank_counts(samples), "lower", 0.95, alpha, drawn)$p
      c(low = q, high = p)
    }),
    difference = counted_tails(function(i) {
      found <- core$core_sums_inference(core$core_group_sample(first[, i], second[, i]), rep(alpha / 2, 2), draws, i)
      c(low = found$low$p, high = found$high$p)
    }),
    "difference, in runs" = counted_tails(function(i) {
      r <- (core$core_serial(first[, i])$r + core$core_serial(second[, i])$r) / 2
      run <- core$core_runs(n, core$core_run_length(r, n), full = TRUE)
      sample <- core$core_run_sample(first[, i], second[, i], run, run)
      found <- core$core_sums_inference(
        sample, rep(alpha / 2, 2), if (core$core_assignments(sample) <= 1000) 0 else draws, i
      )
      c(low = found$low$p, high = found$high$p)
    })
  )
  serial_rows("groups", r, n, tails)
}

serial_pairs <- function(r, n, seed) {
  set.seed(seed)
  changes <- series(n, r)
  a <- moments_of(changes)
  flips <- function(i, run) {
    sample <- core$core_flip_sample(changes[, i], run = run)
    found <- core$core_sums_inference(
      sample, rep(alpha / 2, 2), if (core$core_assignments(sample) <= 1024) 0 else 999, i
    )
    c(low = found$low$p, high = found$high$p)
  }
  tails <- list(
    paired = tails_of(a$mean, core$core_paired_errors(a)),
    signed_ranks = counted_tails(function(i) {
      sample <- core$core_change_sample(changes[, i])
      sided(core$core_signed_rank_inference(
        sample, core$core_signed_counts(sample), "either", 0.95, alpha, n <= 100
      ))
    }),
    permutation = counted_tails(function(i) flips(i, NULL)),
    "permutation, in runs" = counted_tails(function(i) {
      flips(i, core$core_runs(n, core$core_run_length(core$core_serial(changes[, i])$r, n)))
    })
  )
  serial_rows("pairs", r, n, tails)
}

# Their null hypotheses are true: what fails is the independence that the tests count on.
serial_rows <- function(design, r, n, tails) {
  world <- sprintf("neighbours correlate by %s", r)
  do.call(rbind, lapply(names(tails), function(method) {
    rate_row("difference", design, world, c(n, n), method, alpha, tails[[method]][[1]], tails[[method]][[2]])
  }))
}

# --- checks, several outcomes, subgroups, evidence -------------------------------------------------------

shapes <- list(
  "normal" = stats::rnorm, "skewed" = function(n) stats::rexp(n) - 1,
  "heavy tails" = function(n) stats::rt(n, 5) / sqrt(5 / 3), "rounded to one SD" = function(n) round(stats::rnorm(n))
)

check_task <- function(name, n, seed) {
  set.seed(seed)
  draw <- shapes[[name]]
  found <- vapply(seq_len(replications), function(i) {
    x <- draw(n)
    y <- draw(n)
    a <- core$core_sample_moments(x)
    b <- core$core_sample_moments(y)
    if (a$sd == 0 || b$sd == 0) return(rep(NA_real_, 5))
    ratio <- core$core_variance_ratio(a, b, 1 - alpha)
    c(
      core$core_shapiro_wilk(x)$log_p, core$core_omnibus(n, a$skewness, a$kurtosis)$log_p,
      core$core_deviation_test(x, y, TRUE)$log_p,
      core$core_deviation_test(x, y, FALSE)$log_p, ratio$log_p
    )
  }, numeric(5))
  methods <- c("shapiro_wilk", "omnibus", "brown_forsythe", "levene", "variance_ratio")
  rows <- lapply(seq_along(methods), function(k) {
    p <- exp(found[k, ])
    if (all(is.na(p))) return(NULL)
    about_shape <- k <= 2
    rate_row(
      "assumption", "groups", name, c(n, n), methods[[k]], alpha, 0, mean(p <= alpha, na.rm = TRUE),
      !about_shape || name == "normal",
      undefined = mean(is.na(p))
    )
  })
  do.call(rbind, rows)
}

# Ten outcomes that correlate by 0.5 and none of which differs: any false rejection counts.
several_task <- function(name, n, seed) {
  set.seed(seed)
  draw <- shapes[[name]]
  outcomes <- 10
  found <- vapply(seq_len(replications), function(i) {
    values <- matrix(draw(2 * n * outcomes), 2 * n) * sqrt(0.5) + draw(2 * n) * sqrt(0.5)
    a <- moments_of(values[seq_len(n), ])
    b <- moments_of(values[n + seq_len(n), ])
    error <- core$core_welch_errors(a, b)
    p <- core$core_t_inference(a$mean - b$mean, error$se, error$df, 0, "either", 0.95, alpha)$p
    ways <- c("bonferroni", "holm", "hochberg", "benjamini_hochberg")
    joint <- list(
      values = values, sizes = 2 * n, chosen = n, kind = "welch", expect = "either", all = FALSE, seed = i
    )
    largest <- core$core_max_t(core$core_max_t_share(joint, 0, 999), 1)
    c(vapply(ways, function(way) min(core$core_adjust_p(p, way)), 0), min(largest$max_t), min(largest$max_t_single))
  }, numeric(6))
  methods <- c("bonferroni", "holm", "hochberg", "benjamini_hochberg", "max_t", "max_t_single")
  do.call(rbind, lapply(seq_along(methods), function(k) {
    rate_row("several", "groups", name, c(n, n), methods[[k]], alpha, 0, mean(found[k, ] <= alpha))
  }))
}

# The same difference in each of k subgroups.
subgroup_task <- function(name, k, n, seed) {
  set.seed(seed)
  sd <- if (name == "first spread twice the second") c(2, 1) else c(1, 1)
  draw <- shapes[[if (name %in% names(shapes)) name else "normal"]]
  sides <- lapply(seq_len(k), function(i) {
    list(
      moments_of(matrix(draw(n * replications) * sd[[1]], n)), moments_of(matrix(draw(n * replications) * sd[[2]], n))
    )
  })
  errors <- lapply(sides, function(s) core$core_welch_errors(s[[1]], s[[2]]))
  gaps <- lapply(sides, function(s) s[[1]]$mean - s[[2]]$mean)
  p <- vapply(seq_len(replications), function(i) {
    pick <- function(from) vapply(from, `[[`, 0, i)
    core$core_heterogeneity(pick(gaps), pick(lapply(errors, `[[`, "se")), pick(lapply(errors, `[[`, "df")))$p
  }, 0)
  # Rounded values of a few plants are all the same now and then, and have no test.
  rate_row(
    "subgroups", "groups", name, c(n, n), sprintf("welch_1951, %d subgroups", k), alpha, 0,
    mean(p <= alpha, na.rm = TRUE),
    undefined = mean(is.na(p))
  )
}

# Posterior intervals are right on average over the prior: with effects drawn from it, they hold the effect at their
# level whatever n; and where there is no effect, a factor of k or more for one has a chance of at most 1 / k.
evidence_task <- function(n, seed) {
  set.seed(seed)
  prior <- list(location = 0, scale = sqrt(0.5), df = 1)
  size <- core$core_evidence_size(n, n)
  df <- 2 * n - 2
  effect <- stats::rcauchy(replications, 0, prior$scale)
  noise <- function() stats::rnorm(replications)
  spread <- sqrt(stats::rchisq(replications, df) / df)
  t <- (effect * sqrt(size) + noise()) / spread
  ends <- vapply(t, function(one) {
    found <- core$core_evidence(one, df, size, prior)
    c(found$lower, found$upper)
  }, c(0, 0))
  none <- vapply(noise() / spread, function(one) core$core_evidence(one, df, size, prior)$log_bf, 0)
  rbind(
    rate_row(
      "evidence", "groups", "effects drawn from the prior", c(n, n), "posterior interval", alpha,
      mean(effect > ends[2, ]), mean(effect < ends[1, ])
    ),
    rate_row("evidence", "groups", "no effect", c(n, n), "factor of 20 or more", 1 / 20, 0, mean(none >= log(20)))
  )
}

# --- all of it -------------------------------------------------------------------------------------------

tasks <- list()
add <- function(task, ...) tasks[[length(tasks) + 1]] <<- list(task = task, with = list(...))
for (name in names(group_worlds)) for (n in group_sizes) add(group_task, name, n)
for (name in names(pair_worlds)) for (n in pair_sizes) add(pair_task, name, n)
for (name in names(group_worlds)) for (n in group_sizes) add(equivalence_task, "groups", name, n)
for (name in names(pair_worlds)) for (n in pair_sizes) add(equivalence_task, "pairs", name, n)
for (r in c(0.3, 0.6)) {
  for (n in c(5, 10, 20, 50, 100, 500)) {
    add(serial_groups, r, n)
    add(serial_pairs, r, n)
  }
}
for (name in names(shapes)) for (n in c(5, 10, 20, 50, 100, 500)) add(check_task, name, n)
for (name in names(shapes)) for (n in c(5, 10, 20, 50)) add(several_task, name, n)
for (name in c(names(shapes), "first spread twice the second")) {
  for (k in c(2, 5)) for (n in c(5, 10, 20, 50)) add(subgroup_task, name, k, n)
}
for (n in c(5, 10, 20, 50, 500)) add(evidence_task, n)
rows <- parallel::mclapply(seq_along(tasks), function(i) {
  resumed(file.path("error_rates", replications), i, function() {
    do.call(tasks[[i]]$task, c(tasks[[i]]$with, list(seed = 20261128 + i)))
  })
}, mc.cores = cores, mc.preschedule = FALSE)
broken <- !vapply(rows, is.data.frame, NA)
if (any(broken)) stop("Task ", which(broken)[[1]], ": ", format(rows[[which(broken)[[1]]]]))
table <- do.call(rbind, rows)
for (name in c("rate", "low", "high", "error", "undefined")) table[[name]] <- signif(table[[name]], 4)
utils::write.csv(table, "inst/validation/error_rates.csv", row.names = FALSE)
