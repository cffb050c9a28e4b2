test_that("adjusted p are those of the definitions, by comparing every set of hypotheses", {
  set.seed(5)
  for (m in c(1, 2, 5, 9)) {
    p <- round(runif(m)^2, 3)
    sorted <- sort(p)
    # Bonferroni and Holm by closed testing: a hypothesis falls when every intersection that holds it does.
    subsets <- lapply(seq_len(2^m - 1), function(code) which(bitwAnd(code, 2^(seq_len(m) - 1)) > 0))
    closed <- vapply(seq_len(m), function(i) {
      max(vapply(Filter(function(s) i %in% s, subsets), function(s) min(1, length(s) * min(p[s])), 0))
    }, 0)
    expect_equal(core_adjust_p(p, "holm"), closed)
    expect_equal(core_adjust_p(p, "bonferroni"), pmin(1, m * p))
    # Step up: the smallest level at which the procedure rejects.
    up <- function(i, factor) min(1, vapply(seq_len(m)[sorted >= p[[i]]], function(k) factor(k) * sorted[[k]], 0))
    expect_equal(core_adjust_p(p, "hochberg"), vapply(seq_len(m), up, 0, factor = function(k) m - k + 1))
    expect_equal(core_adjust_p(p, "benjamini_hochberg"), vapply(seq_len(m), up, 0, factor = function(k) m / k))
  }
})

test_that("p that are not there count for nothing and stay away", {
  expect_equal(core_adjust_p(c(0.01, NA, 0.04), "holm"), c(0.02, NA, 0.04))
  expect_identical(core_adjust_p(c(NA_real_, NA_real_), "hochberg"), c(NA_real_, NA_real_))
  expect_equal(core_joint_level(0.95, 10), 0.995)
})

test_that("the largest t of all outcomes: p of both kinds, and the limit that agrees with the single step", {
  set.seed(2)
  values <- matrix(rnorm(8 * 4), 8)
  values[1:4, 1] <- values[1:4, 1] + 3
  joint <- list(
    values = values, sizes = 8, chosen = 4, kind = "welch", expect = "either", all = TRUE, seed = 0
  )
  counts <- core_max_t_share(joint, 0, 70)
  assigned <- utils::combn(8, 4)
  t <- apply(assigned, 2, function(first) {
    apply(values, 2, function(v) {
      a <- v[first]
      b <- v[-first]
      abs(mean(a) - mean(b)) / sqrt(var(a) / 4 + var(b) / 4)
    })
  })
  observed <- t[, 1]
  largest <- apply(t, 2, max)
  p <- core_max_t(counts, 0)
  expect_equal(p$max_t_single, vapply(observed, function(o) mean(largest >= o - 1e-9), 0))
  # Westfall & Young (1993): step down through ever smaller sets of outcomes.
  rank <- order(observed, decreasing = TRUE)
  stepped <- vapply(seq_along(rank), function(k) {
    mean(apply(t[rank[k:4], , drop = FALSE], 2, max) >= observed[rank[[k]]] - 1e-9)
  }, 0)
  expect_equal(p$max_t[rank], cummax(stepped))
  expect_equal(p$total, 70)
  expect_equal(core_joint_assignments(8, 4, 8), 70)
  expect_equal(core_joint_assignments(double(), double(), 6), 64)
  expect_equal(core_joint_assignments(9, 4, 9), 126)
  expect_equal(core_joint_assignments(c(4, 2), c(2, 1), 6), 12)
  for (alpha in c(0.05, 0.1, 0.5)) {
    limit <- core_max_t_limit(largest, alpha, 0)
    expect_identical(observed > limit + 1e-9, p$max_t_single <= alpha + 1e-12)
  }
  expect_missing(core_max_t_limit(largest, 0.001, 0))
  # At an alpha of nearly 1 the smallest of all, and with the observed one counted none.
  expect_identical(core_max_t_limit(c(3, 1, 2), 1 - 1e-12, 0), 1)
  expect_missing(core_max_t_limit(c(3, 1, 2), 1 - 1e-12, 1))
})

test_that("random draws may come in shares", {
  set.seed(3)
  joint <- list(
    values = matrix(rnorm(30 * 5), 30), sizes = c(20, 10), chosen = c(9, 4), kind = "student", expect = "higher",
    all = FALSE, seed = 11
  )
  whole <- core_max_t_share(joint, 0, 8192)
  shares <- list(core_max_t_share(joint, 0, 4096), core_max_t_share(joint, 4096, 8192, threads = 2))
  expect_identical(core_join_max_t(shares), whole)
})

test_that("the family-wise error rate is kept, with dependence exploited", {
  set.seed(8)
  rejected <- replicate(300, {
    shared <- rnorm(20)
    values <- sapply(1:8, function(j) shared + 0.3 * rnorm(20))
    joint <- list(
      values = values, sizes = 20, chosen = 10, kind = "welch", expect = "either", all = FALSE, seed = 1
    )
    p <- core_max_t(core_max_t_share(joint, 0, 512), 1)
    c(any(p$max_t <= 0.1), any(core_adjust_p(vapply(1:8, function(j) {
      m <- group_moments(values[1:10, j], values[11:20, j])
      error <- core_welch_error(m[[1]], m[[2]])
      core_t_inference(core_mean_gap(m[[1]], m[[2]]), error$se, error$df, 0, "either", 0.9, 0.1)$p
    }, 0), "bonferroni") <= 0.1))
  })
  rate <- rowMeans(rejected)
  # Three standard errors of the simulation; Bonferroni gives much away here.
  expect_lt(abs(rate[[1]] - 0.1), 3 * sqrt(0.1 * 0.9 / 300))
  expect_lt(rate[[2]], rate[[1]])
})
