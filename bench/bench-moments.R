# One-pass grouped moments of 1e7 long rows. Expected: at least 10 times faster than split() + mean()
# + var().
source("bench/helper.R")
library(vandro)

set.seed(1)
n <- 1e7
x <- rnorm(n, 20, 3)
code <- sample.int(2, n, replace = TRUE)
group <- factor(code, labels = c("compost", "peat"))
data <- data.frame(height = x, substrate = group)

side_by_side(
  "Grouped moments, 1e7 rows",
  "vandro, seven moments of both groups" = function() vandro:::native_group_moments(x, code, 1L, 2L),
  "sum(x) + sum(code), a bare read" = function() sum(x) + sum(code),
  "split(), mean(), var()" = function() lapply(split(x, group), function(v) c(mean(v), stats::var(v))),
  rounds = 5
)
side_by_side(
  "Declaring and describing, 1e7 rows",
  "versus()" = function() versus(data, height, substrate, groups = c("compost", "peat")),
  "versus() + describe_study() with quartiles" = function() {
    describe_study(versus(data, height, substrate, groups = c("compost", "peat")))
  },
  "order(x, method = \"radix\")" = function() order(x, method = "radix"),
  rounds = 3
)
