# Permutation tests: what is reassigned, and what every way of counting the reassignments finds.
#
# A sample holds
#   values    numbers in steps of 1 / `power`: of two groups block by block, the first group's own in front, or
#             changes, or sums over runs of either
#   times     how often a shift of the first group counts in each value
#   sizes, chosen   of each block, how many values there are and how many of them are the first group's;
#             empty for changes, whose signs are flipped
#   beyond    the null value in the same steps
#   whole     whether the values are whole numbers of steps
#   grain     see core_grain()

# Two groups; `first_block`, `second_block`: the block of each value.
core_group_sample <- function(first, second, beyond = 0, first_block = NULL, second_block = NULL) {
  steps <- core_whole_steps(list(first, second, beyond))
  n <- c(length(first), length(second))
  values <- c(steps$parts[[1]], steps$parts[[2]])
  times <- rep(c(1, 0), n)
  sizes <- sum(n)
  chosen <- n[[1]]
  if (!is.null(first_block)) {
    names <- unique(c(first_block, second_block))
    block <- match(c(first_block, second_block), names)
    at <- order(block, -times)
    values <- values[at]
    times <- times[at]
    sizes <- tabulate(block, length(names))
    chosen <- tabulate(match(first_block, names), length(names))
  }
  list(
    values = values, times = times, sizes = as.double(sizes), chosen = as.double(chosen),
    beyond = steps$parts[[3]], power = steps$power, whole = steps$whole, grain = core_grain(steps)
  )
}

# Digits below this power of two are rounding errors, unless the values are decimals (0).
core_grain <- function(steps) if (steps$near > 0) 2^(ceiling(log2(steps$near)) - 2) else 0

# Changes, of both measurements or ready-made; `run`: number of the run each change belongs to, NULL where every
# change is flipped on its own.
core_flip_sample <- function(first, second = NULL, beyond = 0, run = NULL) {
  steps <- core_whole_steps(if (is.null(second)) list(first, beyond) else list(first, second, beyond))
  last <- length(steps$parts)
  values <- if (is.null(second)) steps$parts[[1]] else steps$parts[[1]] - steps$parts[[2]]
  times <- rep(1, length(values))
  if (!is.null(run)) {
    values <- as.vector(rowsum(values, run, reorder = FALSE))
    times <- as.vector(rowsum(times, run, reorder = FALSE))
  }
  list(
    values = as.double(values), times = as.double(times), sizes = double(), chosen = double(),
    beyond = steps$parts[[last]], power = steps$power, whole = steps$whole, grain = core_grain(steps)
  )
}

core_is_flips <- function(sample) length(sample$sizes) == 0

# Logarithm of the number of reassignments, or of sets of signs.
core_log_assignments <- function(sample) {
  if (core_is_flips(sample)) return(length(sample$values) * log(2))
  sum(lchoose(sample$sizes, sample$chosen))
}

core_assignments <- function(sample) {
  if (core_is_flips(sample)) return(2^length(sample$values))
  prod(choose(sample$sizes, sample$chosen))
}

# Reassignments that only exchange equal values, or flip changes of nothing: ties with the observed sum that need
# no arithmetic. `at`: of the observed assignment, or of the one with the largest or the smallest sum.
core_log_equal <- function(sample, at = "observed") {
  values <- sample$values - sample$times * sample$beyond
  if (core_is_flips(sample)) return(sum(values == 0) * log(2))
  block <- rep(seq_along(sample$sizes), sample$sizes)
  sum(vapply(split(seq_along(values), block), function(of) {
    v <- values[of]
    n_first <- sum(sample$times[of] > 0)
    taken <- switch(at,
      observed = v[seq_len(n_first)],
      largest = sort(v, decreasing = TRUE)[seq_len(n_first)],
      smallest = sort(v)[seq_len(n_first)]
    )
    found <- unique(taken)
    sum(lchoose(tabulate(match(v, found), length(found)), tabulate(match(taken, found), length(found))))
  }, 0))
}

# Estimate in the unit of the outcome, its rough standard error in steps, Welch's t of the values less `beyond`.
# Within blocks: differences within blocks, weighted by n1 n2 / (n1 + n2), as least squares would.
core_permuted_estimate <- function(sample) {
  z <- sample$values - sample$times * sample$beyond
  # Squares of values near the ends of a double's range would leave it.
  size <- max(abs(z))
  if (size == 0) size <- 1
  if (core_is_flips(sample)) return(core_flip_estimate(sample, z / size, size))
  block <- rep(seq_along(sample$sizes), sample$sizes)
  z <- z / size
  z <- z - rep(vapply(split(z, block), mean, 0), sample$sizes)
  first <- sample$times > 0
  n <- c(sum(first), sum(!first))
  weight <- sum(sample$chosen * (sample$sizes - sample$chosen) / sample$sizes)
  factor <- weight * sum(1 / n)
  centres <- c(mean(z[first]), mean(z[!first]))
  squares <- c(sum((z[first] - centres[[1]])^2), sum((z[!first] - centres[[2]])^2))
  # Constant groups leave rounding dust.
  squares[squares < 1e-28 * sum(n)] <- 0
  se <- if (min(n) > 1) sqrt(sum(squares / (n * (n - 1)))) else NA_real_
  freedom <- max(1, sum(n) - length(sample$sizes) - 1)
  # A run's values are sums of as many measurements.
  steps <- size / max(sample$times)
  gap <- (centres[[1]] - centres[[2]]) / factor
  list(
    estimate = (sample$beyond + gap * steps) / sample$power, gap = gap * steps, centred = z, size = steps,
    se = se / factor * steps / sample$power, t = gap * factor / se,
    rough = sqrt(sum(squares) / freedom / weight) * steps, flat = all(squares == 0)
  )
}

core_flip_estimate <- function(sample, z, size) {
  n <- sum(sample$times)
  gap <- sum(z) / n
  each <- z / sample$times
  list(
    estimate = (sample$beyond + gap * size) / sample$power, gap = gap * size,
    rough = sqrt(sum(sample$times^2 * (each - gap)^2)) / n * size, flat = all(each == each[[1]])
  )
}

# p of the question from the tails towards lower (`low`) and higher (`high`) values; `log_smallest`: the logarithms
# of the smallest tails there can be.
core_permuted_p <- function(low, high, expect, log_smallest) {
  tails <- list(
    p_low = low$p, p_high = high$p, log_low = low$log_p, log_high = high$log_p, log_smallest = log_smallest
  )
  core_rank_p(tails, expect)
}

core_plain_tail <- function(p) list(p = p, log_p = log(p), low = p, high = p)

# Tails from counts of `found`: of random draws the observed assignment is one more.
core_counted_tails <- function(found, total, drawn) {
  list(
    high = core_plain_tail((found$at_least + drawn) / total), low = core_plain_tail((found$at_most + drawn) / total),
    counts = c(at_least = found$at_least, at_most = found$at_most), total = total,
    kind = if (drawn) "simulated" else "exact"
  )
}

# Number, from the outermost, of the critical shift that is the limit at `alpha`: the first with which the tail is
# above alpha. `identity`: assignments whose tail no shift changes. NA where there is no limit.
core_limit_number <- function(total, alpha, identity) {
  within <- core_within(total, alpha)
  number <- within + 1 - identity
  ifelse(within < 1 | number < 1, NA_real_, number)
}

# How many of `total` assignments make a tail of at most `alpha`.
core_within <- function(total, alpha) floor(total * alpha * (1 + 1e-12))

# Limits in the unit of the outcome from shifts that are relative to `beyond`. A shift so small that rounding hides it
# still moves the limit off the null value.
core_from_shift <- function(sample, shift) {
  null <- sample$beyond / sample$power
  out <- (sample$beyond + shift) / sample$power
  hidden <- which(shift != 0 & (out - null) * sign(shift) <= 0)
  out[hidden] <- null + sign(shift[hidden]) * max(abs(null) * 2^-52, 2^-1074)
  out
}

# --- listed and drawn -------------------------------------------------------------------------------

# Sums under all (`draws` 0) or random assignments. `alphas`: tails that limits are wanted for.
core_sums_inference <- function(sample, alphas, draws = 0, seed = 0, threads = 1L, shares = core_one_share) {
  drawn <- draws > 0
  total <- if (drawn) draws + 1 else core_assignments(sample)
  kept <- core_within(total, max(alphas)) + 1
  work <- function(from, to) {
    if (core_is_flips(sample)) {
      native_flip_sums(sample$values, sample$times, sample$beyond, to - from, seed, threads, kept, from, sample$grain)
    } else {
      native_reassign_sums(
        sample$values, sample$times, sample$sizes, sample$chosen, sample$beyond, to - from, seed, threads, kept, from,
        sample$grain
      )
    }
  }
  found <- core_merged_shares(core_drawn_shares(sample, draws, work, shares), kept)
  number <- core_limit_number(total, alphas, found$same + drawn)
  scale <- if (core_is_flips(sample)) 1 else max(sample$times)
  c(core_counted_tails(found, total, drawn), list(
    lower = core_from_shift(sample, found$low[number] / scale),
    upper = core_from_shift(sample, found$high[number] / scale),
    ends = core_from_shift(sample, c(found$low[1], found$high[1]) / scale)
  ))
}

# All the work at once; `shares(count, step, work)` of a caller who has others to share it with gives a list.
core_one_share <- function(count, step, work) list(work(0, count))

# Exhaustive listing is not split among workers.
core_drawn_shares <- function(sample, draws, work, shares) {
  if (draws == 0) return(list(work(0, 0)))
  shares(draws, core_stream_size(length(sample$values)), work)
}

# Random assignments of n values that one stream of random numbers serves: shares begin at multiples of it.
core_stream_size <- function(n) min(1024, max(16, floor(2^19 / ceiling(n / 64))))

# Counts of all shares, and of the outermost critical values the outermost: `low` in increasing order, `high` in
# decreasing.
core_merged_shares <- function(shares, kept) {
  if (length(shares) == 1) return(shares[[1]])
  all <- function(name) unlist(lapply(shares, `[[`, name))
  found <- lapply(stats::setNames(nm = names(shares[[1]])), function(name) sum(all(name)))
  found$left <- shares[[1]]$left
  first <- function(values) values[seq_len(min(kept, length(values)))]
  found$low <- first(sort(all("low")))
  found$high <- first(sort(all("high"), decreasing = TRUE))
  found
}

# Beyond 1e5 t cannot be told from one of groups without spread: the sums that it is made of have no digits left.
core_cap_t <- function(t) max(-1e5, min(1e5, t))

# The same for Welch's t, which moves with the shift in every assignment: a limit is the critical shift at which the
# test of that shift begins to keep it.
core_studentized_inference <- function(sample, estimate, alphas, draws = 0, seed = 0, threads = 1L,
                                       shares = core_one_share) {
  drawn <- draws > 0
  total <- if (drawn) draws + 1 else core_assignments(sample)
  # t is known the worse the smaller the spread within groups is beside that of all values.
  observed <- core_cap_t(estimate$t)
  slack <- max(1e-12, abs(observed) * (1e-12 + 4e-15 * observed^2))
  if (sample$grain > 0 && estimate$se > 0) slack <- max(slack, sample$grain / estimate$se)
  thorough <- !drawn && total <= searched_at_most && core_is_uneven(sample)
  # Groups without spread leave no limit. An assignment enters twice at most.
  kept <- if (!is.finite(estimate$t)) 0 else if (thorough) 2 * total else core_within(total, max(alphas)) + 1
  found <- core_merged_shares(core_drawn_shares(sample, draws, function(from, to) {
    native_reassign_studentized(
      estimate$centred, sample$sizes, sample$chosen, observed, slack, core_cap_t(Inf), to - from, seed, threads, kept,
      from, thorough
    )
  }, shares), kept)
  number <- core_limit_number(total, alphas, found$same + drawn)
  placed <- function(shift) core_from_shift(sample, ifelse(is.finite(shift), shift * estimate$size, NA_real_))
  limit <- function(side, entered) {
    placed(side * vapply(number, function(one) core_kept_from(side * entered, side * found$left, one), 0))
  }
  c(core_counted_tails(found, total, drawn), list(
    lower = limit(1, found$low), upper = limit(-1, found$high), ends = placed(c(found$low[1], found$high[1]))
  ))
}

# With at most this many assignments every critical shift is sought, if one group is at least twice as large.
searched_at_most <- 20000
core_is_uneven <- function(sample) {
  n <- core_sample_sizes(sample)
  max(n) >= 2 * min(n)
}

# The outermost shift that the test does not reject: the first of `entered` (in order from outside) by which `number`
# assignments have passed the observed one and have not `left` again.
core_kept_from <- function(entered, left, number) {
  if (is.na(number)) return(NA_real_)
  if (length(left) == 0) return(entered[number])
  passed <- rank(entered, ties.method = "max") - findInterval(entered, sort(left), left.open = TRUE)
  entered[match(TRUE, passed >= number)]
}

# How many values trimming leaves out at each end of n: a fifth, or all but the middle one or two.
core_trim <- function(n, statistic) {
  if (statistic == "median") floor((n - 1) / 2) else floor(0.2 * n)
}

# Sizes of both groups, or the number of changes.
core_sample_sizes <- function(sample) {
  if (core_is_flips(sample)) length(sample$values) else c(sum(sample$times > 0), sum(sample$times == 0))
}

core_trimmed_mean <- function(values, trim) {
  mean(sort(values)[seq(trim + 1, length(values) - trim)])
}

# The same for trimmed means and medians; limits by asking every shift anew.
core_location_inference <- function(sample, statistic, alphas, rough, draws = 0, seed = 0, threads = 1L) {
  drawn <- draws > 0
  total <- if (drawn) draws + 1 else core_assignments(sample)
  trims <- core_trim(core_sample_sizes(sample), statistic)
  z <- sample$values - sample$times * sample$beyond
  gap <- if (core_is_flips(sample)) {
    core_trimmed_mean(z, trims)
  } else {
    core_trimmed_mean(z[sample$times > 0], trims[[1]]) - core_trimmed_mean(z[sample$times == 0], trims[[2]])
  }
  found <- native_location(
    sample$values, sample$times, sample$sizes, sample$chosen, trims, sample$beyond, total, draws, seed, threads,
    alphas, gap, rough, sample$grain
  )
  c(core_counted_tails(found, total, drawn), list(
    estimate = core_from_shift(sample, gap), trims = trims, lower = core_from_shift(sample, found$lower),
    upper = core_from_shift(sample, found$upper), ends = core_from_shift(sample, found$ends),
    widest_level = found$widest, tied_low = found$tied_low, tied_high = found$tied_high
  ))
}
