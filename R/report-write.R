#' Write a report
#'
#' `write_report()` writes one document about one or several comparisons. Every chapter opens with the answer: the
#' question, a paragraph for a paper, the main figure and one table. The hypotheses, the data and their description, the
#' assumption checks, the effect sizes and the test follow. Equivalence, the weight of evidence and further questions
#' appear if you asked about them. The end of the report describes the methods with their sources, lists the settings,
#' and contains a script that writes the same report again. A report of several comparisons begins with a table of all
#' answers.
#'
#' @param x A study, an answer, or a list of these; names become the headings of chapters. Answers of one study stand in
#'   one chapter. What was not asked is asked here: by the default method of the design, or that of an answer about the
#'   same study. Answers of [describe_study()], [vet_assumptions()], [gauge_effect()], [test_difference()],
#'   [test_equivalence()], [weigh_evidence()], [cross_check()], [try_bounds()] and [try_priors()] have a place. A second
#'   answer of a verb, such as one with other bounds, appears under the further questions. Answers of
#'   [compare_answers()] follow the chapters.
#' @param file File to write: `.html` (one self-contained page, for screens, phones and paper), `.docx` (Word, by
#'   pandoc, with tables that can be edited), `.md` (Markdown) or `.tex` (a part of a LaTeX document that uses
#'   the packages graphicx and longtable; XeLaTeX or LuaLaTeX where labels hold letters that LaTeX does not know). The
#'   figures of the last two stand in a folder beside the file, named after it (`report-md-figures`).
#' @param ... The question: `method`, `expect`, `beyond`, `level`, `alpha`, `adjust`, `reason` and the options of
#'   rank methods, as in [test_difference()]; only for studies without an answer about the difference. What is drawn at
#'   random in a report has a fixed seed, so that the same call writes the same report.
#' @param within,bounds_in,sd_of Bounds of [test_equivalence()]: the report then tells equivalence too, and `reason` is
#'   the reason for the bounds.
#' @param evidence An answer of [weigh_evidence()] about the same study; the same as giving it in a list.
#' @param estimands Which effect sizes the report carries: codes of [gauge_effect()], or `"all"`. If `NULL` (the
#'   default), those of `conventions`, else the ones that go with the method.
#' @param text Text of your own. Blank lines separate paragraphs, and line breaks are kept. Unnamed text appears under
#'   the title. Text named after a part ("answer", "question", "data", "description", "checks", "size", "test",
#'   "subgroups", "equivalence", "evidence", "further", "agreement", "sentences") appears in that part, and "conclusion"
#'   makes a part of its own. In a report of several studies, use the names of chapters, or "conclusion".
#' @param title Title of the report; by default the outcomes and the direction.
#' @param author Author, printed under the title.
#' @param date Date printed under the title; a fixed date gives the same file every time.
#' @param style How numbers are written, from [number_style()].
#' @param conventions What the house has agreed on, from [house_conventions()] or [read_conventions()]; what the call
#'   says itself goes before.
#' @param parts The parts that the report contains, in their order. If `NULL` (the default), it contains all parts. Use
#'   the names of parts listed under `text`, and "compared" (answers side by side), "conclusion", "meaning" (what
#'   p-values, intervals and the Bayes factor mean), "methods", "conventions", "settings" and "again" (the script).
#'   Names with a minus exclude parts instead: `c("-agreement", "-meaning")`.
#' @param overwrite `TRUE` replaces a file that exists.
#' @return `file`, invisibly.
#' @section What is in it: No single measurement and no id, but as points of figures and as the ends of a
#'   description; where a group has fewer than five values, which its mean and SD tell, the report says so. Everything
#'   that came from data or arguments is escaped, whatever it holds. HTML pages contain
#'   figures as vector drawings with text, which stay sharp at any size. Marks that cover each other are drawn once.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_file_is_input` (the file was read in this session),
#'   `vandro_error_output`, `vandro_error_package_missing` (htmltools, jsonlite; for Word rmarkdown with
#'   pandoc), `vandro_error_bad_value`, `vandro_error_contradiction` for a question alongside an answer to it,
#'   or for text of a part that `parts` excludes, and those of the verbs. The file is written whole or not at all.
#' @examples
#' study <- versus(seedlings, height, substrate,
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' file <- tempfile(fileext = ".html")
#' write_report(study, file,
#'   title = "Seedlings on two substrates", text = "Grown in house 2.\n\nWatered twice a day."
#' )
#'
#' # Fewer parts, in an order of their own
#' write_report(study, tempfile(fileext = ".md"), parts = c("answer", "test", "checks", "again"))
#'
#' # Several comparisons, each with the answers it was asked for
#' probes <- versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")
#' write_report(list(
#'   Seedlings = test_difference(study, c("welch", "ranks")),
#'   Probes = test_equivalence(probes, within = 0.5, reason = "the valve opens in steps of 0.5 %")
#' ), tempfile(fileext = ".md"), title = "Spring in the greenhouse")
#' @export
write_report <- function(x, file, ..., within = NULL, bounds_in = c("outcome", "sd"), sd_of = NULL, evidence = NULL,
                         estimands = NULL, text = NULL, title = NULL, author = NULL, date = Sys.Date(), style = NULL,
                         conventions = NULL, parts = NULL, overwrite = FALSE) {
  check_supplied(x)
  check_supplied(file)
  check_flag(overwrite)
  parts <- check_parts(parts)
  page <- list(
    title = check_text(title), author = check_text(author),
    date = check_date(date)
  )
  style <- check_style(style)
  house <- check_conventions(conventions)
  file <- check_report_path(file, overwrite)
  items <- report_items(x, evidence)
  bounds <- if (!is.null(within)) list(within = within, bounds_in = bounds_in, sd_of = sd_of)
  chapters <- report_chapters(items, list(...), bounds, house, estimands)
  own <- check_own_text(text, names(chapters), parts)
  look <- list(style = style, house = house)
  compared <- Filter(function(item) inherits(item, "vandro_comparison"), items)
  again <- again_lines(chapters, rlang::current_env(), file, compared)
  with_conventions(house, style, {
    page$blocks <- number_blocks(report_blocks(chapters, own, look, parts, again, compared))
    page$title <- page$title %||% chapters_title(chapters)
    write_page(page, file, overwrite)
  })
}

report_endings <- c("html", "htm", "docx", "md", "tex")

check_report_path <- function(file, overwrite, call = rlang::caller_env()) {
  file <- check_output_path(file, overwrite, arg = "file", call = call)
  ending <- file_ending(file)
  if (!ending %in% report_endings) abort_ending(file, setdiff(report_endings, "htm"), "file", call)
  if (ending %in% c("html", "htm", "docx")) {
    need_package("htmltools", "to write reports", call)
    need_package("jsonlite", "to write reports", call)
  }
  if (ending == "docx") need_pandoc(call)
  file
}

# One blank-free list of studies and answers, with the names of their chapters.
report_items <- function(x, evidence, call = rlang::caller_env()) {
  single <- inherits(x, c("vandro_study", "vandro_answer"))
  items <- if (single) list(x) else if (is.list(x)) x else list(x)
  if (length(items) == 0 || is.data.frame(x)) check_study(x, call)
  for (item in items) check_report_item(item, call)
  if (is.null(evidence)) return(items)
  about <- vapply(items, function(item) study_key(if (inherits(item, "vandro_study")) item else item$study), "")
  if (!inherits(evidence, "vandro_evidence") || !study_key(evidence$study) %in% about) {
    abort_vandro(
      c(
        "{.arg evidence} must be an answer of {.fn weigh_evidence} about the same study.",
        "i" = "For example {.code write_report(study, file, evidence = weigh_evidence(study))}."
      ),
      "bad_value",
      arg = "evidence", call = call
    )
  }
  c(items, list(evidence))
}

check_report_item <- function(item, call) {
  if (inherits(item, c("vandro_study", "vandro_comparison", names(report_places)))) return(invisible())
  found <- class(item)[[1]]
  abort_vandro(
    c(
      "A report is about studies and answers that have a place in it.", "x" = "There is one of type {.cls {found}}.",
      "i" = "Give a study, an answer of {.fn test_difference}, {.fn test_equivalence}, {.fn weigh_evidence},
        {.fn gauge_effect}, {.fn vet_assumptions}, {.fn describe_study}, {.fn compare_subgroups},
        {.fn cross_check}, {.fn try_bounds}, {.fn try_priors} or {.fn compare_answers}, or a list of these."
    ),
    if (is.data.frame(item)) "not_a_study" else "not_an_answer",
    call = call
  )
}

# Items with the same key share a chapter. Bounds or priors tried for one of several outcomes join the whole study.
item_keys <- function(items) {
  keys <- vapply(items, function(item) study_key(study_of(item)), "")
  tried <- vapply(items, inherits, NA, c("vandro_bounds", "vandro_priors"))
  for (i in which(tried)) {
    name <- record_name(items[[i]]$study$outcomes[[1]])
    for (j in which(!tried)) {
      whole <- study_of(items[[j]])
      names <- vapply(whole$outcomes, record_name, "")
      if (name %in% names && study_key(one_outcome(whole, whole$outcomes[[match(name, names)]])) == keys[[i]]) {
        keys[[i]] <- keys[[j]]
      }
    }
  }
  keys
}

# A chapter per study: its own answers, and those that nobody asked for yet.
report_chapters <- function(items, asked, bounds, house = NULL, estimands = NULL, call = rlang::caller_env()) {
  items <- Filter(function(item) !inherits(item, "vandro_comparison"), items)
  if (length(items) == 0) abort_only_compared(call)
  keys <- item_keys(items)
  named <- names(items) %||% rep("", length(items))
  chapters <- lapply(unique(keys), function(key) {
    at <- which(keys == key)
    given <- given_places(items[at], named[at])
    answers <- report_answers(study_of(items[[at[[1]]]]), given, asked, bounds, house, estimands, call)
    structure(answers, given = names(given)[names(given) != "further"])
  })
  names(chapters) <- vapply(unique(keys), function(key) {
    at <- which(keys == key)
    own <- unique(named[at][nzchar(named[at])])
    # Several names belong to the answers, not to the chapter.
    if (length(own) == 1) own else study_title(study_of(items[[at[[1]]]]))
  }, "")
  names(chapters) <- make.unique(names(chapters), " ")
  chapters
}

# Sorts the answers about one study by their place; `further` contains second answers of a verb.
given_places <- function(items, named) {
  given <- list()
  several <- length(unique(named[nzchar(named)])) > 1
  for (i in seq_along(items)) {
    item <- items[[i]]
    place <- report_place(item)
    if (length(place) == 0) next
    if (several && nzchar(named[[i]])) item$told_as <- named[[i]]
    if (is.null(given[[place]])) given[[place]] <- item else given$further <- c(given$further, list(item))
  }
  given
}

abort_only_compared <- function(call) {
  abort_vandro(
    c(
      "A report needs the answers that lie side by side too.", "x" = "There is only one of {.fn compare_answers}.",
      "i" = "Write {.code write_report(list(narrow, wide, compare_answers(narrow, wide)), file)}."
    ),
    "not_an_answer",
    call = call
  )
}

chapters_title <- function(chapters) {
  if (length(chapters) == 1) names(chapters) else paste(names(chapters), collapse = "; ")
}

report_answers <- function(study, given, asked, bounds, house, estimands, call) {
  if (!is.null(given$difference) || !is.null(given$equivalence)) refuse_second_question(asked, bounds, given, call)
  # Other bounds and priors are reported alongside the declared ones.
  given$equivalence <- given$equivalence %||% declared_answer(given$bounds, "test_equivalence", study)
  given$evidence <- given$evidence %||% declared_answer(given$priors, "weigh_evidence", study)
  # An answer about equivalence has found the difference too.
  if (!is.null(given$equivalence)) given$difference <- given$difference %||% difference_of(given$equivalence)
  if (is.null(given$difference)) asked <- utils::modifyList(given_question(given), asked)
  if (!is.null(bounds)) {
    given$equivalence <- report_equivalence_answer(
      study, conventional(asked, "test_equivalence", study, house), bounds
    )
    # Of one call both take the same random draws.
    asked$reason <- NULL
    asked$seed <- asked$seed %||% given$equivalence$settings$seed
  }
  asked <- report_seed(conventional(asked, "test_difference", study, house))
  difference <- given$difference %||% rlang::inject(test_difference(study, !!!asked))
  s <- difference$settings
  # A sequence: what is compared, looked at, measured, tested.
  list(
    description = chapter_description(given$description, difference),
    assumptions = given$assumptions %||%
      rlang::inject(vet_assumptions(study, alpha = s$alpha, level = s$level, !!!house$checks)),
    effect = given$effect %||%
      effect_beside(
        difference, estimands %||% house_estimands(house, study), size_words = house$size_words,
        size_source = house$size_source
      ),
    difference = difference,
    subgroups = given$subgroups %||% report_subgroups(study, s), equivalence = given$equivalence,
    bounds = given$bounds, evidence = given$evidence, priors = given$priors,
    agreement = given$agreement %||% report_agreement(study, s, given$equivalence), further = given$further
  )
}

# Recomputes the answer from which other bounds or priors were tried.
declared_answer <- function(tried, verb, study) {
  if (is.null(tried)) return(NULL)
  s <- keep_given(tried$settings)
  asked <- s[intersect(names(s), c(names(formals(verb_of(verb))), names(options_of(verb))))]
  quietly(rlang::inject((!!verb_of(verb))(study, !!!with_method_options(asked))))
}

# What an answer other than a test was asked, so that the report asks the same.
given_question <- function(given) {
  of <- function(answer, ...) keep_given(answer$settings[intersect(c(...), names(answer$settings))])
  question <- c(
    list(), of(given$agreement, "method", "expect", "beyond", "alpha", "level", "reason"),
    of(given$subgroups, "method", "alpha", "level"), of(given$effect, "method", "level"),
    of(given$evidence, "expect", "beyond", "level", "reason"), of(given$description, "method", "level")
  )
  question$method <- utils::head(question$method, 1)
  question[!duplicated(names(question))]
}

# The description by the method of the difference, so that a chapter has one interval of it.
chapter_description <- function(given, difference) {
  if (is.null(given)) return(described_as(difference))
  method <- mean_method(difference$study, difference$settings$method[[1]])
  if (given$settings$method == method) return(given)
  describe_study(difference$study, method = method, set = given$settings$set, level = given$settings$level)
}

# The same call writes the same report.
report_seed <- function(asked) {
  if (is.null(asked$seed) && any(asked$method %in% methods_where(draws = TRUE))) asked$seed <- 1
  asked
}

refuse_second_question <- function(asked, bounds, given, call) {
  beside <- c(names(asked), if (!is.null(bounds) && !is.null(given$equivalence)) "within")
  if (length(beside) == 0) return(invisible())
  abort_vandro(
    c(
      "An answer that is given has its question already.", "x" = "{.arg {beside}} asks another one.",
      "i" = "Leave {.arg {beside}} out, or give the study instead of the answer."
    ),
    "contradiction",
    call = call
  )
}

# Whether the difference differs, where there are subgroups and means are compared.
report_subgroups <- function(study, s) {
  if (is.null(study$each)) return(NULL)
  method <- mean_method(study, s$method[[1]])
  compare_subgroups(study, method, level = s$level, alpha = s$alpha)
}

# Every method, asked what the report asks.
report_agreement <- function(study, s, equivalence) {
  question <- if (is.null(equivalence)) {
    s[c("expect", "beyond", "alpha", "reason")]
  } else {
    equivalence$settings[c("within", "bounds_in", "sd_of", "alpha", "reason")]
  }
  # From published numbers nothing is drawn.
  drawn <- if (study$source == "values") list(statistic = s$statistic, draws = s$draws, seed = s$seed %||% 1)
  asked <- with_method_options(keep_given(c(question, drawn)))
  with_origin(quietly(rlang::inject(cross_check(study, s$method[[1]], !!!asked))), s$method_from)
}

# An answer whose method was chosen elsewhere, see method_origin().
with_origin <- function(answer, origin) {
  if (!is.null(answer$settings$method_from)) answer$settings$method_from <- origin
  answer
}

# What its notes say stands in the report.
quietly <- function(code) suppressMessages(code, classes = "vandro_message")

# Sorts text by the part or chapter in which it appears; " " means under the title.
check_own_text <- function(text, chapters, parts = names(part_headings), call = rlang::caller_env()) {
  if (is.null(text)) return(list())
  if (!is.character(text) || anyNA(text) || !all(is_text(text))) {
    found <- describe_value(text)
    abort_vandro(c("{.arg text} must be text.", "x" = "It is {found}."), "bad_value", arg = "text", call = call)
  }
  names <- names(text) %||% rep("", length(text))
  known <- c(if (length(chapters) > 1) chapters else chapter_parts, "conclusion")
  unknown <- setdiff(names[nzchar(names)], known)
  if (length(unknown)) {
    near <- near_names(unknown[[1]], known)
    hint <- if (length(near)) "Did you mean {.val {near[[1]]}}?" else "It may be {.or {.val {known}}}."
    abort_vandro(
      c("{.arg text} has a part that the report has not.", "x" = "It is named {.val {unknown[[1]]}}.", "i" = hint),
      "bad_value",
      arg = "text", call = call
    )
  }
  lost <- setdiff(intersect(names, names(part_headings)), parts)
  if (length(lost)) {
    abort_vandro(
      c(
        "{.arg parts} excludes a part that has text.", "x" = "{.arg text} has one named {.val {lost[[1]]}}.",
        "i" = "Name {.val {lost[[1]]}} among the {.arg parts}, or leave its text out."
      ),
      "contradiction",
      arg = "text", call = call
    )
  }
  own <- split(printable(unname(text)), factor(names, unique(names)))
  names(own)[!nzchar(names(own))] <- " "
  own
}

# `look` contains the style and the house conventions of the call; `planned` contains the sections that a plan adds in
# front and behind, and its marks by chapter and part.
report_blocks <- function(chapters, own, look, parts, again, compared = list(), planned = list()) {
  several <- length(chapters) > 1
  told <- if (several) {
    lapply(names(chapters), function(name) {
      answers <- chapters[[name]]
      blocks <- report_parts(answers$difference$study, answers, list(), planned$marks[[name]], parts)
      doc_section(name, nest_blocks(doc_blocks(doc_own_text(own[[name]]), blocks)))
    })
  } else {
    report_parts(chapters[[1]]$difference$study, chapters[[1]], own, planned$marks[[names(chapters)]], parts)
  }
  end <- function(part) {
    switch(part,
      compared = compared_section(compared),
      conclusion = if (!is.null(own$conclusion)) doc_section("Conclusion", doc_own_text(own$conclusion)),
      meaning = explained_section(chapters), methods = methods_section(chapters, look, "meaning" %in% parts),
      conventions = conventions_section(look$house), settings = settings_section(chapters, look),
      again = doc_section(part_headings[["again"]], again)
    )
  }
  ends <- intersect(parts, end_parts)
  doc_blocks(
    doc_own_text(own[[" "]]), planned$front %||% if (several && "answer" %in% parts) answers_section(chapters), told,
    lapply(setdiff(ends, "again"), end), planned$back, lapply(intersect(ends, "again"), end)
  )
}

write_page <- function(page, file, overwrite, call = rlang::caller_env()) {
  switch(file_ending(file),
    html = , htm = write_whole_text(file, page_html(page), call),
    docx = write_page_word(page, file, call),
    write_page_beside(page, file, overwrite, call)
  )
}
