# Which means and SDs can n values have that are all multiples of a step, within the ends of their scale?

# `mean` and `sd` are the ranges of what rounds to the printed numbers; `sd` is NULL where none is printed. Values are
# ends[1] + step v (without ends: step v) with whole v, so that n of them have a whole sum S, and the sum of their
# squares is a whole number Q >= S^2 / n that is even or odd as S is. With ends 0 <= v <= w, Q is largest with all
# values but one at the ends. What these conditions refuse is impossible. With at most `core_listed_steps` value steps
# in all (n w), every possible Q is listed, so that what they allow is possible. The result says whether the mean, and
# the SD together with it, are possible, and gives the possible means next to the printed one.
core_step_audit <- function(n, mean, sd = NULL, step = 1, ends = NULL) {
  origin <- if (is.null(ends)) 0 else ends[[1]]
  most <- if (is.null(ends)) Inf else floor((ends[[2]] - origin) / step * (1 + 1e-12))
  # Sums of decimals carry rounding errors of this size.
  near <- 1e-9 * n
  sums <- (mean - origin) * n / step
  from <- max(ceiling(sums[[1]] - near), if (is.finite(most)) 0 else -Inf)
  to <- min(floor(sums[[2]] + near), n * most)
  middle <- (sums[[1]] + sums[[2]]) / 2
  around <- c(floor(middle), ceiling(middle))
  around <- unique(pmin(pmax(around, if (is.finite(most)) 0 else -Inf), n * most))
  beside <- origin + around * step / n
  if (from > to) return(list(mean = FALSE, sd = NA, beside = beside))
  if (is.null(sd)) return(list(mean = TRUE, sd = NA, beside = beside))
  # Among so many sums one always fits: with n, more whole numbers lie between the squares of two SDs.
  sums <- if (to - from > 1e5) NULL else seq(from, to)
  listed <- if (is.finite(most) && n * most <= core_listed_steps) core_possible_squares(n, most)
  fit <- function(sum) core_squares_fit(n, sum, pmax(sd, 0) / step, most, listed)
  possible <- is.null(sums) || any(vapply(sums, fit, NA))
  list(mean = TRUE, sd = possible, beside = beside)
}

core_listed_steps <- 120

# Whether n whole values with this sum, none above `most`, can have an SD within `sd`. `listed` is the result of
# core_possible_squares(), or NULL.
core_squares_fit <- function(n, sum, sd, most, listed = NULL) {
  rest <- if (n > 1) (n - 1) * sd^2 + sum^2 / n else rep(sum^2, 2)
  slack <- 1e-9 * max(1, rest)
  each <- sum %/% n
  over <- sum - n * each
  least <- over * (each + 1)^2 + (n - over) * each^2
  largest <- if (is.finite(most)) {
    full <- if (most > 0) sum %/% most else 0
    full * most^2 + (sum - full * most)^2
  } else {
    Inf
  }
  from <- max(ceiling(rest[[1]] - slack), least)
  to <- min(floor(rest[[2]] + slack), largest)
  # The sum of squares is even if and only if the sum is.
  if (from %% 2 != sum %% 2) from <- from + 1
  if (from > to) return(FALSE)
  is.null(listed) || any(listed[sum + 1, seq(from, to) + 1])
}

# Whether n whole values from 0 to `most` can have the sum (rows, from 0) and sum of squares (columns, from 0).
core_possible_squares <- function(n, most) {
  possible <- matrix(FALSE, n * most + 1, n * most^2 + 1)
  possible[1, 1] <- TRUE
  for (i in seq_len(n)) {
    before <- possible
    for (v in seq_len(most)) {
      rows <- seq_len((i - 1) * most + 1)
      columns <- seq_len((i - 1) * most^2 + 1)
      possible[rows + v, columns + v^2] <- possible[rows + v, columns + v^2] | before[rows, columns]
    }
  }
  possible
}
