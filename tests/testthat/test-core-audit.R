printed_as <- function(x, decimals) x + c(-0.5, 0.5) * 10^-decimals

groups_box <- function() {
  list(
    n_first = c(18, 18), n_second = c(20, 20), mean_first = printed_as(22.1, 1), mean_second = printed_as(19.8, 1),
    sd_first = printed_as(3.9, 1), sd_second = printed_as(3.2, 1)
  )
}
rules_of <- function(method = "welch", estimand = "d_pooled", paired = FALSE, expect = "either") {
  core_audit_rules(paired, method, estimand, 0.95, expect, 0)
}

# Every number of one comparison from unrounded ones.
true_numbers <- function(n, m, means, sds, method, estimand = "d_pooled") {
  se <- if (method == "welch") {
    sqrt(sds[[1]]^2 / n + sds[[2]]^2 / m)
  } else {
    sqrt(((n - 1) * sds[[1]]^2 + (m - 1) * sds[[2]]^2) / (n + m - 2) * (1 / n + 1 / m))
  }
  df <- if (method == "welch") core_welch_df(sds[[1]], sds[[2]], n, m) else n + m - 2
  gap <- means[[1]] - means[[2]]
  pooled <- sqrt(((n - 1) * sds[[1]]^2 + (m - 1) * sds[[2]]^2) / (n + m - 2))
  t <- gap / se
  reach <- stats::qt(0.975, df) * se
  list(
    n_first = n, n_second = m, mean_first = means[[1]], mean_second = means[[2]], sd_first = sds[[1]],
    sd_second = sds[[2]], se_first = sds[[1]] / sqrt(n), se_second = sds[[2]] / sqrt(m), difference = gap,
    se_difference = se, df = df, t = t, p = 2 * stats::pt(-abs(t), df), lower = gap - reach, upper = gap + reach,
    d = gap / pooled
  )
}
rounded_box <- function(numbers, decimals) {
  Map(function(x, name) {
    if (name %in% c("n_first", "n_second")) return(c(x, x))
    found <- printed_as(round(x, decimals), decimals)
    limits <- core_audit_limits(name)
    c(max(found[[1]], limits[[1]]), min(found[[2]], limits[[2]]))
  }, numbers, names(numbers))
}

# Takes seconds: each audit searches a box of fifteen numbers.
test_that("numbers that are rounded from one comparison always fit, and the ranges hold the true ones", {
  withr::local_seed(11)
  for (i in 1:40) {
    method <- c("welch", "student")[[1 + i %% 2]]
    n <- sample(3:60, 2, replace = TRUE)
    numbers <- true_numbers(n[[1]], n[[2]], stats::rnorm(2, 20, 3), stats::runif(2, 1, 6), method)
    box <- rounded_box(numbers, sample(1:4, 1))
    box <- box[sample(length(box), sample(4:length(box), 1))]
    found <- core_audit(box, rules_of(method))
    expect_identical(found$kind, "none")
    expect_false(any(!found$fits, na.rm = TRUE))
    known <- !is.na(found$from)
    truth <- unlist(numbers[names(box)])[known]
    slack <- 1e-8 * pmax(1, abs(truth))
    expect_true(all(found$from[known] <= truth + slack & truth - slack <= found$to[known]))
  }
})

# Takes seconds: each audit searches a box of fifteen numbers.
test_that("one number that is changed by much is among those named, and what is named leaves the rest in agreement", {
  withr::local_seed(12)
  alone <- 0
  for (i in 1:30) {
    numbers <- true_numbers(sample(10:40, 1), sample(10:40, 1), c(22, 19) + stats::rnorm(2), c(3, 4), "student")
    wrong <- sample(c("difference", "t", "p", "lower", "upper", "d", "se_difference", "mean_first", "sd_second"), 1)
    spoilt <- numbers
    spoilt[[wrong]] <- if (wrong == "p") numbers$p * 0.3 + 0.2 else numbers[[wrong]] * 1.7
    found <- core_audit(rounded_box(spoilt, 3), rules_of("student"))
    if (abs(spoilt[[wrong]] - numbers[[wrong]]) < 0.01) next
    expect_true(found$kind %in% c("one", "one_of"))
    expect_false(found$fits[[wrong]])
    alone <- alone + (found$kind == "one")
    expect_true(found$from[[wrong]] <= numbers[[wrong]] + 1e-6 && numbers[[wrong]] - 1e-6 <= found$to[[wrong]])
  }
  expect_gt(alone, 15)
})

test_that("ranges are those of brute force over what is printed", {
  box <- groups_box()
  grid <- expand.grid(a = box$mean_first, b = box$mean_second, s = box$sd_first, u = box$sd_second)
  for (method in c("welch", "student")) {
    all <- apply(grid, 1, function(x) unlist(true_numbers(18, 20, x[1:2], x[3:4], method)[c("t", "p", "lower", "d")]))
    narrowed <- core_audit_narrow(box, rules_of(method))
    expect_relative(narrowed$t, range(all["t", ]), 1e-9)
    expect_relative(narrowed$difference, c(2.2, 2.4), 1e-9)
    # Each number enters once, but for df and p, and d with its two means.
    expect_true(narrowed$p[[1]] <= min(all["p", ]) && narrowed$p[[2]] >= max(all["p", ]))
    expect_relative(narrowed$d, range(all["d", ]), 1e-9)
  }
  # Welch's degrees of freedom turn inside a wide range of the SD.
  wide <- list(n_first = c(10, 10), n_second = c(10, 10), sd_first = c(1, 5), sd_second = c(2, 2))
  expect_relative(core_audit_narrow(wide, rules_of())$df[[2]], 18, 1e-9)
  peak <- core_welch_peaks(1, 2, 10, 10)
  expect_relative(c(peak$a, peak$b), c(2, 1), 1e-12)
  turned <- core_audit_turns(
    core_audit_rule("y", "x", function(x) -x^2, function(x) list(x = 0)), list(c(-1, 2)), list(c(-1, 2))
  )
  expect_identical(unique(turned), 0)
})

test_that("t, df and p tell each of them from the other two", {
  rules <- rules_of()
  box <- list(t = printed_as(2.1, 2), df = c(30, 30), p = printed_as(0.044, 3))
  found <- core_audit(box, rules)
  expect_true(all(found$fits))
  expect_relative(found$from[["p"]], 2 * stats::pt(-2.105, 30), 1e-9)
  expect_relative(found$to[["t"]], stats::qt(0.0435 / 2, 30, lower.tail = FALSE), 1e-9)
  expect_relative(core_df_of(2.1, 2 * stats::pt(-2.1, 17)), 17, 1e-7)
  expect_identical(core_df_of(5, 1e-10), Inf)
  expect_identical(core_df_of(0, 0.5), NaN)
  box$t <- -rev(box$t)
  mirrored <- core_audit(box, rules)
  expect_relative(mirrored$from[["t"]], -found$to[["t"]], 1e-12)
  # An inequality: from it at least so large a t.
  open <- core_audit(list(df = c(30, 30), p = c(0, 0.05), t = printed_as(2.5, 1)), rules)
  expect_relative(open$from[["t"]], stats::qt(0.975, 30), 1e-9)
  expect_identical(open$to[["t"]], Inf)
  one <- core_audit_narrow(list(t = c(-1, -1), df = c(9, 9)), rules_of(expect = "higher"))
  expect_relative(one$p, rep(stats::pt(-1, 9, lower.tail = FALSE), 2), 1e-12)
  back <- core_audit_narrow(list(p = one$p, df = c(9, 9)), rules_of(expect = "higher"))
  expect_relative(back$t, c(-1, -1), 1e-9)
  expect_null(core_audit_sign(list()))
  expect_null(core_audit_t_of_p(list(p = c(0, 1))))
  expect_identical(core_audit_size(list(t = c(1, 2)), c(1, 2)), c(1, 2))
  # Either sign is open: that of the printed t decides, however small it is.
  open <- list(t = c(-3, 3), p = c(0.04, 0.06), df = c(30, 30))
  least <- stats::qt(0.03, 30, lower.tail = FALSE)
  expect_relative(core_audit_size(open, c(0.2, 0.3)), c(least, 3), 1e-12)
  expect_relative(core_audit_size(open, c(-0.3, -0.2)), c(-3, -least), 1e-12)
})

test_that("pairs go through their changes", {
  s <- sqrt(41^2 + 36^2 - 2 * 0.62 * 41 * 36)
  box <- list(
    n_first = c(22, 22), mean_first = c(214, 214), mean_second = c(148, 148), sd_first = c(41, 41),
    sd_second = c(36, 36), r = c(0.62, 0.62)
  )
  found <- core_audit_narrow(box, rules_of("paired", "d_change", paired = TRUE))
  expect_relative(found$sd_change, c(s, s), 1e-9)
  expect_relative(found$t[[1]], 66 / s * sqrt(22), 1e-9)
  expect_relative(found$d[[2]], 66 / s, 1e-9)
  expect_relative(found$df, c(21, 21), 1e-12)
  back <- core_audit_narrow(
    list(sd_first = c(41, 41), sd_second = c(36, 36), sd_change = c(s, s)),
    core_audit_pairs()
  )
  expect_relative(back$r[[1]], 0.62, 1e-9)
  # Standard errors of both means are over the same number of pairs.
  errors <- core_audit_narrow(list(n_first = c(16, 16), se_second = c(2, 2), sd_first = c(4, 4)), core_audit_pairs())
  expect_relative(c(errors$sd_second[[1]], errors$se_first[[1]]), c(8, 1), 1e-12)
  expect_length(core_audit_spread("first", "n_first"), 3)
  corrected <- core_audit_narrow(box, rules_of("paired", "g_change", paired = TRUE))
  expect_relative(corrected$d[[1]], 66 / s * core_hedges_factor(21), 1e-9)
})

test_that("the parts do what they say", {
  expect_length(core_audit_corners(list(c(1, 2), c(3, 3), c(4, 5)))[[1]], 4)
  expect_identical(core_audit_corners(list(c(1, 2), c(3, 4))), list(c(1, 2, 1, 2), c(3, 3, 4, 4)))
  expect_null(core_audit_project(core_audit_rule("y", "x", identity), list()))
  expect_null(core_audit_project(core_audit_rule("t", "x", function(x) 1 / x), list(x = c(0, 1))))
  expect_null(core_audit_step(list(x = c(1, 2)), "x", c(3, 4)))
  expect_identical(core_audit_step(list(), "n_first", c(3.2, 5.9))$box$n_first, c(4, 5))
  expect_identical(core_audit_limits("r"), c(-1, 1))
  numbers <- list(t = c(1, 1), df = c(9, 9), p = c(0.9, 0.9))
  expect_identical(core_audit_later(numbers, rules_of()), "p")
  expect_identical(core_audit_single(c("a", "b"), function(name) if (name == "a") list(a = 1)), "a")
  expect_length(core_audit_groups("welch"), length(core_audit_groups("student")) - 2)
  expect_length(core_audit_means(), 3)
  expect_identical(core_audit_call(sum, list(1, 2, 3, 4, 5)), 15)
  expect_length(core_audit_test("either", 0), length(core_audit_test("higher", 0)) + 1)
  expect_length(core_audit_interval(0.9), 8)
  expect_length(core_audit_effect(FALSE, "welch", "g", 0), 2)
  expect_length(core_audit_effect(FALSE, "student", "g", 0), 4)
})

test_that("possible means and SDs are those of all lists of whole values", {
  wrong <- character()
  for (n in 2:4) {
    for (most in seq_len(5 - n)) {
      lists <- as.matrix(expand.grid(rep(list(0:most), n)))
      means <- rowMeans(lists)
      sds <- apply(lists, 1, stats::sd)
      printed <- expand.grid(mean = seq(0, most, 0.1), sd = seq(0, most, 0.1))
      for (i in seq_len(nrow(printed))) {
        near <- abs(means - printed$mean[[i]]) <= 0.05 + 1e-9
        found <- core_step_audit(n, printed$mean[[i]] + c(-0.05, 0.05), printed$sd[[i]] + c(-0.05, 0.05), 1, c(0, most))
        both <- any(near & abs(sds - printed$sd[[i]]) <= 0.05 + 1e-9)
        if (found$mean != any(near) || isTRUE(found$sd) != both) wrong <- c(wrong, paste(n, most, i))
      }
    }
  }
  expect_identical(wrong, character())
})

test_that("without ends, and of more values than are listed, nothing that is possible is refused", {
  set.seed(2)
  for (n in c(5, 40)) {
    x <- sample(-3:20, n, replace = TRUE) / 2
    for (ends in list(NULL, c(-1.5, 10))) {
      expect_true(core_step_audit(n, mean(x) + c(-0.005, 0.005), sd(x) + c(-0.005, 0.005), 0.5, ends)$sd)
    }
  }
  expect_false(core_squares_fit(4, 3, c(0.1, 0.2), Inf))
  expect_identical(which(core_possible_squares(2, 2)[3, ]) - 1, c(2, 4))
})
