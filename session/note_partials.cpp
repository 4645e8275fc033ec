#include "session/note_partials.h"

#include "hearing/melody.h"
#include "media/decode.h"
#include "strings/measuring.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kAround_s = 1.0; // more than is ever looked at of one note

} // namespace

Result<StiffnessFit> partialsOf(const Piece& piece, NoteId note, const JobControl& job) {
    const auto index = piece.indexOf(note);
    if (!index)
        return badCall("there is no such note");
    const Take* lead = piece.lead();
    if (!lead || lead->path.empty())
        return badCall("this tab has no recording to measure");
    const double at_s = piece.notes[*index].onset_s();
    DecodeOptions options;
    options.stream = lead->sound_stream;
    options.channels = lead->channels;
    options.span = {std::max(0.0, at_s - kAround_s), at_s + kAround_s};
    auto decoded = decodeSound(lead->path, kAnalysisRateHz, job, options);
    if (!decoded)
        return decoded.error();
    std::vector<Note> notes;
    std::size_t here = 0;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Note copy = piece.notes[i];
        if (copy.offset_s() < options.span.start_s || copy.onset_s() > options.span.end_s)
            continue;
        if (i == *index)
            here = notes.size();
        copy.time.value.start_s -= decoded->start_s;
        copy.time.value.end_s -= decoded->start_s;
        for (PitchPoint& point : copy.curve)
            point.time_s -= decoded->start_s;
        notes.push_back(std::move(copy));
    }
    return fitPartials(decoded->mono.view(), lead->reference.a4_hz, notes, here);
}

} // namespace wirenote
