// Random numbers: xoshiro256++ (Blackman & Vigna 2021). Every draw of a simulation has a stream of
// its own, told by seed and number, so that results depend neither on the number of threads nor on
// the order of the work.
#ifndef VANDRO_RANDOM_HPP
#define VANDRO_RANDOM_HPP

#include <cmath>
#include <cstdint>

#include "wide.hpp"

namespace vandro {

class Random {
 public:
  Random(std::uint64_t seed, std::uint64_t stream) {
    // States of different streams come from disjoint stretches of one SplitMix64 sequence.
    std::uint64_t at = mix(seed) + 4 * stream * golden;
    for (std::uint64_t& word : state_) word = mix(at += golden);
  }
  std::uint64_t bits() {
    const std::uint64_t out = rotated(state_[0] + state_[3], 23) + state_[0];
    const std::uint64_t shifted = state_[1] << 17;
    state_[2] ^= state_[0];
    state_[3] ^= state_[1];
    state_[1] ^= state_[2];
    state_[0] ^= state_[3];
    state_[2] ^= shifted;
    state_[3] = rotated(state_[3], 45);
    return out;
  }
  // 0 .. n - 1, each equally often (Lemire 2019); n below 2^32.
  std::uint32_t below(std::uint32_t n) {
    std::uint64_t product = (bits() >> 32) * n;
    if (static_cast<std::uint32_t>(product) < n) {
      const std::uint32_t unfair = (0U - n) % n;
      while (static_cast<std::uint32_t>(product) < unfair) product = (bits() >> 32) * n;
    }
    return static_cast<std::uint32_t>(product >> 32);
  }
  // Uniform on (0, 1).
  double uniform() { return (static_cast<double>(bits() >> 12) + 0.5) * 0x1p-52; }
  // Standard normal, by the polar method of Marsaglia & Bray (1964).
  double normal() {
    if (spare_known_) {
      spare_known_ = false;
      return spare_;
    }
    double u, v, s;
    do {
      u = 2.0 * uniform() - 1.0;
      v = 2.0 * uniform() - 1.0;
      s = u * u + v * v;
    } while (s >= 1.0 || s == 0.0);
    const double factor = std::sqrt(-2.0 * std::log(s) / s);
    spare_ = v * factor;
    spare_known_ = true;
    return u * factor;
  }
  // Gamma with `shape` >= 1 (Marsaglia & Tsang 2000).
  double gamma(double shape) {
    const double d = shape - 1.0 / 3.0;
    const double c = 1.0 / std::sqrt(9.0 * d);
    while (true) {
      const double x = normal();
      const double root = 1.0 + c * x;
      if (root <= 0.0) continue;
      const double v = root * root * root;
      if (std::log(uniform()) < 0.5 * x * x + d - d * v + d * std::log(v)) return d * v;
    }
  }

 private:
  static constexpr std::uint64_t golden = 0x9E3779B97F4A7C15U;
  static std::uint64_t rotated(std::uint64_t x, int by) { return (x << by) | (x >> (64 - by)); }
  static std::uint64_t mix(std::uint64_t z) {
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9U;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBU;
    return z ^ (z >> 31);
  }
  std::uint64_t state_[4];
  double spare_ = 0.0;
  bool spare_known_ = false;
};

// Four generators side by side, for random bits in bulk.
class RandomBits {
 public:
  typedef std::uint64_t Lanes __attribute__((vector_size(32)));

  RandomBits(std::uint64_t seed, std::uint64_t stream) {
    for (std::uint64_t lane = 0; lane < 4; ++lane) {
      Random one(seed ^ 0x5851F42D4C957F2DU, 4 * stream + lane);
      for (Lanes& word : state_) word[lane] = one.bits();
    }
  }
  VANDRO_INLINE void bits(Lanes& out) {
    const Lanes sum = state_[0] + state_[3];
    out = ((sum << 23) | (sum >> 41)) + state_[0];
    const Lanes shifted = state_[1] << 17;
    state_[2] ^= state_[0];
    state_[3] ^= state_[1];
    state_[1] ^= state_[2];
    state_[0] ^= state_[3];
    state_[2] ^= shifted;
    state_[3] = (state_[3] << 45) | (state_[3] >> 19);
  }
  // Each bit set with probability sixteenths / 16, sixteenths from 1 to 15.
  VANDRO_INLINE void bits(std::uint32_t sixteenths, Lanes& out) {
    bits(out);
    // From the lowest binary digit of the probability upwards: 1 or, 0 and.
    for (int digit = __builtin_ctz(sixteenths) + 1; digit < 4; ++digit) {
      Lanes more;
      bits(more);
      if ((sixteenths >> digit) & 1) {
        out |= more;
      } else {
        out &= more;
      }
    }
  }

 private:
  Lanes state_[4];
};

}  // namespace vandro

#endif
