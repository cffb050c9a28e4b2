# Permutation tests, one thread. Expected: a million random assignments of 100 values at least 300 times faster than
# sample() and mean() (whose loop is timed with fewer rounds and scaled) and at most 25 times the random words
# alone; 1e4 of 1e4 values 100 times; a million sets of 100 signs 1000 times; p with interval at most 1.5 times p
# alone (signs 2.5). Exact for 30, 40, 50, 56 continuous values in about 1 ms, 30 ms, 1 s, 8 s; decimals of 50 + 50 and
# 100 + 100 faster than 1e4 draws by hand; 40 and 54 signs in 50 ms and 8 s, 1000 decimal changes in 0.1 s.
source("bench/helper.R")
library(vandro)
ns <- asNamespace("vandro")

words <- Rcpp::cppFunction("
double words(double count) {
  vandro::Random random(1, 1);
  std::uint64_t all = 0;
  for (double i = 0; i < count; ++i) all ^= random.bits();
  return static_cast<double>(all & 1);
}", includes = "#include <vandro/random.hpp>", depends = "vandro")
by_hand <- function(z, n_first, times) {
  n <- length(z)
  found <- numeric(times)
  for (i in seq_len(times)) {
    s <- sample(n, n_first)
    found[[i]] <- mean(z[s]) - mean(z[-s])
  }
  found
}
signs_by_hand <- function(d, times) {
  found <- numeric(times)
  for (i in seq_len(times)) found[[i]] <- mean(sample(c(-1, 1), length(d), TRUE) * d)
  found
}
sums <- function(z, n_first, draws, kept) {
  n <- length(z)
  ns$native_reassign_sums(z, rep(1:0, c(n_first, n - n_first)), n, n_first, 0, draws, 1, 1L, kept, 0, 0)
}

set.seed(1)
z <- rnorm(100)
times <- rep(1:0, each = 50)
zd <- z - mean(z)
welch <- function(x, n_first, draws, kept) {
  ns$native_reassign_studentized(x, length(x), n_first, 2, 1e-12, 1e5, draws, 1, 1L, kept, 0, FALSE)
}
side_by_side(
  "A million random assignments of 50 + 50 values (by hand: a 50th of them)",
  "p" = function() sums(z, 50, 1e6, 0),
  "p and interval" = function() sums(z, 50, 1e6, 25001),
  "Welch's t, p" = function() welch(zd, 50, 1e6, 0),
  "Welch's t, p and interval" = function() welch(zd, 50, 1e6, 25001),
  "two random words each" = function() words(2e6),
  "sample() and mean(), 2e4" = function() by_hand(z, 50, 2e4)
)
big <- rnorm(1e4)
side_by_side(
  "1e4 random assignments of 5000 + 5000 values (by hand: a 20th)",
  "p" = function() sums(big, 5000, 1e4, 0),
  "Welch's t, p" = function() welch(big - mean(big), 5000, 1e4, 0),
  "Welch's t, p and interval" = function() welch(big - mean(big), 5000, 1e4, 251),
  "sample() and mean(), 500" = function() by_hand(big, 5000, 500)
)
d <- rnorm(100)
flips <- function(kept) ns$native_flip_sums(d, rep(1, 100), 0, 1e6, 1, 1L, kept, 0, 0)
side_by_side(
  "A million sets of signs of 100 changes (by hand: a 50th)",
  "p" = function() flips(0), "p and interval" = function() flips(25001),
  "sample() and mean(), 2e4" = function() signs_by_hand(d, 2e4)
)

once <- function(title, task) {
  start <- proc.time()[["elapsed"]]
  task()
  cat(sprintf("  %-44s %10.2f ms\n", title, 1000 * (proc.time()[["elapsed"]] - start)))
}
memory <- function() {
  status <- readLines("/proc/self/status")
  as.numeric(gsub("[^0-9]", "", grep("^VmHWM", status, value = TRUE))) / 1024
}
cat("\nExact, continuous values, one tail\n")
before <- memory()
for (n in c(30, 40, 50, 56)) {
  x <- rnorm(n)
  x[seq_len(n / 2)] <- x[seq_len(n / 2)] + 0.5
  tail <- function() ns$native_count_tail(x, rep(1:0, each = n / 2), n / 2L, 0, 1L, FALSE, 1L, NULL, 0)
  once(paste(n, "values"), if (n < 50) repeated(10, tail) else tail)
}
cat("  (30 and 40: ten times over)\n")
for (n in c(40, 54)) {
  x <- rnorm(n) + 0.3
  once(paste(n, "signs"), function() ns$native_count_tail(x, rep(1, n), -1L, 0, 1L, FALSE, 1L, NULL, 0))
}
cat(sprintf("  memory beyond the start: %.0f MB\n", memory() - before))
study <- function(first, second) suppressMessages(versus(first = first, second = second))
for (n in c(30, 40, 50)) {
  x <- rnorm(n)
  both <- study(x[1:(n / 2)] + 0.6, x[-(1:(n / 2))])
  once(paste("test_difference(), p and interval,", n), function() {
    suppressMessages(test_difference(
      both, "permutation", options = method_options(statistic = "difference", exact = TRUE)
    ))
  })
}
for (n in c(50, 100)) {
  x <- round(500 + 120 * rnorm(n))
  y <- round(540 + 120 * rnorm(n))
  both <- study(x, y)
  side_by_side(
    sprintf("Decimals, %d + %d, range about 1000", n, n),
    "exact p" = function() ns$native_group_null(x, y, 0, double(), double(), 1, 1),
    "test_difference(), p and interval" = function() {
      test_difference(both, "permutation", options = method_options(statistic = "difference"))
    },
    "1e4 draws by hand" = function() by_hand(c(x, y), n, 1e4),
    rounds = 5
  )
}
changes <- round(20 + 300 * rnorm(1000))
side_by_side(
  "1000 decimal changes",
  "exact p" = function() {
    ns$native_shifted_null(changes, rep(1, 1000), double(), double(), 1, TRUE, 0, double(), double(), 1, 1)
  }
)
