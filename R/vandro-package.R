#' Compare two groups or paired measurements, from file to paper
#'
#' You declare once what is compared with what and in which direction: *first group minus second group*. Every verb
#' then takes that declaration, and every number, figure, table and sentence comes from the same answer. This page lists
#' the functions by task.
#'
#' @section Read and declare:
#' * [read_measurements()] reads CSV, TSV, spreadsheets, Parquet and .rds, and reports what it found.
#' * [versus()] declares two independent groups, [versus_paired()] paired measurements.
#' * [versus_summary()] and [versus_paired_summary()] declare the same from published n, mean and SD.
#' * [take_sample()] takes a seeded sample from a table in a database.
#' * [suppose_world()], [vary_world()] and [make_up_study()] describe a scenario and generate data from it.
#'
#' @section Look and check:
#' * [describe_study()] gives n, mean, SD, median, quartiles and more, per group and for the difference.
#' * [vet_assumptions()] checks shape, variances, outliers, ties and serial correlation. It never chooses a method.
#' * [autoplot()] and `plot()` draw any study or answer; `view =` picks among several figures.
#'
#' @section Ask:
#' * [test_difference()]: Welch, Student, paired, rank-based and permutation tests with the matching interval.
#' * [gauge_effect()]: standardized and unstandardized effect sizes, each with its interval.
#' * [test_equivalence()] and [try_bounds()]: two one-sided tests against bounds.
#' * [weigh_evidence()] and [try_priors()]: the Bayes factor, the posterior, and how both depend on the prior.
#' * [cross_check()] and [compare_answers()]: does the conclusion depend on the method?
#' * [method_options()]: options of rank methods and permutations.
#' * [compare_subgroups()]: does the difference differ between subgroups?
#' * [rehearse_study()]: power, error rates, interval width and sample size of a planned study.
#' * [audit_numbers()]: are published numbers consistent, allowing for rounding?
#'
#' @section Publish:
#' * [narrate()] writes sentences, [results_table()] a table, [save_figure()] a figure in print size, [write_report()] a
#'   whole report, [export_answer()] JSON or CSV.
#' * [number_style()], [house_conventions()] and [read_conventions()] set the style of numbers and the rules of a house.
#' * [tidy()], `glance()` and `as.data.frame()` turn answers into data frames.
#'
#' @section Plan and repeat:
#' * [write_plan()], [read_plan()] and [run_plan()] declare an analysis in advance and run it; [compare_runs()] shows
#'   what changed. [plan_layout] describes the file.
#' * [vandro_command()] is the command line; `vandro help` lists its commands.
#'
#' @section Vignettes:
#' Start with `vignette("from-file-to-paper", package = "vandro")`; `vignette("choosing", package = "vandro")` helps you
#' choose a method and an effect size. `vignette(package = "vandro")` lists all of them.
#'
#' @section Data:
#' [seedlings], [conductance], [conductance_long], [leaching], [moisture], [root_damage] and [station_table] come from a
#' made-up greenhouse.
#'
#' @name vandro-package
#' @aliases vandro
#' @useDynLib vandro, .registration = TRUE
#' @importFrom Rcpp sourceCpp
#' @importFrom rlang %||% .data
"_PACKAGE"
