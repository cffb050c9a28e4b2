# Every kernel that can take long stops when it is asked to: a limit on the time that R allows is asked for in the same
# place as the user's interrupt.

stops <- function(work) {
  began <- proc.time()[["elapsed"]]
  setTimeLimit(elapsed = 0.3, transient = TRUE)
  on.exit(setTimeLimit())
  how <- tryCatch(
    {
      work()
      "finished"
    },
    error = function(e) "stopped", interrupt = function(e) "stopped"
  )
  list(how = how, after = proc.time()[["elapsed"]] - began)
}

native <- asNamespace("vandro")
set.seed(1)
x <- rnorm(400)
tied <- rep(2, 500)

long_work <- list(
  "random assignments" = function() {
    native$core_sums_inference(native$core_group_sample(x, x + 1), c(0.025, 0.025), 1e8, 1)
  },
  "random signs" = function() native$core_sums_inference(native$core_flip_sample(x), c(0.025, 0.025), 1e9, 1),
  "studentized" = function() {
    sample <- native$core_group_sample(x, x + 1)
    native$core_studentized_inference(sample, native$core_permuted_estimate(sample), c(0.025, 0.025), 1e8, 1)
  },
  "medians" = function() {
    sample <- native$core_group_sample(x, x + 1)
    estimate <- native$core_permuted_estimate(sample)
    native$core_location_inference(sample, "median", c(0.025, 0.025), estimate$rough, 1e8, 1)
  },
  "quarters" = function() {
    sample <- native$core_group_sample(x[1:31], x[101:131] + 1)
    native$core_quarters_inference(sample, native$core_permuted_estimate(sample), c(0.025, 0.025))
  },
  "exact U with ties" = function() native$native_rank_sum_null(tied, 500, TRUE, 500000, c(0.025, 0.025)),
  "exact W with ties" = function() native$native_signed_rank_null(rep(2, 4000), 0, 1e7, c(0.025, 0.025)),
  "relative effect" = function() native$native_relative_null(rep(2, 200), 1:400 %% 2, 1e8, 1, 1),
  "bootstrap of groups" = function() native$native_bootstrap_groups(x, x, 1, 0, 1e8, 1),
  "bootstrap of pairs" = function() native$native_bootstrap_pairs(x, x, 1, 0, 1e8, 1),
  "bootstrap of ranks" = function() native$native_bootstrap_ranks(sort(x), sort(x), 1, 0, 1e7, 1, TRUE),
  "bootstrap of signed ranks" = function() native$native_bootstrap_signed_ranks(sort(x), FALSE, 1, 0, 1e7, 1, TRUE),
  "largest t" = function() {
    values <- matrix(rnorm(200 * 2000), 200)
    native$native_max_t(values, 200, 100, "welch", 0L, FALSE, 1, 0, 1e5, 1)
  },
  "made-up studies" = function() {
    rehearse_study(suppose_world(1, sd = 3), n = 100, simulate = TRUE, draws = 1e8, seed = 1)
  },
  "band of the normal plot" = function() native$native_normal_band(100000, 1:150 * 600, 0.95, 2e5, 1)
)

for (name in names(long_work)) {
  test_that(paste("it can be interrupted:", name), {
    found <- stops(long_work[[name]])
    expect_identical(found$how, "stopped")
    # Far from the minutes that it would take, on any machine.
    expect_lt(found$after, 20)
  })
}
