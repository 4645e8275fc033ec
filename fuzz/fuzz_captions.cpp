#include "fuzzing.h"

#include "lesson/claims.h"
#include "lesson/claims_json.h"

using namespace wirenote;

namespace {

// A few notes to speak of.
Piece tune() {
    Piece piece;
    for (int i = 0; i < 8; ++i) {
        Note note;
        NotePlan plan;
        note.id = plan.note = piece.next_id++;
        note.time.value = {0.5 * i, 0.5 * i + 0.4};
        plan.position.value = {1 + i % 6, i % 5};
        note.pitch.value = piece.instrument.midiAt(plan.position.value);
        plan.finger.value = Finger::Index;
        plan.stroke.value = i % 2 == 0 ? Stroke::Down : Stroke::Up;
        piece.notes.push_back(note);
        piece.asPlayed().plans.push_back(plan);
        piece.timeline.beats_s.push_back(0.5 * i);
    }
    return piece;
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const Piece kTune = tune();
    static const LessonFacts kFacts(kTune);
    static const Speaker kSpeaker(Vocabulary::english(), {}, kTune.instrument, kTune.key);
    const fuzzing::Watch watch;
    const auto cues = readCaptions(fuzzing::text(data, size));
    if (!cues) {
        fuzzing::checkRefusal(cues.error());
        return 0;
    }
    for (const CheckedClaim& claim : checkClaims(kFacts, *cues, kSpeaker))
        if (claim.cue >= cues->size())
            fuzzing::found("a claim of no caption", {});
    const std::string written = writeWebVtt(*cues);
    const auto again = readCaptions(written);
    if (!again && written.find("-->") != std::string::npos)
        fuzzing::found("captions that do not open again", again.error().message);
    return 0;
}
