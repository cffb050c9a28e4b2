nitrate <- function(...) {
  flatly(
    test_difference, versus(
      leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l", label = "Nitrate"
    ), "permutation", ...
  )
}
bars_of <- function(answer) permuted_null_bars(answer, answer$study$outcomes[[1]])
shaded_share <- function(data) sum(data$bars$mass[data$bars$shaded])

test_that("the shaded share is p, or half of it where the distribution is lopsided, by every way of counting", {
  set.seed(3)
  decimals <- two_groups(round(rnorm(20), 2) + 0.5, round(rnorm(20), 2))
  quarters <- two_groups(rnorm(15) + 0.7, rnorm(16))
  pairs <- versus_paired(moisture, probe_a, probe_b)
  answers <- list(
    nitrate(), nitrate(statistic = "difference"), nitrate(statistic = "median"), nitrate(expect = "higher"),
    nitrate(expect = "lower", beyond = 40), nitrate(draws = 999, seed = 4),
    test_difference(decimals, "permutation", options = how(statistic = "difference")),
    test_difference(quarters, "permutation", options = how(statistic = "difference")),
    test_difference(pairs, "permutation"), test_difference(pairs, "permutation", expect = "higher", beyond = 0.2),
    test_difference(pairs, "permutation", options = how(statistic = "trimmed"), seed = 2)
  )
  for (answer in answers) {
    data <- bars_of(answer)
    row <- answer$table
    expect_equal(sum(data$bars$mass), 1)
    whole <- row$expect != "either" || data$both
    expect_equal(shaded_share(data), if (whole) row$p else row$p / 2, tolerance = 1e-6, info = row$counted_by)
    expect_equal(data$share, if (whole) row$p else row$p / 2)
  }
  # Signs, and groups of one size, are symmetric.
  expect_true(bars_of(answers[[7]])$both)
  expect_true(bars_of(answers[[9]])$both)
  expect_false(bars_of(answers[[2]])$both)
})

test_that("bars of tiny samples keep the share; breaks keep off the cuts", {
  data <- bars_of(nitrate())
  merged <- merged_stretches(data, 0.3)
  expect_equal(sum(merged$mass), 1)
  expect_equal(sum(merged$mass[merged$shaded]), shaded_share(data))
  breaks <- stretch_breaks(c(-1, 1), c(0.501, -0.5), 0.1, 0.04)
  expect_true(all(c(0.501, -0.5) %in% breaks))
  expect_true(all(abs(outer(setdiff(breaks, c(0.501, -0.5)), c(0.501, -0.5), "-")) >= 0.01))
  expect_true(min(breaks) <= -1 && max(breaks) >= 1)
})

test_that("the figure draws, with the t curve and an alternative text", {
  plot <- autoplot(nitrate(), view = "null", curve = TRUE)
  expect_s3_class(plot, "ggplot")
  expect_match(plot$labels$alt, "observed t = 2.76", fixed = TRUE)
  expect_match(plot$labels$caption, "all 462 assignments of the values", fixed = TRUE)
  expect_silent(ggplot2::ggplot_build(plot))
  drawn <- autoplot(nitrate(draws = 999, seed = 4, statistic = "difference", expect = "higher"), view = "null")
  expect_match(drawn$labels$caption, "999 random assignments", fixed = TRUE)
  expect_silent(ggplot2::ggplot_build(drawn))
  expect_silent(ggplot2::ggplot_build(autoplot(nitrate(statistic = "median"))))
  expect_silent(ggplot2::ggplot_build(autoplot(test_difference(conductance_study(), "permutation"), view = "changes")))
})

test_that("what pairing is worth: SDs by their formulas, and the correlation", {
  answer <- test_difference(versus_paired(moisture, probe_a, probe_b), "permutation")
  data <- pairing_bars(answer$study$outcomes[[1]], 0)
  change <- with(moisture, probe_a - probe_b)
  expect_equal(data$spread[[1]], sqrt(sum(change^2)) / 48)
  expect_equal(data$spread[[2]], sd(unlist(moisture[c("probe_a", "probe_b")])) * sqrt(2 / 48))
  expect_equal(data$own_ratio, sd(change) / sqrt(var(moisture$probe_a) + var(moisture$probe_b)))
  expect_equal(data$r, cor(moisture$probe_a, moisture$probe_b))
  # The drawn bars have these SDs.
  for (k in 1:2) {
    bars <- data$bars[data$bars$way == data$ways[[k]], ]
    middle <- (bars$from + bars$to) / 2
    share <- bars$density * (bars$to - bars$from)
    expect_equal(sqrt(sum(share * middle^2) - sum(share * middle)^2), data$spread[[k]], tolerance = 0.03)
  }
  plot <- autoplot(answer, view = "pairing")
  expect_match(plot$labels$subtitle, "Correlation of the pairs 0.92", fixed = TRUE)
  expect_silent(ggplot2::ggplot_build(plot))
  expect_error(autoplot(nitrate(), view = "pairing"), class = "vandro_error_needs_pairs")
  changes <- versus_paired(data.frame(change = c(1, 2, -1, 3)), change = change)
  expect_error(
    autoplot(suppressWarnings(test_difference(changes, "permutation")), view = "pairing"),
    class = "vandro_error_needs_pairs"
  )
})
