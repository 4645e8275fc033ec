#include "session/arrange.h"

#include "piece/in_reading.h"

namespace wirenote {

Result<Arrangement>
arrange(const Piece& piece, const ReadingRecipe& recipe, const std::string& when) {
    Piece with = piece;
    auto made = makeReading(with, recipe, when);
    if (!made)
        return made.error();
    Arrangement arranged{asReading(with, made->index), with.readings[made->index], *made};
    Piece& to = arranged.piece;
    if (recipe.semitones != 0) { // what belongs to the sound of the takes
        to.takes.clear();
        to.followed.clear();
        to.misses.clear();
        to.chord_names.clear();
        for (Note& note : to.notes)
            note.facts.clear();
        to.key = guessKey(to.notes);
    }
    if (recipe.instrument)
        to.settled.instrument = true;
    if (const Status sound = checkPiece(to); !sound)
        return badCall("this cannot be arranged: " + sound.error().message);
    return arranged;
}

} // namespace wirenote
