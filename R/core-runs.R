# Runs of neighbours in a series, reassigned together because neighbours resemble each other.

# Length of a run for a series of n values whose neighbours correlate by r, where dependence fades geometrically: the
# shortest for which runs taken as independent understate the variance of the mean by at most a tenth (Bayley &
# Hammersley 1946 give that variance), but at least eight runs. r is corrected for its bias in short series (Marriott &
# Pope 1954).
core_run_length <- function(r, n) {
  r <- min(r + (1 + 3 * r) / n, 0.95)
  if (r <= 0) return(1)
  lengths <- seq_len(max(1, floor(n / 8)))
  understated <- 2 * r * (1 - r^lengths) / (lengths * (1 - r^2))
  enough <- which(understated <= 0.1)
  if (length(enough)) enough[[1]] else length(lengths)
}

# Number of the run of each of n values in order; a run does not reach across a gap (`gaps`: places after which
# there is one). With `full`, values that do not fill a run have NA.
core_runs <- function(n, length, gaps = integer(), full = FALSE) {
  stretch <- findInterval(seq_len(n), gaps + 1)
  place <- stats::ave(seq_len(n), stretch, FUN = seq_along)
  run <- (place - 1) %/% length
  key <- paste(stretch, run)
  id <- match(key, unique(key))
  if (full) id[tabulate(id)[id] < length] <- NA
  match(id, unique(id[!is.na(id)]))
}

# Places after which the next position is more than three usual steps away.
core_gaps <- function(position) {
  step <- diff(position)
  which(step > 3 * stats::median(step))
}

# Two groups as sums over full runs, with what is left over.
core_run_sample <- function(first, second, first_run, second_run, beyond = 0) {
  steps <- core_whole_steps(list(first, second, beyond))
  sums <- Map(function(values, run) as.vector(rowsum(values[!is.na(run)], run[!is.na(run)], reorder = FALSE)),
    steps$parts[1:2], list(first_run, second_run)
  )
  count <- lengths(sums)
  length <- sum(first_run == first_run[!is.na(first_run)][[1]], na.rm = TRUE)
  list(
    values = as.double(unlist(sums)), times = rep(c(length, 0), count), sizes = as.double(sum(count)),
    chosen = as.double(count[[1]]), beyond = steps$parts[[3]], power = steps$power, whole = steps$whole,
    grain = core_grain(steps)
  )
}
