sums_about <- function(x, shift) list(n = length(x), s1 = sum(x - shift), s2 = sum((x - shift)^2))

test_that("moments from shifted sums are those of the values", {
  set.seed(1)
  for (unit in c(1, 1e-3)) for (offset in c(0, 1e6 * unit)) {
    x <- rexp(200) * unit + offset
    s <- sums_about(x, offset + unit)
    m <- core_shifted_moments(s$n, 3, offset + unit, s$s1, s$s2)
    direct <- core_sample_moments(x)
    expect_relative(c(m$mean, m$sd), c(direct$mean, direct$sd), 1e-12)
    expect_identical(names(m), names(direct))
    d <- x - m$mean
    full <- core_full_moments(m, sum(d), sum(d^2), sum(d^3), sum(d^4), min(x), max(x))
    expect_relative(full$skewness, direct$skewness, 1e-10)
    expect_relative(full$kurtosis, direct$kurtosis, 1e-10)
    expect_identical(c(full$min, full$max), range(x))
  }
  none <- core_shifted_moments(0, 4, 5, 0, 0)
  expect_identical(c(none$n, none$mean, none$sd), c(0, NA, NA))
  expect_missing(core_shifted_moments(1, 0, 5, 2, 4)$sd)
  expect_false(is.nan(core_shifted_moments(1, 0, 5, 2, 4)$sd))
  expect_missing(core_full_moments(core_shifted_moments(3, 0, 2, 0, 1e-30), 0, 1e-30, 0, 0, 2, 2)$skewness)
})

test_that("a shift far from the mean is noticed", {
  near <- core_shifted_moments(10, 0, 0, 10, 40)
  far <- core_shifted_moments(10, 0, 0, 1e6, 1e11 + 1)
  flat <- core_shifted_moments(10, 0, 1, 20, 40)
  expect_identical(c(core_far_shift(near), core_far_shift(far), core_far_shift(flat)), c(FALSE, TRUE, TRUE))
  expect_false(core_far_shift(core_shifted_moments(1, 0, 0, 5, 25)))
})

test_that("sums of pairs give both halves, changes and their correlation", {
  set.seed(2)
  a <- rnorm(30, 50, 4)
  b <- a + rnorm(30, 2)
  sums <- list(
    n = 30, sa = sum(a - 50), qa = sum((a - 50)^2), sb = sum(b - 51), qb = sum((b - 51)^2), sd = sum(a - b + 1),
    qd = sum((a - b + 1)^2), ab = sum((a - 50) * (b - 51))
  )
  found <- core_paired_aggregates(sums, 50, 51)
  direct <- core_pair_moments(a, b)
  for (k in 1:3) {
    numbers <- function(m) unlist(m$moments[[k]][c("mean", "sd")])
    expect_relative(numbers(found), numbers(direct), 1e-11)
  }
  expect_relative(found$r, direct$r, 1e-11)
  flat <- list(sd = 0, n = 5)
  expect_missing(core_aggregate_correlation(1, flat, flat))
})

test_that("sums over different values are what counting the ranks finds", {
  set.seed(3)
  for (i in 1:10) {
    x <- sample(1:9, 30, TRUE)
    y <- sample(2:11, 40, TRUE)
    direct <- core_rank_counts(core_rank_samples(x, y))
    values <- sort(unique(c(x, y)))
    a <- vapply(values, function(v) sum(x == v), 0)
    b <- vapply(values, function(v) sum(y == v), 0)
    cb <- cumsum(b) - b / 2
    ca <- cumsum(a) - a / 2
    t <- a + b
    found <- core_rank_aggregates(
      30, 40, sum(a * cb), sum(t^3 - t), sum(t[t > 1]), length(values), sum(a * cb^2), sum(b * ca^2)
    )
    for (name in c("u", "sd", "z", "tied", "distinct", "pairs", "mean")) expect_equal(found[[name]], direct[[name]])
    expect_equal(found$placement_variance, direct$placement_variance)
  }
  expect_identical(core_rank_aggregates(3, 3, 4.5, 210, 6, 1, 1, 1)$sd, 0)
})

test_that("signed ranks from sums are those of the changes", {
  d <- c(-3, -1, 0, 1, 1, 2, 5, 5, -2)
  direct <- core_signed_counts(core_change_sample(d), "drop")
  kept <- d[d != 0]
  ranks <- rank(abs(kept))
  tied <- duplicated(abs(kept)) | duplicated(abs(kept), fromLast = TRUE)
  found <- core_signed_aggregates(9, 1, sum(ranks[kept > 0]), sum(ranks[kept < 0]), sum(ranks^2), sum(tied))
  for (name in c("plus", "minus", "z", "sd", "total", "mean", "tied")) expect_equal(found[[name]], direct[[name]])
})
