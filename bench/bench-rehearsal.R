# Made-up studies tested by the kernel beside a loop in R, formulas beside simulation, and threads.
source("bench/helper.R")
library(vandro)

world <- suppose_world(2, sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height")
studies <- function(method, n, draws = 10000, threads = 1) {
  function() rehearse_study(world, n = n, method = method, simulate = TRUE, draws = draws, seed = 1, threads = threads)
}
by_hand <- function(count) {
  function() {
    rejected <- 0
    for (i in seq_len(count)) {
      x <- rnorm(50, 2, 3)
      y <- rnorm(50, 0, 4)
      a <- var(x) / 50
      b <- var(y) / 50
      df <- (a + b)^2 / (a^2 / 49 + b^2 / 49)
      rejected <- rejected + (2 * pt(-abs(mean(x) - mean(y)) / sqrt(a + b), df) <= 0.05)
    }
  }
}
side_by_side(
  "10,000 made-up studies of 50 + 50",
  "Welch, loop in R" = by_hand(10000),
  "Welch" = studies("welch", 50),
  "Welch and Student" = studies(c("welch", "student"), 50),
  "Mann-Whitney, exact" = studies("ranks", 50),
  "Brunner-Munzel" = studies("relative", 50)
)
side_by_side(
  "1000 made-up studies of 50 + 50, 999 assignments each",
  "means of sample(), loop in R" = function() {
    # A hundredth of the work: ten studies.
    for (i in 1:10) {
      x <- c(rnorm(50, 2, 3), rnorm(50, 0, 4))
      replicate(999, {
        at <- sample.int(100, 50)
        mean(x[at]) - mean(x[-at])
      })
    }
  },
  "permutation of Welch's t, all thousand" = studies("permutation", 50, draws = 1000)
)
side_by_side(
  "100,000 made-up studies of 50 + 50: threads",
  "Welch, one thread" = studies("welch", 50, 1e5), "Welch, two threads" = studies("welch", 50, 1e5, 2),
  "Mann-Whitney, one thread" = studies("ranks", 50, 1e5), "Mann-Whitney, two threads" = studies("ranks", 50, 1e5, 2)
)
stopifnot(identical(studies("ranks", 50, 1e5)()$table, studies("ranks", 50, 1e5, 2)()$table))
side_by_side(
  "the smallest n for a power of 0.8",
  "Welch, by formula" = function() rehearse_study(world, power = 0.8),
  "Student, n of some thousands, by formula" = function() {
    rehearse_study(suppose_world(standardized = 0.03), method = "student", power = 0.8)
  },
  "equivalence, by formula" = function() rehearse_study(suppose_world(0, sd = 4), power = 0.9, within = 2),
  "half-width, by formula" = function() rehearse_study(world, half_width = 0.5)
)
