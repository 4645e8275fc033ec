// The value types of a piece: what was heard, and what was decided about it.
#pragma once

#include "base/time_range.h"
#include "music/instrument.h"
#include "piece/heard.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace wirenote {

using NoteId = std::int64_t; // unique within a piece, never used again; 0 is no note

// How a decision is known. What is set by a person is never overridden by an analysis.
enum class Basis { Heard, Seen, Reasoned, Set };

// Why a person set what is set: it was misheard before; a score has it; it is remembered so; it is
// how this person likes it; somebody was asked. A departure that is known to be one is never taken
// for a correction.
enum class SetWhy { Unsaid, Misheard, Score, Memory, Taste, Asked };
constexpr int kSetWhys = 6;

// Why, in a form that every language can put into words. `a`, `b` and `x` mean what the kind says.
enum class ReasonKind {
    ClearPitch,        // heard: periodic to x (0..1)
    SharpAttack,       // heard: attack of strength x (1 = typical of the take)
    SoftAttack,        // heard: the pitch moved without a new attack
    OctaveDoubt,       // heard: the octave above or below fits nearly as well
    OnlyPlace,         // reasoned: no other string has this pitch
    StaysInPosition,   // reasoned: the hand stays at fret a
    ShiftNeeded,       // reasoned: the hand moves from fret a to fret b in x seconds
    OtherNeedsShift,   // reasoned: string a would make the hand move by b frets
    OtherNeedsStretch, // reasoned: string a would need a stretch of x millimetres
    OpenString,        // reasoned: open, nothing to press
    OpenGivesTime,     // reasoned: the open string gives x seconds for the next shift
    SameString,        // reasoned: a hammer-on, pull-off or slide stays on string a
    LowPosition,       // reasoned: low on the neck, where frets are familiar
    FingerPerFret,     // reasoned: finger a, one finger per fret from fret b
    AlternatesOnBeat,  // reasoned: down on the beat, up off it
    NotStruck,         // reasoned: slurred, the plucking hand rests
    FingersAlternate,  // reasoned: index and middle take turns
    FingerPerString,   // reasoned: held chords: the thumb or a finger for string a
    StiffnessFits,     // heard: as stiff as string a would sound, x times off what string b would
    DecayFits,         // heard: dies as fast as on string a, unlike string b
    CombFits,          // heard: plucked where string a would put it, unlike string b
    TiltFits,          // heard: as bright as string a sounds, unlike string b
    SlideHeard,        // heard: a hand slid along a wound string, to fret a
    StringsInTurn,     // heard: thick strings first (a = 1) or thin ones (−1), sure to x (0.5..1)
    DecidedByPerson,   // set; a: why (SetWhy)
    StruckAgain,       // reasoned: the same grip just before or after has string a
    ShapeMoves,        // reasoned: a grip that moves keeps its shape: string a
    OverNode,          // reasoned: a harmonic rings over fret a only
    NothingFits,       // reasoned: no place on this neck has this pitch
    OutOfHand,         // reasoned: no hand takes it with the others of its stroke
    PlayedInOthers,    // heard: in a of b playings of the place
    FingerStays,       // reasoned: this finger is on string a at fret b already
    UsualGrip,         // reasoned: as a grip of a stopped strings is taught, from fret b
    OneFinger,         // reasoned: one finger holds string a at fret b too
    FingerElsewhere,   // reasoned: finger x, whose fret this is, is on string a at fret b
    FingerHolds,       // reasoned: the same, and what rings there ends if it leaves
    OpenRings,         // reasoned: stopped here, as the open string a rings on
    ThumbOver,         // reasoned: the thumb takes the thickest string, over the neck
    SweepsOn,          // reasoned: on over neighbouring strings, a notes one way
    DownStrokesOnly,   // reasoned: a riff, slow enough for down-strokes only
    TakesTurns,        // reasoned: the other way than the stroke before
    ThumbHasBass,      // reasoned: the thumb has the thick strings
    ThumbTooSlow,      // reasoned: a run of x notes a second is too fast for the thumb alone
    TipSeen,           // seen: a fingertip where string a would have it, and not string b
    StrokeSeen,        // seen: the plucking hand went down (a = 1) or up (-1), sure to x (0.5..1)
    StrokesSound,      // heard: the strokes sound hard (a = 1) or soft (-1), x dB bright
};

struct Reason {
    ReasonKind kind = ReasonKind::ClearPitch;
    Basis basis = Basis::Reasoned;
    int a = 0;
    int b = 0;
    double x = 0.0;
    bool operator==(const Reason&) const = default;
};

template <class T> struct RunnerUp {
    T value{};
    double probability = 0.0;
    bool operator==(const RunnerUp&) const = default;
};

// A value with its basis, its probability (0..1), the runners-up with theirs, and the reasons.
template <class T> struct Decision {
    T value{};
    Basis basis = Basis::Reasoned;
    double probability = 0.0;
    std::vector<RunnerUp<T>> runners_up; // by falling probability
    std::vector<Reason> reasons;
    bool operator==(const Decision&) const = default;

    bool isSet() const { return basis == Basis::Set; }
    void set(T new_value, SetWhy why = SetWhy::Unsaid) {
        value = std::move(new_value);
        basis = Basis::Set;
        probability = 1.0;
        runners_up.clear();
        reasons = {{ReasonKind::DecidedByPerson, Basis::Set, static_cast<int>(why), 0, 0.0}};
    }
    // Why it was set; Unsaid, too, where it was not.
    SetWhy setWhy() const {
        if (isSet())
            for (const Reason& r : reasons)
                if (r.kind == ReasonKind::DecidedByPerson && r.a > 0 && r.a < kSetWhys)
                    return static_cast<SetWhy>(r.a);
        return SetWhy::Unsaid;
    }
};

enum class Technique {
    HammerOn,
    PullOff,
    Slide,
    Bend,
    Release,
    Vibrato,
    PalmMute,
    Dead,
    Staccato,
    LetRing,
    Harmonic,
    Grace,
    Accent,
    GhostStroke,
    PreBend, // struck when the string is drawn already
    Roll,    // a chord, string after string
    Rake,    // over damped strings into a note
    Trill,
    Tremolo, // one pitch struck as fast as the hand can
    Tap,
};
constexpr int kTechniqueCount = 20;
// Whether a note cannot be both (common practice): it begins in one way, is short or rings on …
bool excludes(Technique a, Technique b);

enum class Finger { Unknown, Open, Index, Middle, Ring, Little, Thumb };
enum class Stroke { Unknown, Down, Up, P, I, M, A, C, Ghost, None };

struct PitchPoint {
    double time_s = 0.0;
    double dev_cents = 0.0; // from the note's pitch
    bool operator==(const PitchPoint&) const = default;
};

// A slip of the performer, as a person says: kept in "as played", put right elsewhere.
struct Slip {
    int meant_midi = 0; // 0: nothing was meant to sound
    bool operator==(const Slip&) const = default;
};

// What may be in doubt of a note. OnlyHere: none of two or more other playings of its place has it.
enum class DoubtKind { Place, Pitch, Existence, NoPlace, Stroke, OnlyHere, Finger };
constexpr std::size_t kDoubtKindCount = 7;

// A doubt that a person leaves open on purpose, with a word: "does not matter", "check the record".
struct LeftOpen {
    DoubtKind kind = DoubtKind::Place;
    std::string word;
    bool operator==(const LeftOpen&) const = default;
};

// Whether a player may leave a note out, or has to land on it, and under what condition.
enum class Necessity { Ordinary, MayGo, MustLand };
struct Need {
    Necessity kind = Necessity::Ordinary;
    double above_bpm = 0.0; // MayGo: only at this tempo and faster; 0: at any
    std::string when;       // "only the second time"; empty: always
    bool operator==(const Need&) const = default;
};

// Which of two voices a note is written in: the tune above, the bass under it.
enum class Voice { Upper, Lower };

// Something heard.
struct Note {
    NoteId id = 0;
    Decision<bool> existence = {true, Basis::Reasoned, 1.0, {}, {}}; // that it was played at all
    Decision<TimeRange> time;                                        // seconds in the leading take
    Decision<double> pitch; // MIDI number against the take's tuning reference
    std::vector<PitchPoint> curve;
    double loudness_db = -30.0; // re full scale, at its loudest
    double velocity = 0.6;      // 0..1, loudness against the take's loudest notes
    std::vector<Technique> techniques;
    std::vector<NoteFacts> facts; // the note's own stretch of the leading take first
    std::optional<Slip> slip;
    std::optional<Voice> voice;      // as a person says; else by what it is (score/voices.h)
    Need need;                       // as a person says; Ordinary: nobody said
    std::vector<LeftOpen> left_open; // at most one of a kind
    bool operator==(const Note&) const = default;

    double onset_s() const { return time.value.start_s; }
    double offset_s() const { return time.value.end_s; }
    int midi() const; // nearest semitone
    // What all that was heard of it says together; a copy.
    const HeardFacts heard() const { return mergedFacts(facts); }
    // What a film showed at it, the one that is worth most; null where none did.
    const SeenFacts* seen() const;
    // What the first stretch of a take told; null: nothing.
    const NoteFacts* factsOf(std::size_t take) const;
    // To be written: what a take's film shows of it; where that take told nothing, of that span.
    SeenFacts& seenIn(std::size_t take, TimeRange span);
    // To be written: what the leading take's own sound tells.
    HeardFacts& ownSound();
    // What was measured of partials of a pitch that it turned out not to have is of no note.
    void forgetString();
    bool has(Technique technique) const;
    void add(Technique technique); // once
    // False for strokes over damped strings: their pitch means nothing.
    bool pitched() const { return !has(Technique::GhostStroke) && !has(Technique::Dead); }
    // How far a bent string was drawn at the most, to the nearest quarter tone; 0 when it was not.
    double bendSemitones() const;
    // The pitch of the fret behind the note: what it sounds, or less by as much as a pre-bend is
    // drawn.
    int frettedMidi() const;
    bool slurred() const {
        return has(Technique::HammerOn) || has(Technique::PullOff) || has(Technique::Slide);
    }
};

// Why a reading departs from what was heard.
enum class DepartureWhy {
    None,
    OffNeck,      // it lies outside this neck, and sounds octaves away
    OutOfHand,    // no hand takes it with the others of its stroke
    MayGo,        // a person said that it may be left out
    Ornament,     // it adorns another
    ThinnedChord, // the chord is left with its outer notes
    TuneAndBass,  // only the tune and the bass on the beats are left
    Edition,      // a score has it so
    Person,       // a person decided so in this reading
};

// How one reading departs from a note as it was heard. "As played" never does.
struct Departure {
    DepartureWhy why = DepartureWhy::None;
    bool left_out = false;
    int semitones = 0;                                // higher, beside what the whole reading is
    std::optional<std::vector<Technique>> techniques; // in place of what was heard
    bool operator==(const Departure&) const = default;
    bool none() const { return !left_out && semitones == 0 && !techniques; }
};

// What one reading says of one note. Where no place fits, position.value.string is 0.
struct NotePlan {
    NoteId note = 0;
    Decision<Position> position;
    Decision<Finger> finger;
    Decision<Stroke> stroke;
    int hand_fret = 0; // where the index finger plays at this note; 0 when not known
    Departure departure = {};
    bool operator==(const NotePlan&) const = default;

    bool placed() const { return position.value.string > 0; }
};

} // namespace wirenote
