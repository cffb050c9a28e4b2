# Do printed numbers fit together? Every printed number is an interval of unrounded ones. Rules say how one number
# follows from others; they narrow a box of intervals until nothing moves (interval propagation, Davis 1987). Where
# an interval becomes empty the numbers contradict each other.

# A rule: `target` from `args`, by a function that is monotone in each of its arguments, so that its range over a box is
# that of its corners. `peaks` adds places inside the box where it turns.
core_audit_rule <- function(target, args, f, peaks = NULL) list(target = target, args = args, f = f, peaks = peaks)

# All rules of a design. `beyond`: null value; `estimand`: what `d` is.
core_audit_rules <- function(paired, method, estimand, level, expect, beyond) {
  c(
    if (paired) core_audit_pairs() else core_audit_groups(method), core_audit_test(expect, beyond),
    core_audit_interval(level), core_audit_effect(paired, method, estimand, beyond)
  )
}

# SD and standard error of one mean; of pairs both have the same n.
core_audit_spread <- function(side, n) {
  sd <- paste0("sd_", side)
  se <- paste0("se_", side)
  list(
    core_audit_rule(sd, c(se, n), function(se, n) se * sqrt(n)),
    core_audit_rule(se, c(sd, n), function(sd, n) sd / sqrt(n)),
    core_audit_rule(n, c(sd, se), function(sd, se) (sd / se)^2)
  )
}

core_audit_groups <- function(method) {
  rule <- core_audit_rule
  sizes <- c("n_first", "n_second")
  spreads <- c("sd_first", "sd_second", sizes)
  pooled <- function(a, b, n, m) ((n - 1) * a^2 + (m - 1) * b^2) / (n + m - 2)
  error <- if (method == "student") {
    list(
      rule("se_difference", spreads, function(a, b, n, m) sqrt(pooled(a, b, n, m) * (1 / n + 1 / m))),
      rule("sd_first", c("se_difference", "sd_second", sizes), function(se, b, n, m) {
        sqrt(pmax(0, (se^2 / (1 / n + 1 / m) * (n + m - 2) - (m - 1) * b^2) / (n - 1)))
      }),
      rule("sd_second", c("se_difference", "sd_first", sizes), function(se, a, n, m) {
        sqrt(pmax(0, (se^2 / (1 / n + 1 / m) * (n + m - 2) - (n - 1) * a^2) / (m - 1)))
      }),
      rule("df", sizes, function(n, m) n + m - 2), rule("n_first", c("df", "n_second"), function(df, m) df + 2 - m),
      rule("n_second", c("df", "n_first"), function(df, n) df + 2 - n)
    )
  } else {
    list(
      rule("se_difference", spreads, function(a, b, n, m) sqrt(a^2 / n + b^2 / m)),
      rule("sd_first", c("se_difference", "sd_second", sizes), function(se, b, n, m) sqrt(n * pmax(0, se^2 - b^2 / m))),
      rule("sd_second", c("se_difference", "sd_first", sizes), function(se, a, n, m) sqrt(m * pmax(0, se^2 - a^2 / n))),
      rule("df", spreads, core_welch_df, core_welch_peaks)
    )
  }
  each <- c(core_audit_spread("first", "n_first"), core_audit_spread("second", "n_second"))
  c(each, core_audit_means(), error)
}

core_audit_means <- function() {
  list(
    core_audit_rule("difference", c("mean_first", "mean_second"), function(a, b) a - b),
    core_audit_rule("mean_first", c("difference", "mean_second"), function(d, b) d + b),
    core_audit_rule("mean_second", c("mean_first", "difference"), function(a, d) a - d)
  )
}

core_welch_df <- function(a, b, n, m) {
  x <- a^2 / n
  y <- b^2 / m
  (x + y)^2 / (x^2 / (n - 1) + y^2 / (m - 1))
}

# Welch's degrees of freedom rise and fall with either SD: most where x / (n - 1) = y / (m - 1).
core_welch_peaks <- function(a, b, n, m) {
  turn <- function(sd, from, to) sd * sqrt(to * (to - 1) / (from * (from - 1)))
  list(a = turn(b, m, n), b = turn(a, n, m))
}

core_audit_pairs <- function() {
  rule <- core_audit_rule
  each <- c(core_audit_spread("first", "n_first"), core_audit_spread("second", "n_first"))
  c(each, core_audit_means(), list(
    rule("sd_change", c("sd_first", "sd_second", "r"), function(a, b, r) sqrt(pmax(0, a^2 + b^2 - 2 * r * a * b)),
      peaks = function(a, b, r) list(a = r * b, b = r * a)
    ),
    rule("r", c("sd_first", "sd_second", "sd_change"), function(a, b, s) (a^2 + b^2 - s^2) / (2 * a * b),
      peaks = function(a, b, s) list(a = sqrt(pmax(0, b^2 - s^2)), b = sqrt(pmax(0, a^2 - s^2)))
    ),
    rule("se_difference", c("sd_change", "n_first"), function(s, n) s / sqrt(n)),
    rule("sd_change", c("se_difference", "n_first"), function(se, n) se * sqrt(n)),
    rule("n_first", c("sd_change", "se_difference"), function(s, se) (s / se)^2),
    rule("df", "n_first", function(n) n - 1), rule("n_first", "df", function(df) df + 1)
  ))
}

# |t| from a two-sided p: its sign comes from elsewhere.
core_audit_sized <- list(target = "t", args = c("p", "df"), sized = TRUE)

core_audit_test <- function(expect, beyond) {
  rule <- core_audit_rule
  sided <- if (expect == "either") {
    list(
      rule("p", c("t", "df"), function(t, df) 2 * stats::pt(-abs(t), df), function(t, df) list(t = numeric(length(t)))),
      rule("df", c("t", "p"), core_df_of, function(t, p) list(t = numeric(length(t)))), core_audit_sized
    )
  } else {
    lower <- expect == "lower"
    list(
      rule("p", c("t", "df"), function(t, df) stats::pt(t, df, lower.tail = lower)),
      rule("t", c("p", "df"), function(p, df) stats::qt(p, df, lower.tail = lower))
    )
  }
  c(sided, list(
    rule("t", c("difference", "se_difference"), function(d, se) (d - beyond) / se),
    rule("difference", c("t", "se_difference"), function(t, se) t * se + beyond),
    rule("se_difference", c("difference", "t"), function(d, t) (d - beyond) / t)
  ))
}

# Degrees of freedom that give a two-sided p to t; infinite where even the normal distribution gives more.
core_df_of <- function(t, p) {
  mapply(function(t, p) {
    if (!isTRUE(t != 0 && is.finite(t) && p > 0)) return(NaN)
    if (2 * stats::pnorm(-abs(t)) >= p) return(Inf)
    off <- function(log_df) stats::pt(-abs(t), exp(log_df), log.p = TRUE) - log(p / 2)
    if (off(-5) < 0) return(exp(-5))
    exp(stats::uniroot(off, c(-5, 25), tol = 1e-12, extendInt = "downX")$root)
  }, t, p)
}

core_audit_interval <- function(level) {
  rule <- core_audit_rule
  reach <- function(df) stats::qt((1 + level) / 2, df)
  list(
    rule("lower", c("difference", "se_difference", "df"), function(d, se, df) d - reach(df) * se),
    rule("upper", c("difference", "se_difference", "df"), function(d, se, df) d + reach(df) * se),
    rule("difference", c("lower", "upper"), function(a, b) (a + b) / 2),
    rule("lower", c("difference", "upper"), function(d, b) 2 * d - b),
    rule("upper", c("difference", "lower"), function(d, a) 2 * d - a),
    rule("se_difference", c("lower", "upper", "df"), function(a, b, df) (b - a) / (2 * reach(df))),
    rule("se_difference", c("lower", "difference", "df"), function(a, d, df) (d - a) / reach(df)),
    rule("se_difference", c("difference", "upper", "df"), function(d, b, df) (b - d) / reach(df))
  )
}

core_audit_effect <- function(paired, method, estimand, beyond) {
  rule <- core_audit_rule
  corrected <- core_effects[[estimand]]$corrected
  factor <- function(df) if (corrected) core_hedges_factor(df) else 1
  of_changes <- core_effects[[estimand]]$spread == "changes"
  repeated <- core_effects[[estimand]]$spread == "repeated"
  spread <- if (of_changes) {
    c("sd_change", "n_first")
  } else if (repeated) {
    c("sd_change", "r")
  } else {
    c("sd_first", "sd_second", "n_first", if (paired) "n_first" else "n_second")
  }
  divisor <- if (of_changes) {
    function(s, n) s / factor(n - 1)
  } else if (repeated) {
    function(s, r) s / sqrt(2 * (1 - r))
  } else {
    function(a, b, n, m) {
      parts <- list(sd_first = a, sd_second = b, n_first = n, n_second = m)
      core_standardizer(estimand, parts) / factor(n + m - 2)
    }
  }
  out <- list(
    rule("d", c("difference", spread), function(d, ...) d / divisor(...)),
    rule("difference", c("d", spread), function(d, ...) d * divisor(...))
  )
  # Where t and d share their standardizer one follows from the other.
  pooled <- !paired && method == "student" && core_effects[[estimand]]$spread == "pooled"
  direct <- beyond == 0 && (of_changes || pooled)
  if (!direct) return(out)
  sizes <- if (paired) "n_first" else c("n_first", "n_second")
  root <- if (paired) function(n) sqrt(n) / factor(n - 1) else function(n, m) {
    sqrt(n * m / (n + m)) / factor(n + m - 2)
  }
  c(out, list(
    rule("d", c("t", sizes), function(t, ...) t / root(...)), rule("t", c("d", sizes), function(d, ...) d * root(...))
  ))
}

# --- propagation -------------------------------------------------------------------------------------

# What a rule allows its target over the box; NULL where it tells nothing.
core_audit_project <- function(rule, box) {
  if (isTRUE(rule$sized)) return(core_audit_sign(box))
  ends <- box[rule$args]
  if (any(lengths(ends) == 0)) return(NULL)
  corners <- core_audit_corners(ends)
  found <- core_audit_call(rule$f, corners)
  if (!is.null(rule$peaks)) found <- c(found, core_audit_turns(rule, ends, corners))
  if (anyNA(found)) return(NULL)
  # A quotient whose divisor may be 0 can be anything.
  if (any(is.infinite(found)) && rule$target != "df") return(NULL)
  range(found)
}

# A function of one to five arguments.
core_audit_call <- function(f, x) {
  switch(length(x),
    f(x[[1]]), f(x[[1]], x[[2]]), f(x[[1]], x[[2]], x[[3]]), f(x[[1]], x[[2]], x[[3]], x[[4]]),
    f(x[[1]], x[[2]], x[[3]], x[[4]], x[[5]])
  )
}

# Every combination of lower and upper ends, one vector for each argument; ends that coincide count once.
core_audit_corners <- function(ends) {
  corners <- list()
  size <- 1
  for (i in seq_along(ends)) {
    x <- ends[[i]]
    if (x[[1]] == x[[2]]) {
      corners[[i]] <- rep(x[[1]], size)
      next
    }
    corners <- lapply(corners, rep, 2)
    corners[[i]] <- rep(x, each = size)
    size <- 2 * size
  }
  corners
}

# The function where it turns, one argument at a time, the others at their corners.
core_audit_turns <- function(rule, ends, corners) {
  places <- core_audit_call(rule$peaks, corners)
  unlist(lapply(seq_along(places), function(i) {
    at <- match(names(places)[[i]], names(formals(rule$f)))
    inside <- places[[i]] > ends[[at]][[1]] & places[[i]] < ends[[at]][[2]]
    inside <- rep_len(inside, length(corners[[1]]))
    if (!any(inside, na.rm = TRUE)) return(NULL)
    moved <- lapply(corners, function(x) x[inside])
    moved[[at]] <- rep_len(places[[i]], length(inside))[inside]
    core_audit_call(rule$f, moved)
  }))
}

# What is always true of a number.
core_audit_limits <- function(name) {
  switch(name,
    n_first = , n_second = c(2, Inf), p = c(0, 1), r = c(-1, 1), df = c(1, Inf), sd_first = , sd_second = ,
    se_first = , se_second = , sd_change = , se_difference = c(0, Inf), c(-Inf, Inf)
  )
}

# The box narrowed by all rules; NULL where the numbers contradict each other.
core_audit_narrow <- function(box, rules) {
  args <- lapply(rules, `[[`, "args")
  watched <- lapply(rules, function(rule) c(rule$args, if (isTRUE(rule$sized)) "t"))
  # Rules are asked again only when one of their arguments has moved.
  due <- vapply(args, function(names) all(names %in% names(box)), NA)
  for (round in 1:50) {
    moved <- character()
    for (rule in rules[due]) {
      step <- core_audit_step(box, rule$target, core_audit_project(rule, box))
      if (is.null(step)) return(NULL)
      if (step$moved) moved <- c(moved, rule$target)
      box <- step$box
    }
    if (length(moved) == 0) break
    due <- vapply(watched, function(names) any(names %in% moved), NA)
  }
  box
}

# |t| that belongs to a two-sided p; NULL where p or df are not known.
core_audit_t_of_p <- function(box) {
  if (is.null(box$p) || is.null(box$df)) return(NULL)
  range(-stats::qt(box$p / 2, rev(box$df)), -stats::qt(box$p / 2, box$df))
}

# t allowed by the others; where only its size is known, on the side on which it is printed.
core_audit_size <- function(box, printed) {
  size <- core_audit_t_of_p(box)
  if (is.null(size) || is.null(box$t) || box$t[[1]] >= 0 || box$t[[2]] <= 0) return(box$t)
  if (sum(printed) >= 0) c(size[[1]], box$t[[2]]) else c(box$t[[1]], -size[[1]])
}

# t of this size, with the sign that difference or t already have.
core_audit_sign <- function(box) {
  size <- core_audit_t_of_p(box)
  if (is.null(size)) return(NULL)
  side <- box$t
  if (is.null(side)) return(c(-1, 1) * size[[2]])
  if (side[[1]] >= 0) size else if (side[[2]] <= 0) -rev(size) else c(-1, 1) * size[[2]]
}

core_audit_step <- function(box, name, found) {
  if (is.null(found)) return(list(box = box, moved = FALSE))
  now <- box[[name]]
  known <- if (is.null(now)) core_audit_limits(name) else now
  next_one <- c(max(known[[1]], found[[1]]), min(known[[2]], found[[2]]))
  if (name %in% c("n_first", "n_second")) next_one <- c(ceiling(next_one[[1]] - 1e-6), floor(next_one[[2]] + 1e-6))
  slack <- 1e-9 * max(abs(next_one[is.finite(next_one)]), 0)
  if (next_one[[1]] > next_one[[2]] + slack) return(NULL)
  next_one <- range(next_one)
  box[[name]] <- next_one
  if (is.null(now)) return(list(box = box, moved = TRUE))
  size <- max(abs(now[is.finite(now)]), 1e-300)
  list(box = box, moved = sum(abs(next_one - now), na.rm = TRUE) > 1e-9 * size)
}

# --- verdict -----------------------------------------------------------------------------------------

# In which order numbers are believed where more than one is off.
core_audit_trust <- c(
  "n_first", "n_second", "mean_first", "mean_second", "sd_first", "sd_second", "r", "sd_change", "se_first",
  "se_second", "difference", "se_difference", "df", "t", "lower", "upper", "p", "d"
)

# For each printed number whether it fits the others (NA: nothing tells), and the range that the others allow.
core_audit <- function(printed, rules) {
  names <- names(printed)
  narrow <- function(names) core_audit_narrow(printed[names], rules)
  two_sided <- any(vapply(rules, function(rule) isTRUE(rule$sized), NA))
  without <- function(name, less = character()) narrow(setdiff(names, c(name, less)))
  whole <- narrow(names)
  off <- if (is.null(whole)) core_audit_single(names, without)
  several <- is.null(whole) && length(off) == 0
  if (several) off <- core_audit_later(printed, rules)
  ranges <- lapply(stats::setNames(nm = names), function(name) {
    less <- if (several || (length(off) == 1 && !name %in% off)) off
    box <- without(name, less)
    if (name == "t" && two_sided) core_audit_size(box, printed$t) else box[[name]]
  })
  known <- !vapply(ranges, is.null, NA)
  list(
    fits = stats::setNames(ifelse(names %in% off, FALSE, ifelse(known, TRUE, NA)), names),
    from = vapply(ranges, function(x) if (is.null(x)) NA_real_ else x[[1]], 0),
    to = vapply(ranges, function(x) if (is.null(x)) NA_real_ else x[[2]], 0),
    # One number off, one of several (which, they do not tell), or more than one.
    kind = if (is.null(whole)) if (several) "several" else if (length(off) == 1) "one" else "one_of" else "none"
  )
}

# Numbers without which the others agree; those of which the others tell nothing only where there are no others.
core_audit_single <- function(names, without) {
  boxes <- lapply(stats::setNames(nm = names), without)
  agree <- names[!vapply(boxes, is.null, NA)]
  told <- agree[!vapply(agree, function(name) is.null(boxes[[name]][[name]]), NA)]
  if (length(told)) told else agree
}

# Taken in the order of trust: those that contradict the ones before.
core_audit_later <- function(printed, rules) {
  names <- names(printed)
  if (!is.null(core_audit_narrow(printed, rules))) return(character())
  kept <- character()
  for (name in names[order(match(names, core_audit_trust))]) {
    if (!is.null(core_audit_narrow(printed[c(kept, name)], rules))) kept <- c(kept, name)
  }
  setdiff(names, kept)
}
