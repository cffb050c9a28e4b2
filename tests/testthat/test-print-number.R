test_that("p is never printed as 0 or 1 that it is not", {
  p <- c(0.0005, 0.000999, 0.001, 0.0496, 0.05, 0.5, 0.9994, 0.9996, 1 - 1e-12, 1, 2^-1074)
  expect_identical(format_p(p), c(
    "p < .001", "p < .001", "p = .001", "p = .050", "p = .050", "p = .500", "p = .999", "p > .999",
    "p > .999", "p = 1", "p < .001"
  ))
  # As many decimals as keep p on its side of alpha.
  near <- c(0.0503, 0.05, 0.0497, 0.04999996, 0.0008, 0.0002)
  expect_identical(
    format_p(near, alpha = c(0.05, 0.05, 0.05, 0.05, 0.0005, 0.0005)),
    c("p = .0503", "p = .050", "p = .050", "p = .050", "p = .0008", "p = .0002")
  )
  expect_identical(format_p(0.04, decimals = 2, leading_zero = TRUE), "p = 0.04")
})

test_that("numbers are rounded once, without a negative zero", {
  expect_identical(format_number(c(-0.001, 0.005, 2.675, NA), 2), c("0.00", "0.01", "2.67", ""))
  expect_identical(format_number(-0.4, 0), "0")
  expect_identical(format_number(1.5e200, 2), "1.5e+200")
  expect_identical(format_count(c(1e6, NA)), c("1000000", ""))
})

test_that("decimals follow the spread", {
  expect_identical(decimals_for(c(2.86, 2.46)), 2L)
  expect_identical(decimals_for(c(0.0123, 5)), 4L)
  expect_identical(decimals_for(512), 0L)
  expect_equal(decimals_for(c(NA, 0)), 2)
})

test_that("words around numbers are right", {
  expect_identical(format_percent(c(0.95, 0.999, 0.9)), c("95%", "99.9%", "90%"))
  expect_identical(format_df(c(44.52, 38)), c("44.5", "38"))
  expect_identical(inside_sentence(c("Stem height")), "stem height")
  expect_identical(
    vapply(c("pH", "DNA", "Stem"), inside_sentence, "", USE.NAMES = FALSE), c("pH", "DNA", "stem")
  )
  expect_identical(
    vapply(c("pH", "dry_mass", "leaf"), capital, "", USE.NAMES = FALSE),
    c("pH", "dry_mass", "Leaf")
  )
})

test_that("numbers stay with what they are of", {
  text <- "M = 2.1, p < .001, 95% CI [1.89, 5.02], [1,89; 5,02] and a < b"
  expect_identical(
    keep_together(text), "M\u00a0=\u00a02.1, p\u00a0<\u00a0.001, 95% CI [1.89,\u00a05.02], [1,89;\u00a05,02] and a < b"
  )
  lines <- format(narrate(height_study()), width = 40)
  expect_false(any(grepl("[<=>]$|\\[[^]]*$", lines)))
  expect_false(any(grepl("\u00a0", lines)))
})

test_that("rounding upwards stays in range", {
  expect_identical(round_up(c(1.2341, -0.5, 2.5), 3), c(1.235, -0.5, 2.5))
  expect_identical(round_up(c(3e299, 1e308), 12), c(3e299, 1e308))
})
