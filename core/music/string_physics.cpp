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
constexpr double kFlossModulus = 4e9; // filaments under tension, nearly one rod: a working figure
constexpr double kWindingFill = 0.85; // a winding leaves air between its turns: common practice

// Cores grow more slowly than gauges: about 0.35 mm in a 0.66 mm string (0.026 inch), 0.43 mm in a
// 1.17 mm one (0.046), 0.57 mm in a 2.67 mm bass string (0.105). From memory of makers' tables;
// single makes differ by a tenth and more.
double steelCore_m(double outer_m) {
    constexpr double kInch_m = 0.0254;
    return 0.048 * kInch_m * std::pow(outer_m / kInch_m, 0.34);
}

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
        return wound(steelCore_m(outer) / outer, kSteelDensity, kSteelModulus);
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
