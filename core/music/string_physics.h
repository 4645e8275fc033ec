// What a string's build says about its sound.
#pragma once

#include "music/instrument.h"

namespace wirenote {

// Handbook constants of one string, SI units.
struct StringPhysics {
    double linear_density_kg_m = 0.0;
    double core_diameter_m = 0.0; // what bends: the whole plain string, the core of a wound one
    double young_modulus_pa = 0.0;
};

// Constants from gauge and material. Density and modulus of steel (7850 kg/m³, 200 GPa) and nylon
// (1140 kg/m³, about 5 GPa as strung) are handbook values, quoted from memory; so are the
// cores of wound strings (see the .cpp; 0.6 of the diameter for the floss core of a nylon bass string).
StringPhysics stringPhysics(const StringSpec& string);

// Tension of the open string: T = μ·(2·L·f0)², the ideal string (Mersenne).
double tension_n(const StringPhysics& physics, double length_m, double f0_hz);

// Stiffness coefficient B of f_n = n·f0·√(1 + B·n²): B = π³·E·d⁴ / (64·T·L²)
// (Fletcher, "Normal vibration frequencies of a stiff piano string", J. Acoust. Soc. Am. 36, 1964).
double stiffness(const StringPhysics& physics, double tension_newton, double length_m);

// B of a string of this instrument at a fret counted from the nut. A stopped string keeps its
// tension, so B grows as 2^(fret/6).
double stiffnessAt(const Instrument& instrument, int string, int fret_from_nut);

// Frequency of partial n (1 = the fundamental) of a stiff string with ideal fundamental f0_hz.
double partial_hz(double f0_hz, double stiffness_b, int partial);

} // namespace wirenote
