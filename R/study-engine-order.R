# What is asked of a database about one outcome after it was declared: shape, quartiles, ranks, neighbours, bars of a
# histogram. Each query is made once and kept with the record.

# Known values of a group (1, 2; pairs: of the complete ones, 3 the changes) as column v; with `both`, of both groups
# with g = 1, 2. Column o is the order, where one was declared.
engine_values <- function(outcome, which = NULL) {
  data <- outcome$data
  con <- data$engine$con
  order <- if (isTRUE(data$ordered)) list(o = "ord")
  if (!is.null(data$pair)) {
    rows <- engine_where(data$engine$relation, paste(c(whole_pair(con), if (!is.null(data$sub)) {
      sql_is(con, "sub", data$sub)
    }), collapse = " AND "))
    return(engine_columns(rows, c(list(v = c("a", "b", "(a - b)")[[which]]), order)))
  }
  x <- data$column
  known <- sprintf("%s IS NOT NULL AND NOT (%s)", x, sql_is_nan(con, x))
  keys <- if (is.null(which)) 1:2 else which
  of_groups <- paste(vapply(keys, function(g) group_condition(con, data$keys[[g]], data$sub), ""), collapse = ") OR (")
  rows <- engine_where(data$engine$relation, sprintf("(%s) AND ((%s))", known, of_groups))
  group <- sprintf("CASE WHEN %s THEN 1 ELSE 2 END", sql_is(con, "grp", data$keys[[1]]))
  engine_columns(rows, c(list(v = x), if (is.null(which)) list(g = group), order))
}

whole_pair <- function(con) {
  sprintf("a IS NOT NULL AND b IS NOT NULL AND NOT (%s) AND NOT (%s)", sql_is_nan(con, "a"), sql_is_nan(con, "b"))
}

ask_record <- function(outcome, query, what, call = NULL) ask_engine(query, what, call, outcome$data$engine)

# Once per record.
kept_answer <- function(outcome, key, find) {
  cache <- outcome$data$cache
  if (is.null(cache[[key]])) cache[[key]] <- find()
  cache[[key]]
}

check_unchanged <- function(outcome, n, which) {
  before <- outcome$moments[[which]]$n
  if (!isTRUE(n == before)) abort_table_changed(outcome$name, before, n, NULL)
}

# --- moments of higher order -------------------------------------------------------------------------

# The record with skewness, kurtosis and range of every group.
full_record <- function(outcome) {
  if (outcome$data$kind != "database") return(outcome)
  for (which in seq_along(outcome$moments)) {
    if (is.na(outcome$moments[[which]]$mean)) next
    outcome$moments[[which]] <- kept_answer(outcome, paste0("full", which), function() {
      full_group_moments(outcome, which)
    })
  }
  outcome
}

full_study <- function(study) {
  if (is_database(study)) study$outcomes <- lapply(study$outcomes, full_record)
  study
}

full_group_moments <- function(outcome, which) {
  m <- outcome$moments[[which]]
  con <- outcome$data$engine$con
  # In SDs: fourth powers of small numbers would be 0.
  d <- sprintf("((v - %s) / %s)", sql_number(m$mean), sql_number(if (isTRUE(m$sd > 0)) m$sd else 1))
  powers <- function(k) sprintf("SUM(%s)", paste(rep(d, k), collapse = " * "))
  found <- ask_record(outcome, engine_sums(engine_values(outcome, which), list(
    n = sql_count_all(con), s1 = powers(1), s2 = powers(2), s3 = powers(3), s4 = powers(4),
    low = "MIN(v)", high = "MAX(v)"
  )), "sums of powers")
  check_unchanged(outcome, found$n, which)
  if (isTRUE(m$sd == 0 && found$low < found$high)) abort_engine_small(outcome$name, NULL)
  core_full_moments(m, found$s1, found$s2, found$s3, found$s4, found$low, found$high)
}

# Moments of the distances of one group's values from `centre`.
engine_deviations <- function(outcome, which, centre) {
  kept_answer(outcome, paste("deviations", which, centre), function() ask_deviations(outcome, which, centre))
}

ask_deviations <- function(outcome, which, centre) {
  con <- outcome$data$engine$con
  guess <- outcome$moments[[which]]$sd * 0.8
  d <- sprintf("(ABS(v - %s) - %s)", sql_number(centre), sql_number(guess))
  found <- ask_record(outcome, engine_sums(engine_values(outcome, which), list(
    n = sql_count_all(con), s = sprintf("SUM(%s)", d), q = sprintf("SUM(%s * %s)", d, d)
  )), "distances from the centre")
  check_unchanged(outcome, found$n, which)
  core_shifted_moments(found$n, 0, guess, found$s, found$q)
}

# --- quantiles --------------------------------------------------------------------------------------

# Quantiles by rule 7 of Hyndman & Fan (1996), from the ordered values at their two neighbouring places.
engine_quantiles <- function(outcome, which, probs, of = "v") {
  n <- outcome$moments[[which]]$n
  if (n == 0) return(rep(NA_real_, length(probs)))
  place <- (n - 1) * probs + 1
  low <- floor(place)
  wanted <- sort(unique(c(low, pmin(low + 1, n))))
  values <- engine_columns(engine_values(outcome, which), list(v = of))
  con <- outcome$data$engine$con
  numbered <- engine_columns(values, list(
    v = "v", place = "ROW_NUMBER() OVER (ORDER BY v)",
    total = sprintf("CAST(COUNT(*) OVER () AS %s)", engine_double(con))
  ))
  kept <- engine_where(numbered, sprintf("place IN (%s)", paste(sprintf("%.0f", wanted), collapse = ", ")))
  found <- ask_record(outcome, engine_columns(kept, list(
    v = "v", place = sprintf("CAST(place AS %s)", engine_double(con)), total = "total"
  )), "quartiles")
  check_unchanged(outcome, if (nrow(found)) found$total[[1]] else 0, which)
  at <- function(k) found$v[match(k, found$place)]
  lower <- at(low)
  # Equal neighbours must not be parted by rounding.
  upper <- at(pmin(low + 1, n))
  ifelse(lower == upper, lower, lower + (place - low) * (upper - lower))
}

engine_quartiles <- function(outcome, which) {
  kept_answer(outcome, paste0("quartiles", which), function() engine_quantiles(outcome, which, c(0.25, 0.5, 0.75)))
}

# Median distance from the median.
engine_median_distance <- function(outcome, which, median) {
  kept_answer(outcome, paste0("distance", which), function() {
    engine_quantiles(outcome, which, 0.5, sprintf("ABS(v - %s)", sql_number(median)))
  })
}

# Values beyond two limits, tied ones, different ones, at the lowest and the highest value.
engine_oddities <- function(outcome, which, limits) {
  kept_answer(outcome, paste0("oddities", which), function() ask_oddities(outcome, which, limits))
}

ask_oddities <- function(outcome, which, limits) {
  con <- outcome$data$engine$con
  counted <- function(condition) sql_count_where(con, condition)
  ends <- ask_record(outcome, engine_sums(engine_values(outcome, which), c(
    list(n = sql_count_all(con)),
    lapply(limits, function(pair) {
      counted(sprintf("v < %s OR v > %s", sql_number(pair[[1]]), sql_number(pair[[2]])))
    })
  )), "counts of outlying values")
  check_unchanged(outcome, ends$n, which)
  double <- engine_double(con)
  values <- engine_sums(engine_values(outcome, which), list(times = sql_count_all(con)), "v")
  repeats <- ask_record(outcome, engine_sums(values, list(
    distinct = sql_count_all(con), tied = sprintf("CAST(SUM(CASE WHEN times > 1 THEN times ELSE 0 END) AS %s)", double)
  )), "counts of equal values")
  c(as.list(ends), as.list(repeats))
}

# How many values equal each of `values`.
engine_count_at <- function(outcome, which, values) {
  con <- outcome$data$engine$con
  unlist(ask_record(outcome, engine_sums(engine_values(outcome, which), stats::setNames(lapply(values, function(value) {
    sql_count_where(con, sprintf("v = %s", sql_number(value)))
  }), paste0("at", seq_along(values)))), "counts of values"), use.names = FALSE)
}

# --- ranks ------------------------------------------------------------------------------------------

# U with midranks, ties and placements of two groups: what core_rank_counts() finds. `beyond` is taken off the first.
engine_rank_counts <- function(outcome, beyond) {
  kept_answer(outcome, paste0("ranks", beyond), function() {
    con <- outcome$data$engine$con
    double <- engine_double(con)
    value <- if (beyond == 0) "v" else sprintf("CASE WHEN g = 1 THEN v - %s ELSE v END", sql_number(beyond))
    values <- engine_columns(engine_values(outcome), list(v = value, g = "g"))
    sizes <- list(a = sql_count_where(con, "g = 1"), b = sql_count_where(con, "g = 2"))
    counts <- engine_sums(values, sizes, "v")
    running <- function(x) sprintf("SUM(%s) OVER (ORDER BY v ROWS UNBOUNDED PRECEDING)", x)
    below <- engine_columns(counts, list(
      a = "a", b = "b", ca = sprintf("(%s - a / 2)", running("a")), cb = sprintf("(%s - b / 2)", running("b"))
    ))
    ties <- "(a + b)"
    found <- ask_record(outcome, engine_sums(below, list(
      n = "SUM(a)", m = "SUM(b)", u = "SUM(a * cb)", equal = "SUM(a * b)",
      ties = sprintf("SUM(%s * %s * %s - %s)", ties, ties, ties, ties),
      tied = sprintf("SUM(CASE WHEN %s > 1 THEN %s ELSE 0 END)", ties, ties), distinct = sql_count_all(con),
      first = "SUM(a * cb * cb)", second = "SUM(b * ca * ca)"
    )), "ranks")
    check_unchanged(outcome, found$n, 1)
    check_unchanged(outcome, found$m, 2)
    c(
      core_rank_aggregates(
        found$n, found$m, found$u, found$ties, found$tied, found$distinct, found$first, found$second
      ),
      list(equal_pairs = found$equal)
    )
  })
}

# W upwards and downwards of the changes less `beyond`: what core_signed_counts() finds. Sizes are compared in steps of
# the last digit that subtraction leaves, so that 0.3 - 0.2 and 0.2 - 0.1 are the same.
engine_signed_counts <- function(outcome, beyond, zeros) {
  kept_answer(outcome, paste("signed", beyond, zeros), function() {
    outcome <- full_record(outcome)
    con <- outcome$data$engine$con
    ends <- unlist(lapply(outcome$moments, function(m) c(m$min, m$max)))
    power <- 13 - ceiling(log10(max(abs(c(ends, beyond)), 1e-290, na.rm = TRUE)))
    step <- sql_number(10^power)
    d <- if (beyond == 0) "v" else sprintf("(v - %s)", sql_number(beyond))
    sizes <- engine_columns(engine_values(outcome, 3), list(size = sprintf("ROUND(%s * %s)", d, step)))
    signed <- engine_columns(sizes, list(size = "ABS(size)", up = "size"))
    counts <- engine_sums(signed, list(
      plus = sql_count_where(con, "up > 0"), minus = sql_count_where(con, "up < 0"),
      zero = sql_count_where(con, "up = 0")
    ), "size")
    kept <- if (zeros == "pratt") counts else engine_where(counts, "size > 0")
    times <- "(plus + minus + zero)"
    ranked <- engine_columns(kept, list(
      plus = "plus", minus = "minus", zero = "zero", times = times,
      midrank = sprintf("(SUM(%s) OVER (ORDER BY size ROWS UNBOUNDED PRECEDING) - (%s - 1) / 2)", times, times)
    ))
    found <- ask_record(outcome, engine_sums(ranked, list(
      n = "SUM(times)", zeros = "SUM(zero)", up = "SUM(plus * midrank)", down = "SUM(minus * midrank)",
      squares = "SUM((plus + minus) * midrank * midrank)",
      tied = "SUM(CASE WHEN plus + minus > 1 THEN plus + minus ELSE 0 END)"
    )), "signed ranks")
    dropped <- if (zeros == "drop") outcome$moments[[3]]$n - found$n else found$zeros
    check_unchanged(outcome, found$n + if (zeros == "drop") dropped else 0, 3)
    core_signed_aggregates(
      outcome$moments[[3]]$n, dropped, found$up, found$down, found$squares, found$tied
    )
  })
}

# --- neighbours -------------------------------------------------------------------------------------

# Sum of the products of neighbours and of squares, of values less their mean.
engine_serial <- function(outcome, which) {
  kept_answer(outcome, paste0("serial", which), function() {
    m <- outcome$moments[[which]]
    con <- outcome$data$engine$con
    centred <- engine_columns(engine_values(outcome, which), list(d = sprintf("(v - %s)", sql_number(m$mean)), o = "o"))
    pairs <- engine_columns(centred, list(d = "d", following = "LEAD(d) OVER (ORDER BY o)"))
    found <- ask_record(outcome, engine_sums(pairs, list(
      n = sql_count_all(con), products = "SUM(d * following)", squares = "SUM(d * d)"
    )), "products of neighbours")
    check_unchanged(outcome, found$n, which)
    found
  })
}

# The sums of core_serial_difference() over the places of both groups.
engine_serial_difference <- function(outcome) {
  kept_answer(outcome, "serial difference", function() {
    con <- outcome$data$engine$con
    share <- function(which, sign) {
      m <- outcome$moments[[which]]
      at <- sprintf("%s * (v - %s) / %s", sign, sql_number(m$mean), sql_number(m$n))
      columns <- list(o = "o", a = if (which == 1) at else "0.0", b = if (which == 2) at else "0.0")
      engine_columns(engine_values(outcome, which), columns)$text
    }
    both <- new_query(con, paste(share(1, "1.0"), "UNION ALL", share(2, "-1.0")), c("o", "a", "b"))
    places <- engine_sums(both, list(n = sql_count_all(con), a = "SUM(a)", b = "SUM(b)", q = "SUM(a * a + b * b)"), "o")
    following <- engine_columns(places, list(
      n = "n", a = "a", b = "b", q = "q", following = "LEAD(a + b) OVER (ORDER BY o)"
    ))
    found <- ask_record(outcome, engine_sums(following, list(
      n = "SUM(n)", places = sql_count_all(con), squares = "SUM(q)", summed = "SUM((a + b) * (a + b))",
      products = "SUM((a + b) * following)", shared = "SUM(a * b)", shared_squares = "SUM(a * a * b * b)"
    )), "products of neighbours")
    check_unchanged(outcome, found$n - outcome$moments[[2]]$n, 1)
    found
  })
}

# --- bars -------------------------------------------------------------------------------------------

# Breaks halfway between values on a step, so that every bar holds as many possible values as the next; NULL without a
# step.
stepped_breaks <- function(range, step, bins) {
  if (is.null(step)) return(NULL)
  places <- round((range[[2]] - range[[1]]) / step) + 1
  width <- step * max(1, ceiling(places / max(bins, 12)))
  range[[1]] - step / 2 + width * (0:ceiling(places * step / width - 1e-9))
}

# Bars of both groups over their common range, `which`: the group.
engine_histogram <- function(outcome, bins, step = NULL) {
  outcome <- full_record(outcome)
  ends <- range(unlist(lapply(outcome$moments[1:2], `[`, c("min", "max"))))
  if (ends[[1]] == ends[[2]] && is.null(step)) ends <- ends + c(-0.5, 0.5)
  breaks <- stepped_breaks(ends, step, bins) %||% seq(ends[[1]], ends[[2]], length.out = bins + 1)
  bins <- length(breaks) - 1
  count <- kept_answer(outcome, paste0("bars", bins), function() {
    unlist(lapply(1:2, function(which) engine_bars(outcome, which, breaks)))
  })
  data.frame(low = rep(breaks[-(bins + 1)], 2), high = rep(breaks[-1], 2), count = count, which = rep(1:2, each = bins))
}

# How many values of a group lie between neighbouring `breaks`; those at the last one belong below it.
engine_bars <- function(outcome, which, breaks) {
  con <- outcome$data$engine$con
  bins <- length(breaks) - 1
  width <- (breaks[[bins + 1]] - breaks[[1]]) / bins
  bin <- sprintf("FLOOR((v - %s) / %s)", sql_number(breaks[[1]]), sql_number(width))
  placed <- engine_columns(engine_values(outcome, which), list(bin = bin))
  found <- ask_record(outcome, engine_sums(placed, list(times = sql_count_all(con)), "bin"), "bars of a histogram")
  at <- pmin(pmax(found$bin, 0), bins - 1) + 1
  counts <- rep(0, bins)
  for (i in seq_along(at)) counts[[at[[i]]]] <- counts[[at[[i]]]] + found$times[[i]]
  counts
}
