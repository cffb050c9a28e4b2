# Memory that a study of 1e7 rows adds to its data. Expected: at most one copy of the outcome.
library(vandro)

set.seed(4)
n <- 1e7
data <- data.frame(
  height = rnorm(n, 20, 3), substrate = factor(sample(c("compost", "peat"), n, TRUE)),
  words = sample(c("compost", "peat"), n, TRUE)
)
one_copy <- 8 * n
used <- function() sum(gc(reset = TRUE)[, 1] * c(56, 8))
for (by in c("substrate", "words")) {
  before <- used()
  study <- versus(data, height, !!by, groups = c("compost", "peat"))
  kept <- used() - before
  gc(reset = TRUE)
  description <- describe_study(study)
  cat(sprintf(
    "groups by %-9s: the study keeps %.2f copies of the outcome\n", class(data[[by]])[[1]], kept / one_copy
  ))
  rm(study)
}
