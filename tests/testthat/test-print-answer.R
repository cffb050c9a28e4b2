test_that("what is printed is pinned", {
  local_reproducible_output(width = 80)
  expect_snapshot({
    height_study()
    published_study()
    describe_study(height_study())
    describe_study(published_study())
    test_difference(height_study())
    test_difference(height_study(), expect = "higher", beyond = 1)
    test_difference(height_study(), expect = "lower", level = 0.9, alpha = 0.01)
    gauge_effect(height_study())
    print(gauge_effect(published_study()), decimals = 1)
    conductance_study()
    describe_study(conductance_study())
    test_difference(conductance_study(), expect = "higher")
    gauge_effect(conductance_study())
    test_difference(versus(seedlings, c(height, dry_mass), substrate, groups = c("compost", "peat")))
  })
})

test_that("lines stay within a narrow console, and printing returns its object", {
  lines <- format(test_difference(height_study(), expect = "higher"), width = 50)
  expect_lte(max(nchar(grep("^  (Note|Left|Null|  )", lines, value = TRUE))), 50)
  answer <- test_difference(height_study())
  capture.output(expect_identical(expect_invisible(print(answer)), answer))
  capture.output(expect_invisible(print(height_study())))
  expect_identical(summary(height_study())$groups, c("compost", "peat"))
})

test_that("a note explains an interval and a test that seem to disagree", {
  # p between 0.05 and 0.10 two-sided: the directional test is significant, the 95% interval holds 0.
  text <- paste(format(test_difference(published_study(), expect = "higher"), width = 500), collapse = " ")
  expect_match(text, "95% interval contains the null value while p is at most alpha")
  expect_match(text, "that agrees with this one-sided test at alpha 0.05 is the 90% one")
})
