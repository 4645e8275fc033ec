// Every playing of a stretch of the piece, held against the piece note by note.
#pragma once

#include "form/form.h"
#include "form/note_matching.h"
#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

// How far apart, in the time of the piece, two playings of one note may begin.
constexpr double kSamePlace_s = 0.075;

enum class VersionDifferenceKind {
    Missing, // the piece has a note that was not played
    Added,   // one more was played
    Pitch,   // another pitch in its place
    Slurred, // the same note, begun without a stroke
    Struck,  // the same note, begun with a stroke where the piece slurs
};

struct VersionDifference {
    VersionDifferenceKind kind = VersionDifferenceKind::Missing;
    double piece_s = 0.0;
    std::size_t note = 0;   // into Piece::notes; of Added: unused
    std::size_t played = 0; // as PlayedNote::index; of Missing: unused
    int midi = 0;           // what was played, as it would sound in the piece; of Missing: 0
    double belief = 0.0;    // 0..1, that both were heard right
};

// One more playing of a part of the piece: a demonstration, or a repeat of a phrase within the
// piece.
struct Version {
    std::size_t take = 0;
    std::optional<std::size_t> demonstration; // into Take::demonstrations; none: a repeat
    TimeRange span;                           // seconds in the take
    TimeRange of_piece;
    std::vector<SharedMoment> moments;
    int semitones = 0;    // how much higher it sounds
    bool learn = true;    // whether it counts in what is decided
    bool refused = false; // a person has said that it does not
    struct Same {
        std::size_t note = 0; // into Piece::notes
        std::size_t played = 0;
    };
    std::vector<Same> same; // by note
    std::vector<VersionDifference> differences;
};

// The demonstrations `found` of a piece (take by take, as demonstrationsOf gives them) but for the
// piece itself, each compared with it.
std::vector<Version> versionsOf(const Piece& piece,
                                const std::vector<std::vector<Demonstration>>& found);
// Those the takes of the piece hold.
std::vector<Version> versionsOf(const Piece& piece);
// What a demonstration of a take plays of a stretch of the piece, in seconds and at the pitch of
// the piece.
std::vector<TakeNote>
playedThere(const Piece& piece, std::size_t take, const Demonstration& shown, TimeRange of_piece);
// Every repeat of a phrase at its pitch, compared with the first time it is played.
std::vector<Version> repeatsOf(const Piece& piece,
                               const std::vector<BarContent>& bars,
                               const std::vector<Phrase>& phrases);

// The next playing of the same bars, where one follows soon.
std::optional<std::size_t> nextOfSameBars(const std::vector<Demonstration>& shown,
                                          std::size_t demonstration);

// What differs in what the other versions agree on is not to be learned from, less of it where the
// same bars follow as the others have them: sets `learn`.
void doubtWhatDiffers(const Piece& piece, std::vector<std::vector<Demonstration>>& found);

} // namespace wirenote
