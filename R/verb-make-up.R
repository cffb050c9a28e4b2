#' Make up a study
#'
#' Data from a supposed world, for teaching and for trying out an analysis before there are data. Seed and world stay
#' with the study: they are printed with everything that is computed from it, and sentences say that the data are made
#' up.
#'
#' @param world A world from [suppose_world()].
#' @param n Sizes of both groups, first and second, or one number for each; of pairs their number.
#' @param ... Must be empty.
#' @param seed Seed; the same seed makes the same data everywhere. `NULL`: one is drawn and kept.
#' @return A study (class `vandro_study`), see [versus()]; `as.data.frame()` gives its measurements. They are rounded:
#'   to the world's `rounded_to`, or to four digits of the smaller SD, so that no computer's last binary digit matters.
#' @section Formula: Random numbers are those of xoshiro256++ (Blackman & Vigna 2021), a stream for each study; normal
#'   ones by the polar method of Marsaglia & Bray (1964). Of pairs the changes have the shape, and the second
#'   measurement is linear in the change plus a normal rest, so that both SDs and r hold.
#' @section Errors: `vandro_error_not_a_world`, `vandro_error_bad_value`.
#' @references Blackman, D. & Vigna, S. (2021). Scrambled linear pseudorandom number generators. *ACM Transactions on
#'   Mathematical Software* 47, 36.
#'
#'   Marsaglia, G. & Bray, T. A. (1964). A convenient method for generating normal variables. *SIAM Review* 6, 260-264.
#' @examples
#' world <- suppose_world(2.5,
#'   sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' made_up <- make_up_study(world, n = c(24, 22), seed = 7)
#' test_difference(made_up)
#' head(as.data.frame(made_up))
#' @export
make_up_study <- function(world, n, ..., seed = NULL) {
  check_supplied(world)
  check_supplied(n)
  refuse_more(...)
  call <- rlang::current_env()
  check_world(world, call)
  size <- check_sizes(if (is.list(n)) check_sizes_single(n, call) else n, supposed_study(world), call)[[1]]
  seed <- if (is.null(seed)) draw_seed() else check_whole(seed, 0, 2^53)
  values <- core_made_up(world, size[[1]], size[[2]], seed)
  common <- list(groups = world$groups, unit = world$unit, label = world$label)
  study <- if (!world$paired) {
    do.call(versus, c(list(first = values$first, second = values$second), common))
  } else if (is.na(world$r)) {
    rlang::inject(versus_paired(data.frame(change = values$change), change = "change", !!!common))
  } else {
    rlang::inject(versus_paired(data.frame(first = values$first, second = values$second), "first", "second", !!!common))
  }
  study$made_up <- format_plain(seed, scientific = FALSE)
  study$notes <- c(study$notes, sprintf("The data are made up (seed %s): %s.", study$made_up, world_line(world)))
  study
}

check_sizes_single <- function(n, call) {
  abort_vandro(
    c("{.arg n} must be one design.", "i" = "Call {.fn make_up_study} once for each."), "bad_value",
    arg = "n", call = call
  )
}
