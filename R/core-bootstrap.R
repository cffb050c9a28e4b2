# Bootstrap intervals, bias-corrected and accelerated (Efron 1987).

# The measurements a bootstrap draws from, centred and scaled so that sums of squares keep their digits:
# centre and scale bring the drawn moments back.
core_bootstrap_sample <- function(values) {
  centre <- mean(values)
  scale <- max(abs(values - centre))
  if (scale == 0) scale <- 1
  list(values = (values - centre) / scale, centre = centre, scale = scale)
}

# Parts (see core-effect.R) of draws `from` + 1 to `to`. `samples`: both groups, or both halves of pairs.
core_bootstrap_parts <- function(samples, parts, paired, seed, from, to, threads) {
  a <- samples[[1]]
  b <- samples[[2]]
  draw <- if (paired) native_bootstrap_pairs else native_bootstrap_groups
  drawn <- draw(a$values, b$values, seed, from, to, threads)
  out <- list(
    n_first = parts$n_first, n_second = parts$n_second,
    mean_first = a$centre + a$scale * drawn$mean_first,
    mean_second = b$centre + b$scale * drawn$mean_second,
    sd_first = a$scale * sqrt(drawn$var_first), sd_second = b$scale * sqrt(drawn$var_second),
    gap = parts$gap + (a$scale * drawn$mean_first - b$scale * drawn$mean_second)
  )
  # Equal means of two constant draws: no gap, not the dust of rounding over a spread of 0.
  dust <- 1e-13 * (abs(parts$gap) + a$scale + b$scale)
  out$gap[abs(out$gap) <= dust] <- 0
  if (!paired) return(out)
  core_with_covariance(out, drawn$var_first, drawn$var_second, drawn$covariance, a$scale, b$scale)
}

# SD of the changes and correlation from the variances and covariance of scaled halves.
core_with_covariance <- function(parts, var_first, var_second, covariance, scale_first, scale_second) {
  size <- max(scale_first, scale_second)
  u <- scale_first / size
  v <- scale_second / size
  parts$sd_change <- size * sqrt(pmax(0, u^2 * var_first + v^2 * var_second - 2 * u * v * covariance))
  parts$r <- covariance / sqrt(var_first * var_second)
  parts
}

# Parts with one measurement (or pair) left out at a time; `group` says whose.
core_jackknife_parts <- function(samples, parts, paired) {
  one <- function(sample) {
    x <- sample$values
    n <- length(x)
    rest <- x - mean(x)
    m2 <- sum(rest^2)
    list(
      n = n, rest = rest, shift = -rest / (n - 1), var = m2 / (n - 1),
      var_without = pmax(0, m2 - rest^2 * n / (n - 1)) / (n - 2)
    )
  }
  a <- one(samples[[1]])
  b <- one(samples[[2]])
  scales <- c(samples[[1]]$scale, samples[[2]]$scale)
  if (paired) return(core_jackknife_pairs(a, b, scales, parts))
  stay_first <- rep(0, b$n)
  stay_second <- rep(0, a$n)
  shift_first <- scales[[1]] * c(a$shift, stay_first)
  shift_second <- scales[[2]] * c(stay_second, b$shift)
  list(
    group = rep(1:2, c(a$n, b$n)),
    parts = list(
      n_first = parts$n_first, n_second = parts$n_second, mean_first = parts$mean_first + shift_first,
      mean_second = parts$mean_second + shift_second,
      sd_first = scales[[1]] * sqrt(c(a$var_without, rep(a$var, b$n))),
      sd_second = scales[[2]] * sqrt(c(rep(b$var, a$n), b$var_without)),
      gap = parts$gap + shift_first - shift_second
    )
  )
}

core_jackknife_pairs <- function(a, b, scales, parts) {
  n <- a$n
  covariance <- (sum(a$rest * b$rest) - a$rest * b$rest * n / (n - 1)) / (n - 2)
  out <- list(
    n_first = parts$n_first, n_second = parts$n_second,
    mean_first = parts$mean_first + scales[[1]] * a$shift,
    mean_second = parts$mean_second + scales[[2]] * b$shift,
    sd_first = scales[[1]] * sqrt(a$var_without), sd_second = scales[[2]] * sqrt(b$var_without),
    gap = parts$gap + scales[[1]] * a$shift - scales[[2]] * b$shift
  )
  list(
    group = rep(1, n),
    parts = core_with_covariance(out, a$var_without, b$var_without, covariance, scales[[1]], scales[[2]])
  )
}

# Limits at `level` from the estimate, its draws and its jackknife values. With several groups the
# acceleration adds up their influences (Davison & Hinkley 1997, section 5.3). `undefined`: draws that have
# no such effect (0 / 0, all values drawn equal), which are left out.
core_bca_limits <- function(estimate, draws, jackknife, group, level) {
  undefined <- sum(is.na(draws))
  draws <- draws[!is.na(draws)]
  # Draws that are all alike, as of complete separation, tell nothing about spread; nor does the jackknife where all of
  # the spread hangs on one value.
  if (length(draws) == 0 || !all(is.finite(jackknife)) || all(draws == draws[[1]])) {
    return(list(reason = "no_bootstrap"))
  }
  below <- (sum(draws < estimate) + 0.5 * sum(draws == estimate)) / length(draws)
  bias <- stats::qnorm(below)
  acceleration <- core_acceleration(jackknife, group)
  tail <- (1 - level) / 2
  z <- stats::qnorm(c(tail, 1 - tail))
  stretch <- 1 - acceleration * (bias + z)
  # A strong acceleration turns the order of the limits round: nothing can be said.
  at <- if (isTRUE(all(stretch > 0))) stats::pnorm(bias + (bias + z) / stretch) else NA
  # Beyond the outermost draws nothing is known.
  room <- 1 / (length(draws) + 1)
  if (!all(is.finite(at)) || any(at < room) || any(at > 1 - room)) return(list(reason = "no_bootstrap"))
  limits <- stats::quantile(draws, at, names = FALSE, type = 6)
  if (!all(is.finite(limits))) return(list(reason = "no_bootstrap"))
  list(lower = limits[[1]], upper = limits[[2]], undefined = undefined, reason = NULL)
}

core_acceleration <- function(jackknife, group) {
  groups <- split(jackknife, group)
  influence <- lapply(groups, function(x) (length(x) - 1) * (mean(x) - x) / length(x))
  cubes <- sum(vapply(influence, function(l) sum(l^3), 0))
  squares <- sum(vapply(influence, function(l) sum(l^2), 0))
  if (squares == 0) 0 else cubes / (6 * squares^1.5)
}
