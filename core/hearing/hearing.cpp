#include "hearing/hearing.h"

#include "base/nearby.h"
#include "hearing/below_neck.h"
#include "hearing/bends.h"
#include "hearing/curves.h"
#include "hearing/figures.h"
#include "hearing/harmonics.h"
#include "hearing/line_beliefs.h"
#include "hearing/palm_mutes.h"
#include "hearing/slurs.h"
#include "hearing/techniques.h"
#include "hearing/unpitched.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

// The share of the work that the line takes, where several voices sound.
constexpr double kLinePart = 0.35;

Note toNote(const ChordNote& heard, const ChordEvent& event, double loud_db) {
    Note note;
    note.time.value = {heard.onset_s, heard.offset_s};
    note.time.basis = Basis::Heard;
    note.existence = {true, Basis::Heard, heard.probability, {}, {}};
    note.time.probability = heard.probability; // its start is as sure as the note
    note.ownSound().attack.strength = event.strength;
    note.ownSound().attack.slurred = heard.slurred;
    if (event.notes.size() > 2 || beginsUnrelated(event)) // an octave alone may be one string
        note.ownSound().thick_first =
            event.upward ? 1.0 - event.order_probability : event.order_probability;
    note.pitch.value = heard.midi;
    note.pitch.basis = Basis::Heard;
    note.pitch.probability = heard.probability;
    note.pitch.reasons = {{ReasonKind::ClearPitch, Basis::Heard, 0, 0, heard.share}};
    note.loudness_db = heard.level_db;
    note.velocity = std::clamp(0.85 + (heard.level_db - loud_db) / 40.0, 0.05, 1.0);
    return note;
}

constexpr double kThereabouts_s = 8.0;

// How loud the loud notes are, thereabouts.
Nearby loudNotes(const std::vector<ChordEvent>& events) {
    std::vector<TimedValue> levels;
    for (const ChordEvent& event : events)
        for (const ChordNote& note : event.notes)
            levels.push_back({event.onset_s, note.level_db});
    return {levels, kThereabouts_s, [](std::vector<double>& near) { return *quantile(near, 0.9); }};
}

Note ghostNote(const ChordEvent& event, const Instrument& instrument, double level_db) {
    ChordNote stroke;
    stroke.midi = instrument.lowestMidi(); // its pitch means nothing
    stroke.onset_s = event.onset_s;
    stroke.level_db = level_db;
    stroke.offset_s = event.onset_s + 0.06;
    stroke.probability = 0.92; // nearly all that are named were there
    Note note = toNote(stroke, event, stroke.level_db);
    note.ownSound().thick_first.reset(); // its strings are damped
    note.techniques.push_back(Technique::GhostStroke);
    return note;
}

std::vector<Note> notesOf(const std::vector<ChordEvent>& events,
                          const Instrument& instrument,
                          const FluxTrack& flux,
                          const GhostParameters& p) {
    const Nearby loud = loudNotes(events);
    const Nearby floor = quietestLevel(flux);
    std::vector<Note> notes;
    for (std::size_t i = 0; i < events.size(); ++i) {
        const ChordEvent& event = events[i];
        const double next_s = i + 1 < events.size() ? events[i + 1].onset_s : 1e9;
        if (isGhost(event.onset_s, event.flatness, next_s, flux, floor.at(event.onset_s), p))
            notes.push_back(
                ghostNote(event, instrument, flux.level_db[flux.frameAt(event.onset_s + 0.02)]));
        else
            for (const ChordNote& heard : event.notes)
                notes.push_back(toNote(heard, event, loud.at(event.onset_s)));
    }
    return notes;
}

// What nearly began where several voices sound, and does not sound already.
std::vector<NearMiss> missesOf(const std::vector<ChordEvent>& events,
                               const std::vector<VoiceSpan>& spans,
                               const std::vector<Note>& notes) {
    std::vector<NearMiss> misses;
    for (const VoiceSpan& span : spans)
        for (const ChordEvent& event : events) {
            if (span.voices != Voices::Several || !span.span.contains(event.onset_s))
                continue;
            for (const ChordNote& miss : event.misses) {
                const bool there = std::ranges::any_of(notes, [&miss](const Note& n) {
                    return n.midi() == miss.midi && std::abs(n.onset_s() - miss.onset_s) < 0.1;
                });
                if (!there && misses.size() < kMaxMisses)
                    misses.push_back({{miss.onset_s, std::max(miss.offset_s, miss.onset_s + 0.1)},
                                      miss.midi,
                                      miss.probability,
                                      {0, 0}});
            }
        }
    return misses;
}

bool inSeveral(const NearMiss& miss, const std::vector<VoiceSpan>& spans) {
    return std::ranges::any_of(spans, [&miss](const VoiceSpan& span) {
        return span.voices == Voices::Several && span.span.contains(miss.time.start_s);
    });
}

// Attacks enough to tell a line from several voices: of a long take every second stretch, so that a
// few bars of chords somewhere are not passed over.
std::vector<OnsetPeak> sampleOf(const std::vector<OnsetPeak>& onsets) {
    constexpr std::size_t kStretch = 32;
    if (onsets.size() <= 3 * kStretch)
        return onsets;
    std::vector<OnsetPeak> sample;
    for (std::size_t i = 0; i < onsets.size(); ++i)
        if ((i / kStretch) % 2 == 0 || i + kStretch >= onsets.size())
            sample.push_back(onsets[i]);
    return sample;
}

// True when it is worth looking for several voices: something in the sample speaks for them.
bool perhapsSeveral(const std::vector<ChordEvent>& sample, const std::vector<Note>& line) {
    const auto several = std::ranges::count_if(
        sample, [](const ChordEvent& e) { return beginsUnrelated(e, VoiceParameters{}.believed); });
    const auto spans = voiceSpans(sample, line, standardInstrument(InstrumentKind::Guitar));
    return several > 1 || std::ranges::any_of(spans, [](const VoiceSpan& span) {
               return span.voices == Voices::Several;
           });
}

// The last looks at a note may see the next one's pitch already: what jumps there is not its own.
// Slurred notes do move into each other.
void trimCurves(std::vector<Note>& notes) {
    constexpr double kEnd_s = 0.045;
    constexpr double kJump_cents = 70.0;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        if (i + 1 < notes.size() && notes[i + 1].slurred())
            continue;
        auto& curve = notes[i].curve;
        const auto last =
            std::ranges::lower_bound(curve, notes[i].offset_s() - kEnd_s, {}, &PitchPoint::time_s);
        if (last == curve.begin())
            continue;
        const double settled = (last - 1)->dev_cents;
        curve.erase(std::find_if(last,
                                 curve.end(),
                                 [&](const PitchPoint& p) {
                                     return std::abs(p.dev_cents - settled) > kJump_cents;
                                 }),
                    curve.end());
    }
}

// The attacks of the stretches where one line is played.
std::vector<OnsetPeak> inLines(std::vector<OnsetPeak> onsets, const std::vector<VoiceSpan>& spans) {
    std::erase_if(onsets, [&spans](const OnsetPeak& onset) {
        return std::ranges::none_of(spans, [&onset](const VoiceSpan& span) {
            return span.voices == Voices::Line && span.span.contains(onset.time_s);
        });
    });
    return onsets;
}

// Of each span the notes of the hearing that understands it.
std::vector<Note>
together(std::vector<Note> line, std::vector<Note> voices, const std::vector<VoiceSpan>& spans) {
    std::vector<Note> notes;
    for (const VoiceSpan& span : spans)
        for (Note& note : span.voices == Voices::Line ? line : voices)
            if (span.span.contains(note.onset_s()))
                notes.push_back(std::move(note));
    std::ranges::stable_sort(notes, {}, &Note::onset_s);
    return notes;
}

// Shows what begins at the attacks, some at a time.
std::function<void(const ChordEvent&)> inBatches(const HeardSoFar& so_far) {
    if (!so_far)
        return {};
    constexpr std::size_t kBatch = 12;
    return [so_far, batch = std::vector<NearMiss>()](const ChordEvent& event) mutable {
        for (const ChordNote& n : event.notes)
            batch.push_back({{n.onset_s, n.onset_s + 0.25}, n.midi, n.probability, {0, 0}});
        if (batch.size() >= kBatch) {
            so_far(batch);
            batch.clear();
        }
    };
}

// What is heard of the notes once it is known which there are; numbers, and when each fact was
// told.
void finish(SoundView sound, const Instrument& instrument, Hearing& hearing) {
    trimCurves(hearing.notes);
    markPalmMutes(sound, hearing.notes);
    markStaccato(hearing.notes);
    markHarmonics(sound, instrument, hearing.reference.a4_hz, hearing.notes);
    markFigures(hearing.notes);
    for (std::size_t i = 0; i < hearing.notes.size(); ++i)
        hearing.notes[i].id = static_cast<NoteId>(i) + 1;
    for (Note& note : hearing.notes)
        for (NoteFacts& own : note.facts)
            own.span = note.time.value;
}

// What sounds lower than the neck reaches is no note of this instrument, but says that it is
// another.
Status lookBelow(SoundView sound,
                 const Instrument& instrument,
                 double onset_threshold,
                 const JobControl& job,
                 Hearing& hearing) {
    PeakParameters peaks;
    peaks.threshold = onset_threshold;
    std::vector<double>
        attacks_s; // what lies too low is no note so far: the attacks, not the notes
    for (const OnsetPeak& onset : pickOnsets(hearing.flux, peaks))
        attacks_s.push_back(onset.time_s);
    auto below = heardBelow(sound, instrument, hearing.reference.a4_hz, attacks_s, job);
    if (!below)
        return below.error();
    hearing.misses.insert(hearing.misses.end(), below->begin(), below->end());
    std::ranges::stable_sort(hearing.misses, {}, [](const NearMiss& m) { return m.time.start_s; });
    if (hearing.misses.size() > kMaxMisses)
        hearing.misses.resize(kMaxMisses);
    return {};
}

// Where several voices sound, what the line heard gives way to them; where one sounds, dead notes
// are looked for.
Status hearVoices(SoundView sound,
                  const Instrument& instrument,
                  const std::vector<OnsetPeak>& onsets,
                  const JobControl& job,
                  const HeardSoFar& so_far,
                  Hearing& hearing) {
    joinBends(hearing.notes);
    markDrawn(hearing.notes);
    JobControl quiet;
    quiet.cancel = job.cancel;
    auto events =
        hearChords(sound, instrument, hearing.tuning, sampleOf(onsets), ChordParameters{}, quiet);
    if (events && perhapsSeveral(*events, hearing.notes)) {
        const double length_s = sound.length_s();
        quiet.progress = [&job, length_s](double done_s, double) {
            job.report(kLinePart * length_s + (1.0 - kLinePart) * done_s, length_s);
        };
        events = hearChords(
            sound, instrument, hearing.tuning, onsets, ChordParameters{}, quiet, inBatches(so_far));
    }
    if (!events)
        return events.error();
    const auto spans = voiceSpans(*events, hearing.notes, instrument);
    addDeadNotes(sound, hearing.tuning, hearing.flux, inLines(onsets, spans), hearing.notes, job);
    hearing.notes = together(std::move(hearing.notes),
                             notesOf(*events, instrument, hearing.flux, GhostParameters{}),
                             spans);
    if (const Status followed = followPitches(sound, hearing.reference.a4_hz, hearing.notes, quiet);
        !followed)
        return followed.error();
    std::erase_if(hearing.misses,
                  [&spans](const NearMiss& miss) { return inSeveral(miss, spans); });
    const auto more = missesOf(*events, spans, hearing.notes);
    hearing.misses.insert(hearing.misses.end(), more.begin(), more.end());
    return {};
}

} // namespace

Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job,
                         const HeardSoFar& so_far) {
    const double length_s = sound.length_s();
    JobControl part = job;
    if (!instrument.isBass())
        part.progress = [&job, length_s](double done_s, double) {
            job.report(kLinePart * done_s, length_s);
        };
    auto hearing = hearMelody(sound, instrument, a4_hz, parameters, part, so_far);
    if (!hearing)
        return hearing;
    PeakParameters peaks;
    peaks.threshold = ChordParameters{}.least_attack;
    const auto onsets = pickOnsets(hearing->flux, peaks);
    const auto beliefs = believeLine(sound, hearing->tuning, onsets, hearing->notes, job);
    tellSlurs(beliefs, hearing->notes);
    hearing->misses = dropUnstruck(beliefs, hearing->notes);
    markSlurs(sound, hearing->notes, instrument.isBass());
    trimCurves(hearing->notes);
    markVibrato(hearing->notes);
    if (instrument.isBass())
        addDeadNotes(sound, hearing->tuning, hearing->flux, onsets, hearing->notes, job);
    else if (const Status voices = hearVoices(sound, instrument, onsets, job, so_far, *hearing);
             !voices)
        return voices.error();
    if (const Status looked =
            lookBelow(sound, instrument, parameters.onset_threshold, job, *hearing);
        !looked)
        return looked.error();
    job.report(length_s, length_s);
    finish(sound, instrument, *hearing);
    return hearing;
}

} // namespace wirenote
