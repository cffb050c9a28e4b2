test_that("the declared width stands among the others with the table's own numbers", {
  answer <- weigh_evidence(height_study())
  tried <- try_priors(answer, c(0.2, 1, 3))
  expect_identical(tried$table$prior_half, sort(c(0.2, sqrt(2) / 2, 1, 3)))
  at <- tried$table[tried$table$standing == "declared", ]
  expect_relative(
    unlist(at[c("estimate", "lower", "upper", "log_bf")]),
    unlist(answer$table[c("estimate", "lower", "upper", "log_bf")]), 1e-10
  )
  for (i in seq_len(nrow(tried$table))) {
    row <- tried$table[i, ]
    alone <- weigh_evidence(height_study(), prior_half = row$prior_half)$table
    expect_relative(
      c(row$estimate, row$lower, row$upper, row$log_bf), c(alone$estimate, alone$lower, alone$upper, alone$log_bf), 1e-8
    )
  }
  expect_identical(c(tried$detail$least, tried$detail$most), range(tried$table$log_bf))
})

test_that("directions, interval nulls and outcomes are those of the answer", {
  both <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  answer <- weigh_evidence(both, expect = "higher", within = c(-0.1, 0.2))
  tried <- try_priors(answer, outcome = "chlorophyll", points = 5)
  expect_identical(nrow(tried$table), 5L)
  expect_relative(tried$table$log_bf[[3]], answer$table$log_bf[[2]], 1e-10)
})

test_that("what is no answer or no width is refused", {
  expect_error(try_priors(height_study()), class = "vandro_error_not_an_answer")
  expect_error(try_priors(weigh_evidence(height_study()), c(1, 0)), class = "vandro_error_bad_value")
  expect_error(try_priors(weigh_evidence(height_study()), points = 1), class = "vandro_error_bad_value")
})

test_that("print and sentence name the range", {
  tried <- try_priors(weigh_evidence(height_study()))
  expect_match(format(tried), "with half of the prior within 0.177 to 2.83 SD", fixed = TRUE, all = FALSE)
  expect_match(format(tried), "declared", fixed = TRUE, all = FALSE)
  expect_match(narrate(tried), "with the declared 0.707 SD, it is 347", fixed = TRUE)
})
