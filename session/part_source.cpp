#include "session/part_source.h"

#include "hearing/isolation.h"
#include "music/string_physics.h"
#include "session/masked_source.h"

#include <cmath>
#include <vector>

namespace wirenote {
namespace {

// Where a string's stiffness was not measured, what its build says.
std::vector<Note> withStiffness(const Piece& piece) {
    std::vector<Note> notes = piece.notes;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const Position place = piece.asPlayed().plans[i].position.value;
        if (!notes[i].heard().stiffness.told() && piece.instrument.hasString(place.string))
            notes[i].ownSound().stiffness = {
                std::log(stiffnessAt(
                    piece.instrument, place.string, place.fret + piece.instrument.capo)),
                1.0};
    }
    return notes;
}

} // namespace

std::shared_ptr<StereoSource> partOf(std::shared_ptr<StereoSource> whole,
                                     const Piece& piece,
                                     const Take& take,
                                     SoundPart part,
                                     NoteId note) {
    const auto at = piece.indexOf(note);
    if (!whole || part == SoundPart::All || !at)
        return whole;
    std::vector<bool> chosen(piece.notes.size(), false);
    const int string = piece.asPlayed().plans[*at].position.value.string;
    if (part == SoundPart::String && string > 0)
        for (std::size_t i = 0; i < chosen.size(); ++i)
            chosen[i] = piece.asPlayed().plans[i].position.value.string == string;
    else
        chosen[*at] = true;
    const double a4_hz =
        take.reference.a4_hz * std::exp2(static_cast<double>(take.alignment.semitones) / 12.0);
    const double rate_hz = whole->rate_hz();
    auto mask = std::make_shared<NoteMask>(
        withStiffness(piece), std::move(chosen), a4_hz, rate_hz, kMaskedFrame);
    return std::make_shared<MaskedSource>(
        std::move(whole),
        [mask = std::move(mask),
         rate_hz,
         without = part == SoundPart::AllButNote,
         alignment = take.alignment](
            std::int64_t k, const MaskedSource::PowerOf& power_of, std::span<float> shares) {
            const double middle_s =
                (static_cast<double>(k * kMaskedHop) + 0.5 * kMaskedFrame) / rate_hz;
            mask->shares(alignment.toPiece({middle_s}).s, power_of(k), shares);
            if (without)
                for (float& share : shares)
                    share = 1.0F - share;
        });
}

} // namespace wirenote
