# The smallest n for a wanted power or width, and rates over many n.

# Beyond so many a group n is not looked for.
most_by_formula <- 1e7
most_by_simulation <- 5000

# The row of the smallest n, and those of the sizes that a simulated search tried on the way.
found_row <- function(method, world, name, question, wanted, options, call) {
  if (!is.null(wanted$power)) check_reachable(world, name, question, call)
  exact <- by_formula(world, method, options)
  size_of <- function(n) c(n, if (world$paired) n else core_other_size(n, options$ratio))
  row_of <- function(n, options) {
    if (exact) return(formula_row(size_of(n), world, name, method, question))
    rehearsed_rows(size_of(n), world, name, method, question, options)[[1]]
  }
  # Widths of counted intervals take long: while power is sought they are left out.
  quick <- options
  quick$widths <- is.null(wanted$power)
  tried <- list()
  enough <- function(n) {
    row <- row_of(n, quick)
    if (!exact) tried[[length(tried) + 1]] <<- row
    if (is.null(wanted$power)) isTRUE(row$half_width <= wanted$half_width) else row$power >= wanted$power
  }
  most <- if (exact) most_by_formula else most_by_simulation
  n <- core_smallest_enough(enough, 2, most, guess_size(world, question, wanted, method, options))
  if (is.na(n)) {
    most <- format_plain(most, scientific = FALSE)
    abort_vandro(
      c(
        "More than {most} values a group would be needed ({.val {method}}).", world_bullet(name),
        "i" = if (exact) "The difference is too small for what is wanted of it." else
          "By simulation no larger n is looked for. For t tests in normal worlds there is a formula."
      ),
      "out_of_reach",
      call = call
    )
  }
  list(row = row_of(n, options), tried = tried)
}

guess_size <- function(world, question, wanted, method, options) {
  sd <- if (world$paired) world$sd_change else world$sd
  sides <- question$sides
  if (is.null(wanted$power)) {
    if (!in_unit_by(method)) return(20)
    return(core_guess_n(wanted$half_width, sd, options$ratio, world$paired, (1 - question$level) / 2, 0.5))
  }
  distance <- min(abs(world$difference - c(sides$up_at, sides$down_at)))
  power <- if (sides$both && world$difference == sum(question$bounds) / 2) (1 + wanted$power) / 2 else wanted$power
  core_guess_n(distance, sd, options$ratio, world$paired, sides$tail, power)
}

# No n makes a test find what is not there.
check_reachable <- function(world, name, question, call) {
  if (!null_is_true(world, question)) return(invisible())
  difference <- format_plain(world$difference, digits = 6)
  what <- if (is.null(question$bounds)) {
    c(
      "x" = "The supposed difference is {difference}, and H0 says: {if (question$expect == 'either') 'exactly' else if
        (question$expect == 'higher') 'at most' else 'at least'} {question$beyond}.",
      "i" = "Where H0 is true a test rejects with probability alpha at most, whatever n. Suppose the smallest difference
        that matters, or give {.arg n} to see the error rate."
    )
  } else {
    bounds <- paste(format_plain(question$bounds, digits = 6, trim = TRUE), collapse = " to ")
    c(
      "x" = "The supposed difference is {difference}, and the bounds are {bounds}.",
      "i" = "Outside its bounds, or on one of them, groups are not equivalent: a verdict of equivalence would be an
        error, of probability alpha at most. Suppose a difference inside, often 0, or give {.arg n} to see the error
        rate."
    )
  }
  abort_vandro(
    c("No n reaches this power: there is nothing to find.", world_bullet(name), what), "out_of_reach",
    call = call
  )
}

# Which of several worlds a message is about; `name` is looked up where the message is raised.
world_bullet <- function(name) if (!is.na(name)) c("x" = "In the world {.val {name}}.")

# Rates over sizes around those of an answer: by formula wherever there is one, else those that were simulated.
rehearsal_curve <- function(answer) {
  table <- answer$table
  s <- answer$settings
  groups <- split(seq_len(nrow(table)), list(table$world, table$method, table$computed_by), drop = TRUE)
  if (all(is.na(table$world))) groups <- split(seq_len(nrow(table)), list(table$method, table$computed_by), drop = TRUE)
  curves <- lapply(groups, function(at) {
    rows <- table[at, ]
    world <- answer$detail$worlds[[if (is.na(rows$world[[1]])) 1 else rows$world[[1]]]]
    question <- rehearsed_question(
      list(world), s$expect, s$beyond, s$within, s$bounds_in, s$alpha, s$level, NULL
    )$questions[[1]]
    if (rows$computed_by[[1]] != "formula") {
      if (is.null(s$power) && is.null(s$half_width)) return(rows)
      return(around_found(rows, answer, world, question))
    }
    ratio <- rows$n_second[[1]] / rows$n_first[[1]]
    # Sizes that share no ratio do not lie on one curve.
    if (any(abs(rows$n_second / rows$n_first - ratio) > 0.05 * ratio)) return(rows)
    sizes <- unique(c(round(seq(2, 1.6 * max(table$n_first), length.out = 60)), rows$n_first))
    lean_table(bind_rows(lapply(sort(sizes), function(n) {
      other <- if (world$paired) n else core_other_size(n, ratio)
      formula_row(c(n, other), world, rows$world[[1]], rows$method[[1]], question)
    })))
  })
  do.call(rbind, curves)
}

# The row that a simulated search found, with the sizes that it tried and some more to either side.
around_found <- function(row, answer, world, question) {
  s <- answer$settings
  tried <- answer$detail$tried
  tried <- tried[tried$method == row$method & tried$world %in% row$world & tried$n_first != row$n_first, ]
  more <- setdiff(pmax(2, round(row$n_first * c(0.2, 0.4, 0.6, 0.8, 1.25, 1.6))), c(row$n_first, tried$n_first))
  options <- c(s[c("draws", "seed", "statistic")], list(
    simulate = TRUE, threads = answer$detail$threads, widths = is.null(s$power)
  ))
  added <- unlist(lapply(more, function(n) {
    size <- c(n, if (world$paired) n else core_other_size(n, s$ratio))
    rehearsed_rows(size, world, row$world, row$method, question, options)
  }), recursive = FALSE)
  all <- rbind(row, tried, if (length(added)) lean_table(bind_rows(added)))
  all[order(all$n_first), ]
}
