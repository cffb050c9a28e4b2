// How often tests reject, and how wide their intervals are, in made-up studies.
//
// Every study has a random stream of its own, and all methods see the same studies.
#ifndef VANDRO_REHEARSAL_HPP
#define VANDRO_REHEARSAL_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <vector>

#include "made_up.hpp"
#include "parallel.hpp"
#include "rehearsed_means.hpp"
#include "rehearsed_permutation.hpp"
#include "rehearsed_ranks.hpp"
#include "rehearsed_relative.hpp"

namespace vandro {

// All methods in the studies `from` .. `to` - 1 of `n` and `m` values (of pairs `n`), one Rates for
// each method. Means and SDs of a world of whole numbers are in its steps, as are the values
// tested.
class Rehearsal {
 public:
  Rehearsal(const MadeUpWorld& world, std::size_t n, std::size_t m,
            const std::vector<Method>& methods, const RehearsalPlan& plan)
      : world_(world), n_(n), m_(m), methods_(methods), plan_(plan) {
    for (const Method method : methods) {
      if (method == Method::ranks) ranks_ = std::make_unique<detail::RankRehearsal>(n, m, plan_);
      if (method == Method::signed_ranks)
        signed_ = std::make_unique<detail::SignedRankRehearsal>(n, plan_);
      if (method == Method::relative)
        relative_ = std::make_unique<detail::RelativeRehearsal>(n, m, plan_);
      if (method == Method::permutation) {
        permutation_ = std::make_unique<detail::PermutationRehearsal>(n, m, world.paired, plan_);
      }
    }
  }

  bool run(std::uint64_t from, std::uint64_t to, int threads, std::vector<Rates>& out,
           const std::function<bool()>& keep_going = {}) const {
    constexpr std::uint64_t in_piece = 64;
    const std::uint64_t pieces = (to - from + in_piece - 1) / in_piece;
    std::vector<std::vector<Rates>> found(pieces, std::vector<Rates>(methods_.size()));
    const bool finished = in_pieces(
        pieces, threads,
        [&](std::size_t piece) {
          const std::uint64_t first = from + piece * in_piece;
          for (std::uint64_t i = first; i < std::min(to, first + in_piece); ++i) {
            one_study(i, found[piece]);
          }
        },
        keep_going);
    out.assign(methods_.size(), Rates());
    for (const std::vector<Rates>& piece : found) {
      for (std::size_t k = 0; k < out.size(); ++k) out[k].add(piece[k]);
    }
    return finished;
  }

 private:
  void one_study(std::uint64_t i, std::vector<Rates>& out) const {
    Random random(plan_.seed, i);
    std::vector<double> first(n_), second(world_.paired && !world_.whole ? 0 : m_);
    make_up(world_, random, first, second);
    std::vector<double> x, y;
    if (ranks_ || signed_ || relative_) {
      x = first;
      std::sort(x.begin(), x.end());
      if (!world_.paired) {
        y = second;
        std::sort(y.begin(), y.end());
      }
    }
    const bool wide = i % plan_.width_every == 0;
    for (std::size_t k = 0; k < methods_.size(); ++k) {
      const detail::Finding found = find(methods_[k], first, second, x, y, wide, i);
      const Sides& sides = plan_.sides;
      const bool up = found.up && sides.up, down = found.down && sides.down;
      const bool rejects = found.defined && (sides.both ? up && down : up || down);
      Rates& rates = out[k];
      rates.studies += 1.0;
      rates.rejected += rejects ? 1.0 : 0.0;
      rates.undefined += found.defined ? 0.0 : 1.0;
      if (std::isfinite(found.half_width)) {
        rates.widths += 1.0;
        rates.width_sum += found.half_width;
        rates.width_squares += found.half_width * found.half_width;
      }
    }
  }

  detail::Finding find(Method method, const std::vector<double>& first,
                       const std::vector<double>& second, const std::vector<double>& x,
                       const std::vector<double>& y, bool wide, std::uint64_t study) const {
    static const std::vector<double> none;
    switch (method) {
      case Method::ranks:
        return ranks_->find(x, y, wide);
      case Method::signed_ranks:
        return signed_->find(x, wide);
      case Method::relative:
        return relative_->find(x, y, wide, study);
      case Method::permutation:
        return permutation_->find(first, world_.paired ? none : second, wide, study);
      default:
        return detail::find_means(method, first, second, plan_);
    }
  }

  MadeUpWorld world_;
  std::size_t n_, m_;
  std::vector<Method> methods_;
  RehearsalPlan plan_;
  std::unique_ptr<detail::RankRehearsal> ranks_;
  std::unique_ptr<detail::SignedRankRehearsal> signed_;
  std::unique_ptr<detail::RelativeRehearsal> relative_;
  std::unique_ptr<detail::PermutationRehearsal> permutation_;
};

}  // namespace vandro

#endif
