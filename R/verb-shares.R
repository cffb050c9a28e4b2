# Long work in shares: one after the other here, or at once on the workers of a plan of package future. A share is told
# by the numbers of its draws, and every draw has a random stream of its own, so that results are the same for any
# number of workers.

# work(from, to) for draws `from` to `to` - 1 of `count`, `step` at a time. A list of what the shares found, in order.
in_shares <- function(count, step, work, what) {
  starts <- seq(0, count - 1, by = step)
  ends <- pmin(count, starts + step)
  if (length(starts) > 1 && workers_planned() > 1) return(on_workers(starts, ends, work))
  bar <- if (length(starts) > 1) cli::cli_progress_bar(what, total = count)
  lapply(seq_along(starts), function(k) {
    found <- work(starts[[k]], ends[[k]])
    if (!is.null(bar)) cli::cli_progress_update(set = ends[[k]], id = bar)
    found
  })
}

# Random assignments are shared only among workers: alone they are fast enough to need no progress. `step`: what a share
# is a multiple of.
draw_shares <- function(count, step, work) {
  workers <- workers_planned()
  if (workers < 2) return(list(work(0, count)))
  in_shares(count, step * max(1, ceiling(count / step / (4 * workers))), work, "Reassigning")
}

# Workers of the analyst's own plan; nothing is asked of future where it was never loaded.
workers_planned <- function() {
  if (!isNamespaceLoaded("future")) return(1)
  future::nbrOfWorkers()
}

on_workers <- function(starts, ends, work) {
  running <- Map(function(from, to) {
    future::future(work(from, to), globals = list(work = work, from = from, to = to), packages = "vandro", seed = NULL)
  }, starts, ends)
  unname(lapply(running, future::value))
}
