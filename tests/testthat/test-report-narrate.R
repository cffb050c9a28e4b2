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

# --- over a wide grid ------------------------------------------------------------------------------------

# One random comparison: design, shape of the data, what is declared about it.
grid_study <- function(i) {
  declared <- list(
    unit = list(NULL, "cm", "%")[[1 + i %% 3]], label = list("Stem height", "pH", "leaf area")[[1 + i %% 3]],
    claim = list(NULL, "same", "different")[[1 + (i %/% 3) %% 3]], assigned = list(NULL, TRUE, FALSE)[[1 + i %% 3]],
    groups = c("compost", "peat")
  )
  n <- 4 + i %% 9
  gap <- c(0, 0.4, -3, 12)[[1 + i %% 4]]
  digits <- c(0, 1, 6)[[1 + (i %/% 2) %% 3]]
  first <- round(rnorm(n, 20 + gap, 3), digits)
  second <- round(rnorm(n + if (i %% 2) 0 else 3, 20, 2), digits)
  switch(1 + i %% 5,
    rlang::inject(versus(long_data(c(first, NA), second), height, substrate, !!!declared)),
    rlang::inject(versus_paired(data.frame(a = first, b = second[seq_len(n)] + 0.01), a, b, !!!declared)),
    rlang::inject(versus_summary(c(n, n + 2), c(20 + gap, 20), c(3, 2), !!!declared)),
    rlang::inject(versus_paired_summary(n, mean_change = gap + 0.1, sd_change = 2, !!!declared)),
    rlang::inject(versus_paired(data.frame(change = first - 20.3), change, !!!declared))
  )
}

grid_methods <- function(study) {
  if (study$source == "summary") return(methods_where(design = study$design, summaries = TRUE))
  methods_where(design = study$design)
}

# A test of it in any direction, or NULL where these few values allow none.
grid_answer <- function(study, i) {
  methods <- grid_methods(study)
  method <- methods[[1 + i %% length(methods)]]
  beyond <- if (method == "relative") 0 else c(0, 0, 1.5, -2)[[1 + (i %/% 7) %% 4]]
  # That few values cannot decide is said in a warning.
  tryCatch(
    suppressWarnings(rlang::inject(test_difference(study, method,
      expect = directions[[1 + (i %/% 5) %% 3]], beyond = beyond, alpha = c(0.05, 0.01)[[1 + i %% 2]],
      !!!if (method %in% c("relative", "permutation")) list(seed = i)
    )), classes = "vandro_warning"),
    vandro_error = function(e) NULL
  )
}

# Takes seconds: 330 studies of every design, shape and voice.
test_that("over a wide grid sentences are whole, true, and their numbers are the answer's", {
  set.seed(90)
  styles <- list(
    NULL, number_style(leading_zero = TRUE, decimal_mark = ","), number_style(decimals = 3, p_decimals = 4)
  )
  told <- 0
  faults <- character()
  note <- function(bad, what, text) if (any(bad)) faults <<- c(faults, paste0(what, ": ", text))
  for (i in 1:330) {
    study <- quiet(grid_study(i))
    answer <- grid_answer(study, i)
    if (is.null(answer)) next
    voice <- c("journal", "plain", "claim")[[1 + (i %/% 2) %% 3]]
    text <- unclass(narrate(answer, voice = voice, style = styles[[1 + i %% 3]]))
    told <- told + 1
    row <- answer$table
    says <- function(pattern) grepl(pattern, text)
    note(length(form_faults(text)), toString(form_faults(text)), text)
    note(length(strange_numbers(text, list(answer))), "a number that is not the answer's", text)
    note(length(untrue_p(text, list(answer))), "an untrue p", text)
    # Direction and wrong readings.
    direction <- paste0(
      "compost minus peat|same in the|",
      "in the compost (group|measurements) .*than in the peat (group|measurements)"
    )
    note(!says(direction), "no direction", text)
    wrong <- "no (significant )?difference between|did not differ|no effect|due to chance|proves?\\b"
    note(says(wrong), "a wrong reading", text)
    note(!isTRUE(study$assigned) && says("raised|lowered|caused|effect of|led to"), "a cause", text)
    if (row$estimand == "mean_difference" && row$estimate != 0) {
      note(!says(if (row$estimate > 0) "higher in the compost" else "lower in the compost"), "the wrong side", text)
    }
    note(voice != "plain" && row$p > row$alpha && !wrong_side(row) && !says("not evidence"), "sameness", text)
  }
  expect_identical(faults, character())
  expect_gt(told, 250)
})

# Takes seconds: 160 sentences with all effect sizes.
test_that("whole studies, effects, bounds and evidence keep to their numbers too", {
  set.seed(91)
  faults <- function(text, answers) c(strange_numbers(text, answers), form_faults(text))
  for (i in 1:40) {
    study <- quiet(grid_study(i))
    method <- grid_methods(study)[[1]]
    text <- unclass(narrate(study, method, voice = c("journal", "plain")[[1 + i %% 2]]))
    expect_identical(faults(text, asked_answers(study, method)), character(), label = text)
    bounded <- test_equivalence(study, within = c(1, 4, 15)[[1 + i %% 3]])
    for (voice in c("journal", "plain", "claim")) {
      text <- unclass(narrate(bounded, voice = voice))
      expect_identical(faults(text, list(bounded, difference_of(bounded))), character(), label = text)
    }
  }
})

test_that("the readers of sentences see what is wrong", {
  answer <- test_difference(height_study())
  text <- unclass(narrate(answer))
  expect_identical(strange_numbers(sub("3.46", "3.47", text, fixed = TRUE), list(answer)), "3.47")
  expect_identical(untrue_p(sub("p < .001", "p = .002", text, fixed = TRUE), list(answer)), "p = .002")
  expect_identical(untrue_p("p > .999", list(answer)), "p > .999")
  expect_identical(form_faults("Two  blanks (here ,"), c("two blanks", "blank before a mark", "no end", "brackets"))
  expect_identical(form_faults("there were 1 rows, NA of 2 row."), c("missing value", "no capital", "number and noun"))
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
  expect_match(ranks, "support the claim that values of compost tend to be higher than those of peat \\(exact p < .001")
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
