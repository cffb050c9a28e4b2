traits <- function(...) {
  versus(seedlings, c(height, leaf_area, dry_mass, chlorophyll), substrate, groups = c("compost", "peat"), ...)
}

test_that("every way of adjusting is that of the core, told with its source", {
  p <- test_difference(traits(), adjust = "none")$table
  expect_true(all(is.na(p$p_adjusted)))
  for (way in c("holm", "hochberg", "benjamini_hochberg", "bonferroni")) {
    answer <- test_difference(traits(), adjust = way)
    expect_identical(answer$table$p_adjusted, core_adjust_p(p$p, way))
    expect_match(paste(format(answer, width = 200), collapse = "\n"), adjust_citations[[way]], fixed = TRUE)
    table <- results_table(traits(), adjust = way)
    expect_match(paste(format(table), collapse = " "), adjust_names[[way]], fixed = TRUE)
  }
  equivalence <- test_equivalence(traits(), within = 5, adjust = "hochberg")$table
  expect_identical(equivalence$p_adjusted, core_adjust_p(equivalence$p, "hochberg"))
})

test_that("the largest t resamples rows together: missing values, blocks, subgroups and pairs", {
  study <- traits()
  answer <- test_difference(study, adjust = "max_t", seed = 5, options = how(draws = 1999), simultaneous = TRUE)
  table <- answer$table
  single <- test_difference(study, adjust = "max_t_single", seed = 5, options = how(draws = 1999))$table
  expect_true(all(table$p_adjusted <= single$p_adjusted))
  expect_true(all(table$p_adjusted >= table$p * 0.5))
  expect_identical(table$p_adjusted * 2000, round(table$p_adjusted * 2000))
  # Intervals exclude the null value exactly where the single step rejects.
  expect_identical(table$joint_lower > 0 | table$joint_upper < 0, single$p_adjusted <= 0.05)
  expect_equal(table$joint_upper - table$estimate, answer$detail$joint$limit * table$se)
  expect_identical(answer$settings[c("draws", "seed")], list(draws = 1999, seed = 5))
  again <- test_difference(study, adjust = "max_t", seed = 5, options = how(draws = 1999, threads = 2))$table
  expect_identical(again$p_adjusted, table$p_adjusted)
  # By hand, on the rows that are there.
  rows <- which(!is.na(seedlings$substrate))
  joint <- joint_values(study, 1:4, "welch", 0, NULL)
  expect_identical(dim(joint$values), c(length(rows), 4L))
  expect_identical(joint$chosen, as.double(sum(seedlings$substrate == "compost")))
  expect_equal(sum(is.na(joint$values)), sum(is.na(seedlings[c("height", "leaf_area", "dry_mass", "chlorophyll")])))
  expect_equal(
    core_max_t_share(c(joint, expect = "either", all = FALSE, seed = 5), 0, 16)$observed, abs(table$statistic)
  )
  blocked <- joint_values(traits(blocks = bench), 1:4, "welch", 0, NULL)
  expect_identical(sort(blocked$sizes), sort(as.double(table(seedlings$bench)), decreasing = FALSE))
  expect_identical(joint_values(traits(each = bench), 1:12, "welch", 0, NULL)$sizes, blocked$sizes)
})

test_that("few assignments are listed, exactly", {
  set.seed(3)
  plots <- cbind(leaching, other = rnorm(11), third = leaching$nitrate + rnorm(11))
  study <- versus(plots, c(nitrate, other, third), cover, groups = c("bare", "sown"))
  answer <- test_difference(study, adjust = "max_t")
  expect_equal(answer$table$p_adjusted * 462, round(answer$table$p_adjusted * 462))
  expect_true(answer$detail$joint$exact)
  expect_null(answer$settings$seed)
  expect_match(paste(format(answer, width = 300), collapse = " "), "all 462 assignments")
  drawn <- test_difference(study, adjust = "max_t", options = how(draws = 50000), seed = 1)$table$p_adjusted
  expect_lt(max(abs(drawn - answer$table$p_adjusted)), 0.01)
  one_sided <- test_difference(study,
    adjust = "max_t", expect = "higher", reason = "bare soil leaches", simultaneous = TRUE
  )
  expect_false(identical(one_sided$table$p_adjusted, answer$table$p_adjusted))
  expect_true(all(one_sided$table$joint_lower < one_sided$table$joint_upper))
  moved <- transform(plots, nitrate = nitrate + 5 * (cover == "bare"), other = other + 5 * (cover == "bare"),
    third = third + 5 * (cover == "bare")
  )
  beyond <- test_difference(versus(moved, c(nitrate, other, third), cover, groups = c("bare", "sown")),
    beyond = 5, adjust = "max_t"
  )
  expect_equal(beyond$table$p_adjusted, answer$table$p_adjusted)
  pairs <- data.frame(plant = rep(1:8, 2), time = rep(c("noon", "dawn"), each = 8), a = rnorm(16), b = rnorm(16))
  flipped <- test_difference(versus_paired(pairs, c(a, b), time, plant, groups = c("noon", "dawn")), adjust = "max_t")
  expect_equal(flipped$table$p_adjusted * 256, round(flipped$table$p_adjusted * 256))
})

test_that("Bonferroni's intervals hold all at once; ranks and permutations too", {
  table <- test_difference(traits(), simultaneous = TRUE)$table
  wide <- test_difference(traits(), level = core_joint_level(0.95, 4))$table
  expect_equal(table[c("joint_lower", "joint_upper")], wide[c("lower", "upper")], ignore_attr = TRUE)
  ranks <- test_difference(traits(), "ranks", simultaneous = TRUE)$table
  wide <- test_difference(traits(), "ranks", level = core_joint_level(0.95, 4))$table
  expect_equal(ranks$joint_lower, wide$lower)
  expect_null(test_difference(traits())$table$joint_lower)
  alone <- test_difference(height_study(), simultaneous = TRUE, adjust = "max_t")$table
  expect_missing(alone$joint_lower)
  expect_missing(alone$p_adjusted)
})

test_that("contradictions are refused", {
  expect_error(test_difference(traits(), "ranks", adjust = "max_t"), class = "vandro_error_contradiction")
  expect_error(test_difference(traits(), adjust = "none", simultaneous = TRUE), class = "vandro_error_contradiction")
  expect_error(
    test_difference(traits(), adjust = "benjamini_hochberg", simultaneous = TRUE), class = "vandro_error_contradiction"
  )
  expect_error(test_difference(traits(), adjust = "holmes"), "holm", class = "vandro_error_bad_value")
  expect_error(test_difference(traits(), options = how(draws = 500)), class = "vandro_error_contradiction")
  expect_error(
    test_difference(traits(), adjust = "max_t", options = how(exact = TRUE)), class = "vandro_error_exact_cost"
  )
  counted <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  expect_error(test_difference(counted, adjust = "max_t"), class = "vandro_error_needs_values")
  holes <- seedlings
  holes$bench[[4]] <- NA
  expect_error(
    test_difference(
      versus(holes, c(height, leaf_area), substrate, groups = c("compost", "peat"), blocks = bench),
      adjust = "max_t"
    ),
    "row 4", class = "vandro_error_bad_blocks"
  )
})
