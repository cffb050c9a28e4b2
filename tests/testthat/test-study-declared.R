again <- function(study, data = NULL) {
  made <- eval(parse(text = study$declared), list(data = data), parent.frame())
  expect_identical(study_fingerprint(made), study_fingerprint(study))
  expect_identical(made[c("groups", "claim", "assigned")], study[c("groups", "claim", "assigned")])
}

test_that("a declaration as R code gives the same study again", {
  again(height_study(claim = "same", assigned = TRUE))
  labels <- c(compost = 1, peat = 2)
  coded <- versus(seedlings, c("height", "dry_mass"), substrate_code, groups = labels, scale_by = 0.01, unit = "m")
  expect_match(coded$declared, "groups = c(compost = 1, peat = 2)", fixed = TRUE)
  again(coded)
  again(conductance_study())
  again(versus_paired(moisture, change = probe_a, groups = c("a \"b\"", "c")))
  again(versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat")))
  again(published_study())
  again(versus_paired_summary(9, mean_change = 3, sd_change = 4))
  x <- c(1, 4, 2)
  again(versus(first = x, second = c(3, 5, 9), groups = c("a", "b")))
})

test_that("data without a name is called data, and nothing is written out at length", {
  study <- versus(subset(seedlings, bench == bench[[1]]), height, substrate, groups = c("compost", "peat"))
  expect_match(study$declared, "^versus\\(data, outcome = height")
  again(study, subset(seedlings, bench == bench[[1]]))
  long <- do.call(versus, list(first = rnorm(1000), second = rnorm(1000), groups = c("a", "b")))
  expect_identical(long$declared, "versus(groups = c(\"a\", \"b\"), first = first, second = second)")
  inlined <- do.call(versus, list(seedlings, "height", "substrate", c("compost", "peat")))
  expect_match(inlined$declared, "^versus\\(data, outcome = \"height\"")
  expect_lt(nchar(long$declared), 200)
})
