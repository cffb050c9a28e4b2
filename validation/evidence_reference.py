"""High-precision Bayes factors and posterior limits, the oracle of the evidence kernel.

Two ways that share nothing with the kernel, nor with each other: the factor of a Cauchy prior centred on no effect as an
integral over the variance of the effect (Rouder et al. 2009, eq. 1), and everything else by the likelihood in confluent
hypergeometric functions (Gronau, Ly & Wagenmakers 2020, eq. 5) integrated over the effect, in 40-digit arithmetic (mpmath).

    python3 validation/evidence_reference.py > tests/testthat/reference/evidence.csv
    python3 validation/evidence_reference.py sides > tests/testthat/reference/evidence_sides.csv

The second are priors on one side where the data speak for the other: the logarithm of likelihood ratio times the whole prior's
density, integrated over that side, with digits to spare for what cancels there.
"""
import sys

from mpmath import mp, mpf, quad, exp, log, sqrt, loggamma, hyp1f1, pi, findroot, inf

mp.dps = 40


def log_factor_by_variance(t, df, size, scale):
    """Logarithm of the factor for a difference, Cauchy prior, both directions."""
    t, df, size, scale = map(mpf, (t, df, size, scale))

    def value(s):
        g = exp(s)
        v = 1 + size * g * scale ** 2
        return -log(v) / 2 - (df + 1) / 2 * log1p(t ** 2 / (v * df)) - log(2 * pi) / 2 - s / 2 - 1 / (2 * g)

    base = -(df + 1) / 2 * log1p(t ** 2 / df)
    grid = [mpf(k) / 4 for k in range(-60, 240)]
    mode = max(grid, key=value)
    top = value(mode)
    cuts = [mode + k for k in (-40, -20, -10, -7, -5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 7, 10, 15, 20, 30, 60, 120)]
    return log(quad(lambda s: exp(value(s) - top), cuts)) + top - base


def log1p(x):
    return mp.log1p(x)


def log_ratio(t, df, size, delta):
    """log of the likelihood of delta over that of 0."""
    mu = sqrt(size) * delta
    z = mu ** 2 * t ** 2 / (2 * (df + t ** 2))
    even = hyp1f1((df + 1) / 2, mpf(1) / 2, z)
    lift = exp(loggamma((df + 2) / 2) - loggamma((df + 1) / 2))
    odd = sqrt(mpf(2)) * mu * t / sqrt(df + t ** 2) * lift * hyp1f1((df + 2) / 2, mpf(3) / 2, z)
    return -mu ** 2 / 2 + log(even + odd)


def log_prior(delta, location, scale, df):
    z = (delta - location) / scale
    return (loggamma((df + 1) / 2) - loggamma(df / 2) - log(df * pi) / 2 - log(scale)
            - (df + 1) / 2 * log1p(z ** 2 / df))


def direct(t, df, size, location, scale, prior_df, level=mpf("0.95")):
    t, df, size, location, scale, prior_df = map(mpf, (t, df, size, location, scale, prior_df))
    centre = t / sqrt(size)
    width = sqrt(1 + t ** 2 / (2 * df)) / sqrt(size)
    # Where the odd and the even part of the likelihood cancel it is far below the last digit of its top.
    cuts = sorted({centre + k * width for k in (-14, -9, -6, -4, -2, -1, 0, 1, 2, 4, 6, 9, 14)} |
                  {location + k * scale for k in (-8, -3, -1, 0, 1, 3, 8)} | {mpf(0)})
    value = lambda d: mp.re(log_ratio(t, df, size, d)) + log_prior(d, location, scale, prior_df)
    top = max(value(c) for c in cuts)
    density = lambda d: exp(value(d) - top)
    pieces = [quad(density, [a, b], maxdegree=7) for a, b in zip(cuts, cuts[1:])]
    total = sum(pieces)
    positive = sum(p for p, a in zip(pieces, cuts) if a >= 0)

    def limit(share):
        wanted = share * total
        for p, a, b in zip(pieces, cuts, cuts[1:]):
            if wanted <= p:
                break
            wanted -= p
        low, high = a, b
        for _ in range(60):
            middle = (low + high) / 2
            here = quad(density, [low, middle], maxdegree=6)
            if here < wanted:
                wanted -= here
                low = middle
            else:
                high = middle
        return (low + high) / 2

    return log(total) + top, log(positive) + top, limit(mpf("0.5")), limit((1 - level) / 2), limit((1 + level) / 2)


def far_side(t, df, size, location, scale, prior_df, side, most):
    t, df, size, location, scale, prior_df, most = map(mpf, (t, df, size, location, scale, prior_df, most))
    value = lambda d: mp.re(log_ratio(t, df, size, side * d) + log_prior(side * d, location, scale, prior_df))
    cuts = [mpf(0)] + [most * mpf(10) ** -k for k in range(6, -1, -1)]
    top = max(value(c) for c in cuts)
    return log(sum(quad(lambda d: exp(value(d) - top), [a, b], maxdegree=7) for a, b in zip(cuts, cuts[1:]))) + top


def show(*row):
    print(",".join("NA" if x is None else mp.nstr(mpf(x), 17) for x in row), flush=True)


def main():
    R = sqrt(mpf(1) / 2)
    if sys.argv[1:] == ["sides"]:
        mp.dps = 300
        print("t,df,size,location,scale,prior_df,side,log_side")
        for case in ((-8, 18, 5, 0, R, 1, 1, 10), (-30, 58, 15, 0, R, 1, 1, 1), (40, 198, 50, "0.3", "0.1", 3, -1, 1),
                     (-300, 1998, 500, 0, 2, 1, 1, "0.1"), (12, 38, 10, 1, "0.05", 100, -1, 1),
                     (2, 1998, 500, "0.5", "0.02", 1000, -1, 1)):
            show(*case[:7], far_side(*case))
    else:
        print("t,df,size,location,scale,prior_df,log_all,log_positive,median,lower,upper")
        for t in ("0", "0.3", "2", "-4", "40", "1000"):
            for df, size in (("1", "0.75"), ("6", "2"), ("18", "5"), ("98", "25"), ("1998", "500"), ("1999998", "500000")):
                for scale in (R, mpf("0.1"), mpf(2)):
                    show(t, df, size, 0, scale, 1, log_factor_by_variance(t, df, size, scale), None, None, None, None)
        for case in (("2", "18", "5", 0, R, 1), ("-1.2", "9", "10", 0, R, 1), ("0.4", "3", "1", 0, "0.5", 1),
                     ("2.5", "38", "10", "0.35", "0.102", 3), ("-2.5", "38", "10", "0.35", "0.102", 3),
                     ("5", "58", "15", "0.5", "0.3", 20), ("1", "198", "50", 0, "0.2", 4)):
            show(*case, *direct(*case))


if __name__ == "__main__":
    main()
