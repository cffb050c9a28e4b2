test_that("words of the trade are answered with the argument or value that stands for them", {
  study <- height_study()
  pairs <- conductance_study()
  asked <- list(
    list("either", quote(test_difference(study, expect = "two-sided"))),
    list("higher", quote(test_difference(study, expect = "greater"))),
    list("lower", quote(test_difference(study, expect = "less"))),
    list(c("welch", "student"), quote(test_difference(study, "t"))),
    list("ranks", quote(test_difference(study, "rank-sum"))),
    list("signed_ranks", quote(test_difference(pairs, "signed-rank"))),
    list("paired", quote(test_difference(pairs, "t test"))),
    list(c("d_pooled", "d_average"), quote(gauge_effect(study, "Cohen's d"))),
    list("g", quote(gauge_effect(study, "Hedges' g"))),
    list("benjamini_hochberg", quote(test_difference(study, adjust = "FDR"))),
    list("level", quote(test_difference(study, confidence = 0.9))),
    list("expect", quote(test_difference(study, alternative = "higher"))),
    list("beyond", quote(test_difference(study, null_value = 3))),
    list("method", quote(test_difference(study, equal_variances = TRUE)))
  )
  for (one in asked) {
    said <- tryCatch(eval(one[[2]]), vandro_error = conditionMessage)
    meant <- sub("^.*Did you mean ", "", said)
    expect_setequal(gsub("\"", "", regmatches(meant, gregexpr("\"[^\"]+\"", meant))[[1]]), one[[1]])
  }
})

test_that("mistakes that are often made are answered with what to write", {
  refused(
    not_a_study = test_equivalence(test_difference(height_study()), 2), missing_argument = gauge_effect(),
    missing_argument = describe_study(), bad_value = height_study(phrases = "on compost")
  )
  expect_error(versus(seedlings, substrate, height), "They look like measurements", class = "vandro_error_many_groups")
  expect_error(save_figure(height_study(), tempfile(fileext = ".pdf"), width = 6), "width = 152", fixed = TRUE)
  one <- data.frame(y = 1:4, g = c("a", "b", "c", "c"))
  expect_error(versus(one, y, g), "\"a\" (1 row), \"b\" (1 row), \"c\" (2 rows)", fixed = TRUE)
  answer <- test_difference(height_study(), "ranks")
  for (verb in list(gauge_effect, vet_assumptions, describe_study, weigh_evidence)) {
    expect_identical(verb(answer)$table, verb(height_study())$table)
  }
})

test_that("what is printed as a name is accepted as one", {
  study <- height_study()
  expect_identical(test_difference(study, "Mann-Whitney")$settings$method, "ranks")
  expect_identical(unique(cross_check(study, "Brunner-Munzel")$settings$method)[[1]], "relative")
  expect_identical(gauge_effect(conductance_study(), "d (changes)")$table$estimand, "d_change")
  expect_identical(describe_study(study, method = "Student")$settings$method, "student")
  expect_identical(house_conventions(method = c(paired = "Signed-rank test"))$method, c(paired = "signed_ranks"))
  refused(method_design = test_difference(study, "signed-rank test"))
})

test_that("long data, codes and summaries given in another form are answered with the call that fits", {
  long <- data.frame(plant = rep(1:8, 2), time = rep(1:2, each = 8), moisture = 20 + sin(1:16))
  expect_error(versus_paired(long, moisture, time), "`versus_paired(data, moisture, time, plant)`", fixed = TRUE)
  expect_identical(quiet(versus_paired(long, moisture, time, plant))$outcomes[[1]]$moments[[3]]$n, 8)
  two <- data.frame(a = c(1, 2, 1, 2, 1, 2), b = 1:6)
  expect_s3_class(quiet(versus_paired(two, a, b)), "vandro_study")
  coded <- data.frame(y = 1:9, g = rep(c(1, 2, 9), c(4, 4, 1)))
  expect_error(versus(coded, y, g, groups = c("compost", "peat")), "groups = c(compost = 1, peat = 2)", fixed = TRUE)
  expect_error(height_study(groups = 1:2), "groups = c(\"peat\", \"compost\")", fixed = TRUE)
  expect_error(versus_paired_summary(22, mean = 46, sd = 20), "`mean_change = 46, sd_change = 20`", fixed = TRUE)
  expect_error(versus_paired_summary(22, mean_change = c(9, 8), sd_change = 1), "`mean = c(9, 8)`", fixed = TRUE)
  expect_error(gauge_effect(), "versus(data, outcome, by)", fixed = TRUE)
})

test_that("a report carries the effect sizes and the question that were asked for", {
  study <- height_study()
  file <- withr::local_tempfile(fileext = ".md")
  quick_report(study, file, estimands = c("d_pooled", "superiority"))
  expect_match(readLines(file), "^\\| superiority", all = FALSE)
  quick_report(gauge_effect(study, method = "student"), file, overwrite = TRUE)
  expect_no_match(readLines(file), "Welch for the difference")
  expect_match(readLines(file), "Student\\\\'s t\\(45\\)", all = FALSE)
  # A description by another method gives way: one interval of the difference in a document.
  answers <- list(test_difference(study, "student", expect = "higher"), describe_study(study))
  quick_report(answers, file, overwrite = TRUE)
  expect_no_match(readLines(file), "Welch for the difference")
  expect_match(readLines(file), "Is the mean of stem height higher in the compost group than in the peat", all = FALSE)
  figure <- cli_figure(study, "effects", list(method = "student"), list())
  expect_match(figure$labels$caption, "Student")
})

test_that("whole numbers have means with two decimals", {
  expect_match(format(describe_study(conductance_study())), "188.77 +39.87", all = FALSE)
  expect_false(is_whole(height_study()$outcomes[[1]]))
})

test_that("groups are named inside a sentence as the analyst names them", {
  study <- height_study(phrases = c(peat = "on peat", compost = "on compost"))
  expect_match(narrate(study), "3.46 cm higher on compost (n = 24", fixed = TRUE)
  expect_match(narrate(study, voice = "plain"), "higher on compost than on peat", fixed = TRUE)
  expect_match(narrate(study, method = "ranks"), "higher on compost (n = 24, Mdn = 21.85) than on peat", fixed = TRUE)
  times <- versus_paired(data.frame(before = c(1, 2, 3, 5), after = c(2, 4, 4, 5.5)), after, before)
  expect_match(narrate(times), "higher after (M = 3.875, SD = 1.436) than before", fixed = TRUE)
  control <- versus(first = c(1, 2, 4), second = c(3, 4, 6), groups = c("control group", "treated"))
  expect_match(narrate(control), "lower in the control group .* than in the treated group")
  got <- run_here("narrate", shared_words$S, "--phrases", "on compost,on peat")
  expect_match(paste(got$out, collapse = " "), "higher on compost")
})

test_that("a difference of percentages is in percentage points", {
  probes <- versus_paired(moisture, probe_a, probe_b, unit = "%")
  expect_match(format(test_difference(probes)), "0.219 percentage points, 95% CI 0.078 to 0.359$", all = FALSE)
  expect_match(narrate(test_equivalence(probes, 0.5)), "bounds of -0.5 to 0.5 percentage points", fixed = TRUE)
  expect_match(narrate(describe_study(probes), voice = "plain"), "averaged 29.065 % in the probe_a", fixed = TRUE)
})

test_that("print honours a style, and refuses what it does not know", {
  comma <- utils::capture.output(print(test_difference(height_study()), style = number_style(decimal_mark = ",")))
  expect_match(comma, "3,46 cm", fixed = TRUE, all = FALSE)
  refused(unknown_argument = print(test_difference(height_study()), digits = 3))
})

test_that("several answers about one study are one paragraph that repeats nothing, with the effect sizes asked for", {
  study <- height_study()
  answers <- list(test_difference(study), weigh_evidence(study), gauge_effect(study, "g"))
  text <- narrate(answers)
  expect_length(text, 1)
  expect_length(gregexpr("Excluded:", text, fixed = TRUE)[[1]], 1)
  for (part in c("Welch's t(44.5)", "BF10 = 347", "g = 1.27")) expect_match(text, part, fixed = TRUE)
  expect_match(narrate(study, estimands = c("d_pooled", "g")), "d = 1.29, .*; g = 1.27")
  expect_match(narrate(test_difference(study), estimands = "d_average"), "d = 1.30", fixed = TRUE)
  expect_no_match(narrate(test_difference(study)), "Effect size")
  house <- house_conventions(estimands = c("d_pooled", "d_change"))
  expect_identical(house_estimands(house, study), "d_pooled")
  expect_match(format(house), "d_pooled", all = FALSE)
  refused(
    bad_value = narrate(list(test_difference(study), test_difference(conductance_study()))),
    contradiction = narrate(weigh_evidence(study), estimands = "g"), bad_value = narrate(study, estimands = "gg"),
    not_an_answer = narrate(list()), bad_value = house_conventions(estimands = "gg")
  )
})

test_that("published numbers keep the decimals they were given with, on every surface", {
  study <- versus_summary(n = c(18, 20), mean = c(18.25, 19.8), sd = c(6.43, 5.1), groups = c("compost", "peat"))
  for (text in list(
    format(test_difference(study)), narrate(study), format(describe_study(study)),
    format(results_table(study), width = 200),
    format(weigh_evidence(study)), format(test_equivalence(study, 3))
  )) {
    expect_match(text, "18.25", fixed = TRUE, all = FALSE)
    expect_match(text, "6.43", fixed = TRUE, all = FALSE)
    expect_no_match(text, "18[.]250|6[.]430|19[.]800")
  }
  whole <- versus_paired_summary(n = 22, mean = c(214, 148), sd = c(41, 36), r = 0.62, groups = c("noon", "dawn"))
  expect_match(narrate(whole), "M = 214, SD = 41", fixed = TRUE)
  expect_match(narrate(whole, decimals = 2), "M = 214.00, SD = 41.00", fixed = TRUE)
  # Computed ones have the usual decimals.
  expect_match(
    format(test_difference(versus_summary(c(18, 20), c(22.1, 19.8), se = c(0.92, 0.72)))), "3[.]90?$", all = FALSE
  )
})

test_that("answers of different lengths are told one after the other, and wrong words have an error of their own", {
  study <- height_study()
  benches <- versus(seedlings, height, substrate, groups = c("compost", "peat"), each = bench)
  parts <- list(test_difference(benches), compare_subgroups(benches))
  expect_identical(unclass(narrate(parts)), unlist(lapply(parts, function(part) unclass(narrate(part)))))
  refused(
    bad_value = height_study(phrases = c(cmpost = "on compost", peat = "on peat")),
    bad_value = print(test_difference(study), style = 3),
    contradiction = cross_check(study, options = how(exact = FALSE)),
    contradiction = gauge_effect(study, options = how(statistic = "median"))
  )
})
