#' Test a difference and put an interval around it
#'
#' The difference of two means, the shift between two distributions, or the chance of a higher value, first group
#' against second, with its interval and the test of whether it differs from `beyond`. The method is declared here;
#' no check of assumptions ever changes it.
#'
#' @param study A study, for example from [versus()] or [versus_paired()].
#' @param method The primary method, declared before looking. Independent groups: `"welch"` (the default), means,
#'   spreads may differ; `"student"`, means, spreads taken to be equal; `"ranks"`, Mann-Whitney; `"relative"`,
#'   Brunner-Munzel. Pairs: `"paired"` (the default), the mean change; `"signed_ranks"`. Both: `"permutation"`. Several,
#'   as in `c("welch", "ranks")`: the first is the primary one, the others stand beside it. When to use which: sections
#'   Ranks and Permutation.
#' @param ... Must be empty. Until the next version the options of [method_options()] may also stand here.
#' @param expect What the first group is expected to be, decided before looking: `"either"`,
#'   `"higher"` or `"lower"`.
#' @param beyond The difference under the null hypothesis, in the unit of the outcome.
#'   `expect = "higher", beyond = 5` asks "higher by more than 5?"; non-inferiority is
#'   `expect = "higher", beyond = -margin`.
#' @param level Confidence of the two-sided interval, strictly between 0 and 1.
#' @param adjust Adjustment of p for several outcomes and subgroups, of the primary method: `"holm"` (the default),
#'   `"hochberg"`, `"bonferroni"`, `"benjamini_hochberg"`, from one joint resampling of all outcomes `"max_t"`
#'   (step-down) or `"max_t_single"`, or `"none"`. See section Several outcomes.
#' @param simultaneous Whether to add intervals that hold for all outcomes and subgroups at once with confidence
#'   `level`: of Bonferroni's level for `"holm"`, `"hochberg"` and `"bonferroni"`, of the largest t for `"max_t"` and
#'   `"max_t_single"`; `"benjamini_hochberg"` and `"none"` have none.
#' @param alpha Significance level of the decision, strictly between 0 and 0.5.
#' @param reason Why a directional question was asked, decided before looking; kept and printed with the
#'   result.
#' @param options Options of rank methods and of permutations, from [method_options()].
#' @param seed Seed of random draws, a whole number. `NULL` takes one from R's generator, so that `set.seed()` makes it
#'   repeatable. The seed used is kept in `settings`.
#' @return An answer (classes `vandro_difference`, `vandro_answer`); its table has one row per outcome
#'   and method with the columns of [as.data.frame.vandro_answer()] and
#'   \describe{
#'     \item{`at_least`, `at_most`}{one-sided bound at confidence 1 - `alpha` of a directional question:
#'       the difference is at least (`expect = "higher"`) or at most (`"lower"`) this.}
#'     \item{`role`}{"primary" for the declared method, "beside" for the others.}
#'     \item{`log_p`}{natural logarithm of p, exact where p itself is too small for a number.}
#'     \item{`alpha`}{as given.}
#'     \item{`p_adjusted`}{p adjusted for several outcomes; `NA` for one and beside the primary method.}
#'     \item{`joint_lower`, `joint_upper`}{with `simultaneous = TRUE`: limits that hold for all at once, in the unit of
#'       the estimate.}
#'   }
#'   With a rank method in the call also
#'   \describe{
#'     \item{`superiority`}{U over the number of pairs of values; `estimand` of `"relative"`, whose null value is
#'       0.5. That of the others is "shift", in the unit of the outcome.}
#'     \item{`z`}{the statistic less its mean over its SD given the ties, signed, without continuity correction.}
#'     \item{`statistic_opposite`}{U of the second group, or W of the changes downwards.}
#'     \item{`critical_low`, `critical_high`, `tail_low`, `tail_high`}{limits of U or W that belong to `alpha` and
#'       the direction, a statistic at or beyond them being significant, and their true tail probabilities.}
#'     \item{`level_true`}{confidence that the interval has by the distribution p is from.}
#'     \item{`p_smallest`}{the smallest p that these sizes and ties allow; above `alpha` there is a warning.}
#'     \item{`p_simulated_low`, `p_simulated_high`}{what chance leaves open about a simulated p (95 %).}
#'     \item{`zeros`, `zeros_kept`}{changes equal to `beyond`; whether they were ranked.}
#'     \item{`open_end`}{"lower" or "upper" where that limit equals `beyond` and the test rejects just this value.}
#'   }
#'   With method `"permutation"` in the call `p_smallest`, `p_simulated_low`, `p_simulated_high` and
#'   \describe{
#'     \item{`compared_by`}{the `statistic`; `estimand` is "mean_difference", "trimmed_difference" or
#'       "median_difference".}
#'     \item{`counted_by`}{"listed", "decimals", "quarters", "grid" or "drawn", see section Permutation.}
#'     \item{`assignments`}{number of possible assignments, or sets of signs.}
#'     \item{`draws`}{number of random ones.}
#'     \item{`p_bracket_low`, `p_bracket_high`}{between which the exact p lies for certain, where `p_kind` is
#'       "bracketed".}
#'     \item{`undecided`}{sums so near the observed one that rounding to 62 binary digits could move them across; they
#'       count as ties.}
#'     \item{`run_length`, `blocks`}{neighbours that were reassigned together; number of blocks.}
#'   }
#'   `p_kind` is "asymptotic" for Welch, whose t distribution is an approximation, and "exact" (for normal
#'   populations) for Student and for pairs; for ranks it is "exact" given the ties, "asymptotic" or "simulated"; for
#'   permutations "exact", "bracketed" or "simulated".
#'   `detail$matched` holds, per row, the two-sided interval that agrees with the test, `detail$true_size` of
#'   Student's test the rate at which it would reject a true null hypothesis were the populations normal with the
#'   SDs seen; far from `alpha`, it is a note of the result. `detail$ranks` holds, per row, the widest attainable
#'   interval and the quartiles shown. From published numbers `p_least` and `p_most` are the smallest and largest p
#'   that their rounding allows.
#' @section Formula: With means \eqn{m}, standard deviations \eqn{s} and sizes \eqn{n},
#'   \deqn{t = \frac{m_1 - m_2 - \code{beyond}}{se}, \quad
#'     se^2 = \frac{s_1^2}{n_1} + \frac{s_2^2}{n_2}, \quad
#'     df = \frac{se^4}{\frac{(s_1^2/n_1)^2}{n_1-1} + \frac{(s_2^2/n_2)^2}{n_2-1}}}{
#'     t = (m1 - m2 - beyond) / se, se^2 = s1^2/n1 + s2^2/n2,
#'     df = se^4 / ((s1^2/n1)^2/(n1 - 1) + (s2^2/n2)^2/(n2 - 1))}
#'   (Welch 1947, eq. 28; Satterthwaite 1946). The p-value is the tail of Student's t on `df` degrees of
#'   freedom that `expect` asks for, both tails for `"either"`; the interval is
#'   \eqn{m_1 - m_2 \pm t_{1-(1-\code{level})/2, df}\, se}{m1 - m2 -/+ t(1 - (1 - level)/2; df) se}.
#'   Student: \eqn{se^2 = s_p^2 (1/n_1 + 1/n_2)}{se^2 = sp^2 (1/n1 + 1/n2)} with the pooled variance
#'   \eqn{s_p^2 = ((n_1-1)s_1^2 + (n_2-1)s_2^2)/df}{sp^2 = ((n1 - 1) s1^2 + (n2 - 1) s2^2)/df} and
#'   \eqn{df = n_1 + n_2 - 2}{df = n1 + n2 - 2} (Fisher 1925, section 24.1).
#'   Pairs: with mean \eqn{m_d} and standard deviation \eqn{s_d} of the n changes,
#'   \eqn{t = (m_d - \code{beyond}) / (s_d/\sqrt n)}{t = (md - beyond) / (sd/sqrt(n))} on n - 1 degrees of
#'   freedom (Student 1908).
#' @section Ranks: *Mann-Whitney* (`"ranks"`) when values can be ordered and the question is whether one group tends
#'   to be higher; its null hypothesis is that both distributions are the same, its shift is a distance where they
#'   have one shape. *Brunner-Munzel* (`"relative"`) when shapes or spreads may differ. *Signed ranks* for changes
#'   whose distribution is symmetric: differences of scores must be comparable, so an ordered scale alone is not
#'   enough. None of them compares medians, and none has degrees of freedom but Brunner-Munzel's t.
#'
#'   U is the number of pairs with the first value (less `beyond`) above the second, equal ones half (Mann & Whitney
#'   1947); W the sum of the ranks of the sizes of changes (less `beyond`) above 0 (Wilcoxon 1945), with midranks.
#'   Exact tails count assignments, or signs, given the midranks (Streitberg & Roehmel 1986), to a relative accuracy
#'   of 1e-12; without ties U's are the coefficients of the Gaussian binomial. The approximation is normal with
#'   \deqn{\mathrm{var}(U) = \frac{n_1 n_2}{12}\left(N + 1 - \frac{\sum (t^3 - t)}{N (N - 1)}\right),
#'     \quad \mathrm{var}(W) = \frac{1}{4} \sum R^2,}{var(U) = n1 n2 / 12 (N + 1 - sum(t^3 - t) / (N (N - 1))),
#'     var(W) = sum(R^2) / 4,}
#'   t the sizes of runs of equal values and R the ranks counted, and a continuity correction of 1/2 towards the mean.
#'   The shift is the median of all differences between the samples, the centre of changes that of all means of two
#'   changes, each with itself too (Hodges & Lehmann 1963); with M of them in order, the limits are number k from
#'   either end, k the largest with P(U <= k - 1) at most half of 1 - `level` (Lehmann 1975, sections 2.6 and 4.4).
#'   Where there is no such k there is no finite interval at this level: limits are `NA`, and the result names the
#'   widest one that can be had. Equality is that of decimals: measurements with up to nine are compared and
#'   subtracted as whole numbers, so that 0.3 - 0.2 and 0.2 - 0.1 are the same change.
#'
#'   Brunner & Munzel (2000): with placements V of each value among the other group and their variances s^2,
#'   \deqn{t = \frac{\hat p - 1/2}{\hat\sigma},\quad \hat\sigma^2 = \frac{s_1^2}{n_1 n_2^2} +
#'     \frac{s_2^2}{n_2 n_1^2}}{t = (p - 1/2) / se, se^2 = s1^2 / (n1 n2^2) + s2^2 / (n2 n1^2)}
#'   with Satterthwaite's degrees of freedom; the interval is made on the logit scale. With fewer than ten values in a
#'   group (and at most 1e5 in all) t is compared with its values under all assignments of the measurements to the
#'   groups, or `draws` random ones (Neubert & Brunner 2007; interval: Pauly et al. 2016); a simulated p is (b + 1) /
#'   (`draws` + 1) and comes with its Clopper-Pearson interval.
#'   Where every value of one group is higher there is no spread: p is then that
#'   of the one assignment as extreme, and the limit away from the end is the smallest chance with which min(n1, n2)
#'   pairs without a common member would all go the same way with probability (1 - `level`)/2.
#' @section Permutation: If nothing but chance decided which value stands in which group, or which sign a change has,
#'   every other assignment was as likely (Fisher 1935, section 21; Pitman 1937). p is the share of assignments with a
#'   statistic as far out as the observed one, which counts itself; two-sided twice the smaller tail. `"studentized"`
#'   compares Welch's t: exact where both populations are the same, and right in large samples whatever their spreads
#'   (Janssen 1997; Chung & Romano 2013). `"difference"` compares the means themselves and takes the values to be
#'   exchangeable; of pairs both order all signs alike and are one test. `"trimmed"` and `"median"` withstand outlying
#'   values. With `blocks` in the study values are reassigned within their block, and the difference is that within
#'   blocks, weighted by \eqn{n_1 n_2 / (n_1 + n_2)}{n1 n2 / (n1 + n2)} (least squares; t from values less their block's
#'   mean).
#'
#'   The interval holds the shifts of the first group that the same reassignments do not reject. Exchanging k values
#'   whose sum makes the first group's fall by F gives as large a difference under every shift of at least F / k; the
#'   limits are order statistics of these critical shifts. A shift changes Welch's t of every assignment: its critical
#'   shift is where its t passes the observed one. Where one group is at least twice as large and there are at most
#'   20,000 assignments, p may fall, rise and fall again with the shift, and the interval is the shortest that holds
#'   every shift that is not rejected. For trimmed means and medians, every shift is tested
#'   anew.
#'
#'   *Counted by* the first way that is affordable. `"listed"`: one by one, at most some millions. `"decimals"`: sums of
#'   values with up to nine decimals, by dynamic programming (Pagano & Tritchler 1983; Streitberg & Roehmel 1986), for
#'   hundreds of values. `"quarters"`: any 64 values, or signs of 62 changes, by counting pairs of half-sums (Horowitz &
#'   Sahni 1974; Schroeppel & Shamir 1981); 50 take about 3 seconds with the interval and are the most that is done
#'   without `exact = TRUE`. `"grid"`: values rounded to a fine grid, p with the ends between which it lies for certain
#'   (`p_kind` "bracketed"). `"drawn"`: random assignments, p = (b + 1) / (draws + 1) (Phipson & Smyth 2010) with its
#'   Clopper-Pearson interval, and a warning when that covers `alpha`. Welch's t, trimmed means and medians of groups
#'   are listed or drawn. Equality is that of decimals; other values are compared as whole numbers of 62 binary digits,
#'   t with a tolerance of 1e-12, wider where t is so large that its digits run out, and beyond 1e5 not at all. Limits
#'   of counted sums are exact fractions for decimals of two groups; of other values they are found to 1e-9 of a
#'   standard error, or interpolated within 1e-4 of one where a count takes long; those of changes and within blocks
#'   are interpolated between shifts of a small part of the last decimal, counted exactly.
#'
#'   *Series*: neighbours in time resemble each other and are not exchangeable. With an `order` in the study the result
#'   tells their correlation and how many independent values tell as much; `run_length` flips changes, or reassigns
#'   values, in runs of neighbours (of groups: only full runs, by their sums, cut within each group's own order; what
#'   fills no run stays). No run reaches across a gap of more than three usual steps. `"estimate"` takes the shortest
#'   length L for which independent runs understate the variance of a mean by at most a tenth,
#'   \deqn{\frac{2 r (1 - r^L)}{L (1 - r^2)} \le 0.1,}{2 r (1 - r^L) / (L (1 - r^2)) <= 0.1,}
#'   where dependence fades geometrically (variance: Bayley & Hammersley 1946), but at least eight runs; the neighbours'
#'   correlation r is corrected by (1 + 3 r)/n for its bias in short series (Marriott & Pope 1954).
#' @section Several outcomes: One row for each outcome, or outcome and subgroup, with the digits of a call for it alone.
#'   With the m known p in order, \eqn{p_{(1)} \le \dots \le p_{(m)}}{p(1) <= ... <= p(m)}, `p_adjusted` is
#'   \deqn{\mathrm{Bonferroni}\; m\,p_{(i)}, \quad \mathrm{Holm}\; \max_{j \le i} (m - j + 1)\,p_{(j)}, \quad
#'     \mathrm{Hochberg}\; \min_{j \ge i} (m - j + 1)\,p_{(j)}, \quad
#'     \mathrm{Benjamini, Hochberg}\; \min_{j \ge i} m\,p_{(j)} / j,}{Bonferroni m p(i), Holm max over j <= i of
#'     (m - j + 1) p(j), Hochberg min over j >= i of (m - j + 1) p(j), Benjamini and Hochberg min over j >= i of
#'     m p(j) / j,}
#'   at most 1. The first three keep the chance of any false rejection at `alpha` (Dunn 1961; Holm 1979; Hochberg 1988,
#'   for independent or positively dependent tests), the last the expected share of false ones among the rejections
#'   (Benjamini & Hochberg 1995).
#'
#'   `"max_t"` (Westfall & Young 1993, algorithm 4.1) reassigns whole rows, all outcomes of a unit together, or the
#'   signs of its changes, so that it makes use of how outcomes go together: with the t of outcomes in order, the
#'   adjusted p of number i is the share of reassignments in which the largest t of numbers i to m is at least the
#'   observed one, and no smaller than that of number i - 1; `"max_t_single"` takes the largest of all m. Rows are
#'   reassigned within `blocks` and subgroups; missing values stay with their rows. All assignments are listed where
#'   they are at most 20,000 and no `draws` are given, or at most 5 million with `exact = TRUE`; else `draws` random
#'   ones, and p = (b + 1) / (draws + 1). Only for Welch, Student and pairs, from single measurements. Its simultaneous
#'   intervals are the estimate -/+ c times the standard error, with c the largest t that at most a share 1 - `level` of
#'   the reassignments exceeds.
#' @section Interval and test: p <= `alpha` exactly when the matching interval excludes `beyond`: the
#'   two-sided interval at 1 - `alpha`, or at 1 - 2 `alpha` for a directional question, which is also
#'   shown as a bound in words. A limit is never infinite. With ties just at `beyond` a limit of the shift can equal
#'   `beyond` while the test rejects it: the interval is then open at that end (`open_end`). With ties, the interval of
#'   `"ranks"` uses the ties at `beyond` for every shift. With another `beyond`, the test may therefore reject a shift
#'   near a limit of this interval, and the interval of that answer differs slightly. The interval of
#'   `"signed_ranks"` tests every shift with its own ties, and that of a studentized permutation test every shift with
#'   its own distribution: both are the same for every `beyond`. The logit interval of
#'   `"relative"` and its test can part ways near the border. A bracketed or simulated p agrees with its own interval.
#' @section A directional question: Its p is the tail on the expected side, never half of a two-sided p
#'   that was looked at first: where the difference lies on the other side, p is above 0.5 and the result
#'   says so. Without a `reason` the result says that none is on record and shows the two-sided p.
#' @section Errors: `vandro_error_one_value` (a group with one value; Student needs two in one group only),
#'   `vandro_error_no_spread` (neither group varies), `vandro_error_out_of_range` (numbers beyond the range
#'   of a double), `vandro_error_method_design`, `vandro_error_contradiction` (a `reason` without a
#'   direction, an option of another method, `"max_t"` with ranks, `simultaneous` with an `adjust` that has no such
#'   intervals), `vandro_error_bad_value` (an option that is misspelt or out of range),
#'   `vandro_error_needs_values` (ranks of published numbers), `vandro_error_all_zero` (every change equals
#'   `beyond`), `vandro_error_exact_cost`, `vandro_error_bad_blocks` (a block with one group, or
#'   missing), `vandro_error_order` (ties in an order that runs need), `vandro_error_needs_order`,
#'   `vandro_error_too_few_runs`, `vandro_error_not_a_study`. Warnings: `vandro_warning_unattainable`,
#'   `vandro_warning_undecided`. A
#'   p-value is never 0: below the smallest double it is that double and `log_p` tells its size.
#' @section Where it holds: How often every test rejects a true null hypothesis, and its interval misses, is mapped
#'   in `vignette("validation", package = "vandro")`: normal, skewed, heavy-tailed, rounded, unequally spread and
#'   serially dependent populations, 5 to 500 values a group; with the digits that every number reaches.
#' @references Benjamini, Y. & Hochberg, Y. (1995). Controlling the false discovery rate: a practical and powerful
#'   approach to multiple testing. *Journal of the Royal Statistical Society B* 57, 289-300.
#'
#'   Brunner, E. & Munzel, U. (2000). The nonparametric Behrens-Fisher problem: asymptotic theory and a
#'   small-sample approximation. *Biometrical Journal* 42, 17-25.
#'
#'   Bayley, G. V. & Hammersley, J. M. (1946). The "effective" number of independent observations in an autocorrelated
#'   time series. *Supplement to the Journal of the Royal Statistical Society* 8, 184-197.
#'
#'   Chung, E. & Romano, J. P. (2013). Exact and asymptotically robust permutation tests. *Annals of Statistics* 41,
#'   484-507.
#'
#'   Clopper, C. J. & Pearson, E. S. (1934). The use of confidence or fiducial limits illustrated in the case of the
#'   binomial. *Biometrika* 26, 404-413.
#'
#'   Dunn, O. J. (1961). Multiple comparisons among means. *Journal of the American Statistical Association* 56, 52-64.
#'
#'   Fisher, R. A. (1925). *Statistical methods for research workers*, section 24.1.
#'
#'   Fisher, R. A. (1935). *The design of experiments*, section 21.
#'
#'   Hochberg, Y. (1988). A sharper Bonferroni procedure for multiple tests of significance. *Biometrika* 75, 800-802.
#'
#'   Hodges, J. L. & Lehmann, E. L. (1963). Estimates of location based on rank tests. *Annals of Mathematical
#'   Statistics* 34, 598-611.
#'
#'   Holm, S. (1979). A simple sequentially rejective multiple test procedure. *Scandinavian
#'   Journal of Statistics* 6, 65-70.
#'
#'   Horowitz, E. & Sahni, S. (1974). Computing partitions with applications to the knapsack problem. *Journal of the
#'   ACM* 21, 277-292.
#'
#'   Janssen, A. (1997). Studentized permutation tests for non-i.i.d. hypotheses and the generalized Behrens-Fisher
#'   problem. *Statistics & Probability Letters* 36, 9-21.
#'
#'   Lehmann, E. L. (1975). *Nonparametrics: statistical methods based on ranks*.
#'
#'   Mann, H. B. & Whitney, D. R. (1947). On a test of whether one of two random variables is stochastically larger
#'   than the other. *Annals of Mathematical Statistics* 18, 50-60.
#'
#'   Marriott, F. H. C. & Pope, J. A. (1954). Bias in the estimation of autocorrelations. *Biometrika* 41, 390-402.
#'
#'   Neubert, K. & Brunner, E. (2007). A studentized permutation test for the non-parametric Behrens-Fisher problem.
#'   *Computational Statistics & Data Analysis* 51, 5192-5204.
#'
#'   Pagano, M. & Tritchler, D. (1983). On obtaining permutation distributions in polynomial time. *Journal of the
#'   American Statistical Association* 78, 435-440.
#'
#'   Pauly, M., Asendorf, T. & Konietschke, F. (2016). Permutation-based inference for the AUC: a unified approach for
#'   continuous and discontinuous data. *Biometrical Journal* 58, 1319-1337.
#'
#'   Phipson, B. & Smyth, G. K. (2010). Permutation p-values should never be zero. *Statistical Applications in Genetics
#'   and Molecular Biology* 9, 39.
#'
#'   Pitman, E. J. G. (1937). Significance tests which may be applied to samples from any populations. *Supplement to
#'   the Journal of the Royal Statistical Society* 4, 119-130.
#'
#'   Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance
#'   components. *Biometrics Bulletin* 2, 110-114.
#'
#'   Schroeppel, R. & Shamir, A. (1981). A T = O(2^(n/2)), S = O(2^(n/4)) algorithm for certain NP-complete problems.
#'   *SIAM Journal on Computing* 10, 456-464.
#'
#'   Streitberg, B. & Roehmel, J. (1986). Exact distributions for permutation and rank tests: an introduction to some
#'   recently published algorithms. *Statistical Software Newsletter* 12, 10-17.
#'
#'   Student (1908). The probable error of a mean. *Biometrika* 6, 1-25.
#'
#'   Welch, B. L. (1947). The generalization of "Student's" problem when several different population
#'   variances are involved. *Biometrika* 34, 28-35, eq. 28.
#'
#'   Westfall, P. H. & Young, S. S. (1993). *Resampling-based multiple testing: examples and methods for p-value
#'   adjustment*, algorithm 4.1.
#'
#'   Wilcoxon, F. (1945). Individual comparisons by ranking methods. *Biometrics Bulletin* 1, 80-83.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' test_difference(study)
#'
#' # Declared before looking: compost is expected to be higher by more than 1 cm
#' test_difference(study,
#'   expect = "higher", beyond = 1, reason = "compost costs more and must be worth it"
#' )
#'
#' # Welch's test is the declared one; Student's stands beside it
#' test_difference(study, c("welch", "student"))
#'
#' pairs <- versus_paired(conductance, noon, dawn, unit = "mmol")
#' test_difference(pairs)
#'
#' # Scores with many ties: exact all the same
#' damage <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
#' test_difference(damage, c("ranks", "relative"))
#' test_difference(pairs, "signed_ranks", beyond = 30)
#'
#' # Eleven plots: all 462 assignments; seedlings within their benches
#' plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l")
#' test_difference(plots, "permutation")
#' benches <- versus(seedlings, height, substrate, groups = c("compost", "peat"), blocks = bench)
#' test_difference(benches, "permutation", seed = 1)
#'
#' # Four outcomes together, and one outcome on every bench
#' traits <- versus(seedlings, c(height, leaf_area, dry_mass, chlorophyll), substrate,
#'   groups = c("compost", "peat")
#' )
#' options <- method_options(draws = 999)
#' test_difference(traits, adjust = "max_t", simultaneous = TRUE, options = options, seed = 1)
#' test_difference(versus(seedlings, height, substrate, groups = c("compost", "peat"), each = bench))
#' @export
test_difference <- function(study, method = NULL, ..., expect = "either", beyond = 0, level = 0.95,
                            alpha = 0.05, adjust = "holm", simultaneous = FALSE, reason = NULL, options = NULL,
                            seed = NULL) {
  call <- rlang::current_env()
  options <- given_options(options, ..., verb = "test_difference", call = call)
  check_study(study)
  methods <- check_methods(method, study, call)
  asked <- list(
    expect = check_choice(expect, directions), beyond = check_number(beyond),
    level = check_level(level), alpha = check_alpha(alpha), method_from = method_origin(method)
  )
  reason <- check_reason(reason, asked$expect, call)
  adjusting <- check_adjusting(adjust, simultaneous, methods, study, call)
  counting <- check_counting_options(methods, options, seed, call, adjusting$joint)
  warn_counted(difference_answer(study, methods, asked, counting, adjusting, reason, call))
}

# The answer to a question whose parts have been checked.
difference_answer <- function(study, methods, asked, counting, adjusting, reason, call) {
  inferred <- infer_cases(study, methods, c(asked, counting), call)
  settings <- c(
    list(verb = "test_difference", method = methods), asked, list(adjust = adjusting$adjust, reason = reason),
    counting_settings(counting, methods, inferred$found)
  )
  inferred_answer(inferred, study, settings, adjusting, counting, call)
}

inferred_answer <- function(inferred, study, settings, adjusting, counting = NULL, call = NULL) {
  table <- inferred$columns
  reason <- table$reason
  table$reason <- NULL
  joint <- adjusted_columns(table, study, settings, adjusting, counting, call)
  table <- c(table, joint$columns, if (!is.null(reason)) list(reason = reason))
  new_answer(
    "difference", table, study, c(settings, joint$settings),
    detail = list(
      matched = lean_table(inferred$matched), true_size = true_sizes(inferred, study, settings),
      ranks = found_details(inferred, "ranks", rank_detail),
      permutation = found_details(inferred, "reassignment", permutation_detail),
      series = ignored_dependence(study, inferred), joint = joint$detail
    )
  )
}

# What the methods that count found, per row; nothing of the others.
found_details <- function(inferred, family, detail) {
  if (any(method_is(inferred$columns, family))) return(lapply(inferred$found, detail))
  vector("list", length(inferred$outcomes))
}

# Of Student's test, per row; an integration each, so that not thousands are made unasked.
true_sizes <- function(inferred, study, settings) {
  method <- inferred$columns$method
  size <- rep(NA_real_, length(method))
  if (length(study$outcomes) > 100) return(size)
  for (i in which(method == "student")) {
    size[[i]] <- student_true_size(study$outcomes[[inferred$outcomes[[i]]]], "student", settings)
  }
  size
}
