# The distribution of a rank statistic under the null hypothesis, for figures.

# Stretches of values of U or W with their probability, so cut that the shaded ones are whole. `both`: the tail
# on the other side, as far out, is shaded too and together they are p; where ties make the distribution
# lopsided only the smaller tail is, and p is twice that.
rank_null_bars <- function(answer, outcome, most = 120) {
  row <- outcome_rows(answer, outcome, "primary")
  data <- rank_data(outcome, answer$study, row$beyond, answer$settings$zeros %||% "pratt")
  counts <- data$counts
  largest <- if (is_paired(answer$study)) counts$total else counts$pairs
  step <- if (counts$tied > 0) 0.5 else 1
  gap <- abs(row$statistic - counts$mean)
  reach <- min(counts$mean, max(4.2 * counts$sd, 1.1 * gap))
  ends <- counts$mean + c(-1, 1) * reach
  ends <- c(floor(ends[[1]] / step), ceiling(ends[[2]] / step)) * step
  below <- rank_cumulative(data, row, counts)
  at <- below(c(row$statistic, row$statistic - step, counts$mean - gap, counts$mean + gap - step))
  smaller <- min(at[[1]], 1 - at[[2]])
  both <- row$expect == "either" && abs(at[[3]] + 1 - at[[4]] - min(1, 2 * smaller)) < 1e-9
  low_side <- row$statistic <= counts$mean
  cuts <- switch(row$expect,
    higher = c(Inf, row$statistic),
    lower = c(row$statistic, Inf),
    if (both) counts$mean + c(-1, 1) * gap else if (low_side) c(row$statistic, Inf) else c(Inf, row$statistic)
  )
  # Whole widths: with ties whole and half values differ in how often they occur.
  bars <- null_stretches(ends, cuts, step, if (diff(ends) <= most * step) step else ceiling(diff(ends) / most))
  # What lies beyond the ends counts in the outermost stretches.
  edges <- below(c(bars$to, bars$from - step))
  count <- nrow(bars)
  bars$mass <- c(edges[seq_len(count - 1)], 1) - c(0, edges[-seq_len(count + 1)])
  bars$density <- bars$mass / (bars$to - bars$from + step)
  list(
    bars = bars, step = step, mean = counts$mean, ends = ends, both = both, largest = largest,
    shaded = if (row$expect == "either" && !both) smaller else row$p
  )
}

# Cumulative probability at values of the statistic: by the distribution that p is from.
rank_cumulative <- function(data, row, counts) {
  function(at) {
    if (row$p_kind != "exact") return(stats::pnorm((at + 0.5 - counts$mean) / counts$sd))
    each <- unique(at)
    p <- if (is.null(data$samples)) {
      # A database gives counts, and the exact distribution only where nothing is tied.
      core_untied_curve(counts, !is.null(counts$total), each)
    } else if (is.null(counts$total)) {
      core_rank_sum_curve(data$samples, counts, each)
    } else {
      core_signed_rank_curve(counts, each)
    }
    p[match(at, each)]
  }
}

# Stretches of about `width` from end to end; none reaches over a cut. `cuts`: the last value of the lower, the
# first of the upper shaded tail, Inf where there is none.
null_stretches <- function(ends, cuts, step, width) {
  part <- function(from, to, shaded) {
    if (from > to) return(NULL)
    starts <- seq(from, to, by = width)
    data.frame(from = starts, to = pmin(to, starts + width - step), shaded = shaded)
  }
  low <- if (is.finite(cuts[[1]])) cuts[[1]] else ends[[1]] - step
  high <- if (is.finite(cuts[[2]])) cuts[[2]] else ends[[2]] + step
  # Both tails meet where the statistic lies at the mean: everything is shaded once.
  if (high <= low) return(part(ends[[1]], ends[[2]], TRUE))
  rbind(part(ends[[1]], low, TRUE), part(low + step, high - step, FALSE), part(high, ends[[2]], TRUE))
}

# Shares of the pairs with the first value higher, both equal, the second higher.
pair_shares <- function(study, outcome, beyond) {
  counts <- rank_data(outcome, study, beyond, "drop")$counts
  equal <- counts$equal_pairs
  higher <- counts$u - equal / 2
  c(higher = higher, equal = equal, lower = counts$pairs - higher - equal) / counts$pairs
}
