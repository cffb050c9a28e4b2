# Worlds: what is supposed of the populations before there are data. A list of class vandro_world with
#   paired, difference, difference_sd, mean (of the second group), sd (two), r and sd_change (pairs), shape (two; of
#   pairs the changes'), rounded_to, groups, unit, label

#' Suppose a world
#'
#' What is assumed of two populations, or of the changes between paired measurements, before there are data: the true
#' difference, the spreads, the shape. [rehearse_study()] tells what a design would find in it, [make_up_study()] makes
#' data from it.
#'
#' @param difference True difference of the means, first group minus second, in the unit of the outcome.
#' @param sd Standard deviations of the populations: one for both, or first and second. Left out with `standardized`: 1.
#' @param ... Must be empty.
#' @param standardized In place of `difference`: the true difference in SDs; the root of the mean of both variances, of
#'   pairs the SD of the changes.
#' @param mean True mean of the second group.
#' @param r Correlation of paired measurements; makes the design paired.
#' @param sd_change Standard deviation of the changes, where that is known and `sd` and `r` are not.
#' @param difference_sd How unsure the difference is: the SD of a normal distribution around it. Above 0 the chance to
#'   find something, averaged over what may be true, is told too (assurance).
#' @param shape Shape of the populations, one for both groups or first and second; of pairs that of the changes:
#'   `"normal"`, `"uniform"`, `"skewed"` (exponential, skewness 2), `"strongly_skewed"` (lognormal, skewness 6.2) or
#'   `"heavy_tailed"` (t on 5 degrees of freedom, excess kurtosis 6), with the given means and SDs.
#' @param rounded_to Step to which measurements are rounded, as 0.5; `NULL`: not at all.
#' @param groups Labels of the two groups, or of the two measurements.
#' @param label,unit Label and unit of the outcome.
#' @return `suppose_world()`: a world (class `vandro_world`). `vary_world()`: a list of worlds, each named by what is
#'   its own.
#' @section Errors: `vandro_error_bad_value`, `vandro_error_missing_ingredient`, `vandro_error_contradiction`.
#' @examples
#' world <- suppose_world(2.5,
#'   sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' world
#' pairs <- suppose_world(standardized = 0.5, r = 0.6, groups = c("noon", "dawn"))
#' vary_world(world, sd_ratio = c(1, 2, 4))
#' @export
suppose_world <- function(difference = NULL, sd = NULL, ..., standardized = NULL, mean = 0, r = NULL, sd_change = NULL,
                          difference_sd = 0, shape = "normal", rounded_to = NULL, groups = c("first", "second"),
                          unit = NULL, label = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  refuse_pilot(difference, call)
  groups <- check_labels(groups)
  world <- list(paired = !is.null(r) || !is.null(sd_change))
  world <- c(world, world_spread(sd, r, sd_change, standardized, groups, call))
  world$mean <- check_number(mean)
  world$difference <- world_difference(difference, standardized, world, call)
  world$difference_sd <- check_number(difference_sd, 0)
  check_magnitude(
    c(world$sd, world$sd_change, world$mean, world$difference), check_text(label) %||% "outcome"
  )
  if (!is.character(shape) || !length(shape) %in% 1:2) check_choice(shape, made_up_shapes)
  world$shape <- vapply(rep_len(shape, 2), check_choice, "", made_up_shapes, arg = "shape", USE.NAMES = FALSE)
  world$rounded_to <- if (!is.null(rounded_to)) check_spread(rounded_to, "rounded_to", call)
  world <- c(world, list(groups = groups, unit = check_text(unit), label = check_text(label) %||% "outcome"))
  structure(world, class = "vandro_world")
}

# What a study found cannot stand for what is true.
refuse_pilot <- function(x, call) {
  if (!inherits(x, c("vandro_study", "vandro_answer"))) return(invisible())
  abort_vandro(
    c(
      "A world is what is supposed to be true, not what a study found.",
      "x" = "Power computed from an observed difference (\"observed power\") says nothing that p does not: it is p on
        another scale (Hoenig & Heisey 2001), near 0.5 where p is near alpha, whatever the design.",
      "i" = "Take the SDs from the study and the smallest difference that matters from the field:
        {.code suppose_world(difference = 2, sd = c(3, 4))}.",
      "i" = "What the data leave open, an interval or {.fn test_equivalence} tells."
    ),
    "observed_power",
    call = call
  )
}

world_spread <- function(sd, r, sd_change, standardized, groups, call) {
  if (is.null(sd) && !is.null(standardized) && is.null(sd_change)) sd <- 1
  if (!is.null(sd)) {
    if (is.numeric(sd) && length(sd) == 1) sd <- rep(sd, 2)
    sd <- check_pair(sd, low = 0, open = TRUE, groups = groups, arg = "sd", call = call)
  }
  if (is.null(r) && is.null(sd_change)) {
    if (is.null(sd)) {
      abort_vandro(
        c(
          "The spread is needed.",
          "i" = "Give {.arg sd}: one for both groups, or two. For pairs give {.arg r} too, or {.arg sd_change}."
        ),
        "missing_ingredient",
        call = call
      )
    }
    return(list(sd = sd, r = NA_real_, sd_change = NA_real_))
  }
  spread <- change_spread(2, sd, r, sd_change, NULL, call)
  if (!spread$sd > 0) {
    abort_vandro(
      c(
        "The changes must vary.", "x" = "With these SDs and r = {r} every change would be the same.",
        "i" = "Give a correlation below 1."
      ),
      "bad_value",
      arg = "r", call = call
    )
  }
  known <- if (is.null(sd)) rep(NA_real_, 2) else sd
  list(sd = known, r = if (is.null(sd)) NA_real_ else as.double(spread$r), sd_change = spread$sd)
}

world_difference <- function(difference, standardized, world, call) {
  if (is.null(difference) == is.null(standardized)) {
    abort_vandro(
      c(
        "Give {.arg difference} or {.arg standardized}, one of the two.",
        "i" = "The true difference in the outcome's unit, or in SDs: {.code suppose_world(2, sd = 4)} is
          {.code suppose_world(standardized = 0.5, sd = 4)}."
      ),
      "contradiction",
      call = call
    )
  }
  if (!is.null(difference)) return(check_number(difference, arg = "difference", call = call))
  check_number(standardized, arg = "standardized", call = call) * world_sd(world)
}

# The SD that a standardized difference is in.
world_sd <- function(world) if (world$paired) world$sd_change else sqrt(sum(world$sd^2) / 2)

#' @rdname suppose_world
#' @param world A world.
#' @details `vary_world(world, ...)` takes, by name, several values of `difference`, `standardized`, `sd_ratio` (SD of
#'   the first group over that of the second, the mean of both variances kept), `r`, `shape`, `rounded_to`,
#'   `difference_sd`, and makes every combination.
#' @export
vary_world <- function(world, ...) {
  check_supplied(world)
  call <- rlang::current_env()
  check_world(world, call)
  varied <- rlang::list2(...)
  known <- c("difference", "standardized", "sd_ratio", "r", "shape", "rounded_to", "difference_sd")
  if (length(varied) == 0 || is.null(names(varied)) || !all(names(varied) %in% known)) {
    off <- setdiff(if (is.null(names(varied))) rep("", length(varied)) else names(varied), known)
    abort_vandro(
      c(
        "What is varied must be named: {.or {.arg {known}}}.", "x" = if (length(off)) "Found: {.val {off}}.",
        "i" = "For example {.code vary_world(world, sd_ratio = c(1, 2, 4))}."
      ),
      "bad_value",
      call = call
    )
  }
  combinations <- do.call(expand.grid, c(varied, list(stringsAsFactors = FALSE, KEEP.OUT.ATTRS = FALSE)))
  worlds <- lapply(seq_len(nrow(combinations)), function(i) {
    varied_world(world, as.list(combinations[i, , drop = FALSE]), call)
  })
  names(worlds) <- do.call(paste, c(unname(Map(function(name, values) {
    text <- if (is.numeric(values)) vapply(values, format, "", digits = 6) else gsub("_", " ", values)
    paste0(if (name != "shape") paste0(gsub("_", " ", sub("^sd_", "SD ", name)), " "), text)
  }, names(combinations), combinations)), sep = ", "))
  worlds
}

varied_world <- function(world, values, call) {
  if (!is.null(values$sd_ratio)) {
    if (world$paired) {
      abort_vandro(
        c("{.arg sd_ratio} is for independent groups.", "i" = "A paired world depends on the changes: vary {.arg r}."),
        "contradiction",
        call = call
      )
    }
    ratio <- check_spread(values$sd_ratio, "sd_ratio", call)
    world$sd <- world_sd(world) * sqrt(2 / (1 + ratio^2)) * c(ratio, 1)
  }
  sd <- if (!anyNA(world$sd)) world$sd
  r <- values$r %||% if (world$paired && !is.null(sd)) world$r
  given <- if (is.null(values$standardized)) list(values$difference %||% world$difference) else values["standardized"]
  rlang::inject(suppose_world(
    !!!given,
    sd = sd, mean = world$mean, r = r, sd_change = if (world$paired && is.null(sd)) world$sd_change,
    difference_sd = values$difference_sd %||% world$difference_sd, shape = values$shape %||% world$shape,
    rounded_to = values$rounded_to %||% world$rounded_to, groups = world$groups, unit = world$unit, label = world$label
  ))
}

check_world <- function(world, call, arg = "world") {
  if (inherits(world, "vandro_world")) return(invisible(world))
  refuse_pilot(world, call)
  found <- class(world)[[1]]
  abort_vandro(
    c(
      "{.arg {arg}} must be a supposed world.", "x" = "It is of type {.cls {found}}.",
      "i" = "For example {.code suppose_world(difference = 2, sd = 4)}."
    ),
    "not_a_world",
    call = call
  )
}

# A study without data, for direction, unit and label of what is computed about a world.
supposed_study <- function(world) {
  known <- function(mean, sd) {
    moments <- core_unknown_moments(NA_real_)
    moments[c("base", "mean", "sd")] <- c(mean, mean, sd)
    moments
  }
  moments <- list(known(world$mean + world$difference, world$sd[[1]]), known(world$mean, world$sd[[2]]))
  if (world$paired) moments <- c(moments, list(known(world$difference, world$sd_change)))
  record <- new_outcome(world$label, world$label, world$unit, moments, list(kind = "supposed"))
  new_study(if (world$paired) "paired" else "independent", "supposed", world$groups, list(record), left_out = NULL)
}

# A world in one line, for notes and captions; of several what they share.
world_line <- function(world) paste(world_pieces(world), collapse = "; ")

shared_world_line <- function(worlds) {
  pieces <- lapply(worlds, world_pieces)
  shared <- Filter(function(piece) all(vapply(pieces, function(one) piece %in% one, NA)), pieces[[1]])
  paste(shared, collapse = "; ")
}

world_pieces <- function(world) {
  number <- function(x) paste(c(format_plain(signif(x, 4), digits = 6, trim = TRUE), world$unit), collapse = " ")
  first <- number(world$sd[[1]])
  second <- number(world$sd[[2]])
  spread <- if (!world$paired) {
    if (world$sd[[1]] == world$sd[[2]]) {
      paste("SD", first)
    } else {
      sprintf("SDs %s (%s) and %s (%s)", first, world$groups[[1]], second, world$groups[[2]])
    }
  } else if (is.na(world$r)) {
    paste("SD of the changes", number(world$sd_change))
  } else {
    c(
      sprintf("SDs %s and %s", first, second), paste("r =", format_plain(world$r, digits = 6)),
      paste("SD of the changes", number(world$sd_change))
    )
  }
  c(
    paste("true difference", number(world$difference)), spread, shape_words(world),
    if (!is.null(world$rounded_to)) paste("rounded to", number(world$rounded_to)),
    if (world$difference_sd > 0) sprintf("difference unsure by SD %s", number(world$difference_sd))
  )
}

shape_words <- function(world) {
  shape <- gsub("_", " ", world$shape)
  if (world$paired) return(paste(shape[[1]], "changes"))
  if (shape[[1]] == shape[[2]]) return(shape[[1]])
  sprintf("%s %s, %s %s", world$groups[[1]], shape[[1]], world$groups[[2]], shape[[2]])
}
