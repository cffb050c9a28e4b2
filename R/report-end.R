# The end of a report: how everything was computed, what it was computed with, and how to do so again.

# Of all chapters, once.
explained_section <- function(chapters) {
  told <- unlist(lapply(chapters, function(answers) answers[c("difference", "effect", "evidence")]), recursive = FALSE)
  doc_section("What the numbers are, and are not", doc_paragraphs(explanations(unname(keep_given(told)))))
}

methods_section <- function(chapters, look, explained) {
  several <- length(chapters) > 1
  told <- lapply(names(chapters), function(name) {
    list(if (several) doc_heading(name), doc_paragraph(methods_paragraph(chapters[[name]])))
  })
  any_of <- function(test) any(vapply(chapters, function(answers) test(answers$difference), NA))
  cited <- c(
    unlist(lapply(chapters, function(answers) vapply(chapter_answers(answers), answer_citations, ""))),
    if (explained) unlist(lapply(explained_section(chapters)$blocks, function(block) block$runs[[1]]$text)),
    if (any_of(function(x) method_is(x$table[1, ], "ranks"))) "Hyndman & Fan 1996",
    if (any_of(function(x) x$study$source == "values")) "Aldor-Noiman et al. 2013",
    if (is.null(look$style) && is.null(look$house$style)) "American Psychological Association 2020"
  )
  doc_section(
    "How it was computed", told, effect_uses(chapters), doc_heading("Sources"), doc_items(references_in(cited))
  )
}

# Which effect size is for what, once for all chapters.
effect_uses <- function(chapters) {
  rows <- do.call(rbind, lapply(unname(chapters), function(answers) {
    table <- answers$effect$table
    data.frame(
      effect = effect_names(table$estimand, answers$difference$study), use = table$use, source = table$source
    )
  }))
  rows <- rows[!duplicated(rows) & nzchar(rows$use), ]
  if (nrow(rows) == 0) return(NULL)
  doc_table(list(effect = rows$effect, "when to use it" = rows$use, source = rows$source), "Which effect size for what")
}

methods_paragraph <- function(answers) {
  x <- answers$difference
  effects <- unique(answers$effect$table$source[nzchar(answers$effect$table$source)])
  beside <- unique(x$table$method[x$table$role == "beside"])
  others <- setdiff(unique(answers$agreement$table$method), c(x$settings$method[[1]], beside))
  named <- function(methods) {
    paste(sprintf("%s (%s)", method_phrase(methods), method_facts(methods, "source")), collapse = ", ")
  }
  paste(c(
    difference_method_texts(x),
    if (length(beside)) sprintf("Also run: %s.", named(beside)),
    origin_sentence(x),
    if (any(!is.na(x$table$p_adjusted))) {
      sprintf("P-values were adjusted for %s by %s.", adjusted_over(x), adjust_phrase(x))
    },
    if (!is.null(answers$equivalence)) equivalence_method_sentences,
    if (!is.null(answers$evidence)) evidence_method_sentences(answers$evidence$settings),
    if (length(others)) sprintf("For agreement the same question was asked of %s.", named(others)),
    sprintf("Effect sizes and their intervals: %s.", paste(effects, collapse = "; ")),
    sprintf("Computed by vandro %s.", x$settings$version)
  ), collapse = " ")
}

adjusted_over <- function(x) {
  n <- x$detail$adjusted_over
  if (is.null(n)) "the number of outcomes" else sprintf("the %d primary tests of the plan", n)
}

seed_words <- function(s) {
  if (is.null(s$seed)) return("none: nothing was drawn at random")
  sprintf("%s, for %s draws", format_count(s$seed), format_count(s$draws))
}

conventions_section <- function(house) {
  if (is.null(house)) return(NULL)
  words <- convention_words(house)
  doc_section(
    "House conventions",
    doc_paragraph(sprintf(
      "This report follows \"%s\". What was declared for a comparison itself goes before it.", house$name
    )),
    if (length(words)) {
      doc_table(list(convention = names(words), value = unname(words)), sprintf("Conventions: %s", house$name))
    }
  )
}

settings_section <- function(chapters, look) {
  several <- length(chapters) > 1
  tables <- lapply(names(chapters), function(name) {
    settings <- chapter_settings(chapters[[name]], look)
    doc_table(
      list(setting = names(settings), value = unlist(settings, use.names = FALSE)),
      if (several) paste("Settings of", name) else "What is needed to obtain the same numbers again"
    )
  })
  doc_section("Settings", tables)
}

chapter_settings <- function(answers, look) {
  s <- answers$difference$settings
  study <- answers$difference$study
  keep_given(c(
    list(
      vandro = s$version, "data fingerprint" = study_fingerprint(study), method = paste(s$method, collapse = ", "),
      expect = s$expect, reason = s$reason %||% "none on record", beyond = format_short(s$beyond),
      level = format_short(s$level), alpha = format_short(s$alpha), seed = seed_words(s),
      "seed of the effect sizes" = if (!is.null(answers$effect$settings$seed)) seed_words(answers$effect$settings),
      "seed of the agreement" = if (!is.null(answers$agreement$settings$seed)) seed_words(answers$agreement$settings)
    ),
    if (!is.null(answers$equivalence)) equivalence_settings(answers$equivalence$settings),
    if (!is.null(answers$evidence)) evidence_settings(answers$evidence$settings),
    if (!is.null(look$style)) list("style of numbers" = style_words(look$style)),
    if (!is.null(look$house)) list(conventions = look$house$name)
  ))
}
