// What a string's build says about its sound.
#pragma once

#include "music/instrument.h"

namespace wirenote {

// What the string weighs and how it bends: its own build, or what the shipped table has for its
// material and gauge (music/string_table.h).
StringBuild stringPhysics(const StringSpec& string);

// Tension of the open string: T = μ·(2·L·f0)², the ideal string (Mersenne).
double tension_n(const StringBuild& physics, double length_m, double f0_hz);

// Stiffness coefficient B of f_n = n·f0·√(1 + B·n²): B = π³·E·d⁴ / (64·T·L²)
// (Fletcher, "Normal vibration frequencies of a stiff piano string", J. Acoust. Soc. Am. 36, 1964).
double stiffness(const StringBuild& physics, double tension_newton, double length_m);

// B of a string of this instrument at a fret counted from the nut. A stopped string keeps its
// tension, so B grows as 2^(fret/6).
double stiffnessAt(const Instrument& instrument, int string, int fret_from_nut);

// Frequency of partial n (1 = the fundamental) of a stiff string with ideal fundamental f0_hz.
double partial_hz(double f0_hz, double stiffness_b, int partial);

} // namespace wirenote
