// One recording of the piece: what it is, how it is heard, and how it lies on the piece's time.
#pragma once

#include "base/clocks.h"
#include "base/sound.h"
#include "base/time_range.h"
#include "music/instrument.h"
#include "music/pitch.h"
#include "piece/demonstration.h"
#include "piece/film_facts.h"

#include <string>
#include <vector>

namespace wirenote {

// Where a take's A4 stands.
struct TuningReference {
    double a4_hz = kStandardA4Hz;
    double spread_cents = 0.0;
    Basis basis = Basis::Reasoned;
    bool operator==(const TuningReference&) const = default;
    double cents() const { return centsBetween(kStandardA4Hz, a4_hz); }
};

// How the clock of a take follows the clock of the piece, stretch by stretch: in each, pairs of
// moments that are the same place of the music, both rising; between two pairs time passes evenly,
// before the first and after the last of a lone stretch as it does there. One pair: the same speed,
// shifted. No stretch: the clocks are the same. A take may visit a place of the piece several
// times: then it has several stretches, in the order of the take.
struct TakeAlignment {
    using Moment = SharedMoment;
    using Stretch = std::vector<Moment>; // at least one
    std::vector<Stretch> stretches;
    Basis basis = Basis::Reasoned; // heard: by sound; set: by a person
    double certainty = 1.0;        // 0..1
    int semitones = 0;             // how much higher the take sounds than the leading one
    bool operator==(const TakeAlignment&) const = default;

    bool sameClock() const { return stretches.empty(); }
    // The first moment of the take that is there in the piece; where none is, what the nearest
    // stretch would come to.
    TakeTime toTake(PieceTime at) const;
    // Every moment of the take that is there in the piece, in the order of the take; of a lone
    // stretch one, wherever it is.
    std::vector<TakeTime> everyVisit(PieceTime at) const;
    PieceTime toPiece(TakeTime at) const;
    // How many seconds of the take pass in one second of the piece there.
    double rateAt(PieceTime at) const;
    // Moved by hand: what stood at piece second t stands at t + by_s.
    void shift(double by_s);
    bool valid() const; // rising in both, one stretch after the other in the take, finite
};

enum class TakeKind { Studio, Stage, Lesson, Own };
enum class TakeRights { Unknown, OwnRecording, Permitted, StudyOnly };

// What can be trusted in a recording, as measured. What could not be measured is negative.
struct TakeQuality {
    double clipped_share = -1.0; // of all samples
    double signal_to_noise_db = -1.0;
    double hum_db = -1.0;          // how far the mains hum stands above the noise beside it
    double hum_hz = 0.0;           // 50 or 60
    double reverberation_s = -1.0; // time for 60 dB that nothing in it undercuts
    double top_hz = -1.0;          // above it there is nothing
    double mono_loss_db = -1.0;    // level lost when both channels are added
    // What the film shows of a neck: in how many of its pictures one can be made out (a share),
    // how much of their longer side it takes there, and how many frets.
    double neck_seen = -1.0;
    double neck_share = -1.0;
    double neck_frets = -1.0;
    bool operator==(const TakeQuality&) const = default;
    bool measured() const { return clipped_share >= 0.0; }
};

// What is going on in a stretch of a take.
enum class SoundKind { Playing, Talk, TalkOverPlaying, CountIn, Noise, Silence };

// Whether notes of the piece are heard in it.
constexpr bool isPlayed(SoundKind kind) {
    return kind == SoundKind::Playing || kind == SoundKind::TalkOverPlaying;
}

struct SoundSpan {
    TimeRange span; // seconds in the take
    SoundKind kind = SoundKind::Playing;
    double probability = 0.0;
    Basis basis = Basis::Heard;
    bool operator==(const SoundSpan&) const = default;
};
constexpr std::size_t kMaxSoundSpans = 20000;

// What the strings of a take sound like, with how likely it is.
struct KindGuess {
    InstrumentKind kind = InstrumentKind::Guitar; // Guitar: electric; Acoustic: steel; or Nylon
    double probability = 0.0;
    bool operator==(const KindGuess&) const = default;
};
constexpr std::size_t kMaxKindGuesses = 10;

// Whether both clocks go forward, with finite times.
bool rises(const std::vector<SharedMoment>& moments);
// Piecewise linear from one clock to the other; the ends go on. `moments`: at least one.
double inTake(const std::vector<SharedMoment>& moments, double piece_s);
double inPiece(const std::vector<SharedMoment>& moments, double take_s);

// Puts a span in the place of what was said of its stretch; the others are cut where it begins and
// ends. `spans` in order of time, before and after.
void putSpan(std::vector<SoundSpan>& spans, const SoundSpan& one);

// One recording.
struct Take {
    std::string name;
    std::string path;   // relative to the piece file when it lies beside or below it
    std::string sha256; // fingerprint of the media file, lower-case hex; empty when not yet known
    double length_s = 0.0;
    TuningReference reference;
    std::vector<SoundCaution> cautions; // what went wrong in reading it
    TakeKind kind = TakeKind::Own;
    TimeRange trim;        // the part that is heard, seconds in the take; empty: all of it
    int sound_stream = -1; // which of several sound streams; −1: the file's own choice
    ChannelChoice channels = ChannelChoice::Mix;
    double gain_db = 0.0; // for listening
    bool has_picture = false;
    TakeQuality quality;
    FilmFacts film; // nothing told: nobody has looked at it
    std::vector<SoundSpan> sound_spans; // one after the other; empty: nobody has listened for it
    std::vector<KindGuess> sounds_like; // likeliest first; empty: nobody has listened for it
    std::vector<Demonstration> demonstrations; // by time, apart; empty: nobody has looked for them
    std::vector<TakeNote> notes;               // of a take that does not lead, by time
    std::string remark;                        // the person's own words
    std::string origin;                        // where it came from
    TakeRights rights = TakeRights::Unknown;
    TakeAlignment alignment; // identity for the leading take
    bool operator==(const Take&) const = default;

    TimeRange heardSpan() const { return trim.empty() ? TimeRange{0.0, length_s} : trim; }
};

} // namespace wirenote
