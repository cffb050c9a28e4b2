test_that("every shape of data loses just the rows named, and counts them", {
  long <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"))
  rows <- lapply(1:2, function(which) known_rows(long$outcomes[[1]], which))
  shapes <- list(
    long = list(long, list(rows[[1]][c(2, 5)], rows[[2]][1])),
    columns = list(versus(first = c(1, 2, 3, 40, 5), second = c(2, 4, 6, 8)), list(4, integer())),
    pairs = list(conductance_study(), list(c(2, 5))),
    changes = list(versus_paired(data.frame(change = c(1, 2, NA, 9, 3)), change, groups = c("noon", "dawn")), list(4))
  )
  for (shape in shapes) {
    study <- shape[[1]]
    outcome <- study$outcomes[[1]]
    less <- study_without(study, outcome, shape[[2]])
    after <- less$outcomes[[1]]
    groups <- if (is_paired(study)) 3 else 1:2
    for (k in seq_along(groups)) {
      which <- groups[[k]]
      kept <- !known_rows(outcome, which) %in% shape[[2]][[k]]
      values <- outcome_group_values(outcome, which)[kept]
      expect_equal(outcome_group_values(after, which), values)
      expect_equal(after$moments[[which]]$n, length(values))
      expect_equal(after$moments[[which]]$mean, mean(values))
      expect_equal(after$moments[[which]]$sd, sd(values))
    }
    removed <- less$left_out[less$left_out$reason == "flagged as outlying", ]
    expect_equal(sum(removed$n), length(unlist(shape[[2]])))
    expect_match(excluded_words(less, after), "flagged as outlying")
    # The study itself is as it was.
    expect_identical(study$outcomes[[1]], outcome)
  }
})

test_that("a row of counts takes all its cases along", {
  damage <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  outcome <- damage$outcomes[[1]]
  row <- known_rows(outcome, 1)[[1]]
  less <- study_without(damage, outcome, list(row, integer()))
  expect_equal(less$outcomes[[1]]$moments[[1]]$n, outcome$moments[[1]]$n - root_damage$plants[[row]])
  expect_equal(sum(less$left_out$n[less$left_out$reason == "flagged as outlying"]), root_damage$plants[[row]])
})
