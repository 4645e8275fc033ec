#include "hearing/hearing.h"

#include "hearing/techniques.h"

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

Note toNote(const ChordNote& heard, const ChordEvent& event, double loud_db) {
    Note note;
    note.time.value = {heard.onset_s, heard.offset_s};
    note.time.basis = Basis::Heard;
    note.time.probability = heard.probability;
    note.time.reasons = {{ReasonKind::SharpAttack, Basis::Heard, 0, 0, event.strength}};
    if (event.notes.size() > 2 || beginsUnrelated(event)) // an octave alone may be one string
        note.time.reasons.push_back({ReasonKind::StringsInTurn,
                                     Basis::Heard,
                                     event.upward ? -1 : 1,
                                     0,
                                     event.order_probability});
    note.pitch.value = heard.midi;
    note.pitch.basis = Basis::Heard;
    note.pitch.probability = heard.probability;
    note.pitch.reasons = {{ReasonKind::ClearPitch, Basis::Heard, 0, 0, heard.share}};
    note.loudness_db = heard.level_db;
    note.velocity = std::clamp(0.85 + (heard.level_db - loud_db) / 40.0, 0.05, 1.0);
    return note;
}

// A stroke over damped strings: noise that is gone within a tenth of a second.
bool isGhost(const ChordEvent& event,
             double next_s,
             const FluxTrack& flux,
             const VoiceParameters& p) {
    if (event.flatness < p.ghost_flatness || flux.level_db.empty())
        return false;
    float loudest = -120.0F;
    float quietest = 0.0F;
    for (double t = event.onset_s; t < std::min(next_s - 0.01, event.onset_s + 0.16);
         t += flux.hop_s) {
        const float level = flux.level_db[flux.frameAt(t)];
        if (t < event.onset_s + 0.05)
            loudest = std::max(loudest, level);
        quietest = std::min(quietest, level);
    }
    return loudest - quietest > p.ghost_drop_db;
}

Note ghostNote(const ChordEvent& event, const Instrument& instrument, double level_db) {
    ChordNote stroke;
    stroke.midi = instrument.lowestMidi(); // its pitch means nothing
    stroke.onset_s = event.onset_s;
    stroke.level_db = level_db;
    stroke.offset_s = event.onset_s + 0.06;
    stroke.probability = 0.7;
    Note note = toNote(stroke, event, stroke.level_db);
    note.time.reasons.resize(1); // its strings are damped
    note.techniques.push_back(Technique::GhostStroke);
    return note;
}

std::vector<Note> notesOf(const std::vector<ChordEvent>& events,
                          const Instrument& instrument,
                          const FluxTrack& flux,
                          const VoiceParameters& p) {
    double loud_db = -120.0;
    for (const ChordEvent& event : events)
        for (const ChordNote& note : event.notes)
            loud_db = std::max(loud_db, note.level_db);
    std::vector<Note> notes;
    for (std::size_t i = 0; i < events.size(); ++i) {
        const ChordEvent& event = events[i];
        const double next_s = i + 1 < events.size() ? events[i + 1].onset_s : 1e9;
        if (isGhost(event, next_s, flux, p))
            notes.push_back(
                ghostNote(event, instrument, flux.level_db[flux.frameAt(event.onset_s + 0.02)]));
        else
            for (const ChordNote& heard : event.notes)
                notes.push_back(toNote(heard, event, loud_db));
    }
    for (std::size_t i = 0; i < notes.size(); ++i)
        notes[i].id = static_cast<NoteId>(i) + 1;
    return notes;
}

// Attacks enough to tell a line from several voices: of a long take three stretches.
std::vector<OnsetPeak> sampleOf(const std::vector<OnsetPeak>& onsets) {
    constexpr std::size_t kStretch = 32;
    if (onsets.size() <= 3 * kStretch)
        return onsets;
    std::vector<OnsetPeak> sample;
    for (const std::size_t from :
         {std::size_t{0}, (onsets.size() - kStretch) / 2, onsets.size() - kStretch})
        sample.insert(sample.end(),
                      onsets.begin() + static_cast<std::ptrdiff_t>(from),
                      onsets.begin() + static_cast<std::ptrdiff_t>(from + kStretch));
    return sample;
}

} // namespace

Voices voicesOf(const std::vector<ChordEvent>& events,
                const Instrument& instrument,
                const VoiceParameters& p) {
    if (instrument.isBass())
        return Voices::Line;
    int several = 0;
    int over_ringing = 0;
    std::vector<const ChordNote*> before;
    std::size_t sounding = 0;
    for (const ChordEvent& event : events) {
        if (event.notes.empty())
            continue;
        ++sounding;
        several += beginsUnrelated(event) ? 1 : 0;
        std::erase_if(
            before, [&](const ChordNote* n) { return n->offset_s < event.onset_s + p.ringing_s; });
        over_ringing += std::any_of(before.begin(), before.end(), [&](const ChordNote* n) {
            return std::none_of(event.notes.begin(), event.notes.end(), [n](const ChordNote& now) {
                return now.midi == n->midi;
            });
        });
        for (const ChordNote& note : event.notes)
            before.push_back(&note);
    }
    const auto count = static_cast<double>(sounding);
    return several > p.several_share * count || over_ringing > p.ringing_share * count
               ? Voices::Several
               : Voices::Line;
}

Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job) {
    auto hearing = hearMelody(sound, instrument, a4_hz, parameters, job);
    if (!hearing)
        return hearing;
    if (instrument.isBass()) {
        markVibrato(hearing->notes);
        markStaccato(hearing->notes);
        return hearing;
    }
    JobControl quiet;
    quiet.cancel = job.cancel;
    PeakParameters peaks;
    peaks.threshold = parameters.onset_threshold;
    const auto onsets = pickOnsets(hearing->flux, peaks);
    const double a4 = hearing->reference.a4_hz;
    const auto sample =
        hearChords(sound, instrument, a4, sampleOf(onsets), ChordParameters{}, quiet);
    if (!sample)
        return sample.error();
    if (voicesOf(*sample, instrument) == Voices::Several) {
        const auto events = hearChords(sound, instrument, a4, onsets, ChordParameters{}, quiet);
        if (!events)
            return events.error();
        hearing->notes = notesOf(*events, instrument, hearing->flux, VoiceParameters{});
    }
    markVibrato(hearing->notes);
    markStaccato(hearing->notes);
    return hearing;
}

} // namespace wirenote
