#' Lay answers side by side
#'
#' Two bounds, two methods, two data sets, two of anything: the same quantities in one row, with what differs marked,
#' both in what was asked and in what was found.
#'
#' @param ... Two or more answers of the same verb, by name: `narrow = answer, wide = other`. Names left out are
#'   "answer 1", "answer 2", ...
#' @return An answer (classes `vandro_comparison`, `vandro_answer`) about the first one's study; its table is long, with
#'   one row per quantity and answer: `line` (rows of one line belong together), `part` ("asked" or "found"), `outcome`,
#'   `item` (the method, effect size, group or check that a number belongs to), `quantity` (a column of the answers'
#'   tables, or a setting), `answer`, `value` (a number) or `text`, `in_unit` (whether the number is in the outcome's
#'   unit), and `differs`, whether the line's values are not all the same.
#' @details Rows are aligned by outcome and item, or, where every answer has one row per outcome, by outcome alone, so
#'   that two methods stand side by side; where the answers share no outcome, as with two data sets, outcomes
#'   are taken in their order. Another direction or unit is noted: such numbers cannot be compared as they stand.
#' @section Errors: `vandro_error_not_an_answer`, `vandro_error_kinds_differ`, `vandro_error_too_few`,
#'   `vandro_error_bad_value` for names that occur twice.
#' @seealso [cross_check()] for all methods on one study.
#' @examples
#' probes <- versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")
#' compare_answers(
#'   narrow = test_equivalence(probes, within = 0.3),
#'   wide = test_equivalence(probes, within = 0.6)
#' )
#' @export
compare_answers <- function(...) {
  call <- rlang::current_env()
  answers <- rlang::list2(...)
  answers <- check_answers(answers, call)
  aligned <- aligned_outcomes(answers)
  asked <- lapply(answers, asked_values)
  found <- Map(found_values, answers, aligned, MoreArgs = list(single = all_single(answers)))
  table <- rbind(comparison_part(asked, "asked"), comparison_part(found, "found"))
  new_answer(
    "comparison", table, answers[[1]]$study,
    settings = list(verb = "compare_answers", answers = names(answers)),
    detail = list(
      answers = answers, notes = comparison_notes(answers), levels = lapply(answers, function(answer) answer$table$level)
    )
  )
}

check_answers <- function(answers, call) {
  if (length(answers) < 2) {
    abort_vandro(
      c(
        "Two answers or more are needed.", "x" = "Given: {length(answers)}.",
        "i" = "For example {.code compare_answers(narrow = answer, wide = other)}."
      ),
      "too_few",
      call = call
    )
  }
  for (answer in answers) check_answer(answer, call = call)
  kinds <- vapply(answers, function(answer) class(answer)[[1]], "")
  if (length(unique(kinds)) > 1) {
    verbs <- vapply(answers, function(answer) answer$settings$verb, "")
    abort_vandro(
      c("The answers must be of one kind.", "x" = "They are of {.fn {verbs}}."),
      "kinds_differ",
      call = call
    )
  }
  given <- names(answers) %||% rep("", length(answers))
  names(answers) <- ifelse(nzchar(given), given, paste("answer", seq_along(answers)))
  if (!anyDuplicated(names(answers))) return(answers)
  twice <- unique(names(answers)[duplicated(names(answers))])
  abort_vandro(
    c("Every answer needs a name of its own.", "x" = "More than one is called {.val {twice}}."), "bad_value",
    call = call
  )
}

# The outcome of the first answer that each outcome of an answer is laid beside.
aligned_outcomes <- function(answers) {
  names <- lapply(answers, function(answer) vapply(answer$study$outcomes, `[[`, "", "name"))
  shared <- Reduce(intersect, names)
  first <- names[[1]]
  lapply(names, function(own) {
    beside <- own
    if (length(shared) == 0) beside[seq_len(min(length(own), length(first)))] <- utils::head(first, length(own))
    stats::setNames(beside, own)
  })
}

comparison_row <- function(outcome, item, quantity, value, text, in_unit) {
  list(outcome = outcome, item = item, quantity = quantity, value = value, text = text, in_unit = in_unit)
}

# What was asked: data, direction, settings.
asked_values <- function(answer) {
  study <- answer$study
  settings <- answer$settings[setdiff(names(answer$settings), c("version", "method_from"))]
  settings <- settings[!vapply(settings, is.null, NA)]
  outcome <- study$outcomes
  sizes <- vapply(outcome, function(one) {
    n <- format_plain(outcome_sizes(one), scientific = FALSE, trim = TRUE)
    if (is_paired(study)) paste(n[[1]], "pairs") else paste(n, collapse = " + ")
  }, "")
  texts <- c(
    list(
      data = study_fingerprint(study), direction = study_direction(study),
      outcome = paste(vapply(outcome, `[[`, "", "label"), collapse = ", "),
      unit = units_text(outcome),
      n = paste(sizes, collapse = ", ")
    ),
    lapply(settings, function(value) setting_text(value))
  )
  lapply(names(texts), function(name) {
    comparison_row(NA_character_, NA_character_, name, NA_real_, texts[[name]], FALSE)
  })
}

units_text <- function(outcomes) {
  units <- vapply(outcomes, function(one) one$unit %||% "none", "")
  if (all(units == "none")) "" else paste(units, collapse = ", ")
}

setting_text <- function(value) {
  if (is.list(value)) {
    return(paste(names(value), vapply(value, setting_text, ""), collapse = "; "))
  }
  if (!is.numeric(value)) return(paste(value, collapse = ", "))
  paste(vapply(value, format, "", digits = 15), collapse = if (length(value) == 2) " to " else ", ")
}

# Columns in the unit of the outcome, whatever the verb; estimates of other estimands are without it.
unit_columns <- c(
  "estimate", "se", "lower", "upper", "at_least", "at_most", "bound_low", "bound_high", "tightest", "sd_value",
  "difference_lower", "difference_upper", "mean", "sd", "median", "q1", "q3", "min", "max"
)

# What tells the rows of an answer apart, by its kind.
item_columns <- list(
  vandro_effect = "estimand", vandro_cross_check = c("method", "values"), vandro_description = "group",
  vandro_assumptions = c("check", "group"), vandro_bounds = c("bound_low", "bound_high"),
  vandro_priors = "prior_half", vandro_rehearsal = c("world", "method", "n_first", "n_second")
)

# One row per outcome in each: these are laid side by side whatever their methods.
all_single <- function(answers) {
  !any(vapply(answers, function(answer) anyDuplicated(answer$table$outcome) > 0, NA))
}

# Items of the rows, "welch" or "fences, compost"; NA where there is but one row per outcome.
answer_items <- function(table, columns) {
  if (length(columns) == 0) return(rep(NA_character_, nrow(table)))
  parts <- lapply(table[columns], function(column) ifelse(is.na(column) | column == "all", "", as.character(column)))
  gsub("^, |, $", "", do.call(paste, c(unname(parts), sep = ", ")))
}

# What was found: every column of the table that is not already said by what was asked.
found_values <- function(answer, outcomes, single) {
  table <- answer$table
  items_by <- if (!single) item_columns[[class(answer)[[1]]]] %||% "method"
  items <- answer_items(table, items_by)
  # The method that was declared is said by what was asked.
  declared <- if (single && !is.null(answer$settings$method)) "method"
  quantities <- setdiff(names(table), c(
    "outcome", "comparison", items_by, declared, "level", "expect", "beyond", "alpha", "n_first", "n_second",
    "statistic_name", "role", "use", "source", "matters_for", "stands_out", "bounds_in", "sd_of", "log_p", "bf_error",
    if (single) c("prior_location", "prior_half", "prior_df", "within_low", "within_high")
  ))
  quantities <- quantities[vapply(table[quantities], function(column) !all(is.na(column)), NA)]
  rows <- lapply(seq_len(nrow(table)), function(i) {
    lapply(quantities, function(quantity) {
      value <- table[[quantity]][[i]]
      number <- is.numeric(value)
      raw <- quantity %in% unit_columns && !isFALSE(in_outcome_unit(table$estimand[[i]]))
      comparison_row(
        outcomes[[table$outcome[[i]]]], items[[i]], quantity, if (number) as.double(value) else NA_real_,
        if (number) NA_character_ else as.character(value), number && raw
      )
    })
  })
  unlist(rows, recursive = FALSE)
}

# Lines in the order in which they first occur; a line that an answer lacks stays empty there.
comparison_part <- function(values, part) {
  flat <- do.call(rbind, Map(function(rows, name) {
    table <- lean_table(bind_rows(rows))
    table$answer <- name
    key <- paste(table$outcome, table$item, table$quantity, sep = "\r")
    table$key <- paste(key, stats::ave(seq_along(key), key, FUN = seq_along))
    table
  }, values, names(values)))
  # Not applicable in any of the answers: no line.
  known <- unique(flat$key[!is.na(flat$value) | !is.na(flat$text)])
  flat <- flat[flat$key %in% known, ]
  keys <- unique(flat$key)
  same <- vapply(split(seq_len(nrow(flat)), factor(flat$key, keys)), function(at) {
    length(at) == length(values) && length(unique(flat$value[at])) == 1 && length(unique(flat$text[at])) == 1
  }, NA)
  flat$line <- paste(part, match(flat$key, keys))
  flat$part <- part
  flat$differs <- !same[match(flat$key, keys)]
  rownames(flat) <- NULL
  flat[order(match(flat$key, keys)), c(
    "line", "part", "outcome", "item", "quantity", "answer", "value", "text", "in_unit", "differs"
  )]
}

comparison_notes <- function(answers) {
  directions <- unique(vapply(answers, function(answer) study_direction(answer$study), ""))
  units <- unique(vapply(answers, function(answer) {
    paste(unlist(lapply(answer$study$outcomes, `[[`, "unit")), collapse = ", ")
  }, ""))
  prints <- vapply(answers, function(answer) study_fingerprint(answer$study), "")
  c(
    if (length(directions) > 1) {
      sprintf("The directions differ (%s): signs cannot be compared as they stand.", paste(directions, collapse = "; "))
    },
    if (length(units) > 1) {
      sprintf(
        "The units differ (%s): numbers in the outcome's unit cannot be compared.", paste(units, collapse = "; ")
      )
    },
    if (length(unique(prints)) > 1) "The answers are about different data."
  )
}
