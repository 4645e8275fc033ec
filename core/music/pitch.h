// Pitch is a MIDI note number in double: 60 = middle C (C4), 69 = A4.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace wirenote {

constexpr double kStandardA4Hz = 440.0; // ISO 16:1975
constexpr double kLowestA4Hz = 380.0;   // what a take's tuning reference may be set to
constexpr double kHighestA4Hz = 480.0;

double midiFromHz(double f0_hz, double a4_hz = kStandardA4Hz); // f0_hz > 0
double hzFromMidi(double midi, double a4_hz = kStandardA4Hz);
double centsBetween(double from_hz, double to_hz); // both > 0

// How accidentals are chosen for display; by key later, plain sharps or flats now.
enum class Spelling { Sharps, Flats };

// "E2", "F#3"/"F♯3", "Bb1"/"B♭1": letter, accidental, octave. Empty when it is not a pitch name.
std::optional<int> parsePitchName(std::string_view name);
// 61 → "C♯4". Rounds to the nearest semitone.
std::string pitchName(double midi, Spelling spelling = Spelling::Sharps);

struct SpelledPitch {
    char step = 'C'; // A to G
    int alter = 0;   // -1, 0 or 1
    int octave = 4;
};
SpelledPitch spell(int midi, Spelling spelling);

// Sharps or flats for the whole span, by which key signature fits its pitch classes best.
struct KeySignature {
    int fifths = 0; // -6..6, as in MusicXML
    Spelling spelling() const { return fifths < 0 ? Spelling::Flats : Spelling::Sharps; }
    bool operator==(const KeySignature&) const = default;
};

} // namespace wirenote
