# One random data set, and all that must hold of it however it is told.

random_set <- function() {
  n <- sample(2:40, 2, replace = TRUE)
  # Multiples of 1/8, so that adding and scaling are exact; some with ties, some with far values.
  draw <- switch(sample(4, 1),
    function(n) round(8 * stats::rnorm(n, 20, 4)) / 8, function(n) round(stats::rnorm(n, 3, 1.5)),
    function(n) round(8 * stats::rexp(n, 0.2)) / 8, function(n) round(8 * 20 * stats::rt(n, 2)) / 8
  )
  values <- list(draw(n[[1]]) + sample(0:3, 1), draw(n[[2]]))
  # Neither group constant: there is nothing to compare then.
  if (any(vapply(values, function(x) diff(range(x)) == 0, NA))) return(random_set())
  values
}

told <- function(x, method, ...) {
  as.list(suppressMessages(suppressWarnings(test_difference(x, method, ...)))$table)
}

# Relative to the size of the larger one, or to `scale` where numbers may be 0 by cancellation.
apart <- function(a, b, scale = 0) {
  if (is.na(a) && is.na(b)) return(0)
  if (is.na(a) || is.na(b)) return(Inf)
  if (a == b) return(0)
  abs(a - b) / max(abs(a), abs(b), scale)
}

invariances <- function(seed) {
  set.seed(seed)
  values <- random_set()
  x <- values[[1]]
  y <- values[[2]]
  size <- diff(range(c(x, y)))
  rows <- list()
  note <- function(rule, method, difference) {
    rows[[length(rows) + 1]] <<- data.frame(rule = rule, method = method, difference = difference, seed = seed)
  }
  same <- function(rule, method, a, b, names, scale = size) {
    note(rule, method, max(vapply(names, function(name) apart(a[[name]], b[[name]], scale), 0)))
  }
  methods <- c("welch", "student", "ranks", "relative", "permutation")
  small <- length(x) + length(y) <= 18
  numbers <- c("estimate", "lower", "upper", "p")
  long <- data.frame(value = c(x, y), group = rep(c("compost", "peat"), c(length(x), length(y))))
  groups <- c("compost", "peat")
  for (method in methods) {
    options <- switch(method,
      permutation = c(list(statistic = "difference"), if (!small) list(draws = 199, seed = 5)),
      relative = list(seed = 5)
    )
    ask <- function(study) do.call(told, c(list(study, method), options))
    base <- ask(versus(first = x, second = y, groups = groups))
    chance <- method == "relative"
    drawn <- base$p_kind == "simulated"
    # Shares and U turn about their middle, other numbers about 0.
    mirror <- function(v) if (chance) 1 - v else -v
    if (!drawn) {
      turned <- ask(versus(first = y, second = x, groups = rev(groups)))
      back <- list(
        estimate = mirror(turned$estimate), lower = mirror(turned$upper), upper = mirror(turned$lower), p = turned$p
      )
      same("groups turned round", method, base, back, numbers)
      shuffled <- long[sample(nrow(long)), ]
      same("rows shuffled", method, base, ask(versus(shuffled, value, group, groups = groups)), numbers)
    }
    shifted <- ask(versus(first = x + 1000, second = y + 1000, groups = groups))
    same("1000 added to all values", method, base, shifted, numbers)
    grown <- ask(versus(first = x * 16, second = y * 16, groups = groups))
    if (!chance) grown[numbers[1:3]] <- lapply(grown[numbers[1:3]], `/`, 16)
    same("all values times 16", method, base, grown, numbers)
    if (!chance) {
      moved <- ask(versus(first = x + 8, second = y, groups = groups))
      moved[numbers[1:3]] <- lapply(moved[numbers[1:3]], `-`, 8)
      # With ties the distribution of U, and so its limits, depend on which values are tied.
      tied <- method == "ranks" && anyDuplicated(c(x, y)) + anyDuplicated(c(x + 8, y)) > 0
      same("8 added to the first group", method, base, moved, if (tied) numbers[[1]] else numbers[1:3])
      other <- ask_beyond(x + 8, y, groups, method, options)
      note("8 added and 8 tested", method, apart(base$p, other$p))
    }
    same("long or vectors", method, base, ask(versus(long, value, group, groups = groups)), numbers)
    counted <- stats::aggregate(list(times = rep(1, nrow(long))), long, sum)
    if (method != "permutation") {
      told_by_counts <- ask(versus(counted, value, group, groups = groups, counts = times))
      same("values and counts", method, base, told_by_counts, numbers)
    }
    # The interval excludes 0 exactly when p is at most alpha.
    if (!chance) note("p and interval agree", method, if (interval_agrees(base)) 0 else Inf)
    higher <- ask_beyond(x, y, groups, method, options, expect = "higher", beyond = 0)
    lower <- ask_beyond(x, y, groups, method, options, expect = "lower", beyond = 0)
    note("two-sided p is twice the smaller", method, apart(base$p, min(1, 2 * min(higher$p, lower$p))))
  }
  moments_rules(x, y, groups, size, same)
  pair_rules(x, y, size, same, note)
  do.call(rbind, rows)
}

# Where there is an interval; `open_end` tells of a tie just at the value tested.
interval_agrees <- function(row) {
  if (is.na(row$lower) || is.na(row$upper) || !is.na(c(row$open_end, NA)[[1]])) return(TRUE)
  (row$lower > 0 || row$upper < 0) == (row$p <= 0.05)
}

ask_beyond <- function(x, y, groups, method, options, ..., beyond = 8) {
  if (method == "relative") beyond <- 0
  do.call(told, c(list(versus(first = x, second = y, groups = groups), method, beyond = beyond, ...), options))
}

# Summaries say as much as values, to methods of means; twice the data are what the formula says.
moments_rules <- function(x, y, groups, size, same) {
  numbers <- c("estimate", "se", "df", "statistic", "lower", "upper", "p")
  published <- versus_summary(
    n = c(length(x), length(y)), mean = c(mean(x), mean(y)), sd = c(stats::sd(x), stats::sd(y)), groups = groups
  )
  study <- versus(first = x, second = y, groups = groups)
  for (method in c("welch", "student")) {
    same("values or their n, mean, SD", method, told(study, method), told(published, method), numbers)
  }
  effects <- function(s) gauge_effect(s, c("d_pooled", "g", "d_average"))$table
  if (length(x) + length(y) > 5) {
    a <- effects(study)
    b <- effects(published)
    c <- effects(versus(first = x * 16 + 1000, second = y * 16 + 1000, groups = groups))
    for (i in seq_len(nrow(a))) {
      same("values or their n, mean, SD", a$estimand[[i]], a[i, ], b[i, ], c("estimate", "lower", "upper"), 1)
      same("another unit", a$estimand[[i]], a[i, ], c[i, ], c("estimate", "lower", "upper"), 1)
    }
  }
  twice <- told(versus(first = c(x, x), second = c(y, y), groups = groups), "welch")
  once <- told(study, "welch")
  # Sums of squares double, degrees of freedom of each group go from n - 1 to 2 n - 1.
  n <- c(length(x), length(y))
  error <- sqrt(sum(c(stats::var(x), stats::var(y)) * (n - 1) / n / (2 * n - 1)))
  same("every value twice", "welch", list(estimate = once$estimate, se = error), twice, c("estimate", "se"))
}

# Pairs are what their changes are; halves changed about turn signs.
pair_rules <- function(x, y, size, same, note) {
  n <- min(length(x), length(y))
  wide <- data.frame(a = x[seq_len(n)], b = y[seq_len(n)])
  wide$change <- wide$a - wide$b
  if (n < 3 || diff(range(wide$change)) == 0) return(invisible())
  numbers <- c("estimate", "lower", "upper", "p")
  long <- data.frame(
    value = c(wide$a, wide$b), time = rep(c("noon", "dawn"), each = n), plant = rep(seq_len(n), 2)
  )
  long <- long[sample(nrow(long)), ]
  for (method in c("paired", "signed_ranks", "permutation")) {
    if (method == "permutation" && n > 16) next
    base <- told(versus_paired(wide, a, b, groups = c("noon", "dawn")), method)
    same("long or wide pairs", method, base, told(
      versus_paired(long, outcome = value, by = time, id = plant, groups = c("noon", "dawn")), method
    ), numbers)
    if (!all(wide$change == 0)) {
      same("pairs or their changes", method, base, told(versus_paired(wide, change = change), method), numbers)
    }
    turned <- told(versus_paired(wide, b, a), method)
    back <- list(estimate = -turned$estimate, lower = -turned$upper, upper = -turned$lower, p = turned$p)
    same("measurements turned round", method, base, back, numbers)
    both <- told(versus_paired(data.frame(a = wide$a + 1000, b = wide$b + 1000), a, b), method)
    same("1000 added to all values", method, base, both, numbers)
    note("p and interval agree", method, if (interval_agrees(base)) 0 else Inf)
  }
  spreads <- vapply(wide, stats::sd, 0)
  published <- versus_paired_summary(
    n, mean = c(mean(wide$a), mean(wide$b)), sd = spreads[c("a", "b")], sd_change = spreads[["change"]]
  )
  base <- told(versus_paired(wide, a, b), "paired")
  same("values or their n, mean, SD", "paired", base, told(published, "paired"), numbers)
}
