# What a text cites by author and year, in full.

report_sources <- c(
  "Aldor-Noiman et al. 2013" = paste(
    "Aldor-Noiman, S., Brown, L. D., Buja, A., Rolke, W. & Stine, R. A. (2013). The power to see: a new",
    "graphical test of normality. The American Statistician 67, 249-260."
  ),
  "Algina & Keselman 2003" = paste(
    "Algina, J. & Keselman, H. J. (2003). Approximate confidence intervals for effect sizes. Educational and",
    "Psychological Measurement 63, 537-553."
  ),
  "American Psychological Association 2020" = paste(
    "American Psychological Association (2020). Publication manual of the American Psychological Association, 7th ed.,",
    "sections 6.36 and 6.43."
  ),
  "Bartlett 1946" = paste(
    "Bartlett, M. S. (1946). On the theoretical specification and sampling properties of autocorrelated",
    "time-series. Supplement to the Journal of the Royal Statistical Society 8, 27-41."
  ),
  "Bayley & Hammersley 1946" = paste(
    "Bayley, G. V. & Hammersley, J. M. (1946). The \"effective\" number of independent observations in an",
    "autocorrelated time series. Supplement to the Journal of the Royal Statistical Society 8, 184-197."
  ),
  "Benjamini & Hochberg 1995" = paste(
    "Benjamini, Y. & Hochberg, Y. (1995). Controlling the false discovery rate: a practical and powerful approach to",
    "multiple testing. Journal of the Royal Statistical Society B 57, 289-300."
  ),
  "Bonett 2008" = paste(
    "Bonett, D. G. (2008). Confidence intervals for standardized linear contrasts of means. Psychological",
    "Methods 13, 99-109."
  ),
  "Brown & Forsythe 1974" = paste(
    "Brown, M. B. & Forsythe, A. B. (1974). Robust tests for the equality of variances. Journal of the American",
    "Statistical Association 69, 364-367."
  ),
  "Brunner & Munzel 2000" = paste(
    "Brunner, E. & Munzel, U. (2000). The nonparametric Behrens-Fisher problem: asymptotic theory and a",
    "small-sample approximation. Biometrical Journal 42, 17-25."
  ),
  "Cliff 1993" = paste(
    "Cliff, N. (1993). Dominance statistics: ordinal analyses to answer ordinal questions. Psychological Bulletin",
    "114, 494-509."
  ),
  "Chung & Romano 2013" = paste(
    "Chung, E. & Romano, J. P. (2013). Exact and asymptotically robust permutation tests. Annals of Statistics 41,",
    "484-507."
  ),
  "Clopper & Pearson 1934" = paste(
    "Clopper, C. J. & Pearson, E. S. (1934). The use of confidence or fiducial limits illustrated in the case of",
    "the binomial. Biometrika 26, 404-413."
  ),
  "Cohen 1988" = "Cohen, J. (1988). Statistical power analysis for the behavioral sciences, 2nd ed.",
  "D'Agostino & Pearson 1973" = paste(
    "D'Agostino, R. & Pearson, E. S. (1973). Tests for departure from normality. Biometrika 60, 613-622."
  ),
  "Dunn 1961" = paste(
    "Dunn, O. J. (1961). Multiple comparisons among means. Journal of the American Statistical Association 56,",
    "52-64."
  ),
  "Efron 1987" = paste(
    "Efron, B. (1987). Better bootstrap confidence intervals. Journal of the American Statistical Association 82,",
    "171-185."
  ),
  "Fisher 1925" = "Fisher, R. A. (1925). Statistical methods for research workers.",
  "Fisher 1935" = "Fisher, R. A. (1935). The design of experiments, section 21.",
  "Gronau et al. 2020" = paste(
    "Gronau, Q. F., Ly, A. & Wagenmakers, E.-J. (2020). Informed Bayesian t-tests. The American Statistician 74,",
    "137-143."
  ),
  "Hedges 1981" = paste(
    "Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size and related",
    "estimators. Journal of Educational Statistics 6, 107-128."
  ),
  "Hochberg 1988" = paste(
    "Hochberg, Y. (1988). A sharper Bonferroni procedure for multiple tests of significance. Biometrika 75,",
    "800-802."
  ),
  "Hodges & Lehmann 1963" = paste(
    "Hodges, J. L. & Lehmann, E. L. (1963). Estimates of location based on rank tests. Annals of Mathematical",
    "Statistics 34, 598-611."
  ),
  "Holm 1979" = paste(
    "Holm, S. (1979). A simple sequentially rejective multiple test procedure. Scandinavian Journal of",
    "Statistics 6, 65-70."
  ),
  "Hyndman & Fan 1996" = paste(
    "Hyndman, R. J. & Fan, Y. (1996). Sample quantiles in statistical packages. The American Statistician 50,",
    "361-365."
  ),
  "Iglewicz & Hoaglin 1993" = "Iglewicz, B. & Hoaglin, D. C. (1993). How to detect and handle outliers.",
  "Janssen 1997" = paste(
    "Janssen, A. (1997). Studentized permutation tests for non-i.i.d. hypotheses and the generalized Behrens-Fisher",
    "problem. Statistics & Probability Letters 36, 9-21."
  ),
  "Jeffreys 1961" = "Jeffreys, H. (1961). Theory of probability, 3rd ed.",
  "Joanes & Gill 1998" = paste(
    "Joanes, D. N. & Gill, C. A. (1998). Comparing measures of sample skewness and kurtosis. The Statistician 47,",
    "183-189."
  ),
  "Kass & Raftery 1995" = paste(
    "Kass, R. E. & Raftery, A. E. (1995). Bayes factors. Journal of the American Statistical Association 90, 773-795."
  ),
  "Kerby 2014" = paste(
    "Kerby, D. S. (2014). The simple difference formula: an approach to teaching nonparametric correlation.",
    "Comprehensive Psychology 3, 11.IT.3.1."
  ),
  "Lehmann 1975" = "Lehmann, E. L. (1975). Nonparametrics: statistical methods based on ranks.",
  "Mann & Whitney 1947" = paste(
    "Mann, H. B. & Whitney, D. R. (1947). On a test of whether one of two random variables is stochastically",
    "larger than the other. Annals of Mathematical Statistics 18, 50-60."
  ),
  "Moore & McCabe 1989" = "Moore, D. S. & McCabe, G. P. (1989). Introduction to the practice of statistics.",
  "Morgan 1939" = paste(
    "Morgan, W. A. (1939). A test for the significance of the difference between the two variances in a sample",
    "from a normal bivariate population. Biometrika 31, 13-19."
  ),
  "Neubert & Brunner 2007" = paste(
    "Neubert, K. & Brunner, E. (2007). A studentized permutation test for the non-parametric Behrens-Fisher",
    "problem. Computational Statistics & Data Analysis 51, 5192-5204."
  ),
  "Neyman 1937" = paste(
    "Neyman, J. (1937). Outline of a theory of statistical estimation based on the classical theory of probability.",
    "Philosophical Transactions of the Royal Society A 236, 333-380."
  ),
  "Pauly et al. 2016" = paste(
    "Pauly, M., Asendorf, T. & Konietschke, F. (2016). Permutation-based inference for the AUC: a unified approach",
    "for continuous and discontinuous data. Biometrical Journal 58, 1319-1337."
  ),
  "Phipson & Smyth 2010" = paste(
    "Phipson, B. & Smyth, G. K. (2010). Permutation p-values should never be zero: calculating exact p-values when",
    "permutations are randomly drawn. Statistical Applications in Genetics and Molecular Biology 9, 39."
  ),
  "Pitman 1937" = paste(
    "Pitman, E. J. G. (1937). Significance tests which may be applied to samples from any populations. Supplement",
    "to the Journal of the Royal Statistical Society 4, 119-130."
  ),
  "Pitman 1939" = "Pitman, E. J. G. (1939). A note on normal correlation. Biometrika 31, 9-12.",
  "Pratt 1959" = paste(
    "Pratt, J. W. (1959). Remarks on zeros and ties in the Wilcoxon signed rank procedures. Journal of the",
    "American Statistical Association 54, 655-667."
  ),
  "Rosenthal 1991" = "Rosenthal, R. (1991). Meta-analytic procedures for social research, 2nd ed.",
  "Rouder et al. 2009" = paste(
    "Rouder, J. N., Speckman, P. L., Sun, D., Morey, R. D. & Iverson, G. (2009). Bayesian t tests for accepting and",
    "rejecting the null hypothesis. Psychonomic Bulletin & Review 16, 225-237."
  ),
  "Royston 1995" = paste(
    "Royston, P. (1995). Remark AS R94: a remark on algorithm AS 181: the W-test for normality. Applied",
    "Statistics 44, 547-551."
  ),
  "Satterthwaite 1946" = paste(
    "Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance components.",
    "Biometrics Bulletin 2, 110-114."
  ),
  "Schuirmann 1987" = paste(
    "Schuirmann, D. J. (1987). A comparison of the two one-sided tests procedure and the power approach for assessing",
    "the equivalence of average bioavailability. Journal of Pharmacokinetics and Biopharmaceutics 15, 657-680."
  ),
  "Shapiro & Wilk 1965" = paste(
    "Shapiro, S. S. & Wilk, M. B. (1965). An analysis of variance test for normality (complete samples).",
    "Biometrika 52, 591-611."
  ),
  "Steiger & Fouladi 1997" = paste(
    "Steiger, J. H. & Fouladi, R. T. (1997). Noncentrality interval estimation and the evaluation of",
    "statistical models. In: What if there were no significance tests?, 221-257."
  ),
  "Streitberg & Roehmel 1986" = paste(
    "Streitberg, B. & Roehmel, J. (1986). Exact distributions for permutation and rank tests: an introduction to",
    "some recently published algorithms. Statistical Software Newsletter 12, 10-17."
  ),
  "Student 1908" = "Student (1908). The probable error of a mean. Biometrika 6, 1-25.",
  "Tukey 1977" = "Tukey, J. W. (1977). Exploratory data analysis.",
  "Wasserstein & Lazar 2016" = paste(
    "Wasserstein, R. L. & Lazar, N. A. (2016). The ASA statement on p-values: context, process, and purpose. The",
    "American Statistician 70, 129-133."
  ),
  "Welch 1947" = paste(
    "Welch, B. L. (1947). The generalization of \"Student's\" problem when several different population",
    "variances are involved. Biometrika 34, 28-35."
  ),
  "Welch 1951" = paste(
    "Welch, B. L. (1951). On the comparison of several mean values: an alternative approach. Biometrika 38,",
    "330-336."
  ),
  "Westfall & Young 1993" = "Westfall, P. H. & Young, S. S. (1993). Resampling-based multiple testing.",
  "Wilcoxon 1945" = "Wilcoxon, F. (1945). Individual comparisons by ranking methods. Biometrics Bulletin 1, 80-83.",
  "Yule 1911" = "Yule, G. U. (1911). An introduction to the theory of statistics."
)
