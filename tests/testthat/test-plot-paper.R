test_that("figure 1 has a panel for each outcome, its legend as text, and no text of its own", {
  study <- versus(seedlings, c(height, leaf_area, dry_mass), substrate, groups = c("compost", "peat"))
  page <- autoplot(test_difference(study), view = "paper")
  expect_s3_class(page, "vandro_page")
  expect_named(page$plots, c("A", "B", "C"))
  expect_identical(vapply(page$plots, function(plot) plot$labels$tag, ""), c(A = "A", B = "B", C = "C"))
  for (plot in page$plots) {
    expect_null(plot$labels$title)
    expect_null(plot$labels$caption)
  }
  expect_match(page$legend, "^\\(A\\) height, \\(B\\) leaf_area, \\(C\\) dry_mass; compost minus peat\\. Small points")
  expect_match(page$legend, "(A) Excluded: 2 rows of compost", fixed = TRUE)
  # What the marks are is said once.
  expect_length(gregexpr("Large points with bars", page$legend)[[1]], 1)
  expect_match(page$labels$alt, "height.*leaf_area.*dry_mass")
  expect_length(autoplot(study, view = "paper", outcome = "dry_mass")$plots, 1)
})

test_that("of pairs figure 1 shows each pair and the changes, of numbers and changes what there is", {
  pairs <- autoplot(test_difference(conductance_study()), view = "paper")
  expect_named(pairs$plots, c("A", "B"))
  expect_match(pairs$legend, "^Leaf conductance \\(mmol\\); noon minus dawn\\. \\(A\\) Lines: ")
  expect_match(pairs$legend, "(B) Bars: number of changes", fixed = TRUE)
  expect_match(pairs$legend, "[^)] Excluded: 1 pair without noon")
  expect_length(autoplot(published_study(), view = "paper")$plots, 1)
  changes <- versus_paired(transform(conductance, ch = noon - dawn), ch, groups = c("noon", "dawn"))
  expect_length(autoplot(test_difference(changes), view = "paper")$plots, 1)
  ranked <- autoplot(test_difference(height_study(), "relative"), view = "paper")
  expect_match(ranked$legend, "Squares: pairs", fixed = TRUE)
})
