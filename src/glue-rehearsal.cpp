#include <vandro/rehearsal.hpp>

#include "glue.h"

namespace {

vandro::MadeUpGroup group_of(const Rcpp::List& group) {
  return {Rcpp::as<double>(group["mean"]), Rcpp::as<double>(group["sd"]),
          static_cast<vandro::Shape>(Rcpp::as<int>(group["shape"]))};
}

vandro::MadeUpWorld world_of(const Rcpp::List& world) {
  vandro::MadeUpWorld out;
  out.first = group_of(world["first"]);
  out.second = group_of(world["second"]);
  out.paired = Rcpp::as<bool>(world["paired"]);
  out.slope = Rcpp::as<double>(world["slope"]);
  out.rest = Rcpp::as<double>(world["rest"]);
  out.whole = Rcpp::as<bool>(world["whole"]);
  out.doubt = Rcpp::as<double>(world["doubt"]);
  return out;
}

vandro::RehearsalPlan plan_of(const Rcpp::List& plan) {
  vandro::RehearsalPlan out;
  out.sides.up = Rcpp::as<bool>(plan["up"]);
  out.sides.down = Rcpp::as<bool>(plan["down"]);
  out.sides.both = Rcpp::as<bool>(plan["both"]);
  out.sides.up_at = Rcpp::as<double>(plan["up_at"]);
  out.sides.down_at = Rcpp::as<double>(plan["down_at"]);
  out.sides.tail = Rcpp::as<double>(plan["tail"]);
  out.width_tail = Rcpp::as<double>(plan["width_tail"]);
  out.width_every = static_cast<std::size_t>(Rcpp::as<double>(plan["width_every"]));
  out.exact_ranks = Rcpp::as<bool>(plan["exact_ranks"]);
  out.exact_ties = Rcpp::as<bool>(plan["exact_ties"]);
  out.assignments = static_cast<std::size_t>(Rcpp::as<double>(plan["assignments"]));
  out.studentized = Rcpp::as<bool>(plan["studentized"]);
  out.standardized = Rcpp::as<bool>(plan["standardized"]);
  out.sd_low = Rcpp::as<double>(plan["sd_low"]);
  out.sd_high = Rcpp::as<double>(plan["sd_high"]);
  out.t_low = Rcpp::as<double>(plan["t_low"]);
  out.t_high = Rcpp::as<double>(plan["t_high"]);
  out.z = Rcpp::as<double>(plan["z"]);
  out.seed = static_cast<std::uint64_t>(Rcpp::as<double>(plan["seed"]));
  return out;
}

}  // namespace

// Studies `from` .. `to` - 1; methods by name, shapes by their places in the kernel's list, from 0.
// One row of sums for each method.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_rehearse(Rcpp::List world, double n, double m,
                                    std::vector<std::string> methods, Rcpp::List plan, double from,
                                    double to, int threads) {
  std::vector<vandro::Method> which;
  for (const std::string& method : methods) which.push_back(vandro::method_named(method));
  const vandro::Rehearsal rehearsal(world_of(world), static_cast<std::size_t>(n),
                                    static_cast<std::size_t>(m), which, plan_of(plan));
  std::vector<vandro::Rates> found;
  glue::stop_unless(rehearsal.run(static_cast<std::uint64_t>(from), static_cast<std::uint64_t>(to),
                                  threads, found, glue::keep_going));
  Rcpp::NumericMatrix out(static_cast<int>(found.size()), 6);
  for (std::size_t k = 0; k < found.size(); ++k) {
    const vandro::Rates& rates = found[k];
    const double row[] = {rates.studies, rates.rejected,  rates.undefined,
                          rates.widths,  rates.width_sum, rates.width_squares};
    for (int j = 0; j < 6; ++j) out(static_cast<int>(k), j) = row[j];
  }
  return out;
}

// Made-up study number `study`: the values of both groups, or changes and second measurements.
// [[Rcpp::export]]
Rcpp::List native_made_up(Rcpp::List world, double n, double m, double seed, double study) {
  vandro::Random random(static_cast<std::uint64_t>(seed), static_cast<std::uint64_t>(study));
  std::vector<double> first(static_cast<std::size_t>(n)), second(static_cast<std::size_t>(m));
  vandro::make_up(world_of(world), random, first, second);
  return Rcpp::List::create(Rcpp::Named("first") = first, Rcpp::Named("second") = second);
}
