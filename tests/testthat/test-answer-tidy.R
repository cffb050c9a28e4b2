test_that("tidy() renames and keeps every number, glance() is one row", {
  study <- versus(seedlings, c(height, leaf_area), substrate, groups = c("compost", "peat"))
  answer <- test_difference(study, c("welch", "student"), expect = "higher")
  tidied <- tidy(answer)
  expect_identical(tidied$p.value, answer$table$p)
  expect_identical(tidied$conf.low, answer$table$lower)
  expect_identical(tidied$parameter, answer$table$df)
  expect_identical(unique(tidied$alternative), "greater")
  expect_true(all(c("std.error", "statistic", "conf.level", "adj.p.value", "method") %in% names(tidied)))
  glanced <- glance(answer)
  expect_identical(nrow(glanced), 1L)
  expect_identical(glanced$outcomes, 2L)
  expect_identical(glanced$nobs, sum(answer$table$n_first[c(1, 3)], answer$table$n_second[c(1, 3)]))
  pairs <- versus_paired(conductance, noon, dawn)
  answers <- list(
    describe_study(pairs), vet_assumptions(pairs), gauge_effect(pairs), test_equivalence(pairs, 5), cross_check(pairs),
    weigh_evidence(pairs), rehearse_study(suppose_world(1, sd = 2), n = 9), audit_numbers(t = 2, df = 9, p = "0.08")
  )
  for (answer in answers) {
    expect_identical(nrow(tidy(answer)), nrow(answer$table))
    expect_identical(nrow(glance(answer)), 1L)
  }
  expect_identical(glance(answers[[3]])$nobs, 22)
})
