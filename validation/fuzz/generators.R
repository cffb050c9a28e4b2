# Random values, labels, columns and data frames: mostly sensible, now and then anything at all.

pick <- function(...) {
  from <- list(...)
  from[[sample.int(length(from), 1)]]
}
some <- function(x, size = sample.int(length(x), 1)) x[sample.int(length(x), min(size, length(x)))]
chance <- function(p) stats::runif(1) < p

# What nobody should hand over.
junk <- function() {
  pick(
    NULL, NA, NaN, Inf, -Inf, -1, 0, 1e308, -1e-308, 0.5, 1:3, "", "?", NA_character_, character(), numeric(), list(),
    list(1, "a"), TRUE, c(TRUE, NA), mean, quote(x + y), data.frame(), factor("a"), Sys.Date(), as.raw(1:3), 1i,
    globalenv(), matrix(1:4, 2), "\u00e9\u4e2d\U0001f33f", strrep("long ", 200), "\xff\xfe", "{x}", "{.fn stop}",
    "%s%n", "a\nb", "'; DROP TABLE measurements; --", "<script>alert(1)</script>", "\\input{x}", "=1+1", 2^53,
    .Machine$integer.max
  )
}
# `usual`, or sometimes junk.
or_junk <- function(usual, p = 0.03) if (chance(p)) junk() else usual

hostile_labels <- c(
  "", " ", "NA", "TRUE", "1", "a b", "a,b", "a;b", "\"", "'", "`", "\\", "\n", "\t", "{", "}", "{x}", "{.val y}",
  "%d", "$", "_", "<b>", "&amp;", "</script>", "](http:)", "| a", "#", "=cmd()", "@", "\u00e9", "\u4e2d",
  "\U0001f33f", "\u202eabc", "nul", "..", "../x", "/", ".data", "first", "difference", "vandro", "inf", "-",
  strrep("x", 300), "'; DROP TABLE m; --", "\u00a0", "e\u0301", "\xff\xfe", `Encoding<-`("gr\xfcn", "latin1")
)
plain_labels <- c("compost", "peat", "noon", "dawn", "bare", "sown", "north", "middle", "south")
labels <- function(k) if (chance(0.25)) rep_len(some(hostile_labels, k), k) else rep_len(some(plain_labels, k), k)

numbers <- function(n) {
  x <- pick(
    stats::rnorm(n), stats::rnorm(n, 12, 3), round(stats::rnorm(n, 20, 4), 1), round(stats::rnorm(n)),
    stats::rexp(n), stats::rt(n, 2), rep(stats::rnorm(1), n), stats::rnorm(n) + 1e12, stats::rnorm(n) * 1e-160,
    stats::rnorm(n) * 1e160, stats::rnorm(n) * 1e300, stats::rnorm(n) * 1e-310, sample(0:1, n, TRUE), seq_len(n),
    rep_len(c(0, 1e308, -1e308), n), c(rep(0, max(0, n - 1)), 1)[seq_len(n)], stats::rcauchy(n), numeric(n)
  )
  if (n > 0 && chance(0.2)) x[sample.int(n, pick(1, 2, sample.int(n, 1)), TRUE)] <- pick(NA, NaN, NA, -99, 999)
  if (n > 0 && chance(0.03)) x[sample.int(n, 1)] <- pick(Inf, -Inf)
  x
}

# Classes of columns that other packages make. A 64-bit integer is a double whose bits are the number.
whole_64 <- function(n) {
  halves <- rbind(sample(c(0:9, .Machine$integer.max), n, TRUE), rep_len(pick(0L, 0L, 2097152L, -1L), n))
  structure(readBin(writeBin(as.vector(halves), raw()), "double", n), class = "integer64")
}
declared_missing <- function(x) {
  structure(replace(x, seq_along(x) %% 5 == 0, -99),
    na_values = -99, class = c("haven_labelled_spss", "haven_labelled", "vctrs_vctr", "double")
  )
}
with_unit <- function(x) {
  unit <- structure(list(numerator = pick("cm", "mm"), denominator = character()), class = "symbolic_units")
  structure(x, units = unit, class = "units")
}
# A factor that has NA among its levels, wherever that stands.
missing_level <- function(x) factor(x, levels = sample(unique(c(x, NA))), exclude = NULL)

column <- function(n) {
  x <- numbers(n)
  if (chance(0.8)) return(x)
  pick(
    suppressWarnings(as.integer(x)), as.character(x), factor(x), x > 0, as.complex(x),
    as.Date("2026-03-02") + seq_len(n),
    as.POSIXct("2026-03-02", tz = "UTC") + seq_len(n), as.difftime(x, units = pick("mins", "hours", "secs")),
    as.list(x), whole_64(n), declared_missing(x), with_unit(x), addNA(factor(x)),
    matrix(rep(x, 2), n), I(x), suppressWarnings(format(x, big.mark = ",")), rep(NA, n), rep("", n),
    structure(x, names = sprintf("r%d", seq_len(n))), structure(x, class = "odd"), sub(".", ",", x, fixed = TRUE),
    replace(as.character(x), min(1, n), pick("\xff\xfe", `Encoding<-`("\xe9", "latin1")))
  )
}

group_column <- function(n, groups) {
  x <- rep_len(sample(groups), n)[sample.int(max(1, n), n, n < 1)]
  if (n > 0 && chance(0.15)) x[sample.int(n, 1)] <- NA
  if (chance(0.75)) return(x)
  pick(
    missing_level(x), missing_level(x), c(0.3, 0.1 + 0.2, 0.7)[match(x, groups)], 1e5 * match(x, groups),
    2^53 + 2 * match(x, groups), whole_64(n),
    factor(x), factor(x, levels = unique(c(groups, "unused"))), match(x, groups), match(x, groups) - 1L,
    x == groups[[1]],
    as.list(x), as.numeric(match(x, groups)) / 3, factor(x, ordered = TRUE), as.Date("2026-01-01") + match(x, groups)
  )
}

sizes <- function() if (chance(0.04)) pick(0, 1) else pick(2, 3, 4, 5, 6, 8, 12, 16, 20, 24, 30, 40, 47, 60, 120)

# A long table: two outcomes, groups, a third column, units, an order, counts, pairs side by side.
long_data <- function(n = sizes()) {
  groups <- labels(if (chance(0.9)) 2 else pick(1, 3))
  x <- data.frame(row = seq_len(n))
  x$height <- column(n)
  x$mass <- numbers(n)
  x$group <- group_column(n, groups)
  x$bench <- rep_len(labels(pick(1, 2, 3)), n)
  x$plant <- if (chance(0.8)) sprintf("P%d", seq_len(n)) else rep_len(c("P1", "P2", NA), n)
  x$hour <- if (chance(0.8)) seq_len(n) else column(n)
  x$plants <- if (chance(0.7)) sample(0:5, n, TRUE) else column(n)
  x$noon <- numbers(n)
  x$dawn <- if (chance(0.5)) x$noon + stats::rnorm(n) else column(n)
  x$row <- NULL
  if (chance(0.05)) names(x)[[sample.int(ncol(x), 1)]] <- pick("", NA, "height", "`x`", "\u00e9", "if", ".data")
  if (chance(0.05)) x <- x[, sample.int(ncol(x), sample.int(ncol(x), 1)), drop = FALSE]
  if (chance(0.1)) x <- suppressMessages(tibble::as_tibble(x, .name_repair = "minimal"))
  if (chance(0.05)) x <- data.table::as.data.table(x)
  attr(x, "groups") <- groups
  x
}
