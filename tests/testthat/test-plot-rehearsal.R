built <- function(plot) ggplot2::ggplot_build(plot)$data

test_that("power over n: the curve passes through the sizes found, the wanted power is marked", {
  world <- suppose_world(2.5, sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height")
  answer <- rehearse_study(world, power = 0.8)
  curve <- rehearsal_curve(answer)
  at <- curve[curve$n_first == answer$table$n_first, ]
  expect_identical(at$power, answer$table$power)
  expect_true(all(diff(curve$power[curve$n_first > 3]) > 0))
  plot <- autoplot(answer)
  labels <- unlist(lapply(built(plot), function(d) d$label))
  expect_true(all(c("wanted: .8", "33 + 33") %in% trimws(labels)))
  expect_match(plot$labels$alt, "n 33 + 33", fixed = TRUE)
  width <- autoplot(rehearse_study(world, half_width = 1.2))
  expect_match(width$labels$y, "half-width (cm)", fixed = TRUE)
})

test_that("a simulated search is drawn with the sizes that it tried", {
  world <- suppose_world(2.5, sd = c(3, 4))
  answer <- rehearse_study(world, method = c("welch", "ranks"), power = 0.8, draws = 1000, seed = 2)
  curve <- rehearsal_curve(answer)
  tried <- curve[curve$method == "ranks", ]
  expect_gt(nrow(tried), 4)
  expect_false(is.unsorted(tried$n_first, strictly = TRUE))
  expect_identical(tried$power[tried$n_first == answer$table$n_first[[2]]], answer$table$power[[2]])
  alone <- rehearse_study(world, n = tried$n_first[[1]], method = "ranks", draws = 1000, seed = 2)$table
  expect_identical(tried$power[[1]], alone$power)
})
