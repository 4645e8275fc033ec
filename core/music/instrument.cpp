#include "music/instrument.h"

#include "music/pitch.h"
#include "music/string_table.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>

namespace wirenote {
namespace {

struct Name {
    InstrumentKind kind;
    std::string_view name;
};
constexpr std::array<Name, 6> kNames = {{{InstrumentKind::Guitar, "guitar"},
                                         {InstrumentKind::Guitar7, "guitar-7"},
                                         {InstrumentKind::Acoustic, "acoustic"},
                                         {InstrumentKind::Nylon, "nylon"},
                                         {InstrumentKind::Bass, "bass"},
                                         {InstrumentKind::Bass5, "bass-5"}}};

constexpr std::array<std::string_view, kAllMaterials.size()> kMaterialNames = {
    "plain-steel", "wound-steel", "wound-bronze", "plain-nylon", "wound-nylon"};

} // namespace

int Instrument::fretFor(int string_number, int midi) const {
    if (!hasString(string_number))
        return -1;
    const int fret = midi - string(string_number).open_midi - capo;
    return fret >= 0 && fret <= highestFret() ? fret : -1;
}

std::vector<int> Instrument::harmonicFrets(int string_number, int midi) const {
    std::vector<int> found;
    if (!hasString(string_number))
        return found;
    const int above = midi - string(string_number).open_midi - capo;
    const auto at = [&found, this](std::initializer_list<int> nodes) {
        for (const int fret : nodes)
            if (fret <= highestFret())
                found.push_back(fret);
    };
    if (above == 12)
        at({12});
    else if (above == 19)
        at({7, 19});
    else if (above == 24)
        at({5, 24});
    else if (above == 28)
        at({9, 4, 16});
    return found;
}

int Instrument::harmonicMidi(Position place) const {
    if (hasString(place.string))
        for (const int above : {12, 19, 24, 28}) {
            const int midi = string(place.string).open_midi + capo + above;
            const auto nodes = harmonicFrets(place.string, midi);
            if (std::ranges::find(nodes, place.fret) != nodes.end())
                return midi;
        }
    return -1;
}

bool Instrument::sounds(Position place, int midi, bool harmonic) const {
    const auto nodes = harmonic ? harmonicFrets(place.string, midi) : std::vector<int>{};
    return fretFor(place.string, midi) == place.fret ||
           std::ranges::find(nodes, place.fret) != nodes.end();
}

int Instrument::lowestMidi() const {
    int lowest = 127;
    for (const StringSpec& s : strings)
        lowest = std::min(lowest, s.open_midi + capo);
    return lowest;
}

int Instrument::highestMidi() const {
    int highest = 0;
    for (const StringSpec& s : strings)
        highest = std::max(highest, s.open_midi + frets);
    return highest;
}

Instrument standardInstrument(InstrumentKind kind) {
    Instrument instrument;
    instrument.kind = kind;
    instrument.strings = shippedStrings().setsFor(kind).front().strings;
    switch (kind) {
    case InstrumentKind::Acoustic:
        instrument.frets = 20;
        break;
    case InstrumentKind::Nylon:
        instrument.frets = 19;
        instrument.scale_mm = 650.0;
        break;
    case InstrumentKind::Bass:
    case InstrumentKind::Bass5:
        instrument.frets = 22;
        instrument.scale_mm = 864.0;
        break;
    case InstrumentKind::Guitar:
    case InstrumentKind::Guitar7:
        break;
    }
    return instrument;
}

std::string_view instrumentName(InstrumentKind kind) {
    for (const Name& n : kNames)
        if (n.kind == kind)
            return n.name;
    return "guitar";
}

Result<InstrumentKind> parseInstrumentName(std::string_view name) {
    for (const Name& n : kNames)
        if (n.name == name)
            return n.kind;
    return badCall("there is no instrument \"" + std::string(name) +
                   "\"; say guitar, guitar-7, acoustic, nylon, bass or bass-5");
}

std::string_view materialName(StringMaterial material) {
    return kMaterialNames[static_cast<std::size_t>(material)];
}

std::optional<StringMaterial> parseMaterial(std::string_view name) {
    for (const StringMaterial material : kAllMaterials)
        if (materialName(material) == name)
            return material;
    return {};
}

Status setTuning(Instrument& instrument, std::string_view tuning) {
    std::istringstream words{std::string(tuning)};
    std::vector<int> thick_to_thin;
    for (std::string word; words >> word;) {
        const auto midi = parsePitchName(word);
        if (!midi || *midi < 12 || *midi > 100)
            return badCall("\"" + word +
                           "\" in the tuning is not a pitch; write it like E2 or F#3");
        thick_to_thin.push_back(*midi);
    }
    if (thick_to_thin.size() != instrument.strings.size())
        return badCall("the tuning names " + std::to_string(thick_to_thin.size()) +
                       " strings, this instrument has " +
                       std::to_string(instrument.strings.size()) +
                       "; name them from the thickest to the thinnest");
    for (std::size_t i = 0; i < thick_to_thin.size(); ++i)
        instrument.strings[thick_to_thin.size() - 1 - i].open_midi = thick_to_thin[i];
    return {};
}

std::string tuningText(const Instrument& instrument) {
    std::string text;
    for (auto s = instrument.strings.rbegin(); s != instrument.strings.rend(); ++s)
        text += (text.empty() ? "" : " ") + pitchName(s->open_midi);
    return text;
}

Status setCapo(Instrument& instrument, int capo) {
    if (capo < 0 || capo > instrument.frets - 5)
        return badCall("a capo at fret " + std::to_string(capo) + " leaves no room on " +
                       std::to_string(instrument.frets) + " frets; say 0 for none");
    instrument.capo = capo;
    return {};
}

Status checkInstrument(const Instrument& instrument) {
    const int strings = instrument.stringCount();
    if (strings < 1 || strings > kMaxStrings)
        return badInput(
            {}, "the instrument has " + std::to_string(strings) + " strings; 1 to 12 can be used");
    if (instrument.frets < 5 || instrument.frets > kMaxFrets)
        return badInput({},
                        "the instrument has " + std::to_string(instrument.frets) +
                            " frets; 5 to 36 can be used");
    if (!(instrument.scale_mm >= 200.0 && instrument.scale_mm <= 1500.0))
        return badInput({}, "the scale length must be 200 to 1500 mm");
    for (const StringSpec& s : instrument.strings) {
        if (s.open_midi < 12 || s.open_midi > 100)
            return badInput({}, "an open string must lie between C0 and E7");
        if (!(s.gauge_mm > 0.05 && s.gauge_mm < 6.0))
            return badInput({}, "a string must be 0.05 to 6 mm thick");
    }
    Instrument copy = instrument;
    return setCapo(copy, instrument.capo);
}

double fretPlace_mm(double scale_mm, int fret) {
    return scale_mm * (1.0 - std::exp2(-fret / 12.0));
}

} // namespace wirenote
