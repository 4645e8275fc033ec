#include "hearing/hearing.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

bool unrelated(int a, int b) {
    const int d = std::abs(a - b);
    return d != 0 && d != 12 && d != 19 && d != 24 && d != 28 && d != 31 && d != 34 && d != 36;
}

bool beginsUnrelated(const ChordEvent& event) {
    for (const ChordNote& a : event.notes)
        for (const ChordNote& b : event.notes)
            if (unrelated(a.midi, b.midi))
                return true;
    return false;
}

Note toNote(const ChordNote& heard, double strength, double loud_db) {
    Note note;
    note.time.value = {heard.onset_s, heard.offset_s};
    note.time.basis = Basis::Heard;
    note.time.probability = heard.probability;
    note.time.reasons = {{ReasonKind::SharpAttack, Basis::Heard, 0, 0, strength}};
    note.pitch.value = heard.midi;
    note.pitch.basis = Basis::Heard;
    note.pitch.probability = heard.probability;
    note.pitch.reasons = {{ReasonKind::ClearPitch, Basis::Heard, 0, 0, heard.share}};
    note.loudness_db = heard.level_db;
    note.velocity = std::clamp(0.85 + (heard.level_db - loud_db) / 40.0, 0.05, 1.0);
    return note;
}

std::vector<Note> notesOf(const std::vector<ChordEvent>& events) {
    double loud_db = -120.0;
    for (const ChordEvent& event : events)
        for (const ChordNote& note : event.notes)
            loud_db = std::max(loud_db, note.level_db);
    std::vector<Note> notes;
    for (const ChordEvent& event : events)
        for (const ChordNote& heard : event.notes) {
            notes.push_back(toNote(heard, event.strength, loud_db));
            notes.back().id = static_cast<NoteId>(notes.size());
        }
    return notes;
}

} // namespace

Voices voicesOf(const std::vector<ChordEvent>& events,
                const Instrument& instrument,
                const VoiceParameters& p) {
    if (events.empty() || instrument.isBass())
        return Voices::Line;
    int several = 0;
    int over_ringing = 0;
    std::vector<const ChordNote*> before;
    for (const ChordEvent& event : events) {
        several += beginsUnrelated(event) ? 1 : 0;
        std::erase_if(before, [&](const ChordNote* n) { return n->offset_s < event.onset_s + p.ringing_s; });
        over_ringing += std::any_of(before.begin(), before.end(), [&](const ChordNote* n) {
            return std::none_of(event.notes.begin(), event.notes.end(), [n](const ChordNote& now) {
                return now.midi == n->midi;
            });
        });
        for (const ChordNote& note : event.notes)
            before.push_back(&note);
    }
    const auto count = static_cast<double>(events.size());
    return several > p.several_share * count || over_ringing > p.ringing_share * count ? Voices::Several
                                                                                       : Voices::Line;
}

Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job) {
    auto hearing = hearMelody(sound, instrument, a4_hz, parameters, job);
    if (!hearing || instrument.isBass())
        return hearing;
    JobControl quiet;
    quiet.cancel = job.cancel;
    PeakParameters peaks;
    peaks.threshold = parameters.onset_threshold;
    const auto events = hearChords(sound,
                                   instrument,
                                   hearing->reference.a4_hz,
                                   pickOnsets(hearing->flux, peaks),
                                   ChordParameters{},
                                   quiet);
    if (!events)
        return events.error();
    if (voicesOf(*events, instrument) == Voices::Several)
        hearing->notes = notesOf(*events);
    return hearing;
}

} // namespace wirenote
