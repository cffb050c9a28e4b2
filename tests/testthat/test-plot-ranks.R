damage <- function() versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))

test_that("the shaded share is the printed p, or half of it where ties make the distribution lopsided", {
  answers <- list(
    test_difference(height_study(), "ranks"), test_difference(height_study(), "ranks", expect = "higher"),
    test_difference(height_study(), "ranks", expect = "lower"), test_difference(damage(), "ranks"),
    test_difference(conductance_study(), "signed_ranks"),
    test_difference(versus_paired(moisture, probe_a, probe_b), "signed_ranks", options = how(zeros = "pratt")),
    test_difference(two_groups(c(1.5, 2.5, 7), c(3, 4, 5, 6)), "ranks"),
    test_difference(damage(), "ranks", options = how(exact = FALSE))
  ) |> suppressWarnings()
  for (answer in answers) {
    data <- rank_null_bars(answer, answer$study$outcomes[[1]])
    shaded <- sum(data$bars$mass[data$bars$shaded])
    expect_equal(shaded, data$shaded, tolerance = 1e-6)
    p <- answer$table$p
    lopsided <- answer$table$expect == "either" && !data$both
    expect_equal(if (lopsided) 2 * shaded else shaded, p, tolerance = 1e-6)
    expect_equal(sum(data$bars$mass), 1)
    expect_lte(nrow(data$bars), 130)
    # Stretches follow one another without gap or overlap.
    expect_equal(data$bars$from[-1], utils::head(data$bars$to, -1) + data$step)
    figure <- autoplot(answer, view = "null")
    expect_s3_class(figure, "ggplot")
    expect_match(figure$labels$alt, "observed value")
  }
})

test_that("superiority fills a hundred squares in proportion, and the diamond stands at the estimate", {
  expect_identical(sum(whole_percent(c(1, 1, 1) / 3)), 100)
  expect_identical(whole_percent(c(0.335, 0.335, 0.33)), c(34, 33, 33))
  answer <- test_difference(damage(), "ranks")
  data <- superiority_data(answer, answer$study$outcomes[[1]])
  expect_identical(nrow(data$squares), 100L)
  expect_equal(sum(data$shares), 1)
  expect_equal(data$estimate, 100 * answer$table$superiority)
  expect_equal(unname(100 * (data$shares[[1]] + data$shares[[2]] / 2)), data$estimate)
  figure <- autoplot(answer, view = "superiority")
  expect_match(figure$labels$alt, "compost higher in 23")
  expect_identical(
    autoplot(test_difference(height_study(), "relative"))$labels$x,
    "Pairs of 100 in which compost is higher (ties counted half)"
  )
})

test_that("effect sizes beside a rank test come out the same every time, also those drawn at random", {
  # Nine values against sixty: too few for Student's t, too many assignments to list.
  samples <- list(compost = 1:9 + 0.5, peat = sqrt(1:60))
  study <- do.call(two_groups, unname(samples))
  twice <- function(made) expect_identical(made(), made())
  twice(function() superiority_data(test_difference(study, "ranks"), study$outcomes[[1]])[c("lower", "upper")])
  twice(function() as.character(narrate(study, "ranks")))
  twice(function() as.data.frame(results_table(study, "ranks")))
  several <- versus(
    data.frame(substrate = rep(names(samples), lengths(samples)), height = unlist(samples), mass = -unlist(samples)),
    c(height, mass), substrate,
    groups = names(samples), unit = c(height = "cm", mass = "g")
  )
  twice(function() {
    answer <- test_difference(several, "ranks")
    many_data(answer, TRUE)[c("lower", "upper")]
  })
  drawn <- test_difference(study, "relative", seed = 5, options = how(draws = 999))
  expect_identical(effect_beside(drawn, "superiority")$settings[c("draws", "seed")], list(draws = 999, seed = 5))
})

test_that("the difference figure of ranks shows medians and the shift", {
  answer <- test_difference(height_study(), "ranks")
  data <- estimation_data(describe_study(height_study()), height_study()$outcomes[[1]], answer)
  medians <- vapply(split(seedlings$height, seedlings$substrate), stats::median, 0, na.rm = TRUE)
  expect_identical(data$groups$mean, unname(medians))
  expect_equal(data$gap$estimate - data$zero, answer$table$estimate)
  text <- autoplot(answer)$labels$caption
  expect_match(gsub("\n", " ", text), "Hodges-Lehmann shift with its 95% interval")
  changes <- autoplot(test_difference(conductance_study(), "signed_ranks"), view = "changes")
  expect_match(gsub("\n", " ", changes$labels$caption), "centre of the changes")
  small <- suppressWarnings(test_difference(two_groups(1:3, 4:6), "ranks"))
  expect_match(gsub("\n", " ", autoplot(small)$labels$caption), "no finite 95% interval")
})

test_that("views that an answer does not have say so", {
  relative <- test_difference(height_study(), "relative")
  expect_error(autoplot(relative, view = "difference"), class = "vandro_error_bad_value")
  small <- suppressWarnings(test_difference(two_groups(1:3, 4:6), "relative"))
  expect_error(autoplot(small, view = "null"), class = "vandro_error_bad_value")
  pairs <- test_difference(conductance_study())
  expect_error(autoplot(pairs, view = "superiority"), class = "vandro_error_needs_values")
  expect_error(autoplot(test_difference(published_study()), view = "superiority"), class = "vandro_error_needs_values")
})
