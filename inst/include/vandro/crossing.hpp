// Where a tail probability that grows with a shift passes a level.
#ifndef VANDRO_CROSSING_HPP
#define VANDRO_CROSSING_HPP

#include <algorithm>
#include <cmath>
#include <limits>

#include "normal.hpp"

namespace vandro {

// The tail is at most the level at `below` and more at `above`; in between it was not asked.
struct Crossing {
  double below = 0.0, above = 0.0, tail_below = 0.0, tail_above = 0.0;
  bool finished = false;

  // On the scale on which tails of sums are nearly straight; never `below` itself, where the tail
  // is not above the level.
  double interpolated(double level) const {
    const double low = scale(tail_below), high = scale(tail_above), at = scale(level);
    const double share = high > low ? (at - low) / (high - low) : 1.0;
    return std::min(above, below + std::clamp(share, 1e-3, 1.0) * (above - below));
  }
  static double scale(double p) {
    p = std::clamp(p, 1e-300, 1.0 - 1e-16);
    return detail::probit(p, 1.0 - p);
  }
};

// A tail equal to the level up to rounding counts as not above it.
inline bool above_level(double tail, double level) { return tail > level * (1.0 + 1e-12); }

// `tail(x)` must not fall with x, and end below and above the level; a negative one stops the
// search. It is known at `known`; the crossing is within about `reach` of `guess`. Shifts are
// multiples of `grid` (0: any); the search ends when the crossing lies between shifts at most
// `width`, or `grid`, apart.
template <class TailAt>
Crossing find_crossing(const TailAt& tail, double level, double known, double known_tail,
                       double guess, double reach, double grid, double width) {
  const auto placed = [grid](double x) { return grid > 0.0 ? std::round(x / grid) * grid : x; };
  Crossing out{known, known, known_tail, known_tail, false};
  bool have_below = !above_level(known_tail, level), have_above = !have_below;
  const auto ask = [&](double x) {
    const double found = tail(x);
    if (found < 0.0) return false;
    if (above_level(found, level)) {
      out.above = x;
      out.tail_above = found;
      have_above = true;
    } else {
      out.below = x;
      out.tail_below = found;
      have_below = true;
    }
    return true;
  };
  // Outwards from the guess until both sides are near.
  double step = std::max({reach, grid, width}), x = placed(guess);
  bool seen_below = false, seen_above = false;
  while (!(seen_below && seen_above)) {
    if (have_below && !(x > out.below)) {
      seen_below = true;
      x = placed(out.below + step);
    }
    if (have_above && !(x < out.above)) {
      seen_above = true;
      x = placed(out.above - step);
    }
    if (seen_below && seen_above) break;
    if (!std::isfinite(x) || !ask(x)) return out;
    if (out.below == x) seen_below = true;
    if (out.above == x) seen_above = true;
    x = placed(seen_below && out.below == x ? x + step : x - step);
    step *= 4.0;
  }
  // Secants on the normal scale; an end that stays loses weight (Dowell & Jarratt 1971), and where
  // the tail is a staircase the bracket is halved.
  const double wanted = Crossing::scale(level);
  double g_low = Crossing::scale(out.tail_below) - wanted;
  double g_high = Crossing::scale(out.tail_above) - wanted;
  double before = out.above - out.below;
  int same = 0;
  for (int i = 1; out.above - out.below > std::max(width, 1.5 * grid); ++i) {
    const double span = out.above - out.below;
    double at = out.below + span * (g_low / (g_low - g_high));
    // A hair to the side that has not moved, so that both close in.
    const double hair = std::max(0.4 * width, 1e-4 * span);
    at = std::clamp(at + (same > 0 ? hair : -hair), out.below + 0.1 * hair, out.above - 0.1 * hair);
    if (i % 4 == 0) {
      if (span > 0.1 * before) at = 0.5 * (out.below + out.above);
      before = span;
    }
    at = placed(at);
    if (!(at > out.below && at < out.above)) at = placed(0.5 * (out.below + out.above));
    if (!(at > out.below && at < out.above)) break;
    if (!ask(at)) return out;
    if (out.below == at) {
      g_low = Crossing::scale(out.tail_below) - wanted;
      if (same > 0) g_high *= 0.5;
      same = 1;
    } else {
      g_high = Crossing::scale(out.tail_above) - wanted;
      if (same < 0) g_low *= 0.5;
      same = -1;
    }
  }
  out.finished = true;
  return out;
}

}  // namespace vandro

#endif
