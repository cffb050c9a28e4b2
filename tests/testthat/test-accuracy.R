# Every number of the verbs beside references in 50 digits or whole numbers: validation/accuracy_reference.py.

test_that("all numbers have eleven digits or more, those of tests, ranks and effect sizes thirteen", {
  found <- accuracy_digits(test_path("reference"))
  few <- found[found$digits < 11, c("case", "verb", "key", "column", "value", "found")]
  expect_identical(nrow(few), 0L, info = paste(utils::capture.output(print(few)), collapse = "\n"))
  closed <- found[!found$verb %in% c("evidence", "assumptions", "assumptions_mean", "rehearse"), ]
  few <- closed[closed$digits < 13, c("case", "verb", "key", "column", "value", "found")]
  expect_identical(nrow(few), 0L, info = paste(utils::capture.output(print(few)), collapse = "\n"))
  # The references reach what they are there for.
  expect_gt(sum(found$verb == "difference"), 200)
  expect_lt(min(found$value[found$column == "log_p"]), -2000)
})
