test_that("unrounded summaries give the same answers as the values", {
  values <- height_study()
  m <- values$outcomes[[1]]$moments
  summary <- versus_summary(
    n = c(m[[1]]$n, m[[2]]$n), mean = c(m[[1]]$mean, m[[2]]$mean), sd = c(m[[1]]$sd, m[[2]]$sd),
    groups = c("compost", "peat"), outcome = "height"
  )
  for (verb in list(test_difference, gauge_effect)) {
    a <- as.data.frame(verb(values))
    b <- as.data.frame(verb(summary))
    numbers <- names(a)[vapply(a, is.numeric, NA)]
    expect_identical(a[setdiff(names(a), numbers)], b[setdiff(names(b), numbers)])
    expect_equal(a[numbers], b[numbers], tolerance = 1e-13)
  }
})

test_that("each wrong summary has an error that names the group", {
  bad <- function(..., groups = c("compost", "peat")) {
    input <- utils::modifyList(list(n = c(5, 6), mean = c(1, 2), sd = c(1, 1)), list(...))
    do.call(versus_summary, c(input, list(groups = groups)))
  }
  for (input in list(
    list(sd = c(1, 0)), list(sd = c(-1, 1)), list(n = c(5.5, 6)), list(n = c(0, 6)),
    list(mean = c(1, NA)), list(mean = c(1, Inf)), list(n = 5), list(sd = c("1", "2"))
  )) {
    expect_error(do.call(bad, input), class = "vandro_error_bad_value")
  }
  expect_error(bad(sd = c(1, 0)), "\"peat\" (value 2)", fixed = TRUE)
  expect_error(bad(groups = c("a", "a")), class = "vandro_error_bad_groups")
  expect_error(versus_summary(c(5, 6), c(1, 2), c(1, 1), foo = 1), class = "rlib_error_dots_nonempty")
})
