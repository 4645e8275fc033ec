#include "music/string_physics.h"

#include "music/pitch.h"
#include "music/string_table.h"

#include <cmath>
#include <numbers>

namespace wirenote {

StringBuild stringPhysics(const StringSpec& string) {
    return string.build ? *string.build
                        : shippedStrings().buildOf(string.material, string.gauge_mm);
}

double tension_n(const StringBuild& physics, double length_m, double f0_hz) {
    const double speed = 2.0 * length_m * f0_hz;
    return physics.linear_density_kg_m * speed * speed;
}

double stiffness(const StringBuild& physics, double tension_newton, double length_m) {
    const double pi3 = std::numbers::pi * std::numbers::pi * std::numbers::pi;
    const double d2 = physics.core_diameter_m * physics.core_diameter_m;
    return pi3 * physics.young_modulus_pa * d2 * d2 / (64.0 * tension_newton * length_m * length_m);
}

double stiffnessAt(const Instrument& instrument, int string, int fret_from_nut) {
    const StringSpec& spec = instrument.string(string);
    const StringBuild physics = stringPhysics(spec);
    const double open_length = instrument.scale_mm / 1000.0;
    const double tension = tension_n(physics, open_length, hzFromMidi(spec.open_midi));
    return stiffness(physics, tension, open_length * std::exp2(-fret_from_nut / 12.0));
}

double partial_hz(double f0_hz, double stiffness_b, int partial) {
    return partial * f0_hz * std::sqrt(1.0 + stiffness_b * partial * partial);
}

} // namespace wirenote
