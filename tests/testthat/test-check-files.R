test_that("files are written whole or not at all, and never over another unasked", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "a.txt")
  write_whole_text(file, c("one", "two"))
  expect_identical(readLines(file), c("one", "two"))
  expect_error(check_output_path(file, overwrite = FALSE), class = "vandro_error_file_exists")
  expect_identical(check_output_path(file, overwrite = TRUE), file)
  refused(output = check_output_path(folder, TRUE), output = check_output_path(file.path(folder, "no", "a.txt"), TRUE))
  half <- function(draft) {
    writeLines("half", draft)
    stop("the pen broke")
  }
  expect_error(write_whole(file, half), class = "vandro_error_output")
  expect_identical(readLines(file), c("one", "two"))
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "a.txt")
})

test_that("a folder takes its place whole, or the old one stays", {
  folder <- withr::local_tempdir()
  place <- file.path(folder, "figures")
  write_whole_folder(place, function(draft) writeLines("one", file.path(draft, "1.txt")))
  write_whole_folder(place, function(draft) writeLines("two", file.path(draft, "2.txt")))
  expect_identical(list.files(place), "2.txt")
  broken <- function(draft) {
    writeLines("half", file.path(draft, "3.txt"))
    stop("the pen broke")
  }
  expect_error(write_whole_folder(place, broken), class = "vandro_error_output")
  expect_identical(list.files(place), "2.txt")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "figures")
})

# A disk of 16 kB, where the system lets us have one.
small_disk <- function(envir = parent.frame()) {
  place <- withr::local_tempdir(.local_envir = envir)
  options <- c("-t", "tmpfs", "-o", "size=16k", "tmpfs", place)
  mounted <- suppressWarnings(system2("mount", options, stdout = FALSE, stderr = FALSE))
  skip_if(mounted != 0, "no small disk can be mounted")
  withr::defer(system2("umount", place), envir = envir)
  place
}

# Takes seconds: every kind of file is drawn onto a full disk.
test_that("a full disk leaves nothing half written", {
  place <- small_disk()
  study <- height_study()
  answer <- test_difference(study, c("welch", "ranks"))
  many <- as.data.frame(matrix(round(seq(-1, 1, length.out = 60 * 40)^3, 4), 60))
  many$side <- rep(c("compost", "peat"), 30)
  wide <- quiet(test_difference(rlang::inject(versus(many, c(!!!rlang::syms(names(many)[1:40])), side))))
  in_place <- function(name) file.path(place, name)
  writers <- list(
    png = function() save_figure(answer, in_place("a.png")), pdf = function() save_figure(answer, in_place("a.pdf")),
    svg = function() save_figure(vet_assumptions(study), in_place("a.svg")),
    html = function() write_report(answer, in_place("a.html")),
    md = function() write_report(answer, in_place("a.md")), json = function() export_answer(wide, in_place("a.json")),
    run = function() {
      run_plan(read_plan(system.file("examples", "plan.yaml", package = "vandro")), in_place("run"), quiet = TRUE)
    }
  )
  for (name in names(writers)) {
    expect_error(suppressWarnings(suppressMessages(writers[[name]]())), class = "vandro_error_output", info = name)
    expect_identical(list.files(place, all.files = TRUE, no.. = TRUE), character(), info = name)
  }
})

test_that("a folder that is not there, or is a file, is refused by every writer", {
  study <- height_study()
  answer <- test_difference(study)
  file <- withr::local_tempfile()
  writeLines("a file", file)
  for (place in c(file.path(tempdir(), "nowhere", "deep"), file)) {
    expect_error(save_figure(answer, file.path(place, "a.png")), class = "vandro_error_output")
    expect_error(export_answer(answer, file.path(place, "a.json")), class = "vandro_error_output")
    expect_error(results_table(study, file = file.path(place, "a.csv")), class = "vandro_error_output")
    expect_error(write_report(study, file.path(place, "a.html")), class = "vandro_error_output")
    expect_error(write_plan(answer, file.path(place, "a.yaml"), data = "seedlings.csv"), class = "vandro_error")
  }
  expect_identical(readLines(file), "a file")
})

test_that("what was read is never written over, by whatever name and however it is asked", {
  folder <- withr::local_tempdir()
  input <- file.path(folder, "input.csv")
  file.copy(demo_file(), input)
  names <- file.path(folder, c("input.csv", "hard.csv", "link.csv"))
  file.link(input, names[[2]])
  file.symlink("input.csv", names[[3]])
  study <- versus(read_measurements(input, quiet = TRUE), height, substrate, groups = c("compost", "peat"))
  for (name in names) {
    expect_error(export_answer(test_difference(study), name, overwrite = TRUE), class = "vandro_error_file_is_input")
    expect_error(results_table(study, file = name, overwrite = TRUE), class = "vandro_error_file_is_input")
  }
  got <- run_here("difference", input, "--outcome", "height", "--by", "substrate", "--output", input, "--force")
  expect_identical(got$status, 1L)
  expect_identical(unname(tools::md5sum(names)), rep(unname(tools::md5sum(demo_file())), 3))
})

test_that("links are followed, permissions kept, devices refused", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "old.txt")
  writeLines("old", file)
  Sys.chmod(file, "640")
  links <- file.path(folder, c("to.txt", "nowhere.txt"))
  file.symlink(c("old.txt", "later.txt"), links)
  for (link in links) write_whole_text(link, "new")
  expect_identical(Sys.readlink(links), c("old.txt", "later.txt"))
  for (name in c("old.txt", "later.txt")) expect_identical(readLines(file.path(folder, name)), "new")
  expect_identical(format(file.info(file)$mode), "640")
  file.symlink("round.txt", file.path(folder, "round.txt"))
  refused(
    output = write_whole_text(file.path(folder, "round.txt"), "x"), output = check_output_path("/dev/null", TRUE),
    output = check_output_path("/dev/full", TRUE)
  )
})

test_that("a file that comes into being while another is written is not lost", {
  folder <- withr::local_tempdir()
  file <- check_output_path(file.path(folder, "a.txt"), FALSE)
  late <- function(draft) {
    writeLines("ours", draft)
    writeLines("theirs", file)
  }
  expect_error(write_whole(file, late), class = "vandro_error_file_exists")
  expect_identical(readLines(file), "theirs")
  write_whole(check_output_path(file, TRUE), late)
  expect_identical(readLines(file), "ours")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "a.txt")
})

test_that("drafts of a run that was killed are cleared away, and nothing else is", {
  folder <- withr::local_tempdir()
  left <- file.path(folder, c(sprintf("%s4194305-1f.csv", draft_stem()), sprintf("%s4194305-2e", draft_stem())))
  writeLines("half", left[[1]])
  dir.create(left[[2]])
  kept <- c(".vandro-notes", ".figures-before", sprintf("%s%d-3d.csv", draft_stem(), Sys.getpid()))
  for (name in kept) writeLines("mine", file.path(folder, name))
  write_whole_text(file.path(folder, "a.txt"), "one")
  expect_setequal(list.files(folder, all.files = TRUE, no.. = TRUE), c("a.txt", kept))
})
