# The commands as data: what runs, what it takes, what it is about, how it is typed. Help, completion and the man page
# all come from here and from the options of cli-options.R.

cli_command <- function(run, takes, about, ...) list(run = run, takes = takes, about = about, examples = c(...))

# The question that most examples ask.
example_question <- "seedlings.csv --outcome height --by substrate --groups compost,peat --unit cm"
example_pairs <- "moisture.csv --paired --first probe_a --second probe_b --unit %"

cli_commands <- list(
  read = cli_command(
    function(p) cli_look(p), "FILE...", "what is in a file: columns, types, missing values, odd values",
    "vandro read seedlings.csv", "vandro read seedlings.csv moisture.csv --format csv"
  ),
  describe = cli_command(
    function(p) cli_answer(p, cli_describe), "FILE...", "size, centre, spread and shape of both groups",
    paste("vandro describe", example_question)
  ),
  assumptions = cli_command(
    function(p) cli_answer(p, cli_assumptions), "FILE...",
    "the assumptions of the methods: shape, variances, outliers, order", paste("vandro assumptions", example_question)
  ),
  difference = cli_command(
    function(p) cli_answer(p, cli_difference), "FILE...", "the difference, its interval and its test",
    paste("vandro difference", example_question),
    paste("vandro difference", example_question, "--method welch,ranks --expect higher --reason \"more nitrogen\""),
    "vandro difference --n 18,20 --mean 22.1,19.8 --sd 3.9,3.2 --groups compost,peat --unit cm",
    "vandro difference seedlings.csv --outcome height,leaf_area --by substrate --groups compost,peat --each bench",
    "vandro difference leaching.csv --outcome nitrate --by cover --groups bare,sown --method permutation --format json"
  ),
  subgroups = cli_command(
    function(p) cli_answer(p, cli_subgroups), "FILE...", "whether the difference differs between subgroups (--each)",
    paste("vandro subgroups", example_question, "--each bench")
  ),
  equivalence = cli_command(
    function(p) cli_answer(p, cli_equivalence), "FILE...",
    "whether the difference lies within declared bounds (--within)",
    paste("vandro equivalence", example_pairs, "--within 0.5 --reason \"the valve opens in steps of 0.5 %\"")
  ),
  bounds = cli_command(
    function(p) cli_answer(p, cli_bounds), "FILE...", "what other bounds would have said, exploratory",
    paste("vandro bounds", example_pairs, "--within 0.5 --bounds 0.2,0.3,0.4")
  ),
  "cross-check" = cli_command(
    function(p) cli_answer(p, cli_cross_check), "FILE...", "whether the conclusion depends on the method",
    paste("vandro cross-check", example_question)
  ),
  evidence = cli_command(
    function(p) cli_answer(p, cli_evidence), "FILE...",
    "weight of evidence for an effect against none: Bayes factor and posterior",
    paste("vandro evidence", example_question, "--strength-words jeffreys")
  ),
  priors = cli_command(
    function(p) cli_answer(p, cli_priors), "FILE...", "what other prior widths would have said",
    paste("vandro priors", example_question, "--widths 0.35,1,1.41")
  ),
  rehearse = cli_command(
    function(p) cli_rehearsal(p), "",
    "what a design would find: power, error rate, width of interval, or the smallest n",
    "vandro rehearse --difference 2.5 --sd 3,4 --power 0.8 --groups compost,peat --unit cm"
  ),
  "make-up" = cli_command(
    function(p) cli_make_up(p), "", "made-up data from a supposed world, as CSV",
    "vandro make-up --difference 2.5 --sd 3,4 --n 24,22 --seed 7 --groups compost,peat --unit cm"
  ),
  audit = cli_command(
    function(p) cli_audit(p), "[FILE]", "whether printed numbers fit together, given their rounding",
    "vandro audit --n 18,20 --mean 22.1,19.8 --sd 3.9,3.2 --t 2.00 --df 36 --p .13"
  ),
  table = cli_command(
    function(p) cli_table(p), "FILE...", "one compact table for a publication",
    paste("vandro table", example_question), paste("vandro table", example_question, "--output table.docx")
  ),
  effect = cli_command(
    function(p) cli_answer(p, cli_effect), "FILE...", "effect sizes with intervals",
    paste("vandro effect", example_question, "--size-words cohen")
  ),
  narrate = cli_command(
    function(p) cli_narrate(p), "FILE...", "the sentences for a paper",
    paste("vandro narrate", example_question), paste("vandro narrate", example_question, "--voice plain --format json")
  ),
  plot = cli_command(
    function(p) cli_plot(p), "FILE...", "the figure, to a .png, .svg or .pdf file",
    paste("vandro plot", example_question, "--output height.png"),
    paste("vandro plot", example_question, "--view paper --columns 1 --output height.pdf")
  ),
  report = cli_command(
    function(p) cli_report(p), "FILE...", "a whole report: .html, .docx, .md or .tex",
    paste("vandro report", example_question, "--output height.html --conventions house.yaml")
  ),
  plan = cli_command(
    function(p) cli_plan(p), "FILE", "writes a plan: what is asked here, to be run by `run`; shows no result",
    paste(
      "vandro plan", example_question,
      "--method welch,ranks --expect higher --reason \"more nitrogen\" --ask difference,effect --output height.yaml"
    )
  ),
  run = cli_command(
    function(p) cli_run(p), "PLAN...", "carries out a plan: report, tables, figures, numbers, into a folder",
    "vandro run plan.yaml --only-check", "vandro run plan.yaml --output results",
    "vandro run plan.yaml --instead height.difference.primary=student --output changed"
  ),
  compare = cli_command(
    function(p) cli_compare(p), "RUN RUN", "what differs between two runs, by their folders",
    "vandro compare results changed"
  ),
  completion = cli_command(
    function(p) cli_completion(p, cli_commands), "",
    "completion for a shell: add `source <(vandro completion)` to ~/.bashrc", "vandro completion",
    "vandro completion --shell zsh", "vandro completion --shell fish"
  ),
  manual = cli_command(
    function(p) cli_manual(p, cli_commands), "", "the man page: `vandro manual --output vandro.1`, `man ./vandro.1`",
    "vandro manual --output vandro.1"
  ),
  demo = cli_command(
    function(p) cli_demo(p), "", "the whole job on the shipped data, into a folder", "vandro demo --output demo"
  )
)
