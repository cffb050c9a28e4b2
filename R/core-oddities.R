# What lies apart, repeats itself, piles up at an end, or depends on its neighbours.

# Positions beyond the fences: `reach` box lengths from the quartiles (Tukey 1977).
core_beyond_fences <- function(values, q1, q3, reach = 1.5) {
  which(values < q1 - reach * (q3 - q1) | values > q3 + reach * (q3 - q1))
}

# Positions whose distance from the median, in SDs estimated by the median absolute deviation, exceeds
# `reach` (Iglewicz & Hoaglin 1993: modified z above 3.5). NULL where more than half of the values are equal.
core_far_from_median <- function(values, median, reach = 3.5) {
  distance <- abs(values - median)
  spread <- native_quantiles(distance, 0.5)
  if (spread == 0) return(NULL)
  which(stats::qnorm(0.75) * distance > reach * spread)
}

# Changes of which equal ones are equal as numbers: 0.3 - 0.1 is 0.2. Decimals are subtracted as whole numbers.
core_exact_changes <- function(first, second) {
  steps <- core_whole_steps(list(first, second))
  (steps$parts[[1]] - steps$parts[[2]]) / steps$power
}

# Different values, values that share theirs with another one, and how many lie at either end.
core_repeats <- function(values, limits = NULL) {
  sorted <- native_sorted(values)
  n <- length(sorted)
  if (n == 0) return(list(distinct = 0, tied = 0, at_low = 0, at_high = 0))
  counts <- native_rank_counts(sorted, double())
  ends <- if (is.null(limits)) sorted[c(1, n)] else limits
  list(
    distinct = counts$distinct, tied = counts$tied,
    at_low = as.double(sum(sorted == ends[[1]])), at_high = as.double(sum(sorted == ends[[2]])),
    low = ends[[1]], high = ends[[2]], outside = as.double(sum(sorted < ends[[1]] | sorted > ends[[2]]))
  )
}

# Correlation of each value with the next one, its standard error where there is none (Bartlett 1946),
# how many independent values tell as much about the mean (Bayley & Hammersley 1946, for dependence that
# fades geometrically), and how often a test of means at `alpha` that takes the values to be independent
# would reject a true null hypothesis.
core_serial <- function(values, alpha = 0.05) {
  n <- as.double(length(values))
  if (n < 4) return(list(reason = "too_few"))
  rest <- values - mean(values)
  size <- max(abs(rest))
  if (size == 0) return(list(reason = "no_spread"))
  rest <- rest / size
  core_serial_from(n, sum(rest[-n] * rest[-1]) / sum(rest^2), alpha)
}

# What a correlation of neighbours tells.
core_serial_from <- function(n, r, alpha = 0.05) {
  se <- 1 / sqrt(n)
  effective_n <- if (r > 0) n * (1 - r) / (1 + r) else n
  list(
    r = r, se = se, n = n, effective_n = effective_n,
    naive_error = 2 * stats::pnorm(-stats::qnorm(1 - alpha / 2) * sqrt(effective_n / n)),
    log_p = min(0, log(2) + stats::pnorm(-abs(r + 1 / n) / se, log.p = TRUE)), reason = NULL
  )
}

# The same for the difference of two means along one order that both groups share. Each value contributes its deviation
# from its group's mean over the group's size, of the second group with the opposite sign: the variance of the
# difference is that of the sum of the contributions. Values of both groups at one place contribute together.
core_serial_difference <- function(first, second, first_place, second_place, alpha = 0.05) {
  own <- list(first - mean(first), second - mean(second))
  size <- max(abs(unlist(own)))
  if (min(lengths(own)) < 4) return(list(reason = "too_few"))
  if (size == 0) return(list(reason = "no_spread"))
  share <- c(own[[1]] / length(first), -own[[2]] / length(second)) / size
  place <- c(first_place, second_place)
  summed <- as.vector(rowsum(share, place, reorder = TRUE))
  last <- length(summed)
  sides <- rowsum(cbind(rep(c(TRUE, FALSE), lengths(own)) * share, rep(c(FALSE, TRUE), lengths(own)) * share), place)
  core_serial_difference_from(
    list(
      n = length(place), places = last, squares = sum(share^2), summed = sum(summed^2),
      products = sum(summed[-last] * summed[-1]), shared = sum(sides[, 1] * sides[, 2]),
      shared_squares = sum(sides[, 1]^2 * sides[, 2]^2)
    ),
    alpha
  )
}

# The same from sums over places: `squares` sums the squared contributions, `summed` the squared sums at each place,
# `products` the products of neighbouring places, and `shared` the products of both groups at one place. The result's
# `ratio` is the variance of the difference divided by its variance under independence.
core_serial_difference_from <- function(sums, alpha = 0.05) {
  r <- if (sums$summed > 0) sums$products / sums$summed else 0
  ratio <- sums$summed / sums$squares * (1 + r) / max(1 - r, 1e-6)
  z <- c(
    (r + 1 / sums$places) * sqrt(sums$places),
    if (sums$shared_squares > 0) sums$shared / sqrt(sums$shared_squares)
  )
  list(
    r = r, ratio = ratio, n = sums$n, effective_n = sums$n / ratio,
    naive_error = 2 * stats::pnorm(-stats::qnorm(1 - alpha / 2) / sqrt(ratio)),
    log_p = min(0, log(2 * length(z)) + stats::pnorm(-max(abs(z)), log.p = TRUE)), reason = NULL
  )
}
