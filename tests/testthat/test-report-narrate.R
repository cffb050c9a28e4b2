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

test_that("a difference too small to show is said to be so, and equal means are the same", {
  raw <- function(x) format_number(x, 2)
  expect_identical(side_words(0.001, raw), "less than 0.01 higher")
  expect_identical(side_words(-0.001, function(x) paste(raw(x), "cm")), "less than 0.01 cm lower")
  expect_identical(side_words(-1.234, raw), "1.23 lower")
  expect_match(narrate(test_difference(two_groups(c(1, 3), c(0, 4)))), "was the same in the compost group")
  expect_error(narrate(3), class = "vandro_error_not_an_answer")
})

# --- claims, causes, styles, notes -------------------------------------------------------------------------

test_that("all four combinations of claim and decision are told, and none turns into its opposite", {
  said <- function(outcome, claim, ask = test_difference, ...) {
    study <- versus(seedlings, .data[[outcome]], substrate, groups = c("compost", "peat"), claim = claim)
    unclass(narrate(ask(study, ...), voice = "claim"))
  }
  expect_match(said("height", "different"), "is enough evidence to support the claim that .* not equal")
  expect_match(said("chlorophyll", "different"), "is not enough evidence to support the claim that .* not equal")
  expect_match(said("height", "same"), "is enough evidence to reject the claim that .* are equal")
  expect_match(said("chlorophyll", "same"), "is not enough evidence to reject the claim that .* are equal")
  expect_match(said("chlorophyll", "same"), "not evidence that the groups are equal")
  expect_match(said("chlorophyll", "same"), "compatible with a mean from 2.11 lower to 1.99 higher")
  # With bounds it is the other way round.
  bounded <- function(...) said(..., test_equivalence, 3)
  expect_match(bounded("chlorophyll", "same"), "enough evidence to support the claim .*between the bounds -3 and 3")
  expect_match(bounded("height", "same"), "not enough evidence to support .* not evidence against it")
  expect_match(bounded("chlorophyll", "different"), "is enough evidence to reject .*on or beyond one of the bounds")
  expect_match(bounded("height", "different"), "not enough evidence to reject .* not evidence for it")
  ranks <- narrate(height_study(), "ranks", expect = "higher", reason = "peat dries", voice = "claim")
  expect_match(ranks, "that values of compost tend to be higher than those of peat \\(exact one-sided p < .001")
  expect_error(narrate(gauge_effect(height_study()), voice = "claim"), class = "vandro_error_bad_value")
})

test_that("of several outcomes the adjusted p decides about claims", {
  study <- versus_summary(c(20, 20), c(1, 0), c(1.5, 1.5), groups = c("compost", "peat"))
  one <- test_difference(study)
  expect_lt(one$table$p, 0.05)
  one <- with_table(one, transform(one$table, p_adjusted = 0.08))
  text <- narrate(one, voice = "claim")
  expect_match(text, "not enough evidence to support", fixed = TRUE)
  expect_match(text, "adjusted p = .080", fixed = TRUE)
  expect_match(
    narrate(one), "After adjustment for the other outcomes, the p-value is above alpha .05; this is not evidence",
    fixed = TRUE
  )
})

test_that("only chance may cause, and only where an effect is shown", {
  text <- function(outcome, assigned, ...) {
    unclass(narrate(test_difference(versus(
      seedlings, .data[[outcome]], substrate, groups = c("compost", "peat"), assigned = assigned
    ), ...)))
  }
  expect_match(text("height", TRUE), "assigned at random, .*: compost raised height by 3.46 compared with peat")
  expect_match(text("leaf_area", TRUE, "relative"), "compost tended to raise leaf_area compared with peat")
  expect_no_match(text("chlorophyll", TRUE), "raised|lowered|an effect")
  expect_match(text("height", FALSE), "not assigned to the groups at random; the difference may have other causes")
  expect_no_match(text("height", NULL), "raised|assigned")
  lower <- versus(seedlings, height, substrate, groups = c("peat", "compost"), assigned = TRUE)
  expect_match(narrate(test_difference(lower)), "peat lowered height by 3.46 compared with compost", fixed = TRUE)
  expect_match(narrate(test_difference(conductance_study(assigned = FALSE))), "order of the two .* other causes")
  expect_error(height_study(assigned = "yes"), class = "vandro_error_bad_value")
  expect_match(format(height_study(assigned = TRUE)), "Assigned    units to the groups at random", all = FALSE)
})

test_that("what was left out and drawn is said", {
  expect_match(narrate(test_difference(height_study())), "Excluded: 2 rows of compost without a value; 1 row of peat")
  expect_no_match(narrate(test_difference(published_study())), "Left out")
  drawn <- narrate(test_difference(height_study(), "permutation", options = how(statistic = "trimmed"), seed = 3))
  expect_match(drawn, "Drawn at random: 9999 times, seed 3.", fixed = TRUE)
  boot <- narrate(gauge_effect(height_study(), "g", interval = "bootstrap", seed = 5, options = how(draws = 199)))
  expect_match(boot, "Drawn at random: 199 times, seed 5.", fixed = TRUE)
})

test_that("explanations and sources are those of what was used", {
  text <- narrate(test_difference(height_study()), explain = TRUE, sources = TRUE)
  expect_length(text, 4)
  expect_match(text[[2]], "not the probability that the hypothesis is true", fixed = TRUE)
  expect_match(text[[3]], "95% of all studies", fixed = TRUE)
  expect_match(text[[4]], "Welch, B. L. (1947)", fixed = TRUE)
  expect_match(text[[4]], "American Psychological Association", fixed = TRUE)
  expect_no_match(text[[4]], "Student \\(1908\\)|Mann|Fisher|Wasserstein.*Wasserstein")
  expect_match(text[[4]], "Wasserstein", fixed = TRUE)
  bayes <- narrate(weigh_evidence(height_study()), explain = TRUE, sources = TRUE)
  expect_match(bayes[[2]], "not the probability of either hypothesis", fixed = TRUE)
  expect_match(bayes[[3]], "with a probability of 95%", fixed = TRUE)
  expect_no_match(bayes, "Gronau|About p|confidence interval")
  expect_match(narrate(weigh_evidence(height_study(), prior_df = 3), sources = TRUE)[[2]], "Gronau", fixed = TRUE)
  exact <- narrate(test_difference(height_study(), "ranks"), sources = TRUE)[[2]]
  expect_match(exact, "Streitberg", fixed = TRUE)
  own <- narrate(test_difference(height_study()), sources = TRUE, style = number_style(decimals = 1))
  expect_no_match(own[[2]], "American Psychological", fixed = TRUE)
  permuted <- narrate(test_difference(plots_study(), "permutation"), sources = TRUE)[[2]]
  expect_match(permuted, "Fisher, R. A. (1935)", fixed = TRUE)
  expect_no_match(permuted, "Phipson", fixed = TRUE)
})

test_that("an interval of ranks that contradicts the test is named in sentence and table", {
  set.seed(18)
  data <- data.frame(y = c(rnorm(8, 1.1), rnorm(9)), g = rep(c("a", "b"), c(8, 9)))
  study <- versus(data, y, g, groups = c("a", "b"))
  said <- "interval of the rank-biserial correlation excludes 0, while the p-value is above alpha"
  expect_match(narrate(study, "ranks"), said, all = FALSE)
  expect_match(results_table(study, "ranks")$notes, said, all = FALSE)
  # Of means every interval follows its own test, and d may part from it in the last digits only.
  expect_false(any(grepl("different methods", narrate(study))))
})
