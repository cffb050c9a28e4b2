"""High-precision limits of the noncentrality of t, the oracle of the noncentral-t kernel.

Solves P(T > t; df, lower) = P(T <= t; df, upper) = (1 - level) / 2 in 30-digit arithmetic (mpmath),
with P(T <= t) = integral of f(s) Phi(t s - ncp) over s, f the density of chi_df / sqrt(df), cut into
panels at the points where either factor turns. Nothing is shared with the kernel: the density uses
loggamma directly, every piece is integrated numerically, and roots are found by bracketing.

    python3 validation/noncentral_t_reference.py > tests/testthat/reference/noncentral_t.csv
"""
from mpmath import mp, mpf, quad, exp, log, loggamma, erfc, sqrt, findroot

mp.dps = 30


def cdf(t, df, ncp, upper):
    t, df, ncp = mpf(t), mpf(df), mpf(ncp)
    const = log(2) + df / 2 * log(df / 2) - loggamma(df / 2)

    def integrand(s):
        if s == 0:
            return mpf(0)
        x = t * s - ncp
        phi = erfc((x if upper else -x) / sqrt(mpf(2))) / 2
        return exp(const + (df - 1) * log(s) - df * s * s / 2) * phi

    sd = 1 / sqrt(2 * df)
    cuts = {mpf(0), 1 + 18 * sd + 8 / df}
    for k in range(-16, 17, 2):
        cuts.add(1 + k * sd)
        if t > 0:
            cuts.add((ncp + k) / t)
    if df < 30:  # s^(df - 1) near 0
        cuts |= {mpf(10) ** -k for k in range(1, 13, 2)}
    top = max(cuts)
    cuts = sorted(c for c in cuts if 0 <= c <= top)
    return quad(integrand, cuts, method="gauss-legendre", maxdegree=5)


def solve(t, df, tail, upper):
    """Bracketing root finder on the log of the tail."""
    spread = sqrt(1 + mpf(t) ** 2 / (2 * mpf(df)))
    target = log(mpf(tail))
    f = lambda ncp: log(cdf(t, df, ncp, upper)) - target
    a = mpf(t) - 1 * spread * (1 if upper else -1)
    b = mpf(t) - 4 * spread * (1 if upper else -1)
    while f(a) * f(b) > 0:
        a, b = a + (a - b) / 2, b - (a - b) / 2
    return findroot(f, (a, b), solver="anderson", tol=mpf(10) ** -36, maxsteps=200)


def main():
    print("t,df,level,lower,upper")
    CASES = [(t, df, 0.95) for t in (0.001, 0.5, 2, 8, 40, 200, 1000)
             for df in (1, 2.5, 7, 19.5, 20, 60, 1000, 1e5, 1e7)]
    CASES += [(t, df, 0.95) for t in (0.1, 3, 15, 90, 450)
              for df in (1.1, 1.7, 3.3, 5.5, 11.2, 16.8, 33, 300)]
    CASES += [(3, 12, 0.5), (3, 12, 0.9998), (1000, 1, 0.9998), (1000, 1e7, 0.9)]
    for t, df, level in CASES:
        tail = (1 - mpf(str(level))) / 2
        low = solve(t, df, tail, True)
        high = solve(t, df, tail, False)
        print(f"{t},{df:.10g},{level},{mp.nstr(low, 20)},{mp.nstr(high, 20)}", flush=True)


if __name__ == "__main__":
    main()
