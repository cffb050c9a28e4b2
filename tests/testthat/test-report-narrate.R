test_that("sentences are pinned", {
  local_reproducible_output(width = 80)
  chlorophyll <- versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat"))
  expect_snapshot({
    narrate(height_study())
    narrate(height_study(), voice = "plain")
    narrate(chlorophyll)
    narrate(test_difference(chlorophyll, expect = "lower"), voice = "plain")
    narrate(test_difference(height_study(), expect = "lower"))
    narrate(test_difference(height_study(), expect = "higher", beyond = -2))
    narrate(test_difference(height_study(), beyond = 3))
    narrate(gauge_effect(height_study()))
    narrate(describe_study(height_study()))
    narrate(describe_study(height_study()), voice = "plain")
    narrate(conductance_study())
    narrate(conductance_study(), voice = "plain")
    narrate(describe_study(conductance_study()))
  })
})

test_that("a large p never becomes sameness, and the higher group is always named", {
  set.seed(31)
  for (i in 1:60) {
    study <- two_groups(round(rnorm(6, 20, 3), 1), round(rnorm(5, 20 + i %% 4, 3), 1))
    answer <- test_difference(study, expect = sample(directions, 1))
    for (voice in c("journal", "plain")) {
      text <- unclass(narrate(answer, voice = voice))
      rest <- sub("not (evidence|show) that the groups are equal\\.", "", text)
      expect_false(grepl("no difference between|did not differ|no effect|are equal", rest))
      side <- if (answer$table$estimate > 0) "higher in compost" else "lower in compost"
      if (answer$table$estimate != 0) expect_match(text, side)
      if (answer$table$p > 0.05 && !wrong_side(answer$table)) expect_match(text, "not (evidence|show)")
    }
  }
})

test_that("every number in a sentence is one of the answer's, rounded", {
  set.seed(8)
  for (i in 1:40) {
    study <- two_groups(rnorm(7, 5, 10^(i %% 4 - 2)), rnorm(9, 5.1, 10^(i %% 4 - 2)))
    answer <- test_difference(study)
    row <- answer$table
    decimals <- outcome_decimals(study$outcomes[[1]])
    m <- study$outcomes[[1]]$moments
    known <- c(
      format_number(
        c(row$estimate, abs(row$estimate), row$lower, row$upper, abs(row$lower), abs(row$upper)),
        decimals
      ),
      format_number(c(m[[1]]$mean, m[[2]]$mean, m[[1]]$sd, m[[2]]$sd), decimals),
      format_number(row$statistic, 2), format_df(row$df), sub("^p . 0?", "", format_p(row$p)), "95", "7", "9",
      format_number(10^-decimals, decimals)
    )
    numbers <- regmatches(narrate(answer), gregexpr("-?[0-9]*[.]?[0-9]+", narrate(answer)))[[1]]
    expect_identical(setdiff(numbers, known), character())
  }
})

test_that("a difference too small to show is said to be so, and equal means are the same", {
  raw <- function(x) format_number(x, 2)
  expect_identical(side_words(0.001, raw), "less than 0.01 higher")
  expect_identical(side_words(-0.001, function(x) paste(raw(x), "cm")), "less than 0.01 cm lower")
  expect_identical(side_words(-1.234, raw), "1.23 lower")
  expect_match(narrate(test_difference(two_groups(c(1, 3), c(0, 4)))), "was the same in the samples")
  expect_error(narrate(3), class = "vandro_error_not_an_answer")
})
