# What a design would find: rates of rejection and expected widths of intervals, by formula for t tests of normal
# values, by simulation for everything else.
#
# Two variances of normal samples are V B and V (1 - B) but for constants, V chi-squared and B beta distributed and
# independent. The squared standard error of a difference is V h(B); given B a t statistic is noncentral t, whatever the
# spreads and whether or not variances are pooled. What remains is an integral over B.

# Values of B with their weights; for each h, and the degrees of freedom that the test takes; `total`: those of V.
# `scaled`: the variances of both samples over V (for Welch's test only).
core_error_parts <- function(method, n, m, sd) {
  if (method == "paired") {
    return(list(
      method = method, n = n, weight = 1, h = sd[[1]]^2 / (n * (n - 1)), df = n - 1, total = n - 1,
      spread = sd[[1]] / sqrt(n)
    ))
  }
  spread <- sqrt(sd[[1]]^2 / n + sd[[2]]^2 / m)
  total <- n + m - 2
  if (method == "student" && sd[[1]] == sd[[2]]) {
    return(list(
      method = method, n = n, m = m, weight = 1, h = spread^2 / total, df = total, total = total, spread = spread
    ))
  }
  split <- core_beta_nodes((n - 1) / 2, (m - 1) / 2)
  first <- sd[[1]]^2 * split$b
  second <- sd[[2]]^2 * split$rest
  scaled <- list(first / (n - 1), second / (m - 1))
  if (method == "student") {
    h <- (first + second) / total * (1 / n + 1 / m)
    df <- rep(total, length(h))
  } else {
    first <- first / (n * (n - 1))
    second <- second / (m * (m - 1))
    h <- first + second
    df <- h^2 / (first^2 / (n - 1) + second^2 / (m - 1))
  }
  list(
    method = method, n = n, m = m, weight = split$weight, h = h, df = df, total = total, spread = spread,
    scaled = scaled
  )
}

# Nodes of a beta distribution on the logit scale, where the trapezoidal rule converges geometrically.
core_beta_nodes <- function(a, b) {
  centre <- digamma(a) - digamma(b)
  sd <- sqrt(trigamma(a) + trigamma(b))
  step <- min(0.25, sd / 2)
  z <- centre + step * seq(-ceiling(max(9 * sd, 40 / a) / step), ceiling(max(9 * sd, 40 / b) / step))
  weight <- exp(a * stats::plogis(z, log.p = TRUE) + b * stats::plogis(-z, log.p = TRUE) - lbeta(a, b)) * step
  keep <- weight > 1e-18
  list(b = stats::plogis(z[keep]), rest = stats::plogis(-z[keep]), weight = weight[keep])
}

# Gauss-Legendre rule on (-1, 1) from the eigenvalues of its recurrence (Golub & Welsch 1969).
core_legendre <- function(size) {
  k <- seq_len(size - 1)
  beta <- k / sqrt(4 * k^2 - 1)
  jacobi <- matrix(0, size, size)
  jacobi[cbind(k, k + 1)] <- beta
  jacobi[cbind(k + 1, k)] <- beta
  found <- eigen(jacobi, symmetric = TRUE)
  list(x = found$values, weight = 2 * found$vectors[1, ]^2)
}

legendre <- core_legendre(96)

# Which one-sided tests decide, each at `tail`. `standardized`: bounds in SD units, which tests of means hold against
# the standardized difference.
core_sides <- function(expect, beyond, within, alpha, standardized = NULL) {
  if (!is.null(within)) {
    return(list(
      up = TRUE, down = TRUE, both = TRUE, up_at = within[[1]], down_at = within[[2]], tail = alpha,
      standardized = standardized
    ))
  }
  list(
    up = expect != "lower", down = expect != "higher", both = FALSE, up_at = beyond, down_at = beyond,
    tail = if (expect == "either") alpha / 2 else alpha
  )
}

# Probability that the test rejects (or shows equivalence) when the true difference is normal with mean `difference` and
# SD `doubt`: 0 for power, above it for assurance (O'Hagan et al. 2005).
core_t_rate <- function(parts, difference, sides, doubt = 0) {
  spread <- sqrt(parts$spread^2 + doubt^2)
  if (!is.null(sides$standardized)) return(core_standardized_rate(parts, difference, sides, spread))
  limit <- stats::qt(sides$tail, parts$df, lower.tail = FALSE)
  if (sides$both) return(core_both_rate(parts, difference, sides, spread, limit))
  # On the scale of a t on the degrees of freedom of V.
  limit <- limit * sqrt(parts$h * parts$total) / spread
  rate <- function(limit, at, upper) core_shifted_tail(limit, parts$total, (difference - at) / spread, upper)
  up <- if (sides$up) rate(limit, sides$up_at, TRUE) else 0
  down <- if (sides$down) rate(-limit, sides$down_at, FALSE) else 0
  min(1, sum(parts$weight * (up + down)))
}

core_shifted_tail <- function(limit, df, shift, upper) {
  if (shift == 0) return(stats::pt(limit, df, lower.tail = !upper))
  size <- length(limit)
  native_noncentral_t(limit, rep(df, size), rep(shift, size))[, if (upper) 2 else 1]
}

# Both one-sided tests: given V the difference of the samples must lie between two limits; integrated over the root of
# V.
core_both_rate <- function(parts, difference, sides, spread, limit) {
  reach <- limit * sqrt(parts$h)
  most <- (sides$down_at - sides$up_at) / (2 * reach)
  ends <- sqrt(c(stats::qchisq(1e-20, parts$total), stats::qchisq(1e-20, parts$total, lower.tail = FALSE)))
  high <- pmin(ends[[2]], most)
  open <- high > ends[[1]]
  if (!any(open)) return(0)
  half <- (high[open] - ends[[1]]) / 2
  root <- ends[[1]] + outer(half, 1 + legendre$x)
  density <- 2 * root * stats::dchisq(root^2, parts$total)
  inside <- stats::pnorm((sides$down_at - reach[open] * root - difference) / spread) -
    stats::pnorm((sides$up_at + reach[open] * root - difference) / spread)
  min(1, max(0, sum(parts$weight[open] * half * drop((density * pmax(inside, 0)) %*% legendre$weight))))
}

# The same for bounds in SD units: the difference of the samples must lie between two multiples of the root of V.
core_standardized_rate <- function(parts, difference, sides, spread) {
  ends <- core_standardized_ends(parts, sides)
  open <- is.finite(ends$low) & is.finite(ends$high) & ends$high > ends$low
  if (!any(open)) return(0)
  range <- sqrt(c(stats::qchisq(1e-20, parts$total), stats::qchisq(1e-20, parts$total, lower.tail = FALSE)))
  root <- mean(range) + diff(range) / 2 * legendre$x
  density <- diff(range) / 2 * legendre$weight * 2 * root * stats::dchisq(root^2, parts$total)
  inside <- stats::pnorm((outer(ends$high[open], root) - difference) / spread) -
    stats::pnorm((outer(ends$low[open], root) - difference) / spread)
  min(1, sum(parts$weight[open] * drop(inside %*% density)))
}

# These multiples. For Student's test and for pairs they come from critical values of the noncentral t. For Welch's test
# they lie where Bonett's interval of d by the average SD touches the bounds.
core_standardized_ends <- function(parts, sides) {
  bounds <- sides$standardized
  if (parts$method != "welch") {
    critical <- core_standardized_critical(parts$method, parts$n, parts$m, bounds, sides$tail)
    return(list(low = critical[[1]] * sqrt(parts$h), high = critical[[2]] * sqrt(parts$h)))
  }
  average <- (parts$scaled[[1]] + parts$scaled[[2]]) / 2
  terms <- core_bonett_terms(parts$scaled[[1]] / average, parts$scaled[[2]] / average, parts$n - 1, parts$m - 1)
  touching <- function(bound) core_touching(bound, terms$gap, terms$standardizer, sides$tail) * sqrt(average)
  list(low = touching(bounds[[1]]), high = -touching(-bounds[[2]]))
}

# The smallest d whose distance from `bound` is a normal quantile times sqrt(a + b d^2).
core_touching <- function(bound, a, b, tail) {
  z2 <- stats::qnorm(tail)^2
  left <- 1 - z2 * b
  ifelse(left > 0, (bound + sqrt(pmax(0, bound^2 - left * (bound^2 - z2 * a)))) / left, Inf)
}

# The smallest and the largest t that lie within bounds in SD units: at a bound t is noncentral.
core_standardized_critical <- function(method, n, m, bounds, tail) {
  paired <- method == "paired"
  df <- if (paired) n - 1 else n + m - 2
  ncp <- bounds * if (paired) sqrt(n) else sqrt(n * m / (n + m))
  critical <- function(ncp, column) {
    off <- function(t) native_noncentral_t(t, df, ncp)[1, column] - tail
    stats::uniroot(off, ncp + c(-5, 5), extendInt = "yes", tol = 1e-10)$root
  }
  c(critical(ncp[[1]], 2), critical(ncp[[2]], 1))
}

# Expected distance from the estimate to either limit of its interval.
core_t_half_width <- function(parts, level) {
  root <- sqrt(2) * exp(lgamma((parts$total + 1) / 2) - lgamma(parts$total / 2))
  root * sum(parts$weight * stats::qt((1 + level) / 2, parts$df) * sqrt(parts$h))
}

# The smallest whole number from `least` on that is `enough`, which larger ones are too; NA beyond `most`.
core_smallest_enough <- function(enough, least, most, guess = least) {
  low <- least - 1
  high <- max(least, min(most, ceiling(guess)))
  step <- max(1, ceiling(high / 20))
  while (!enough(high)) {
    if (high >= most) return(NA_real_)
    low <- high
    high <- min(most, high + step)
    step <- 2 * step
  }
  step <- max(1, ceiling(high / 20))
  while (high - low > 1) {
    # Near the guess first, then halves.
    middle <- if (high - low > 2 * step) high - step else floor((low + high) / 2)
    step <- 2 * step
    if (enough(middle)) high <- middle else low <- middle
  }
  high
}

# n of either group from that of the first.
core_other_size <- function(n, ratio) pmax(2, round(n * ratio))

# A first guess of n for a power, by the normal distribution.
core_guess_n <- function(distance, sd, ratio, paired, tail, power) {
  variance <- if (paired) sd[[1]]^2 else sd[[1]]^2 + sd[[2]]^2 / ratio
  reach <- stats::qnorm(tail, lower.tail = FALSE) + stats::qnorm(power)
  variance * (max(0.1, reach) / distance)^2 + 2
}

made_up_shapes <- c("normal", "uniform", "skewed", "strongly_skewed", "heavy_tailed")

# The world as the kernel takes it: of pairs changes first, then what the second measurement owes to the change; of
# rounded values everything in steps.
core_made_up_world <- function(world) {
  step <- if (is.null(world$rounded_to)) 1 else world$rounded_to
  shape <- function(i) match(world$shape[[i]], made_up_shapes) - 1L
  out <- list(paired = world$paired, whole = !is.null(world$rounded_to), doubt = world$difference_sd / step)
  second <- list(mean = world$mean / step, sd = world$sd[[2]] / step, shape = shape(2))
  if (!world$paired) {
    first <- list(mean = (world$mean + world$difference) / step, sd = world$sd[[1]] / step, shape = shape(1))
    return(c(out, list(first = first, second = second, slope = 0, rest = 0)))
  }
  changes <- list(mean = world$difference / step, sd = world$sd_change / step, shape = shape(1))
  if (is.na(world$r)) {
    # Changes alone are known: as if every second measurement were the same.
    return(c(out, list(first = changes, second = second, slope = 0, rest = 0)))
  }
  shared <- world$r * world$sd[[1]] * world$sd[[2]] - world$sd[[2]]^2
  slope <- shared / world$sd_change^2
  rest <- sqrt(max(0, world$sd[[2]]^2 - slope * shared)) / step
  c(out, list(first = changes, second = second, slope = slope, rest = rest))
}

# Rates of all methods, by the names that the kernel knows, in the same studies `from` .. `to` - 1.
core_rehearsed <- function(world, n, m, methods, plan, from, to, threads) {
  found <- native_rehearse(core_made_up_world(world), n, m, methods, plan, from, to, threads)
  dimnames(found) <- list(methods, c("studies", "rejected", "undefined", "widths", "width_sum", "width_squares"))
  found
}

# Share with its Clopper-Pearson interval at 95 %, and the mean half-width with its standard error; half-widths in
# steps.
core_rates_of <- function(sums, step = 1) {
  range <- core_simulated_range(sums[["rejected"]], sums[["studies"]])
  widths <- sums[["widths"]]
  mean <- if (widths > 0) sums[["width_sum"]] / widths else NA_real_
  variance <- if (widths > 1) max(0, sums[["width_squares"]] / widths - mean^2) * widths / (widths - 1) else NA_real_
  list(
    power = sums[["rejected"]] / sums[["studies"]], low = range[[1]], high = range[[2]], half_width = mean * step,
    half_width_se = sqrt(variance / widths) * step, undefined = sums[["undefined"]] / sums[["studies"]]
  )
}

# The kernel's plan. Whole steps stay whole, so that ties are ties.
core_rehearsal_plan <- function(sides, level, world, n, m, options) {
  step <- if (is.null(world$rounded_to)) 1 else world$rounded_to
  in_steps <- function(x) {
    x <- x / step
    if (abs(x - round(x)) < 1e-9) round(x) else x
  }
  affordable <- function(tied) {
    if (world$paired) return(list(seconds = 0, possible = n <= 3000))
    cost <- core_rank_sum_cost(n, m, tied)
    cost$seconds <- cost$seconds * if (tied) 2 * options$draws / options$threads else 1
    cost
  }
  bounds <- sides$standardized
  critical <- if (is.null(bounds)) {
    c(NA_real_, NA_real_)
  } else {
    core_standardized_critical(if (world$paired) "paired" else "student", n, m, bounds, sides$tail)
  }
  untied <- affordable(FALSE)
  tied <- affordable(TRUE)
  list(
    up = sides$up, down = sides$down, both = sides$both, up_at = in_steps(sides$up_at),
    down_at = in_steps(sides$down_at), tail = sides$tail, width_tail = (1 - level) / 2,
    width_every = if (isFALSE(options$widths)) options$draws + 1 else max(1, floor(options$draws / 1000)),
    exact_ranks = untied$possible && untied$seconds < 4, exact_ties = tied$possible && tied$seconds < 60,
    standardized = !is.null(bounds), sd_low = if (is.null(bounds)) NA_real_ else bounds[[1]],
    sd_high = if (is.null(bounds)) NA_real_ else bounds[[2]],
    t_low = critical[[1]], t_high = critical[[2]], z = stats::qnorm(sides$tail, lower.tail = FALSE),
    assignments = 999, studentized = options$statistic == "studentized", seed = options$seed
  )
}

# Values of one made-up study, rounded to the world's step or to four digits of the smaller SD.
core_made_up <- function(world, n, m, seed, study = 0) {
  world$difference_sd <- 0
  found <- native_made_up(core_made_up_world(world), n, if (world$paired && is.na(world$r)) 0 else m, seed, study)
  step <- if (is.null(world$rounded_to)) 1 else world$rounded_to
  least <- min(if (world$paired) world$sd_change, if (!anyNA(world$sd)) world$sd)
  decimals <- 3 - floor(log10(least))
  # Products of whole numbers and a step lose the last digit, which rounding restores.
  plain <- function(x) if (is.null(world$rounded_to)) round(x, decimals) else signif(x * step, 14)
  if (!world$paired) return(list(first = plain(found$first), second = plain(found$second)))
  if (is.na(world$r)) return(list(change = plain(found$first)))
  list(first = plain(found$first + found$second), second = plain(found$second))
}
