stem_world <- function(...) {
  suppose_world(..., groups = c("compost", "peat"), unit = "cm", label = "Stem height")
}

# The kernel's decision and width in one made-up study, and what test_difference() or test_equivalence() say of the same
# values.
compare_study <- function(world, n, m, method, study, within = NULL, expect = "either", beyond = 0,
                          bounds_in = "outcome") {
  question <- rehearsed_question(list(world), expect, beyond, within, bounds_in, 0.05, NULL, NULL)$questions[[1]]
  options <- list(draws = 1000, threads = 1L, statistic = "studentized", seed = 3)
  plan <- core_rehearsal_plan(question$sides, question$level, world, n, m, options)
  plan$width_every <- 1
  step <- if (is.null(world$rounded_to)) 1 else world$rounded_to
  found <- core_rehearsed(world, n, m, method, plan, study, study + 1, 1L)
  raw <- native_made_up(core_made_up_world(world), n, m, 3, study)
  values <- lapply(raw, function(x) if (step == 1) x else signif(x * step, 14))
  same <- suppressMessages(if (world$paired) {
    versus_paired(data.frame(change = values$first), change = change)
  } else {
    versus(first = values$first, second = values$second)
  })
  row <- suppressWarnings(if (is.null(within)) {
    test_difference(same, method, expect = expect, beyond = beyond)$table
  } else {
    test_equivalence(same, within, method, bounds_in = bounds_in)$table
  })
  half <- if (found[, "widths"] > 0) found[[1, "width_sum"]] * if (method == "relative") 1 else step else NA_real_
  list(
    rejects = found[[1, "rejected"]] == 1, said = row$p <= 0.05, half = half, told = (row$upper - row$lower) / 2
  )
}

# Takes seconds: hundreds of studies are tested twice, one by one.
test_that("rehearsed tests decide as the verbs do on the same values, with the same intervals", {
  cases <- list(
    list(world = suppose_world(1, sd = c(1, 2)), n = 11, m = 14, methods = c("welch", "student", "ranks", "relative")),
    list(world = suppose_world(1, sd = c(1, 2), rounded_to = 0.5), n = 11, m = 14, methods = c("ranks", "relative")),
    list(world = suppose_world(1, sd = 1, shape = "skewed", rounded_to = 0.1), n = 6, m = 5, methods = c(
      "welch", "ranks", "relative", "permutation"
    )),
    list(world = suppose_world(1, sd_change = 2), n = 9, m = 9, methods = c("paired", "signed_ranks", "permutation")),
    list(world = suppose_world(1, sd_change = 2, rounded_to = 0.5), n = 9, m = 9, methods = c(
      "paired", "signed_ranks", "permutation"
    ))
  )
  both <- c(rejects = 0, keeps = 0)
  for (case in cases) {
    for (method in case$methods) {
      for (study in 0:4) {
        questions <- list(
          list(), list(expect = "higher", beyond = 0.5), if (method != "relative") list(within = 2),
          if (method_is(method, "means")) list(within = 1.2, bounds_in = "sd")
        )
        for (question in Filter(Negate(is.null), questions)) {
          got <- do.call(compare_study, c(list(case$world, case$n, case$m, method, study), question))
          expect_identical(got$rejects, got$said)
          if (is.na(got$told)) expect_identical(got$half, NA_real_) else expect_relative(got$half, got$told, 1e-7)
          both <- both + c(got$rejects, !got$rejects)
        }
      }
    }
  }
  # Both decisions occurred.
  expect_true(all(both > 30))
})

test_that("the smallest n reaches what was wanted and one less does not", {
  world <- stem_world(2.5, sd = c(3, 4))
  for (method in c("welch", "student")) {
    found <- rehearse_study(world, method = method, power = 0.8)$table
    expect_gte(found$power, 0.8)
    expect_lt(rehearse_study(world, n = found$n_first - 1, method = method)$table$power, 0.8)
  }
  narrow <- rehearse_study(world, half_width = 1.2)$table
  expect_lte(narrow$half_width, 1.2)
  expect_gt(rehearse_study(world, n = narrow$n_first - 1)$table$half_width, 1.2)
  unequal <- rehearse_study(world, power = 0.9, ratio = 2)$table
  expect_identical(unequal$n_second, 2 * unequal$n_first)
  same <- rehearse_study(suppose_world(0, sd = 1), within = 0.5, power = 0.9)$table
  expect_gte(same$power, 0.9)
  expect_lt(rehearse_study(suppose_world(0, sd = 1), n = same$n_first - 1, within = 0.5)$table$power, 0.9)
  ranks <- rehearse_study(world, method = "ranks", power = 0.8, draws = 2000, seed = 1)$table
  expect_gte(ranks$power, 0.8)
  less <- rehearse_study(world, n = ranks$n_first - 1, method = "ranks", draws = 2000, seed = 1)$table
  expect_lt(less$power, 0.8)
})

test_that("the textbook case: d = 0.5 at 64 a group gives power of 0.80", {
  # Cohen (1988), table 2.4.1.
  row <- rehearse_study(suppose_world(standardized = 0.5), method = "student", power = 0.8)$table
  expect_identical(row$n_first, 64)
  expect_lt(abs(row$power - 0.8015), 1e-4)
})

test_that("grids of worlds, designs and methods have a row each, all on the same random numbers", {
  worlds <- vary_world(stem_world(0, sd = 1), sd_ratio = c(1, 4))
  answer <- rehearse_study(worlds, n = list(c(10, 30), 20), method = c("student", "ranks"), seed = 2, draws = 1000)
  expect_identical(nrow(answer$table), 8L)
  expect_identical(unique(answer$table$world), c("SD ratio 1", "SD ratio 4"))
  # The smaller group has the larger spread: pooling rejects too often.
  wrong <- answer$table[answer$table$world == "SD ratio 4" & answer$table$n_first == 10, ]
  expect_gt(wrong$power[wrong$method == "student"], 0.2)
  expect_true(all(answer$table$null_true))
  alone <- rehearse_study(worlds[[2]], n = c(10, 30), method = "ranks", seed = 2, draws = 1000, threads = 2)
  expect_identical(alone$table$power, wrong$power[wrong$method == "ranks"])
})

test_that("seeds fix what is drawn, and are kept", {
  world <- stem_world(1, sd = 2)
  run <- function(...) rehearse_study(world, n = 12, method = "ranks", draws = 500, ...)
  expect_identical(run(seed = 9)$table, run(seed = 9, threads = 2)$table)
  set.seed(5)
  one <- run()
  set.seed(5)
  expect_identical(run()$table, one$table)
  expect_identical(run(seed = one$settings$seed)$table, one$table)
  expect_null(rehearse_study(world, n = 12)$settings$seed)
})

test_that("what cannot be asked is refused with the reason", {
  world <- stem_world(2, sd = 3)
  height <- height_study()
  refused <- function(expr, class) expect_error(expr, class = paste0("vandro_error_", class))
  refused(rehearse_study(height, n = 20), "observed_power")
  refused(rehearse_study(test_difference(height), n = 20), "observed_power")
  refused(suppose_world(test_difference(height), sd = 3), "observed_power")
  expect_error(rehearse_study(height, n = 20), "says nothing that p does not")
  refused(rehearse_study(3, n = 20), "not_a_world")
  refused(rehearse_study(world), "contradiction")
  refused(rehearse_study(world, n = 20, power = 0.8), "contradiction")
  refused(rehearse_study(world, n = 1), "bad_value")
  refused(rehearse_study(world, n = list()), "bad_value")
  refused(rehearse_study(world, n = c(20, 2.5)), "bad_value")
  refused(rehearse_study(world, power = 0.05), "bad_value")
  refused(rehearse_study(world, power = 1), "bad_value")
  refused(rehearse_study(world, half_width = 0), "bad_value")
  refused(rehearse_study(stem_world(0, sd = 3), power = 0.8), "out_of_reach")
  refused(rehearse_study(world, power = 0.8, expect = "lower"), "out_of_reach")
  several <- vary_world(world, difference = c(2, 0))
  expect_error(rehearse_study(several, power = 0.8), "In the world \"difference 0\"", fixed = TRUE)
  refused(rehearse_study(world, power = 0.8, within = 1), "out_of_reach")
  expect_error(rehearse_study(world, power = 0.8, within = 1), "a verdict of equivalence would be an error")
  refused(rehearse_study(stem_world(1e-6, sd = 3), power = 0.8), "out_of_reach")
  refused(rehearse_study(world, n = 20, method = "paired"), "method_design")
  refused(rehearse_study(world, n = 20, method = "relative", within = 5), "method_design")
  refused(rehearse_study(world, n = 20, method = "ranks", simulate = FALSE), "contradiction")
  refused(rehearse_study(world, n = 20, ratio = 2), "contradiction")
  refused(rehearse_study(list(world, suppose_world(1, sd = 1)), n = 20), "contradiction")
  # Outside the bounds the rate is told, as one of errors.
  expect_true(rehearse_study(world, n = 20, within = 1)$table$null_true)
})

test_that("print, sentence and JSON tell world, question, rate and how it was computed", {
  world <- stem_world(2.5, sd = c(3, 4), difference_sd = 1)
  answer <- rehearse_study(world, method = c("welch", "ranks"), power = 0.8, seed = 3, draws = 2000)
  lines <- paste(trimws(format(answer, width = 300)), collapse = "\n")
  expect_match(lines, "true difference 2.5 cm; SDs 3 cm (compost) and 4 cm (peat); normal", fixed = TRUE)
  expect_match(lines, "33 + 33", fixed = TRUE)
  expect_match(lines, "by simulation", fixed = TRUE)
  expect_match(lines, "from 2000 made-up studies for each design, seed 3", fixed = TRUE)
  told <- narrate(answer)
  expect_match(told[[1]], "would reject at alpha 0.05 (two-sided)", fixed = TRUE)
  expect_match(told[[2]], "95% interval", fixed = TRUE)
  errors <- rehearse_study(stem_world(0, sd = 1), n = 10)
  expect_match(narrate(errors, voice = "plain"), "Each of these results would be wrong", fixed = TRUE)
  expect_match(format(errors, width = 200), "H0 is true", fixed = TRUE, all = FALSE)
  json <- jsonlite::fromJSON(paste(export_answer(answer, format = "json"), collapse = "\n"), simplifyVector = FALSE)
  expect_identical(json$settings$worlds[[1]]$difference, 2.5)
  expect_identical(json$study$source, "supposed")
  sure <- rehearse_study(stem_world(50, sd = 1), n = 30)
  expect_match(format(sure), "> .999|= 1|  1  ", all = FALSE)
  laid <- compare_answers(errors, rehearse_study(stem_world(0, sd = 1), n = 10, alpha = 0.01))
  expect_true(any(laid$table$quantity == "power" & laid$table$differs))
})
