// The instrument: strings, frets, tuning, capo. Strings count from 1, the thinnest.
#pragma once

#include "base/result.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

enum class InstrumentKind { Guitar, Guitar7, Acoustic, Nylon, Bass, Bass5 };
enum class StringMaterial { PlainSteel, WoundSteel, WoundBronze, PlainNylon, WoundNylon };
inline constexpr std::array kAllMaterials = {StringMaterial::PlainSteel,
                                             StringMaterial::WoundSteel,
                                             StringMaterial::WoundBronze,
                                             StringMaterial::PlainNylon,
                                             StringMaterial::WoundNylon};

// What a string weighs and how it bends, SI units.
struct StringBuild {
    double linear_density_kg_m = 0.0;
    double core_diameter_m = 0.0; // what bends: the whole plain string, the core of a wound one
    double young_modulus_pa = 0.0;
    bool operator==(const StringBuild&) const = default;
};

struct StringSpec {
    int open_midi = 64;      // without the capo
    double gauge_mm = 0.254; // outer diameter
    StringMaterial material = StringMaterial::PlainSteel;
    std::optional<StringBuild> build; // where it is not what the shipped table has for this gauge
    bool operator==(const StringSpec&) const = default;
    bool wound() const {
        return material != StringMaterial::PlainSteel && material != StringMaterial::PlainNylon;
    }
};

// A place on the neck. fret 0 is the open string, or the capo when there is one; frets count from
// there.
struct Position {
    int string = 1;
    int fret = 0;
    bool operator==(const Position&) const = default;
    auto operator<=>(const Position&) const = default;
};

constexpr int kMaxStrings = 12;
constexpr int kMaxFrets = 36;

struct Instrument {
    InstrumentKind kind = InstrumentKind::Guitar;
    std::vector<StringSpec> strings; // index 0 is string 1, the thinnest
    int frets = 22;                  // counted from the nut
    int capo = 0;                    // fret of the capo, 0 for none
    double scale_mm = 648.0;         // nut to bridge
    bool left_handed = false;        // drawn as its player sees it

    bool operator==(const Instrument&) const = default;
    int stringCount() const { return static_cast<int>(strings.size()); }
    bool hasString(int string) const { return string >= 1 && string <= stringCount(); }
    const StringSpec& string(int number) const {
        return strings[static_cast<std::size_t>(number - 1)];
    }
    int highestFret() const { return frets - capo; } // counted from the capo
    bool isBass() const { return kind == InstrumentKind::Bass || kind == InstrumentKind::Bass5; }

    // What sounds at a position: a MIDI number. The position must be on the neck.
    int midiAt(Position position) const {
        return string(position.string).open_midi + capo + position.fret;
    }
    // The fret that gives `midi` on `string`, or -1 when the neck does not have it there.
    int fretFor(int string, int midi) const;
    // The frets over whose nodes a natural harmonic of this pitch sounds on `string`, the easiest
    // first: the octave over fret 12, the twelfth over 7 and 19, two octaves over 5 and 24, the
    // third above them over 4, 9 and 16 (the nodes of the first five partials, to the nearest
    // fret).
    std::vector<int> harmonicFrets(int string, int midi) const;
    // The pitch of the natural harmonic over a fret, or −1 where no node is.
    int harmonicMidi(Position place) const;
    // True when the pitch sounds there, stopped or as a natural harmonic.
    bool sounds(Position place, int midi, bool harmonic) const;
    int lowestMidi() const;
    int highestMidi() const;
};

Instrument standardInstrument(InstrumentKind kind);
std::string_view
instrumentName(InstrumentKind kind); // the word of the command line: "guitar", "bass-5"
Result<InstrumentKind> parseInstrumentName(std::string_view name);
std::string_view materialName(StringMaterial material); // the word of the formats: "wound-bronze"
std::optional<StringMaterial> parseMaterial(std::string_view name);

// Sets the open strings from "E2 A2 D3 G3 B3 E4", thickest to thinnest, as players say them.
Status setTuning(Instrument& instrument, std::string_view tuning);
std::string tuningText(const Instrument& instrument);
Status setCapo(Instrument& instrument, int capo);
// Everything an instrument from outside must fulfil before it is used.
Status checkInstrument(const Instrument& instrument);

// Distance from the nut to fret n in millimetres: L·(1 − 2^(−n/12)), twelve-tone equal temperament.
double fretPlace_mm(double scale_mm, int fret);

} // namespace wirenote
