# This file names the places of answers in a chapter, and the parts in which they appear.

report_places <- c(
  vandro_description = "description", vandro_assumptions = "assumptions", vandro_effect = "effect",
  vandro_difference = "difference", vandro_equivalence = "equivalence", vandro_evidence = "evidence",
  vandro_cross_check = "agreement", vandro_subgroups = "subgroups", vandro_bounds = "bounds", vandro_priors = "priors"
)

# Each place appears in one part of a report.
place_parts <- c(
  description = "description", assumptions = "checks", effect = "size", difference = "test",
  equivalence = "equivalence", evidence = "evidence", agreement = "agreement", subgroups = "subgroups",
  bounds = "equivalence", priors = "evidence"
)

report_place <- function(item) unname(report_places[intersect(class(item), names(report_places))])

study_of <- function(item) if (inherits(item, "vandro_study")) item else item$study

study_key <- function(study) paste(study_fingerprint(study), study_direction(study), study$design)

# Returns every answer of a chapter.
chapter_answers <- function(answers) c(keep_given(answers[setdiff(names(answers), "further")]), answers$further)
