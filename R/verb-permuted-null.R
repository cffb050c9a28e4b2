# Distributions under reassignment, for figures.

# Draws that show a shape where all assignments are counted without listing them; the tails are those counted.
shape_draws <- 99999
shape_seed <- 1
# Up to so many assignments are shown one by one.
shown_one_by_one <- 2000

# The question that an answer was asked, for its data.
asked_of <- function(answer) {
  s <- answer$settings
  list(
    beyond = s$beyond, expect = s$expect, alpha = s$alpha, level = s$level, run_length = s$run_length,
    statistic = s$statistic
  )
}

# Stretches of the compared statistic with their probability, cut at the observed value so that shaded stretches
# are whole. `both`: the distribution is symmetric, and both tails together are p; else one tail is half of it.
permuted_null_bars <- function(answer, outcome, bars = 61) {
  row <- outcome_rows(answer, outcome, "primary")
  way <- answer_detail(answer, outcome, "permutation")$way
  sample <- permutation_data(outcome, answer$study, asked_of(answer), NULL)$sample
  estimate <- core_permuted_estimate(sample)
  studentized <- row$compared_by == "studentized" && !core_is_flips(sample)
  # On the axis: t, or the difference itself, which the null hypothesis puts at `beyond`. Of pairs that order all
  # signs by t the mean change is shown.
  observed <- if (studentized) row$statistic else row$estimate
  centre <- if (studentized) 0 else row$beyond
  spread <- if (studentized) 1 else permuted_spread(sample)
  reach <- max(4.2 * spread, 1.1 * abs(observed - centre))
  ends <- centre + c(-1, 1) * reach
  few <- way$how == "listed" && row$assignments <= shown_one_by_one
  hair <- 1e-7 * reach
  both <- row$expect == "either" && is_symmetric(sample, row)
  high <- if (row$expect == "either") observed >= centre else row$expect == "higher"
  cuts <- c(if (high || both) abs_side(observed, centre, TRUE, both) - hair,
    if (!high || both) abs_side(observed, centre, FALSE, both) + hair
  )
  lattice <- if (studentized || !sums_only(sample, row$compared_by)) 0 else core_sum_lattice(sample)
  breaks <- stretch_breaks(ends, cuts, 2 * reach / if (few) 20000 else bars, if (few) 0 else lattice)
  draws <- switch(way$how, listed = 0, drawn = way$draws, shape_draws)
  seed <- if (way$how == "drawn") way$seed else shape_seed
  counts <- core_permuted_histogram(
    sample, if (studentized) "studentized" else if (row$compared_by == "studentized") "difference" else row$compared_by,
    breaks - if (studentized) 0 else observed, draws, seed, estimate = estimate
  )
  from <- utils::head(breaks, -1)
  to <- breaks[-1]
  if (way$how == "drawn") {
    # The observed assignment counts as one of the draws.
    own <- findInterval(observed, breaks)
    counts[[own]] <- counts[[own]] + 1
  }
  shaded <- (high | both) & from >= max(cuts) - hair | (!high | both) & to <= min(cuts) + hair
  if (both && observed == centre) shaded <- rep(TRUE, length(from))
  mass <- counts / sum(counts)
  share <- if (row$expect == "either" && !both) row$p / 2 else row$p
  # Counted tails are known better than drawn ones.
  if (!way$how %in% c("listed", "drawn") && any(mass[shaded] > 0) && any(!shaded)) {
    mass[shaded] <- mass[shaded] * share / sum(mass[shaded])
    mass[!shaded] <- mass[!shaded] * (1 - share) / sum(mass[!shaded])
  }
  list(
    bars = data.frame(from = from, to = to, mass = mass, density = mass / (to - from), shaded = shaded),
    observed = observed, centre = centre, ends = ends, few = few, both = both, share = share,
    studentized = studentized, high = high
  )
}

# Breaks of about `width` from end to end, from the first cut on, and at every cut. Sums of decimals lie on a
# lattice: each stretch then takes in as many of its values as the next.
stretch_breaks <- function(ends, cuts, width, lattice) {
  if (lattice > 0) width <- ceiling(width / lattice) * lattice
  from <- cuts[[1]] - ceiling((cuts[[1]] - ends[[1]]) / width) * width
  breaks <- seq(from, ends[[2]] + width, by = width)
  # A break beside a cut would leave a sliver that holds just one value.
  near <- vapply(breaks, function(at) any(abs(at - cuts) < max(1e-3 * width, 0.25 * lattice)), NA)
  sort(c(breaks[!near], cuts))
}

# The observed value, or its mirror image, on the side asked for.
abs_side <- function(observed, centre, high, both) {
  if (!both) return(observed)
  centre + (if (high) 1 else -1) * abs(observed - centre)
}

is_symmetric <- function(sample, row) {
  core_is_flips(sample) || (length(sample$sizes) == 1 && 2 * sample$chosen == sample$sizes)
}

# SD of the difference under reassignment, in the unit of the outcome.
permuted_spread <- function(sample) {
  z <- (sample$values - sample$times * sample$beyond) / sample$power
  if (core_is_flips(sample)) return(sqrt(sum(z^2)) / sum(sample$times))
  block <- rep(seq_along(sample$sizes), sample$sizes)
  parts <- sample$chosen * (sample$sizes - sample$chosen) / sample$sizes
  within <- vapply(split(z, block), function(v) if (length(v) > 1) stats::var(v) else 0, 0)
  sqrt(sum(parts * within)) / sum(parts) / max(sample$times)
}

# Density of the t distribution that a test of means would take; NULL where there is none.
permuted_curve_data <- function(data, outcome, study) {
  m <- outcome$moments
  error <- if (is_paired(study)) core_paired_error(m[[3]]) else core_welch_error(m[[1]], m[[2]])
  if (!is.null(error$reason)) return(NULL)
  scale <- if (data$studentized) 1 else error$se
  x <- seq(data$ends[[1]], data$ends[[2]], length.out = 401)
  data.frame(x = x, y = stats::dt((x - data$centre) / scale, error$df) / scale)
}

# Of tiny samples: bars of `width` made of the fine stretches, none across a shaded one's end.
merged_stretches <- function(bars, width) {
  key <- paste(bars$shaded, floor((bars$from - bars$from[[1]]) / width))
  group <- match(key, unique(key))
  mass <- as.vector(rowsum(bars$mass, group, reorder = FALSE))
  from <- bars$from[!duplicated(group)]
  to <- bars$to[!duplicated(group, fromLast = TRUE)]
  data.frame(from = from, to = to, mass = mass, density = mass / (to - from), shaded = bars$shaded[!duplicated(group)])
}

# Of tiny samples: the values that occur on the shaded side, from the outermost inwards, each with the p it would have.
attainable_p <- function(data, row) {
  bars <- data$bars[data$bars$mass > 0, ]
  at <- (bars$from + bars$to) / 2
  order <- if (data$high) order(-at) else order(at)
  tail <- cumsum(bars$mass[order])
  p <- pmin(1, if (row$expect == "either") 2 * tail else tail)
  keep <- which(p <= max(0.2, row$p * 1.0001))
  data.frame(at = at[order][keep], p = p[keep])
}

# Both ways of reassigning pairs: signs of the changes, and all values as if they were two independent groups.
pairing_bars <- function(study, outcome, beyond, bars = 81) {
  whole <- complete_pairs(outcome$data)
  n <- length(whole[[1]])
  kept <- core_flip_sample(whole[[1]], whole[[2]], beyond)
  broken <- core_group_sample(whole[[1]], whole[[2]], beyond)
  observed <- core_permuted_estimate(kept)$estimate
  spread <- c(permuted_spread(kept), permuted_spread(broken))
  reach <- max(3.6 * spread, 1.1 * abs(observed - beyond))
  breaks <- stretch_breaks(beyond + c(-1, 1) * reach, observed - 1e-7 * reach, 2 * reach / bars, core_sum_lattice(kept))
  ways <- c("pairs kept: signs of the changes", "pairs ignored: all values")
  parts <- Map(function(sample, way) {
    counts <- core_permuted_histogram(sample, "difference", breaks - observed, shape_draws, shape_seed)
    data.frame(
      way = factor(way, ways), from = utils::head(breaks, -1), to = breaks[-1],
      density = counts / sum(counts) / diff(breaks)
    )
  }, list(kept, broken), ways)
  list(
    bars = do.call(rbind, parts), observed = observed, spread = spread, ratio = spread[[1]] / spread[[2]],
    r = outcome$pairs$r, n = n, ways = ways
  )
}
