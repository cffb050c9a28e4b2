# The same data told in other ways; validation/invariances.R does it for thousands of sets.

# Takes seconds: a dozen data sets, each told in some thirty ways.
test_that("nothing but what matters changes an answer", {
  found <- do.call(rbind, lapply(1:12, function(i) invariances(4000 + i)))
  wrong <- found[found$difference > 1e-9, ]
  expect_identical(nrow(wrong), 0L, info = paste(utils::capture.output(print(wrong)), collapse = "\n"))
  expect_gt(length(unique(found$rule)), 14)
})
