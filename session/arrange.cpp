#include "session/arrange.h"

#include "fretting/wishes.h"
#include "piece/edits.h"
#include "session/other_readings.h"
#include "session/resolve.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kOctave = 12;
constexpr int kFurthest = 24; // semitones

// What a neck has, capo and all.
struct Range {
    int lowest = 127;
    int highest = 0;
};

Range rangeOf(const Instrument& instrument) {
    Range range;
    for (int string = 1; string <= instrument.stringCount(); ++string) {
        range.lowest = std::min(range.lowest, instrument.midiAt({string, 0}));
        range.highest =
            std::max(range.highest, instrument.midiAt({string, instrument.highestFret()}));
    }
    return range;
}

// By how many semitones, in whole octaves, a pitch lies outside the range; 0 where no octave of it
// lies in it.
int intoRange(int midi, const Range& range) {
    int moved = 0;
    while (midi + moved < range.lowest)
        moved += kOctave;
    while (midi + moved > range.highest)
        moved -= kOctave;
    return midi + moved >= range.lowest ? moved : 0;
}

// What belongs to the sound of the takes and cannot be had in another key.
void leaveTakes(Piece& piece) {
    piece.takes.clear();
    piece.followed.clear();
    piece.misses.clear();
    piece.chord_names.clear();
    for (Note& note : piece.notes)
        note.facts.clear();
}

} // namespace

Result<Arrangement> arrange(const Piece& piece,
                            const Instrument& instrument,
                            int semitones,
                            const std::string& when,
                            const ReadingWish& wish) {
    if (std::abs(semitones) > kFurthest)
        return badCall("a piece is taken at most two octaves up or down");
    Arrangement made{inReading(piece, 0), {}, {}};
    Piece& to = made.piece;
    if (const Status set = PieceEditor(to, when).setInstrument(instrument); !set)
        return set.error();
    if (semitones != 0)
        leaveTakes(to);
    const Range range = rangeOf(instrument);
    for (Note& note : to.notes) {
        if (!note.pitched())
            continue;
        const int octaves = intoRange(note.midi() + semitones, range);
        if (octaves != 0)
            made.moved.push_back({note.id, octaves});
        note.pitch.value += semitones + octaves;
        if (note.slip && note.slip->meant_midi != 0) // and what was meant goes along
            note.slip->meant_midi = std::clamp(note.slip->meant_midi + semitones + octaves, 1, 127);
        note.forgetString();
    }
    if (semitones != 0)
        to.key = guessKey(to.notes);
    Reading& reading = to.asPlayed();
    reading.head.wish = wish;
    reading.head.name = wishName(wish);
    for (NotePlan& plan : reading.plans) {
        plan.position = {};
        plan.position.value = {0, 0};
        plan.finger = {};
        plan.stroke = {};
        plan.hand_fret = 0;
    }
    placeAndStroke(to);
    made.unmet = unmetWishes(to.rows(), wish);
    if (const Status sound = checkPiece(to); !sound)
        return badCall("this cannot be arranged: " + sound.error().message);
    return made;
}

Piece inReading(Piece piece, std::size_t reading) {
    Reading chosen = std::move(piece.readings[reading]);
    piece.readings = {std::move(chosen)};
    return piece;
}

} // namespace wirenote
