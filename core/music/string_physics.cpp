#include "music/string_physics.h"

#include "music/pitch.h"

#include <cmath>
#include <numbers>

namespace wirenote {
namespace {
constexpr double kSteelDensity = 7850.0;
constexpr double kNylonDensity = 1140.0;
constexpr double kSteelModulus = 200e9;
constexpr double kNylonModulus = 5e9;
constexpr double kFlossModulus = 1e9; // loose filaments do not bend as one rod: a working figure
constexpr double kWindingFill = 0.85; // a winding leaves air between its turns: common practice

double area_m2(double diameter_m) {
    return std::numbers::pi * diameter_m * diameter_m / 4.0;
}
} // namespace

StringPhysics stringPhysics(const StringSpec& string) {
    const double outer = string.gauge_mm / 1000.0;
    const auto wound = [outer](double core_share, double core_density, double modulus) {
        const double core = core_share * outer;
        const double winding = (area_m2(outer) - area_m2(core)) * kSteelDensity * kWindingFill;
        return StringPhysics{area_m2(core) * core_density + winding, core, modulus};
    };
    switch (string.material) {
    case StringMaterial::WoundSteel:
        return wound(outer > 0.001 ? 0.36 : 0.40, kSteelDensity, kSteelModulus);
    case StringMaterial::WoundNylon:
        return wound(0.60, kNylonDensity, kFlossModulus);
    case StringMaterial::PlainNylon:
        return {area_m2(outer) * kNylonDensity, outer, kNylonModulus};
    case StringMaterial::PlainSteel:
        break;
    }
    return {area_m2(outer) * kSteelDensity, outer, kSteelModulus};
}

double tension_n(const StringPhysics& physics, double length_m, double f0_hz) {
    const double speed = 2.0 * length_m * f0_hz;
    return physics.linear_density_kg_m * speed * speed;
}

double stiffness(const StringPhysics& physics, double tension_newton, double length_m) {
    const double pi3 = std::numbers::pi * std::numbers::pi * std::numbers::pi;
    const double d2 = physics.core_diameter_m * physics.core_diameter_m;
    return pi3 * physics.young_modulus_pa * d2 * d2 / (64.0 * tension_newton * length_m * length_m);
}

double stiffnessAt(const Instrument& instrument, int string, int fret_from_nut) {
    const StringSpec& spec = instrument.string(string);
    const StringPhysics physics = stringPhysics(spec);
    const double open_length = instrument.scale_mm / 1000.0;
    const double tension = tension_n(physics, open_length, hzFromMidi(spec.open_midi));
    return stiffness(physics, tension, open_length * std::exp2(-fret_from_nut / 12.0));
}

double partial_hz(double f0_hz, double stiffness_b, int partial) {
    return partial * f0_hz * std::sqrt(1.0 + stiffness_b * partial * partial);
}

} // namespace wirenote
