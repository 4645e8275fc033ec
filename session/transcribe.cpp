#include "session/transcribe.h"

#include "base/text.h"
#include "form/beat_levels.h"
#include "form/downbeats.h"
#include "form/lent_facts.h"
#include "form/metre_guess.h"
#include "form/steady_beats.h"
#include "fretting/placing.h"
#include "hand/candidates.h"
#include "hearing/hearing.h"
#include "hearing/kind_guess.h"
#include "hearing/slurs.h"
#include "hearing/sound_spans.h"
#include "hearing/span_kinds.h"
#include "hearing/squeaks.h"
#include "hearing/stroke_edges.h"
#include "hearing/voice_notes.h"
#include "media/checksum.h"
#include "media/decode.h"
#include "media/media_info.h"
#include "piece/timeline_edits.h"
#include "score/quantise.h"
#include "session/resolve.h"
#include "signal/pulse.h"
#include "strings/measuring.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace wirenote {
namespace {

// What was heard in a part of a take belongs to its place in the take.
void moveBy(double seconds, Piece& piece) {
    for (Note& note : piece.notes) {
        note.time.value.start_s += seconds;
        note.time.value.end_s += seconds;
        for (PitchPoint& point : note.curve)
            point.time_s += seconds;
        for (NoteFacts& from : note.facts) {
            from.span.start_s += seconds;
            from.span.end_s += seconds;
        }
    }
    for (NearMiss& miss : piece.misses) {
        miss.time.start_s += seconds;
        miss.time.end_s += seconds;
    }
    for (double& beat : piece.timeline.beats_s)
        beat += seconds;
}

// What is played after a pause may be another piece, with a beat of its own: the notes between
// pauses.
std::vector<std::vector<Note>> playedInOneGo(const std::vector<Note>& notes) {
    constexpr double kPause_s = 3.0;
    std::vector<std::vector<Note>> stretches;
    double sounds_until_s = 0.0;
    for (const Note& note : notes) {
        if (stretches.empty() || note.onset_s() - sounds_until_s > kPause_s)
            stretches.emplace_back();
        stretches.back().push_back(note);
        sounds_until_s = std::max(sounds_until_s, note.offset_s());
    }
    return stretches;
}

// What speaks for a level beside the notes: a logarithm. What is likelier by less is asked about.
// The sound tells beats from thirds of them, less well from off-beats, and hardly from their
// halves; for half or twice the tempo on other beats than those it would have to be wrong twice.
double headStart(const BeatLevel& level, const Metre& metre) {
    constexpr double kBeyondDoubt = 1.8;
    constexpr double kOffBeatsBeyondDoubt = 1.0;
    constexpr double kHalvesBeyondDoubt = 0.4;
    const bool alike = level.compound() == metre.compound();
    if (level.isPresent() && alike)
        return kLevelAsHeard + kBeyondDoubt;
    if (!alike || level.feel == BeatFeel::Swung)
        return 0.0;
    if (level.onPresent())
        return kBeyondDoubt - kHalvesBeyondDoubt;
    return level.per_beat == 1.0 ? kBeyondDoubt - kOffBeatsBeyondDoubt : 0.0;
}

// The beats at the level and phase that the notes speak for, where they speak against the one that
// was heard; the metre follows where it must. A steady grid over minutes is halved or doubled only.
std::vector<double> feltBeats(const std::vector<Note>& notes,
                              const std::vector<double>& beats_s,
                              bool metre_is_said,
                              Metre& metre,
                              bool steady = false) {
    const BeatLevel* best = nullptr;
    const auto worth = [&metre](const BeatLevel& level) {
        return level.score + headStart(level, metre);
    };
    const std::vector<BeatLevel> levels = beatLevels(notes, beats_s);
    for (const BeatLevel& level : levels)
        if ((!metre_is_said || level.compound() == metre.compound()) &&
            !(steady && level.ofThree()) && (!best || worth(level) > worth(*best)))
            best = &level;
    if (!best || (best->isPresent() && best->compound() == metre.compound()))
        return beats_s;
    std::vector<double> felt = beatsAt(beats_s, *best);
    if (best->compound() != metre.compound())
        metre = best->compound() ? Metre{6, 8} : Metre{4, 4};
    if (!metre_is_said && !metre.compound())
        if (const MetreGuess again = guessMetre(notes, felt); !again.metre.compound())
            metre = again.metre;
    return felt;
}

// The same for each stretch of playing by itself; where there are several, they keep the metre.
std::vector<double> feltInStretches(const std::vector<Note>& notes,
                                    const std::vector<double>& beats_s,
                                    bool metre_is_said,
                                    Metre& metre) {
    const auto stretches = playedInOneGo(notes);
    if (stretches.size() < 2)
        return feltBeats(notes, beats_s, metre_is_said, metre);
    std::vector<double> all;
    std::size_t next = 0; // beat that belongs to no stretch yet
    for (std::size_t i = 0; i < stretches.size(); ++i) {
        const bool last = i + 1 == stretches.size();
        const double until_s =
            last ? 0.0
                 : 0.5 * (stretches[i].back().offset_s() + stretches[i + 1].front().onset_s());
        std::vector<double> here;
        for (; next < beats_s.size() && (last || beats_s[next] < until_s); ++next)
            here.push_back(beats_s[next]);
        if (here.size() >= 2)
            here = feltBeats(stretches[i], here, true, metre);
        constexpr double kLeast_s = 0.1; // between the beats of two stretches
        std::erase_if(here, [&all](double b) { return !all.empty() && b < all.back() + kLeast_s; });
        all.insert(all.end(), here.begin(), here.end());
    }
    return all;
}

double middleTempoOf(const std::vector<double>& beats_s) {
    Timeline timeline;
    timeline.beats_s = beats_s;
    return middleTempo(timeline);
}

// The beats that are felt. Beats that were followed at a tempo that was not theirs, nor half or
// twice it, are uneven: the sound is followed anew at the tempo that the notes speak for.
std::vector<double> feltOrFollowedAnew(const FluxTrack& flux,
                                       const std::vector<Note>& notes,
                                       const std::vector<double>& beats_s,
                                       PulseParameters parameters,
                                       bool metre_is_said,
                                       Metre& metre) {
    constexpr double kSame = 0.03; // octaves
    std::vector<double> felt = feltInStretches(notes, beats_s, metre_is_said, metre);
    if (felt.size() < 2 || beats_s.size() < 2)
        return felt;
    const double octaves = std::log2(middleTempoOf(felt) / middleTempoOf(beats_s));
    if (std::abs(octaves - std::round(octaves)) < kSame)
        return felt;
    parameters.tempo_bpm = middleTempoOf(felt);
    const Pulse again = trackPulse(flux, parameters);
    return feltInStretches(
        notes, beatsOnStress(notes, again.beats_s, metre.compound()), true, metre);
}

Timeline timelineOf(const FluxTrack& flux,
                    const std::vector<Note>& notes,
                    const TranscribeOptions& options,
                    double length_s) {
    Timeline timeline;
    timeline.metre = options.metre.value_or(Metre{});
    timeline.basis = options.tempo_bpm ? Basis::Set : Basis::Heard;
    if (notes.empty())
        return timeline;
    PulseParameters parameters;
    parameters.tempo_bpm = options.tempo_bpm;
    Pulse pulse = trackPulse(flux, parameters);
    if (!options.metre) {
        const MetreGuess guess = guessMetre(notes, pulse.beats_s);
        timeline.metre = guess.metre;
        if (guess.beat_factor != 1.0 && !options.tempo_bpm) {
            parameters.tempo_bpm = pulse.tempo_bpm / guess.beat_factor;
            pulse = trackPulse(flux, parameters);
        }
    }
    pulse.beats_s = beatsOnStress(notes, pulse.beats_s, timeline.metre.compound());
    if (!options.tempo_bpm) {
        const bool metre_is_said = options.metre.has_value();
        if (std::vector<double> steady = steadyBeats(notes, pulse.beats_s); !steady.empty())
            pulse.beats_s = feltBeats(notes, steady, metre_is_said, timeline.metre, true);
        else
            pulse.beats_s = feltOrFollowedAnew(
                flux, notes, pulse.beats_s, parameters, metre_is_said, timeline.metre);
        if (!metre_is_said && timeline.metre.compound())
            timeline.metre = barsOf(notes, pulse.beats_s, true);
        if (pulse.beats_s.size() > 1)
            pulse.tempo_bpm = middleTempoOf(pulse.beats_s);
    }
    timeline.tempo_bpm = pulse.tempo_bpm;
    timeline.beats_s = pulse.beats_s;
    // Beats before the first note belong to no bar a player counts, save the one it may start just
    // after.
    const double first = notes.front().onset_s();
    const double period = pulse.tempo_bpm > 0.0 ? 60.0 / pulse.tempo_bpm : 0.5;
    std::erase_if(timeline.beats_s,
                  [&](double b) { return b < first - 0.6 * period || b > length_s; });
    if (!options.tempo_bpm)
        timeline.tempo_bpm = middleTempo(timeline);
    timeline.first_downbeat =
        likeliestDownbeat(notes, timeline.beats_s, timeline.metre.feltBeats());
    numberFrom(timeline, first);
    if (!timeline.metre.compound())
        timeline.swing = estimateSwing(notes, timeline.beats_s);
    return timeline;
}

void leaveOut(const LeftOut& kinds, std::vector<Note>& notes) {
    for (Note& note : notes) {
        const auto drop = [&note](ToneFigure figure) {
            note.ownSound().tone[static_cast<std::size_t>(figure)] = {};
        };
        if (kinds.stiffness)
            note.ownSound().stiffness = {};
        if (kinds.decay) {
            drop(ToneFigure::DecayLow);
            drop(ToneFigure::DecayHigh);
        }
        if (kinds.comb)
            drop(ToneFigure::Comb);
        if (kinds.tilt)
            drop(ToneFigure::Tilt);
        note.ownSound().squeak_before = note.heard().squeak_before && !kinds.squeaks;
    }
}

// What is heard so far, at its time in the take and where it would lie lowest on the neck.
HeardSoFar inTheTake(const TranscribeOptions& options, double start_s) {
    if (!options.so_far)
        return {};
    return [&options, start_s](std::vector<NearMiss> notes) {
        for (NearMiss& note : notes) {
            note.time.start_s += start_s;
            note.time.end_s += start_s;
            for (const Position& place : candidatesFor(options.instrument, note.midi))
                if (note.place.string == 0 || place.fret < note.place.fret)
                    note.place = place;
        }
        options.so_far(notes);
    };
}

// What the stages of a transcription hand on to each other.
struct Work {
    const std::filesystem::path& media;
    const TranscribeOptions& options;
    const JobControl& job;
    DecodedSound decoded; // the samples are gone once nobody listens to them any more
    FluxTrack flux;       // from hearing on
    Piece piece;
    bool place_again = false; // slurs were found
};

Piece emptyPiece(const std::filesystem::path& media, const TranscribeOptions& options) {
    Piece piece;
    piece.title = cleanText(media.stem().string());
    piece.title_guessed = true;
    piece.instrument = options.instrument;
    piece.string_traits = options.string_traits;
    piece.settled = options.settled;
    Take take;
    take.name = piece.title;
    take.path = media.string();
    take.sound_stream = options.sound_stream;
    take.channels = options.channels;
    take.trim = options.span;
    piece.takes = {take};
    if (options.plucking)
        piece.asPlayed().head.tool.set(*options.plucking);
    return piece;
}

// Sound → what is going on when; where somebody talks, silence for all that listens after this.
Status findPlaying(Work& work) {
    auto spans = soundSpans(work.decoded.mono.view(), work.job);
    if (!spans)
        return spans.error();
    if (const Status named = nameTalk(work.decoded.mono.view(), *spans, work.job); !named)
        return named;
    const double start_s = work.decoded.start_s;
    const double end_s = start_s + work.decoded.mono.length_s();
    for (SoundSpan one : work.options.said) { // in seconds of what was decoded
        one.span = {std::max(one.span.start_s, start_s) - start_s,
                    std::min(one.span.end_s, end_s) - start_s};
        if (!one.span.empty())
            putSpan(*spans, one);
    }
    if (work.options.talk == Talk::Skip)
        muteTalk(*spans, work.decoded.mono);
    for (SoundSpan& one : *spans) {
        one.span.start_s += start_s;
        one.span.end_s += start_s;
    }
    work.piece.lead()->sound_spans = std::move(*spans);
    return {};
}

// Sound → notes, near misses, the take's reference.
Status hearNotes(Work& work) {
    auto hearing = hearTake(work.decoded.mono.view(),
                            work.options.instrument,
                            work.options.a4_hz,
                            HearingParameters{},
                            work.job,
                            inTheTake(work.options, work.decoded.start_s));
    if (!hearing)
        return hearing.error();
    Piece& piece = work.piece;
    std::vector<SoundSpan> spans = piece.lead()->sound_spans;
    for (SoundSpan& one : spans) {
        one.span.start_s -= work.decoded.start_s;
        one.span.end_s -= work.decoded.start_s;
    }
    if (const Status told = leaveVoiceOut(
            work.decoded.mono.view(), hearing->reference.a4_hz, spans, hearing->notes, work.job);
        !told)
        return told;
    PeakParameters peaks;
    peaks.threshold = ChordParameters{}.least_attack;
    auto kinds = guessKind(work.decoded.mono.view(),
                           work.options.instrument,
                           hearing->reference.a4_hz,
                           pickOnsets(hearing->flux, peaks),
                           hearing->notes,
                           work.job);
    if (!kinds)
        return kinds.error();
    piece.lead()->sounds_like = std::move(*kinds);
    piece.lead()->reference = hearing->reference;
    piece.notes = std::move(hearing->notes);
    piece.misses = std::move(hearing->misses);
    work.flux = std::move(hearing->flux);
    for (const Note& note : piece.notes) {
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = {0, 0};
        piece.asPlayed().plans.push_back(plan);
        piece.next_id = std::max(piece.next_id, note.id + 1);
    }
    piece.key = guessKey(piece.notes);
    return {};
}

// Sound and notes → facts about the string behind each note.
Status measureStringFacts(Work& work) {
    const SoundView sound = work.decoded.mono.view();
    Piece& piece = work.piece;
    if (const Status told =
            measureStrings(sound, piece.lead()->reference.a4_hz, piece.notes, work.job);
        !told)
        return told;
    if (const Status told = hearSqueaks(sound, piece.notes, work.job); !told)
        return told;
    if (const Status told =
            measureEdges(sound, work.options.instrument.isBass(), piece.notes, work.job);
        !told)
        return told;
    leaveOut(work.options.left_out, piece.notes);
    return {};
}

// Film and notes → fingertips at each note.
Status lookAtFilm(Work& work) {
    const auto& film = work.options.film;
    const auto info = readMediaInfo(work.media);
    work.piece.lead()->has_picture = info && info->picture.exists();
    if (!film || (!film->neck && !work.piece.lead()->has_picture))
        return {};                             // nothing to look at, and nobody said there is
    const JobControl job{{}, work.job.cancel}; // its progress is that of the sound
    const auto seen = watchFilm(work.media, *film, work.decoded.start_s, work.piece, job);
    if (seen && work.piece.lead())
        work.piece.lead()->film = *seen;
    const bool stopped = !seen && seen.error().kind == ErrorKind::Cancelled;
    if (work.options.film_seen && !stopped)
        work.options.film_seen(seen);
    else if (!seen)
        return seen.error();
    return {};
}

// Facts → places; slurs are heard on the strings that the places name, and then stay on theirs.
Status placeAndSlur(Work& work) {
    placeAll(work.piece);
    if (markSlursOnStrings(work.decoded.mono.view(), work.piece) > 0)
        work.place_again = true;
    return {};
}

// Flux and notes → beats and bars.
Status findTime(Work& work) {
    const double length_s = work.decoded.mono.length_s();
    work.decoded.mono.samples = std::vector<float>(); // an hour of it is most of the memory
    Piece& piece = work.piece;
    piece.timeline = timelineOf(work.flux, piece.notes, work.options, length_s);
    // Nobody counts beats under what is said when the playing is over.
    if (work.options.talk == Talk::Skip && !piece.notes.empty())
        std::erase_if(piece.timeline.beats_s, [&](double beat_s) {
            const double at_s = beat_s + work.decoded.start_s;
            return beat_s > piece.notes.back().onset_s() &&
                   std::ranges::any_of(piece.lead()->sound_spans, [at_s](const SoundSpan& one) {
                       return one.kind == SoundKind::Talk && one.span.contains(at_s);
                   });
        });
    return {};
}

// Bars and facts → facts that repeats lend each other, and places once more.
Status placeByRepeats(Work& work) {
    if (poolStiffness(work.piece, work.job) > 0 || work.place_again)
        placeAll(work.piece);
    return {};
}

// Places and beats → strokes; what is heard to ring on ends where its string is struck again.
Status strokeAndEnd(Work& work) {
    Piece& piece = work.piece;
    strokeAll(piece);
    endOnStrings(piece);
    moveBy(work.decoded.start_s, piece);
    const auto places = placesOf(piece.misses, piece.instrument, piece.rows());
    for (std::size_t m = 0; m < places.size(); ++m)
        piece.misses[m].place = places[m];
    return {};
}

// Times count from the beginning of the take, not of what was decoded.
Status toTheTake(Work& work) {
    moveBy(work.decoded.start_s, work.piece);
    return {};
}

using Stage = Status (*)(Work&);

// The way from sound to plans.
constexpr std::array<Stage, 8> kStages = {findPlaying,
                                          hearNotes,
                                          measureStringFacts,
                                          lookAtFilm,
                                          placeAndSlur,
                                          findTime,
                                          placeByRepeats,
                                          strokeAndEnd};
constexpr std::array<Stage, 4> kHearing = {findPlaying, hearNotes, measureStringFacts, toTheTake};

Result<Piece> through(std::span<const Stage> stages,
                      const std::filesystem::path& media,
                      const TranscribeOptions& options,
                      const JobControl& job) {
    JobControl decoding = job;
    decoding.progress = {}; // reading takes a few per cent of the time; the hearing reports
    QualityMeter meter;
    DecodeOptions wanted;
    wanted.stream = options.sound_stream;
    wanted.channels = options.channels;
    wanted.span = options.span;
    wanted.watch = [&meter](const auto& channels, double rate_hz) { meter.add(channels, rate_hz); };
    auto decoded = decodeSound(media, kAnalysisRateHz, decoding, wanted);
    if (!decoded)
        return decoded.error();
    auto checksum = mediaFingerprint(media);
    if (!checksum)
        return checksum.error();
    Work work{media, options, job, std::move(*decoded), {}, {}};
    work.piece = emptyPiece(media, options);
    Take& take = *work.piece.lead();
    take.sha256 = *checksum;
    take.length_s = work.decoded.start_s + work.decoded.mono.length_s();
    take.cautions = work.decoded.cautions;
    take.quality = takeQuality(meter.result());
    for (const Stage stage : stages)
        if (const Status done = stage(work); !done)
            return done.error();
    return std::move(work.piece);
}

} // namespace

bool talkedThroughout(const Piece& piece) {
    constexpr double kAllTheWay = 0.8; // of what sounds
    if (!piece.notes.empty() || !piece.lead())
        return false;
    double talk_s = 0.0;
    double sounds_s = 1e-9;
    for (const SoundSpan& one : piece.lead()->sound_spans) {
        sounds_s += one.kind == SoundKind::Silence ? 0.0 : one.span.length_s();
        talk_s += one.kind == SoundKind::Talk ? one.span.length_s() : 0.0;
    }
    return talk_s >= kAllTheWay * sounds_s;
}

TakeQuality takeQuality(const SoundQuality& q) {
    return {q.clipped_share,
            q.signal_to_noise_db,
            q.hum_db,
            q.hum_hz,
            q.reverberation_s,
            q.top_hz,
            q.mono_loss_db};
}

Result<Piece> transcribe(const std::filesystem::path& media,
                         const TranscribeOptions& options,
                         const JobControl& job) {
    return through(kStages, media, options, job);
}

Result<Piece> hearRecording(const std::filesystem::path& media,
                            const TranscribeOptions& options,
                            const JobControl& job) {
    return through(kHearing, media, options, job);
}

} // namespace wirenote
