test_that("the short set goes with design and method", {
  study <- height_study()
  expect_identical(gauge_effect(study)$table$estimand, c("mean_difference", "g_average", "d_average", "d_pooled", "g"))
  student <- gauge_effect(study, method = "student")$table
  expect_identical(student$estimand, c("mean_difference", "d_pooled", "g"))
  expect_identical(student$method[[1]], "student")
  expect_identical(
    gauge_effect(conductance_study())$table$estimand,
    c("mean_difference", "g_average", "d_average", "d_change", "g_change")
  )
  all <- gauge_effect(study, "all")$table
  expect_identical(all$estimand, estimands_where(
    design = "independent", offered = TRUE
  ))
  expect_identical(gauge_effect(conductance_study(), "all")$table$estimand, estimands_where(
    design = "paired", offered = TRUE
  ))
})

test_that("rows agree with the test and with each other", {
  study <- height_study()
  table <- gauge_effect(study, "all")$table
  row <- function(estimand) table[table$estimand == estimand, ]
  test <- test_difference(study)$table
  expect_identical(row("mean_difference")$lower, test$lower)
  # Head-check: d times its standardizer is the difference.
  for (estimand in c("d_pooled", "d_average", "d_by_first", "d_by_second")) {
    expect_relative(row(estimand)$estimate * row(estimand)$standardizer_value, test$estimate, 1e-14)
  }
  expect_true(all(table$lower < table$estimate & table$estimate < table$upper))
  expect_identical(gauge_effect(study, "g")$table$estimate, row("g")$estimate)
  means <- describe_study(study)$table$mean
  expect_relative(row("mean_ratio")$estimate, means[[1]] / means[[2]], 1e-14)
})

test_that("every row names its standardizer, its use and its sources", {
  for (study in list(height_study(), conductance_study(), published_study())) {
    table <- gauge_effect(study, "all")$table
    plain <- estimand_scale(table) != "sd"
    expect_identical(is.na(table$standardizer), plain & table$estimand != "r_rank")
    expect_true(all(table$standardizer_value[!plain] > 0))
    expect_true(all(nzchar(table$use) & nzchar(table$source)))
    expect_true(all(grepl("[0-9]{4}", table$source)))
  }
  expect_match(gauge_effect(height_study(), "d_by_second")$table$standardizer, "SD of peat")
})

test_that("summaries give what the values give", {
  moments <- height_study()$outcomes[[1]]$moments
  pick <- function(what) vapply(moments, `[[`, 0, what)
  published <- versus_summary(n = pick("n"), mean = pick("mean"), sd = pick("sd"), groups = c("compost", "peat"))
  one <- gauge_effect(height_study(), "all")$table
  two <- gauge_effect(published, "all")$table
  one <- one[!estimand_is(one, "ranks"), ]
  for (column in c("estimate", "lower", "upper")) expect_relative(two[[column]], one[[column]], 1e-11)
  m <- conductance_study()$outcomes[[1]]
  pairs <- versus_paired_summary(
    m$moments[[3]]$n,
    mean = c(m$moments[[1]]$mean, m$moments[[2]]$mean), sd = c(m$moments[[1]]$sd, m$moments[[2]]$sd),
    r = m$pairs$r
  )
  one <- gauge_effect(conductance_study(), "all")$table
  two <- gauge_effect(pairs, "all")$table
  one <- one[!estimand_is(one, "ranks"), ]
  for (column in c("estimate", "lower", "upper")) expect_relative(two[[column]], one[[column]], 1e-9)
})

test_that("another interval is taken where a row knows it, and refused where none does", {
  table <- gauge_effect(height_study(), c("d_average", "d_pooled"), interval = "noncentral_t")$table
  expect_identical(table$method, c("noncentral_t", "noncentral_t"))
  expect_match(table$source[[1]], "Delacre")
  paired <- gauge_effect(conductance_study(), "d_average", interval = "noncentral_t")$table
  expect_match(paired$source, "Algina & Keselman 2003")
  expect_error(
    gauge_effect(height_study(), "mean_ratio", interval = "bonett"), "None of the effect sizes",
    class = "vandro_error_bad_value"
  )
})

test_that("the bootstrap is seeded, threaded and the same for all rows", {
  study <- height_study()
  wanted <- c("mean_difference", "d_average", "g")
  one <- gauge_effect(study, wanted, interval = "bootstrap", seed = 11, options = how(draws = 999))
  two <- gauge_effect(study, wanted, interval = "bootstrap", seed = 11, options = how(draws = 999, threads = 2))
  expect_identical(one$table, two$table)
  expect_identical(one$settings$seed, 11)
  alone <- gauge_effect(study, "g", interval = "bootstrap", seed = 11, options = how(draws = 999))
  expect_identical(alone$table$lower, one$table$lower[[3]])
  other <- gauge_effect(study, wanted, interval = "bootstrap", seed = 12, options = how(draws = 999))
  expect_false(any(other$table$lower == one$table$lower))
  set.seed(5)
  a <- gauge_effect(study, "g", interval = "bootstrap", options = how(draws = 999))
  set.seed(5)
  expect_identical(gauge_effect(study, "g", interval = "bootstrap", options = how(draws = 999))$table, a$table)
  # Close to the exact interval for values that are about normal.
  exact <- gauge_effect(study, "mean_difference")$table
  expect_lt(max(abs(unlist(one$table[1, c("lower", "upper")] - exact[c("lower", "upper")]))), 0.15 * exact$estimate)
})

test_that("a bootstrap works for pairs, counts and changes alone", {
  pairs <- gauge_effect(conductance_study(), "all", interval = "bootstrap", seed = 1, options = how(draws = 1999))$table
  expect_true(all(pairs$lower < pairs$estimate & pairs$estimate < pairs$upper))
  changes <- quiet(versus_paired(transform(conductance, ch = noon - dawn), ch, groups = c("noon", "dawn")))
  alone <- gauge_effect(changes, "d_change", interval = "bootstrap", seed = 1, options = how(draws = 1999))$table
  expect_relative(alone$lower, pairs$lower[pairs$estimand == "d_change"], 1e-9)
  scores <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  expect_silent(gauge_effect(scores, "d_average", interval = "bootstrap", seed = 1, options = how(draws = 1999)))
  expect_error(
    gauge_effect(published_study(), interval = "bootstrap"), "needs the measurements",
    class = "vandro_error_needs_values"
  )
  expect_error(
    gauge_effect(two_groups(c(1, 2), c(3, 5, 6)), "g", interval = "bootstrap", seed = 1),
    class = "vandro_error_no_bootstrap"
  )
})

test_that("bootstrap samples without an effect size are counted and said", {
  # Both groups drawn flat at the same value: 0 / 0.
  tiny <- two_groups(c(1, 2, 4), c(1, 2, 3))
  answer <- gauge_effect(tiny, c("mean_difference", "d_average"), interval = "bootstrap", seed = 2, level = 0.8)
  expect_identical(answer$detail$undefined[[1]][["mean_difference"]], 0)
  samples <- lapply(1:2, function(which) core_bootstrap_sample(outcome_group_values(tiny$outcomes[[1]], which)))
  parts <- core_effect_parts(tiny$outcomes[[1]]$moments)
  drawn <- core_bootstrap_parts(samples, parts, FALSE, 2, 0, 9999, 1L)
  flat <- drawn$sd_first == 0 & drawn$sd_second == 0
  nothing <- sum(is.nan(core_effect_point("d_average", drawn)))
  expect_identical(answer$detail$undefined[[1]][["d_average"]], as.double(nothing))
  expect_lte(nothing, sum(flat))
  expect_gt(nothing, 0)
  expect_match(
    paste(format(answer, width = 200), collapse = " "),
    sprintf("%d of 9999 bootstrap samples contained equal values only and have no d (average)", nothing), fixed = TRUE
  )
  expect_length(gauge_effect(tiny, "g")$detail$undefined[[1]], 0)
})

test_that("what a study does not allow is left out of a set, named, and an error by name", {
  negative <- two_groups(c(-2, 1, 3), c(4, 5, 7))
  answer <- gauge_effect(negative, "all")
  expect_false("mean_ratio" %in% answer$table$estimand)
  expect_identical(answer$detail$left_out[[1]], c(mean_ratio = "not_positive", r_rank = "no_bootstrap"))
  expect_match(format(answer), "needs values that are not negative", all = FALSE)
  expect_error(gauge_effect(negative, "mean_ratio"), class = "vandro_error_not_positive")
  flat <- two_groups(c(4, 4, 4), c(4, 5, 7))
  expect_error(gauge_effect(flat, "d_by_first"), "does not vary", class = "vandro_error_flat_group")
  expect_false("d_by_first" %in% gauge_effect(flat, "all")$table$estimand)
  expect_error(
    gauge_effect(versus_paired_summary(9, mean_change = 3, sd_change = 4), "d_average"), "both measurements",
    class = "vandro_error_needs_values"
  )
  two <- versus_paired_summary(2, mean_change = 3, sd_change = 4)
  expect_error(gauge_effect(two, "g_change"), class = "vandro_error_too_few_for_g")
  expect_identical(gauge_effect(two)$table$estimand, c("mean_difference", "d_change"))
})

test_that("awkward data have an answer or an error with a class, never NaN", {
  for (name in names(zoo)) {
    other <- rev(zoo[[name]]) * 1.25 + diff(range(zoo[[name]])) / 3
    found <- tryCatch(gauge_effect(two_groups(zoo[[name]], other), "all")$table, vandro_error = identity)
    if (is.data.frame(found)) {
      # A shift of few values has no finite interval, and says so.
      unlimited <- found$estimand == "shift" & is.na(found$lower) & is.na(found$upper)
      found <- found[!unlimited, ]
      expect_false(anyNA(found[c("estimate", "lower", "upper")]), info = name)
      expect_true(all(is.finite(unlist(found[c("estimate", "lower", "upper")]))), info = name)
    }
  }
  big <- gauge_effect(two_groups(c(1, 2, 4) * 1e300, c(3, 7) * 1e300), c("d_pooled", "d_average"))$table
  small <- gauge_effect(two_groups(c(1, 2, 4) * 1e-300, c(3, 7) * 1e-300), c("d_pooled", "d_average"))$table
  plain <- gauge_effect(two_groups(c(1, 2, 4), c(3, 7)), c("d_pooled", "d_average"))$table
  expect_relative(big$lower, plain$lower, 1e-12)
  expect_relative(small$upper, plain$upper, 1e-12)
  expect_error(
    gauge_effect(two_groups(c(-1.7e308, -1.6e308), c(1.7e308, 1.6e308)), "d_pooled"),
    class = "vandro_error_out_of_range"
  )
  # Two values a group and a level near 1: t has a quantile of 6366, and the ratio no upper limit in doubles.
  few <- two_groups(c(1, 4), c(1, 3))
  expect_error(gauge_effect(few, "mean_ratio", level = 0.999999), class = "vandro_error_out_of_range")
  expect_false("mean_ratio" %in% gauge_effect(few, "all", level = 0.999999)$table$estimand)
  expect_true(is.finite(gauge_effect(few, "mean_ratio")$table$upper))
})

test_that("wrong arguments are errors that say what to write", {
  study <- height_study()
  expect_error(gauge_effect(study, "d_poled"), "Did you mean \"d_pooled\"", class = "vandro_error_bad_value")
  expect_error(gauge_effect(study, 3), class = "vandro_error_bad_value")
  drawn <- function(...) flatly(gauge_effect, study, "g", interval = "bootstrap", ...)
  expect_error(drawn(draws = 1000.5), "whole number", class = "vandro_error_bad_value")
  expect_error(drawn(draws = 10), "from 199", class = "vandro_error_bad_value")
  expect_error(drawn(seed = -1), class = "vandro_error_bad_value")
  expect_error(gauge_effect(study, seed = 1), "belong to the bootstrap", class = "vandro_error_contradiction")
  expect_error(gauge_effect(study, options = how(draws = 999)), class = "vandro_error_contradiction")
  expect_error(gauge_effect(study, options = how(threads = 0)), class = "vandro_error_bad_value")
  expect_error(gauge_effect(study, level = 1), class = "vandro_error_bad_value")
  expect_error(gauge_effect(study, method = "paired"), class = "vandro_error_method_design")
  expect_error(gauge_effect(two_groups(c(1, 1), c(2, 2)), "g"), class = "vandro_error_no_spread")
})

test_that("the settings hold a seed only where something was drawn", {
  published <- versus_paired_summary(n = 22, mean = c(180, 134), sd = c(30, 28), r = 0.7, groups = c("noon", "dawn"))
  expect_null(gauge_effect(published, "all")$settings$seed)
  one_way <- versus_paired(change = c(0, 0, 1, 2, 3, 4, 5, 6), groups = c("noon", "dawn"))
  expect_no_match(narrate(one_way, method = "signed_ranks"), "Drawn at random")
  printed <- paste(format(test_difference(one_way, "signed_ranks"), width = 500), collapse = " ")
  expect_match(printed, "every change other than 0 is above 0")
})
