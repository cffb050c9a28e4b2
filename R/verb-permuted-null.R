# Distributions under reassignment, for figures.

# Draws that show a shape where all assignments are counted without listing them; the tails are those counted.
shape_draws <- 99999
shape_seed <- 1
# Up to so many assignments are shown one by one.
shown_one_by_one <- 2000

# The question that an answer was asked, for its data.
question_of_answer <- function(answer) {
  s <- answer$settings
  list(
    beyond = s$beyond, expect = s$expect, alpha = s$alpha, level = s$level, run_length = s$run_length,
    statistic = s$statistic
  )
}

# Stretches of the compared statistic with their probability, cut at the observed value so that shaded stretches
# are whole. `both`: the distribution is symmetric, and both tails together are p; else one tail is half of it.
permuted_null_bars <- function(answer, outcome) {
  row <- outcome_rows(answer, outcome, "primary")
  way <- answer_detail(answer, outcome, "permutation")$way
  sample <- permutation_data(outcome, answer$study, question_of_answer(answer), NULL)$sample
  estimate <- core_permuted_estimate(sample)
  frame <- permuted_frame(sample, row, way)
  compared <- row$compared_by
  if (compared == "studentized" && !frame$studentized) compared <- "difference"
  counts <- core_permuted_histogram(
    sample, compared, frame$breaks - if (frame$studentized) 0 else frame$observed,
    switch(way$how, listed = 0, drawn = way$draws, shape_draws), if (way$how == "drawn") way$seed else shape_seed,
    estimate = estimate
  )
  # The observed assignment counts as one of the draws.
  own <- findInterval(frame$observed, frame$breaks)
  if (way$how == "drawn") counts[[own]] <- counts[[own]] + 1
  from <- utils::head(frame$breaks, -1)
  to <- frame$breaks[-1]
  shaded <- shaded_stretches(from, to, frame)
  share <- if (row$expect == "either" && !frame$both) row$p / 2 else row$p
  mass <- counts / sum(counts)
  if (!way$how %in% c("listed", "drawn")) mass <- counted_mass(mass, shaded, share)
  c(
    list(
      bars = data.frame(from = from, to = to, mass = mass, density = mass / (to - from), shaded = shaded),
      share = share
    ),
    frame[c("observed", "centre", "ends", "few", "both", "studentized", "high", "lattice", "cuts")]
  )
}

# Where the distribution lies on the axis: t, or the difference itself, which the null hypothesis puts at `beyond`. Of
# pairs that order all signs by t the mean change is shown. `cuts`: where shaded tails begin.
permuted_frame <- function(sample, row, way, bars = 61) {
  studentized <- row$compared_by == "studentized" && !core_is_flips(sample)
  observed <- if (studentized) row$statistic else row$estimate
  centre <- if (studentized) 0 else row$beyond
  reach <- max(4.2 * if (studentized) 1 else permuted_spread(sample), 1.1 * abs(observed - centre))
  few <- way$how == "listed" && row$assignments <= shown_one_by_one
  # Random draws are not symmetric even where all assignments are.
  both <- row$expect == "either" && way$how != "drawn" && is_symmetric(sample)
  high <- if (row$expect == "either") observed >= centre else row$expect == "higher"
  # Values on a lattice: everything is cut halfway between two of them.
  lattice <- if (studentized || !sums_only(sample, row$compared_by)) 0 else core_sum_lattice(sample)
  hair <- if (lattice > 0) lattice / 2 else 1e-7 * reach
  cuts <- tail_cuts(observed, centre, high, both, hair)
  ends <- centre + c(-1, 1) * reach
  list(
    observed = observed, centre = centre, ends = ends, few = few, both = both, high = high, cuts = cuts, hair = hair,
    studentized = studentized, lattice = lattice,
    breaks = stretch_breaks(ends, cuts, 2 * reach / if (few) 20000 else bars, if (few) 0 else lattice)
  )
}

shaded_stretches <- function(from, to, frame) {
  if (frame$both && frame$observed == frame$centre) return(rep(TRUE, length(from)))
  upper <- from >= max(frame$cuts) - frame$hair
  lower <- to <= min(frame$cuts) + frame$hair
  (frame$high | frame$both) & upper | (!frame$high | frame$both) & lower
}

# Counted tails are known better than drawn ones.
counted_mass <- function(mass, shaded, share) {
  if (all(shaded) || all(mass[shaded] == 0)) return(mass)
  mass[shaded] <- mass[shaded] * share / sum(mass[shaded])
  mass[!shaded] <- mass[!shaded] * (1 - share) / sum(mass[!shaded])
  mass
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

# At the observed value, and with `both` at its mirror image: just outside, so that the value itself is shaded.
tail_cuts <- function(observed, centre, high, both, hair) {
  if (both) return(centre + c(1, -1) * (abs(observed - centre) - hair))
  observed + if (high) -hair else hair
}

is_symmetric <- function(sample) {
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

# For tiny samples: bars of about `width` made of the fine stretches, none across a shaded one's end, each with as many
# values of a lattice as the next.
merged_stretches <- function(data, width) {
  bars <- data$bars
  if (data$lattice > 0) width <- ceiling(width / data$lattice) * data$lattice
  key <- paste(bars$shaded, floor((bars$from - data$cuts[[1]]) / width + 1e-9))
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
pairing_bars <- function(outcome, beyond, bars = 81) {
  whole <- complete_pairs(outcome$data)
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
    # The mean change widens both distributions: without it, what pairing is worth to the standard error.
    own_ratio = stats::sd(whole[[3]]) / sqrt(stats::var(whole[[1]]) + stats::var(whole[[2]])), r = outcome$pairs$r,
    ways = ways
  )
}
