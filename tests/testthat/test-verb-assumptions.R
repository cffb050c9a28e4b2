vetted <- function(first, second, ...) vet_assumptions(quiet(versus(first = first, second = second)), ...)
row_of <- function(answer, check, group = NULL) {
  rows <- answer$table[answer$table$check == check, ]
  if (is.null(group)) rows else rows[rows$group == group, ]
}

test_that("every check of a study is one row per group or one for both", {
  answer <- vet_assumptions(height_study())
  per_group <- c("size", "skewness", "kurtosis", "normality", "fences", "far", "ties", "distinct", "lowest", "highest")
  both <- c("sd_ratio", "deviations", "f_ratio", "error_student", "error_welch", "order", "pairing")
  expect_identical(table(answer$table$check)[per_group], table(rep(per_group, 2))[per_group])
  expect_identical(c(table(answer$table$check)[both]), c(table(both)[both]))
  expect_true(all(nzchar(answer$table$reading) & nzchar(answer$table$matters_for)))
  expect_setequal(unique(answer$table$check), unlist(vet_themes)[c(unlist(vet_themes)) %in% c(per_group, both)])
})

test_that("numbers are those of the description and of the formulas", {
  study <- height_study()
  answer <- vet_assumptions(study, level = 0.9)
  description <- describe_study(study)$table
  expect_identical(row_of(answer, "skewness")$estimate, description$skewness[1:2])
  expect_identical(row_of(answer, "kurtosis")$estimate, description$kurtosis[1:2])
  ratio <- row_of(answer, "sd_ratio")
  expect_relative(ratio$estimate, description$sd[[1]] / description$sd[[2]], 1e-14)
  expect_identical(ratio$level, 0.9)
  expect_relative(row_of(answer, "f_ratio")$statistic, ratio$estimate^2, 1e-14)
  values <- outcome_group_values(study$outcomes[[1]], 1)
  other <- outcome_group_values(study$outcomes[[1]], 2)
  deviation <- c(abs(values - stats::median(values)), abs(other - stats::median(other)))
  group <- rep(c("a", "b"), c(length(values), length(other)))
  expect_relative(
    row_of(answer, "deviations")$statistic, stats::anova(stats::lm(deviation ~ group))[1, "F value"], 1e-11
  )
  mean_centred <- vet_assumptions(study, centre = "mean")
  expect_match(row_of(mean_centred, "deviations")$method, "Levene")
  expect_false(row_of(mean_centred, "deviations")$statistic == row_of(answer, "deviations")$statistic)
})

test_that("nothing is stamped as passed and nothing large is called evidence", {
  text <- paste(format(vet_assumptions(height_study()), width = 300, details = TRUE), collapse = " ")
  expect_false(grepl("passed|fulfilled|\\bmet\\b|satisfied|OK\\b|normally distributed", text))
  expect_match(text, "Nothing stands out.", fixed = TRUE)
  # Said once.
  expect_length(gregexpr("not evidence that the assumption holds, and no check changes the method", text)[[1]], 1)
  short <- format(vet_assumptions(height_study()), width = 100)
  expect_lt(length(short), 16)
  flagged <- format(
    vet_assumptions(versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"))), width = 100
  )
  expect_match(flagged, "What stands out:", fixed = TRUE, all = FALSE)
  expect_match(flagged, "look these up", fixed = TRUE, all = FALSE)
})

test_that("outlying values are named by row or declared id", {
  leaf <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant)
  found <- row_of(vet_assumptions(leaf), "fences", "compost")
  expect_match(found$cases, "^P[0-9]+")
  values <- outcome_group_values(leaf$outcomes[[1]], 1)
  q <- stats::quantile(values, c(0.25, 0.75), names = FALSE)
  expected <- sum(values < q[[1]] - 1.5 * diff(q) | values > q[[2]] + 1.5 * diff(q))
  expect_identical(found$estimate, as.double(expected))
  plain <- vetted(c(1, 2, 3, 4, 90), c(1, 2, 3, 4, 5))
  expect_identical(row_of(plain, "fences", "first")$cases, "5")
  expect_identical(row_of(plain, "far", "first")$cases, "5")
  many <- vetted(c(seq(-1, 1, length.out = 200), 1:30 * 100), 1:5)
  expect_match(row_of(many, "fences", "first")$cases, "and 20 more$")
})

test_that("ties, coarse scales and piles at the ends are counted", {
  set.seed(1)
  answer <- vetted(c(rep(0, 8), 1:12), sample(0:3, 40, TRUE), limits = c(0, 20))
  expect_identical(row_of(answer, "ties", "first")$estimate, 8)
  expect_identical(row_of(answer, "lowest", "first")$estimate, 8)
  expect_match(row_of(answer, "lowest", "first")$reading, "pile up")
  expect_identical(row_of(answer, "highest", "first")$estimate, 0)
  expect_match(row_of(answer, "distinct", "second")$reading, "coarse")
  expect_match(row_of(vetted(c(1:9, 9.5), 1:12), "distinct", "first")$reading, "a fine scale")
  outside <- vetted(c(1, 2, 30), c(1, 2, 3), limits = c(0, 20))
  expect_match(row_of(outside, "lowest", "first")$reading, "outside the declared limits")
})

test_that("of pairs the ends are those of both measurements", {
  data <- data.frame(a = c(10, 10, 10, 7, 8), b = c(3, 5, 0, 1, 2))
  answer <- vet_assumptions(versus_paired(data, a, b), limits = c(0, 10))
  expect_identical(row_of(answer, "highest")$group, c("a", "b"))
  expect_identical(row_of(answer, "highest")$estimate, c(3, 0))
  expect_identical(row_of(answer, "lowest")$estimate, c(0, 1))
  expect_match(row_of(answer, "highest", "a")$reading, "pile up")
})

test_that("unequal spread with unequal sizes is a danger, with its error rate", {
  danger <- vet_assumptions(versus_summary(n = c(10, 40), mean = c(1, 2), sd = c(6, 3)))
  student <- row_of(danger, "error_student")
  expect_match(student$reading, "rejects too often")
  expect_true(student$lower < student$estimate && student$estimate < student$upper)
  # Graded by what the SDs themselves leave open.
  slight <- vet_assumptions(versus_summary(n = c(10, 40), mean = c(1, 2), sd = c(3.5, 3)))
  expect_match(row_of(slight, "error_student")$reading, "may reject too often, but these SDs leave that open")
  expect_relative(student$estimate, core_true_size("student", 10, 40, 2, 0.05), 1e-12)
  expect_lt(row_of(danger, "error_welch")$estimate, 0.06)
  timid <- vet_assumptions(versus_summary(n = c(40, 10), mean = c(1, 2), sd = c(6, 3)))
  expect_match(row_of(timid, "error_student")$reading, "misses differences")
  equal <- vet_assumptions(versus_summary(n = c(20, 20), mean = c(1, 2), sd = c(4, 3)))
  expect_match(row_of(equal, "error_student")$reading, "equal sample sizes")
  strict <- vet_assumptions(versus_summary(n = c(10, 40), mean = c(1, 2), sd = c(6, 3)), alpha = 0.01)
  expect_lt(row_of(strict, "error_student")$estimate, student$estimate)
})

test_that("the rule of thumb is the analyst's own, with its source", {
  study <- versus_summary(n = c(20, 20), mean = c(1, 2), sd = c(5, 3))
  expect_match(row_of(vet_assumptions(study), "sd_ratio")$reading, "within the rule")
  own <- row_of(vet_assumptions(study, spread_rule = 1.5, spread_source = "Field guide 2020"), "sd_ratio")
  expect_match(own$reading, "beyond the rule of thumb (1.5)", fixed = TRUE)
  expect_identical(own$source, "Field guide 2020")
  expect_identical(row_of(vet_assumptions(study, spread_rule = 3), "sd_ratio")$source, "declared by the analyst")
})

test_that("published numbers show what they can and say what they cannot", {
  answer <- vet_assumptions(published_study())
  expect_setequal(answer$table$check, c("sd_ratio", "f_ratio", "error_student", "error_welch", "hidden"))
  expect_match(row_of(answer, "hidden")$reading, "cannot be checked")
  pairs <- vet_assumptions(versus_paired_summary(12, mean = c(4, 3), sd = c(2, 1), r = 0.4))
  expect_relative(row_of(pairs, "sd_ratio")$estimate, 2, 1e-14)
  changes <- vet_assumptions(versus_paired_summary(12, mean_change = 4, sd_change = 2))
  expect_match(row_of(changes, "sd_ratio")$reading, "changes only")
})

test_that("of pairs the changes are looked at, with ties decided in exact decimals", {
  answer <- vet_assumptions(conductance_study())
  change <- with(conductance, noon - dawn)
  change <- change[!is.na(change)]
  expect_relative(row_of(answer, "skewness")$estimate, core_sample_moments(change)$skewness, 1e-12)
  expect_identical(row_of(answer, "size")$estimate, as.double(length(change)))
  tenths <- data.frame(a = c(0.3, 0.5, 1.1, 0.7), b = c(0.1, 0.3, 0.9, 0.7))
  found <- vet_assumptions(versus_paired(tenths, a, b))
  expect_identical(row_of(found, "ties")$estimate, 3)
  expect_identical(row_of(found, "zeros")$estimate, 1)
  expect_identical(row_of(answer, "pairing")$estimate, conductance_study()$outcomes[[1]]$pairs$r)
})

test_that("dependence on the order is seen where an order was declared", {
  set.seed(7)
  wave <- as.numeric(stats::filter(rnorm(60), 0.7, "recursive"))
  data <- data.frame(y = c(wave, rnorm(60)), g = rep(c("a", "b"), each = 60), hour = rep(1:60, 2))
  answer <- vet_assumptions(versus(data, y, g, groups = c("a", "b"), order = hour))
  expect_match(row_of(answer, "order", "a")$reading, "resemble")
  expect_match(row_of(answer, "order", "b")$reading, "no correlation between neighbouring values detected")
  expect_lt(row_of(answer, "order", "a")$statistic, 30)
  expect_gt(row_of(answer, "error_order")$estimate, 0.15)
  expect_match(row_of(answer, "error_order")$reading, "too narrow, and p-values too small")
  shuffled <- data[sample(120), ]
  again <- vet_assumptions(versus(shuffled, y, g, groups = c("a", "b"), order = hour))
  expect_relative(row_of(again, "order", "a")$estimate, row_of(answer, "order", "a")$estimate, 1e-12)
  short <- versus(data[c(1:60, 61:63), ], y, g, groups = c("a", "b"), order = hour)
  expect_match(row_of(vet_assumptions(short), "error_order")$reading, "not known")
  unlooked <- vet_assumptions(height_study())
  expect_match(row_of(unlooked, "order")$reading, "no order of measurement was declared")
  # What was not carried out has no source.
  expect_false(any(grepl("Bartlett", c(unlooked$table$source, format(unlooked)))))
  # The line on the rate never contradicts the line on the neighbours.
  mild <- data.frame(before = c(3, 4, 5, 4, 6, 5, 7, 6), after = c(3, 4, 6, 5, 6, 4, 6, 7), hour = 1:8)
  found <- vet_assumptions(versus_paired(mild, after, before, order = hour))
  expect_gt(row_of(found, "error_order")$estimate, 0.06)
  expect_match(row_of(found, "order")$reading, "no correlation")
  expect_match(row_of(found, "error_order")$reading, "could be due to chance")
})

test_that("groups that alternate along one series make intervals too wide, and every voice says so", {
  set.seed(7)
  series <- as.numeric(stats::filter(rnorm(80), 0.8, "recursive"))
  data <- data.frame(y = series, g = rep(c("a", "b"), 40), hour = 1:80)
  study <- versus(data, y, g, groups = c("a", "b"), order = hour)
  alternating <- row_of(vet_assumptions(study), "error_order")
  expect_lt(alternating$estimate, 0.005)
  expect_match(alternating$reading, "wider than necessary")
  for (answer in list(test_difference(study), test_equivalence(study, 3), test_difference(study, "ranks"))) {
    for (voice in c("journal", "claim")) {
      expect_match(narrate(answer, voice = voice), "its p-value is too large", all = FALSE)
    }
    expect_match(narrate(answer, voice = "plain"), "the uncertainty is smaller than stated", all = FALSE)
    printed <- gsub("\\s+", " ", paste(format(answer), collapse = " "))
    expect_match(printed, "The values [(]in the order of hour[)] are serially correlated")
  }
  half <- versus(transform(data, g = rep(c("a", "b"), each = 40)), y, g, groups = c("a", "b"), order = hour)
  expect_match(narrate(test_difference(half)), "its p-value is too small", all = FALSE)
  expect_match(narrate(half), "its p-value is too small", all = FALSE)
  pairs <- versus_paired(data.frame(change = series, hour = 1:80), change = change, order = hour)
  expect_match(narrate(test_difference(pairs)), "r1 = 0[.]", all = FALSE)
  in_runs <- test_difference(pairs, "permutation", options = how(run_length = 8), seed = 1)
  expect_false(any(grepl("serially correlated", narrate(in_runs))))
})

test_that("rows that go together are seen in columns and by key", {
  set.seed(2)
  x <- rnorm(20)
  y <- x + rnorm(20, sd = 0.3)
  expect_match(row_of(vetted(x, y), "pairing")$reading, "correlated as pairs are")
  expect_match(row_of(vetted(x, rnorm(20)), "pairing")$reading, "no more correlation than expected by chance")
  keyed <- data.frame(v = c(x, y), g = rep(c("a", "b"), each = 20), unit = rep(1:20, 2))
  study <- quiet(versus(keyed[sample(40), ], v, g, groups = c("a", "b"), id = unit))
  expect_relative(row_of(vet_assumptions(study), "pairing")$estimate, stats::cor(x, y), 1e-12)
  by_row <- quiet(versus(keyed, v, g, groups = c("a", "b")))
  expect_relative(row_of(vet_assumptions(by_row), "pairing")$estimate, stats::cor(x, y), 1e-12)
  sorted <- quiet(versus(first = sort(x), second = sort(y)))
  expect_match(row_of(vet_assumptions(sorted), "pairing")$reading, "not checked")
  expect_match(row_of(vet_assumptions(height_study()), "pairing")$reading, "not checked")
})

test_that("degenerate data are rows that say so, never NaN", {
  cases <- list(
    list(1, c(2, 3)), list(c(2, 2, 2), c(2, 3, 4)), list(c(2, 2), c(3, 3)), list(c(1, 2), c(1, 3)),
    list(c(1, 1, 1, 1, 9), c(2, 2, 2, 2, 2)), list(c(1, 2, 3) * 1e300, c(4, 5, 9) * 1e300),
    list(c(1, 2, 3) * 1e-300, c(4, 5, 9) * 1e-300)
  )
  for (case in cases) {
    answer <- vetted(case[[1]], case[[2]])
    expect_false(any(vapply(answer$table, function(column) is.numeric(column) && any(is.nan(column)), NA)))
    expect_true(all(nzchar(answer$table$reading)))
    expect_type(format(answer), "character")
  }
  flat <- vet_assumptions(versus_paired(data.frame(a = c(1, 2, 3), b = c(0, 1, 2)), a, b))
  expect_match(row_of(flat, "normality")$reading, "do not vary")
})

test_that("beyond 5000 values the moments are tested", {
  set.seed(3)
  answer <- vetted(rnorm(6000), rexp(5001))
  expect_identical(row_of(answer, "normality")$statistic_name, c("K2", "K2"))
  expect_match(row_of(answer, "normality", "second")$reading, "departs from a normal one")
  expect_match(row_of(answer, "size", "first")$reading, "too small to matter")
})

test_that("options are checked", {
  study <- height_study()
  bad <- list(
    list(check_alpha = 0), list(check_alpha = 0.6), list(centre = "mode"), list(spread_rule = 0.5), list(limits = 3),
    list(limits = c(5, 1)), list(alpha = 1), list(level = 95), list(spread_source = 3)
  )
  for (arguments in bad) {
    expect_error(do.call(vet_assumptions, c(list(study), arguments)), class = "vandro_error_bad_value")
  }
  expect_error(vet_assumptions(seedlings), class = "vandro_error_not_a_study")
})

test_that("what is printed and told is pinned", {
  leaf <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant, unit = "cm2")
  probes <- versus_paired(moisture, probe_a, probe_b, order = hour, unit = "%", label = "Soil moisture")
  expect_snapshot(vet_assumptions(leaf))
  expect_snapshot(vet_assumptions(probes))
  expect_snapshot(vet_assumptions(published_study()))
  expect_snapshot({
    narrate(vet_assumptions(leaf))
    narrate(vet_assumptions(probes))
    narrate(vet_assumptions(leaf), voice = "plain")
    narrate(vet_assumptions(published_study()))
  })
})
