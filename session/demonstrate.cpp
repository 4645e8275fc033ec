#include "session/demonstrate.h"

#include "form/agreement.h"
#include "form/demonstrations.h"
#include "form/lent_facts.h"
#include "form/other_tone.h"
#include "form/versions.h"
#include "session/resolve.h"
#include "session/transcribe.h"

#include <algorithm>
#include <map>

namespace wirenote {
namespace {

// How the take follows the piece, as its demonstrations say. By sound it may be known already: then
// only where they know of more than one stretch.
TakeAlignment linedUpBy(const std::vector<Demonstration>& shown, const TakeAlignment& before) {
    TakeAlignment alignment;
    double sure = 0.0;
    double length_s = 0.0;
    std::map<int, double> in_key_s;
    for (const Demonstration& one : shown) {
        if (!one.inPiece())
            continue;
        // One ends at the latest where the next begins.
        const double begins_s = one.moments.front().take_s;
        if (!alignment.stretches.empty())
            std::erase_if(alignment.stretches.back(),
                          [begins_s](const SharedMoment& m) { return m.take_s >= begins_s; });
        std::erase_if(alignment.stretches, [](const auto& stretch) { return stretch.empty(); });
        alignment.stretches.push_back(one.moments);
        in_key_s[one.semitones] += one.span.length_s();
        sure += one.probability * one.span.length_s();
        length_s += one.span.length_s();
    }
    if (alignment.stretches.empty() || !alignment.valid() || before.basis == Basis::Set ||
        (alignment.stretches.size() == 1 && !before.sameClock()))
        return before;
    alignment.semitones =
        std::ranges::max_element(in_key_s, {}, [](const auto& key) { return key.second; })->first;
    alignment.basis = Basis::Heard;
    alignment.certainty = sure / std::max(1e-9, length_s);
    return alignment;
}

} // namespace

Result<OtherTake> hearOtherTake(const Piece& piece, const Take& take, const JobControl& job) {
    TranscribeOptions options;
    options.instrument = piece.instrument;
    options.sound_stream = take.sound_stream;
    options.channels = take.channels;
    options.span = take.trim;
    for (const SoundSpan& one : take.sound_spans)
        if (one.basis == Basis::Set)
            options.said.push_back(one);
    if (take.reference.basis == Basis::Set)
        options.a4_hz = take.reference.a4_hz;
    auto heard = hearRecording(take.path, options, job);
    if (!heard)
        return heard.error();
    OtherTake other{take, std::move(heard->notes)};
    const Take& found = *heard->lead();
    other.take.sound_spans = found.sound_spans;
    other.take.cautions = found.cautions;
    other.take.sha256 = found.sha256;
    if (take.reference.basis != Basis::Set)
        other.take.reference = found.reference;
    other.take.notes.clear();
    std::erase_if(other.notes, [](const Note& note) { return !note.pitched(); });
    for (const Note& note : other.notes)
        other.take.notes.push_back({note.time.value,
                                    note.midi(),
                                    note.existence.probability * note.pitch.probability,
                                    note.techniques});
    return other;
}

Status recogniseDemonstrations(Piece& piece, const JobControl& job, const HeardByTake& heard) {
    auto found = demonstrationsOf(piece, job);
    if (job.cancelRequested())
        return cancelled();
    for (std::size_t i = 0; i < found.size(); ++i) {
        Take& take = piece.takes[i];
        take.demonstrations = std::move(found[i]);
        if (i > 0)
            take.alignment = linedUpBy(take.demonstrations, take.alignment);
    }
    doubtOtherTone(piece, heard, versionsOf(piece));
    const auto versions = versionsOf(piece);
    int helped = 0;
    for (const auto& [take, notes] : heard)
        helped += lendStiffness(piece, take, notes, versions);
    if (poolVersions(piece, versions) + helped > 0)
        placeAndStroke(piece);
    return {};
}

void weighVersions(Piece& piece) {
    if (const auto versions = versionsOf(piece); poolVersions(piece, versions) > 0)
        placeAndStroke(piece);
}

Result<Piece> hearEveryTake(const Piece& piece, const JobControl& job) {
    Piece after = piece;
    HeardByTake heard;
    for (std::size_t i = 1; i < after.takes.size(); ++i) {
        if (!after.takes[i].notes.empty() || after.takes[i].path.empty())
            continue;
        auto other = hearOtherTake(after, after.takes[i], job);
        if (!other)
            return other.error();
        after.takes[i] = std::move(other->take);
        heard[i] = std::move(other->notes);
    }
    if (const Status found = recogniseDemonstrations(after, job, heard); !found)
        return found.error();
    return after;
}

} // namespace wirenote
