# P-values of many outcomes adjusted together, and intervals that hold all of them at once.

# `p`: NA where there is none, which counts for nothing. Ways: Bonferroni (Dunn 1961), Holm (1979), Hochberg (1988),
# which control the chance of any false rejection, and Benjamini & Hochberg (1995), the false discovery rate.
core_adjust_p <- function(p, way) {
  known <- which(!is.na(p))
  m <- length(known)
  if (m == 0) return(p)
  rank <- order(p[known])
  sorted <- p[known][rank]
  at <- seq_len(m)
  adjusted <- switch(way,
    bonferroni = m * sorted,
    holm = cummax((m - at + 1) * sorted),
    hochberg = rev(cummin(rev((m - at + 1) * sorted))),
    benjamini_hochberg = rev(cummin(rev(m / at * sorted)))
  )
  p[known[rank]] <- pmin(1, adjusted)
  p
}

# Level of each of `m` intervals that together hold at `level` (Bonferroni; Dunn 1961).
core_joint_level <- function(level, m) 1 - (1 - level) / m

# One share of the work: draws `from` to `to` of the same reassignments of all columns of `values` (Westfall & Young
# 1993), or with `all` of their list. Rows of two groups stand block by block with the first group's own in front
# (`sizes`, `chosen`); without blocks they are changes, whose signs are flipped. `kind`: "welch", "student", "changes".
# Counts the reassignments in which the largest statistic is at least the observed one: of all outcomes (`single`), of
# those that are no farther out (`stepped`).
core_max_t_share <- function(joint, from, to, threads = 1) {
  sides <- c(either = 0L, higher = 1L, lower = -1L)[[joint$expect]]
  native_max_t(
    joint$values, joint$sizes, joint$chosen, joint$kind, sides, joint$all, joint$seed, from, to, threads
  )
}

# Adjusted p from the counts of all shares; random draws count the observed assignment as one more.
core_max_t <- function(counts, drawn) {
  total <- length(counts$largest) + drawn
  stepped <- (counts$stepped + drawn) / total
  # From the largest statistic down none is smaller than the one before (Westfall & Young 1993, algorithm 4.1).
  rank <- order(counts$observed, decreasing = TRUE)
  stepped[rank] <- cummax(stepped[rank])
  list(max_t_single = (counts$single + drawn) / total, max_t = stepped, total = total)
}

# Sum of the shares of the work, each found by native_max_t(), in their order.
core_join_max_t <- function(shares) {
  add <- function(name) Reduce(`+`, lapply(shares, `[[`, name))
  list(
    observed = shares[[1]]$observed, single = add("single"), stepped = add("stepped"),
    largest = unlist(lapply(shares, `[[`, "largest"))
  )
}

# The t that the largest of all exceeds in at most a share `alpha` of the reassignments: intervals estimate -/+ t se
# exclude exactly what the single-step test rejects. NA where so few reassignments allow none.
core_max_t_limit <- function(largest, alpha, drawn) {
  within <- floor(alpha * (length(largest) + drawn) + 1e-9)
  if (within < 1 || within > length(largest)) return(NA_real_)
  sort(largest, decreasing = TRUE)[[within]]
}

# Number of reassignments in all.
core_joint_assignments <- function(sizes, chosen, rows) {
  if (length(sizes) == 0) 2^rows else prod(choose(sizes, chosen))
}
