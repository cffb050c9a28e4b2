# How time grows with the number of values: ours, the way of doing it by hand in R, and what the machine needs to read
# or sort them at least. Writes bench/growth.csv, bench/GROWTH.md and bench/growth.png. Some ten minutes; 1e8 values
# want 12 GB of memory (fewer: Rscript bench/growth.R 1e7).
source("bench/helper.R")
suppressMessages(library(vandro))
largest <- as.numeric(c(commandArgs(trailingOnly = TRUE), 1e8)[[1]])
core <- asNamespace("vandro")

# Seconds of one call: repeated until a tenth of a second is full, the median of five such; where one call takes longer
# than a second, that.
seconds_of <- function(task) {
  all <- function(times) {
    start <- proc.time()[["elapsed"]]
    for (i in seq_len(times)) task()
    proc.time()[["elapsed"]] - start
  }
  times <- 1
  took <- all(times)
  if (took > 1) return(took)
  while (took < 0.1) {
    times <- times * if (took < 0.01) 10 else ceiling(0.12 / took)
    took <- all(times)
  }
  stats::median(replicate(5, all(times))) / times
}

by_hand_welch <- function(x, y) {
  v <- c(stats::var(x) / length(x), stats::var(y) / length(y))
  df <- sum(v)^2 / sum(v^2 / (c(length(x), length(y)) - 1))
  gap <- mean(x) - mean(y)
  c(gap, 2 * stats::pt(-abs(gap / sqrt(sum(v))), df), gap + c(-1, 1) * stats::qt(0.975, df) * sqrt(sum(v)))
}
by_hand_ranks <- function(x, y) {
  ranks <- rank(c(x, y))
  u <- sum(ranks[seq_along(x)]) - length(x) * (length(x) + 1) / 2
  n <- as.numeric(length(x))
  m <- as.numeric(length(y))
  ties <- table(ranks)
  sd <- sqrt(n * m / 12 * (n + m + 1 - sum(as.numeric(ties)^3 - ties) / ((n + m) * (n + m - 1))))
  c(u, 2 * stats::pnorm(-abs(u - n * m / 2), sd = sd))
}
by_hand_shift <- function(x, y) stats::median(outer(x, y, "-"))
by_hand_permutation <- function(x, y) {
  all <- c(x, y)
  seen <- mean(x) - mean(y)
  mean(replicate(1000, {
    chosen <- sample.int(length(all), length(x))
    abs(mean(all[chosen]) - mean(all[-chosen])) >= abs(seen)
  }))
}

# `most`: sizes above it take minutes, or more memory than there is; `hand_most` the same by hand.
tasks <- list(
  "Welch: p, interval, bound" = list(
    ours = function(d) test_difference(d$study), hand = function(d) by_hand_welch(d$x, d$y),
    limit = function(d) c(sum(d$x), sum(d$y)), limit_name = "sum() of both", most = 1e8, hand_most = 1e8
  ),
  "declared, then Welch" = list(
    ours = function(d) test_difference(versus(first = d$x, second = d$y, groups = c("compost", "peat"))),
    hand = function(d) by_hand_welch(d$x, d$y), limit = function(d) c(sum(d$x), sum(d$y)),
    limit_name = "sum() of both", most = 1e8, hand_most = 1e8
  ),
  "ranks: U, p, shift with interval" = list(
    ours = function(d) test_difference(
      d$study, "ranks", options = method_options(exact = FALSE)
    ), hand = function(d) by_hand_ranks(d$x, d$y),
    limit = function(d) sort(c(d$x, d$y), method = "radix"), limit_name = "one radix sort", most = 1e7, hand_most = 1e6
  ),
  "shift alone" = list(
    ours = function(d) {
      samples <- core$core_rank_samples(d$x, d$y)
      core$core_pairwise_at(samples$first, samples$second, length(d$x) * length(d$y) / 2)
    },
    hand = function(d) by_hand_shift(d$x, d$y), limit = function(d) sort(c(d$x, d$y), method = "radix"),
    limit_name = "one radix sort", most = 1e7, hand_most = 1e4
  ),
  "permutation: 1000 draws, p and interval" = list(
    ours = function(d) test_difference(
      d$study, "permutation", options = method_options(statistic = "difference", draws = 1000), seed = 1
    ),
    hand = function(d) by_hand_permutation(d$x, d$y),
    limit = function(d) for (i in 1:1000) sum(d$x), limit_name = "1000 times sum() of half", most = 1e6,
    hand_most = 1e5
  ),
  "d with BCa bootstrap, 1000 draws" = list(
    ours = function(d) gauge_effect(
      d$study, "d_pooled", interval = "bootstrap", options = method_options(draws = 1000), seed = 1
    ),
    hand = function(d) {
      replicate(1000, {
        x <- sample(d$x, replace = TRUE)
        y <- sample(d$y, replace = TRUE)
        (mean(x) - mean(y)) / sqrt((stats::var(x) + stats::var(y)) / 2)
      })
    },
    limit = function(d) for (i in 1:1000) sum(d$x), limit_name = "1000 times sum() of half", most = 1e6,
    hand_most = 1e5
  )
)

rows <- list()
for (n in 10^(2:8)) {
  if (n > largest) next
  set.seed(1)
  d <- list(x = stats::rnorm(n / 2, 20, 3), y = stats::rnorm(n / 2, 18, 3))
  # Continuous values: nothing is gained from ties or decimals. Far enough apart that no draws leave p open, which would
  # time the warning.
  d$study <- suppressMessages(versus(first = d$x, second = d$y, groups = c("compost", "peat")))
  for (name in names(tasks)) {
    task <- tasks[[name]]
    if (n > task$most) next
    time <- function(what, most) {
      if (n > most) NA_real_ else suppressWarnings(suppressMessages(seconds_of(function() what(d))))
    }
    rows[[length(rows) + 1]] <- data.frame(
      task = name, values = n, vandro = time(task$ours, task$most), by_hand = time(task$hand, task$hand_most),
      limit = time(task$limit, task$most), limit_is = task$limit_name
    )
    print(rows[[length(rows)]], row.names = FALSE, digits = 3)
  }
  rm(d)
  gc(FALSE)
}
table <- do.call(rbind, rows)
table$faster_than_by_hand <- table$by_hand / table$vandro
table$times_the_limit <- table$vandro / table$limit
for (column in c("vandro", "by_hand", "limit", "faster_than_by_hand", "times_the_limit")) {
  table[[column]] <- signif(table[[column]], 3)
}
utils::write.csv(table, "bench/growth.csv", row.names = FALSE, na = "")
shown <- function(seconds) {
  ifelse(is.na(seconds), "", ifelse(
    seconds < 1e-3, sprintf("%.3g \u00b5s", 1e6 * seconds),
    ifelse(seconds < 1, sprintf("%.3g ms", 1000 * seconds), sprintf("%.3g s", seconds))
  ))
}
times <- function(x) ifelse(is.na(x) | is.infinite(x), "", sprintf("%.3g", x))
lines <- sprintf(
  "| %s | %s | %s | %s | %s | %s | %s |", table$task, format(
    table$values, big.mark = " ", trim = TRUE, scientific = FALSE
  ),
  shown(table$vandro), shown(table$by_hand), paste0(shown(table$limit), ", ", table$limit_is),
  times(table$faster_than_by_hand), times(table$times_the_limit)
)
writeLines(c(
  "# Growth with the number of values", "",
  "Written by `Rscript bench/growth.R` (the last step of `make bench`): medians of one run. Small times jitter; the",
  "declaration counts the moments that Welch then takes. Empty: minutes, or more memory than there is.",
  "", "![Time over the number of values for six tasks, in three lines each](growth.png)", "",
  "| what | values | vandro | by hand in R | the machine's limit | times faster than by hand | times the limit |",
  "|---|---|---|---|---|---|---|", lines
), "bench/GROWTH.md")

suppressMessages(library(ggplot2))
long <- rbind(
  data.frame(table[c("task", "values")], seconds = table$vandro, who = "vandro"),
  data.frame(table[c("task", "values")], seconds = table$by_hand, who = "by hand in R"),
  data.frame(table[c("task", "values")], seconds = table$limit, who = "the machine's limit")
)
long <- long[!is.na(long$seconds) & long$seconds > 0, ]
long$task <- factor(long$task, names(tasks))
long$who <- factor(long$who, c("by hand in R", "vandro", "the machine's limit"))
figure <- ggplot(long, aes(values, seconds, colour = who, shape = who)) +
  geom_line() +
  geom_point(size = 1.8) +
  facet_wrap(vars(task), ncol = 3) +
  scale_x_log10(breaks = 10^c(2, 4, 6, 8), labels = c("100", "10 000", "1e6", "1e8")) +
  scale_y_log10(breaks = 10^c(-6, -4, -2, 0, 2), labels = c("1 \u00b5s", "0.1 ms", "10 ms", "1 s", "100 s")) +
  scale_colour_manual(values = c("#D9722B", "#0B5563", "#9A9A9A")) +
  labs(x = "values in both groups together", y = NULL, colour = NULL, shape = NULL) +
  theme_minimal(base_size = 11) +
  theme(legend.position = "top", panel.grid.minor = element_blank(), panel.spacing = grid::unit(1.2, "lines"))
ggsave("bench/growth.png", figure, width = 1280 / 130, height = 800 / 130, dpi = 130)
