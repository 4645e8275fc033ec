// The way of a take to a tab: decode, hear, find the pulse, place, stroke.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "hearing/melody.h"
#include "media/decode.h"
#include "piece/piece.h"
#include "session/watch_film.h"
#include "signal/quality_meter.h"

#include <filesystem>
#include <functional>
#include <optional>

namespace wirenote {

// Kinds of evidence about the string that a take tells, to be done without: for measuring what each
// is worth.
struct LeftOut {
    bool stiffness = false;
    bool decay = false;
    bool comb = false;
    bool tilt = false;
    bool squeaks = false;
};

// Where somebody talks: nothing is heard there, or notes are looked for all the same.
enum class Talk { Skip, Keep };

struct TranscribeOptions {
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    std::vector<StringTrait> string_traits; // of a calibration; empty: learned from the take
    std::optional<double> a4_hz;
    std::optional<double> tempo_bpm;
    std::optional<Metre> metre;
    Settled settled;                      // what of it a person said; the rest may be asked about
    std::optional<PluckingTool> plucking; // taken from the notes when not given
    int sound_stream = -1;                // of several; −1: the file's own choice
    ChannelChoice channels = ChannelChoice::Mix;
    HeardSoFar so_far; // times and places in the take; from the working thread
    TimeRange span;    // hear this part only; empty: all of it
    Talk talk = Talk::Skip;
    std::vector<SoundSpan> said; // what a person said is going on; counts more than what is heard
    LeftOut left_out;
    std::optional<FilmOptions>
        film; // the take's own picture is looked at, where there is one; else not
    // What came of it; from the working thread. With it a film that cannot be used leaves the sound
    // to go on alone; without it, it ends the work.
    std::function<void(const Result<FilmFacts>&)> film_seen;
};

// A new piece from one recording. Errors: the recording cannot be used, or cancelled.
Result<Piece> transcribe(const std::filesystem::path& media,
                         const TranscribeOptions& options,
                         const JobControl& job);

// What there is to hear in another recording of a piece for that instrument: a piece with its take,
// its notes and what was measured of them, without places, beats and strokes. Errors: as above.
Result<Piece> hearRecording(const std::filesystem::path& media,
                            const TranscribeOptions& options,
                            const JobControl& job);

// Whether nothing was heard because somebody talks all the way.
bool talkedThroughout(const Piece& piece);

// What the measuring of a sound says, as a take keeps it.
TakeQuality takeQuality(const SoundQuality& quality);

} // namespace wirenote
