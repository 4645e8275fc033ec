// What a person has decided about the lesson of a piece. Everything else of a lesson is made anew
// from the reading (core/lesson).
#pragma once

#include "base/result.h"
#include "base/time_range.h"
#include "music/metre.h"
#include "piece/note.h"

#include <string>
#include <vector>

namespace wirenote {

// How strings are called: by number, 1 the thinnest; by the letter of the open one; thick and thin.
enum class StringNaming { Number, Letter, ThickThin };
enum class FingerNaming { Number, Name };                    // "finger 1", "index finger"
enum class StrokeNaming { Sign, Name };                      // "p", "thumb"
enum class NoteNaming { Letters, Syllables, GermanLetters }; // as the language has it, or these
// In which order a lesson goes (common practice): whole, context, fretting hand, plucking hand,
// together, slow, fast; the same with the plucking hand first; one hand for the whole piece, then
// the other; the tune, then the bass, then both; lick by lick, with its reason; the plucking hand
// built up in layers.
enum class TeachingOrder { FrettingFirst, PluckingFirst, HandByHand, VoiceByVoice, Licks, Layers };

// A teacher's own word for one of ours, used throughout and understood when it is said.
struct GlossaryWord {
    std::string ours;
    std::string own;
    bool operator==(const GlossaryWord&) const = default;
};
constexpr std::size_t kMaxGlossary = 500;

// How this teacher speaks.
struct TeachingManner {
    std::string language = "en"; // of the word lists that are shipped
    StringNaming strings = StringNaming::Number;
    FingerNaming fingers = FingerNaming::Number;
    StrokeNaming strokes = StrokeNaming::Name;
    NoteNaming notes = NoteNaming::Letters;
    bool notes_as_language = true; // … named as the language does; `notes` counts for nothing then
    CountSchool count = CountSchool::Numbers;
    TeachingOrder order = TeachingOrder::FrettingFirst;
    std::vector<double> tempi = {0.6, 0.8, 1.0}; // of the play-alongs, as shares of the tempo
    std::vector<GlossaryWord> glossary;
    bool operator==(const TeachingManner&) const = default;
};
constexpr std::size_t kMostLessonTempi = 8;
constexpr double kSlowestLesson = 0.1;
constexpr double kFastestLesson = 2.0;

// A phrase to be taught, as a person cut it.
struct TaughtPhrase {
    TimeRange span;        // seconds
    std::string title;     // empty: as it is found
    bool left_out = false; // not discussed
    bool free = false;     // in the part that is not paid for
    bool operator==(const TaughtPhrase&) const = default;
};
constexpr std::size_t kMaxTaught = 2000;

// What is said of a phrase at one step.
enum class StepKind { Whole, Context, Fretting, Plucking, Together, Slow, Fast, Joined, Layer };
constexpr std::size_t kStepKinds = 9;

// The words of a step as a person has them.
struct OwnWords {
    double phrase_s = 0.0; // where its phrase begins
    StepKind step = StepKind::Fretting;
    int layer = 0; // of a step Layer, which
    std::string text;
    std::string instead_of; // what was written by itself then
    bool operator==(const OwnWords&) const = default;
};
constexpr std::size_t kMaxOwnWords = 20000;

// Where people stumble.
enum class StumbleKind {
    DroppedThumb, // a bass note that is left out
    LongBarre,    // one that is kept too long
    FastShift,    // the hand moves inside fast notes
    SameFinger,   // one finger wanted elsewhere at once
    WideStretch,
    TemptingGrab, // fingers together where the thumb should go alone
    StringSkip,   // a string is passed over
    StrokeTurns,  // two strokes one way, or against the beat
    EarlyRelease, // what must ring on is let go
    Seen          // a person saw it, and it is none of these
};
constexpr std::size_t kStumbleKinds = 10;

// What a teacher has seen pupils do.
struct Observation {
    double at_s = 0.0;
    StumbleKind kind = StumbleKind::Seen;
    int pupils = 1;
    std::string remark; // and what helped
    bool operator==(const Observation&) const = default;
};
constexpr std::size_t kMaxObservations = 5000;
constexpr int kMostPupils = 1000000;

// What somebody said against the published lesson.
enum class Verdict { Open, Adopted, Answered };
struct Objection {
    double at_s = 0.0; // of the bar it is about
    std::string who;
    std::string text;
    std::string when; // ISO 8601, UTC
    Verdict verdict = Verdict::Open;
    std::string answer;
    bool operator==(const Objection&) const = default;
};
constexpr std::size_t kMaxObjections = 5000;

// One step of the prompt to be filmed again.
struct Retake {
    double phrase_s = 0.0;
    StepKind step = StepKind::Fretting;
    bool operator==(const Retake&) const = default;
};
constexpr std::size_t kMaxRetakes = 5000;

// A version that was given out.
struct PublishedVersion {
    int number = 1;
    std::string when; // ISO 8601, UTC
    std::string what; // what changed since the one before
    bool operator==(const PublishedVersion&) const = default;
};
constexpr std::size_t kMaxVersions = 1000;

struct LessonPlan {
    TeachingManner manner;
    TimeRange taught;                  // seconds; empty: all of it
    std::vector<TaughtPhrase> phrases; // by time, apart; empty: as they are found
    std::vector<OwnWords> words;
    std::vector<Observation> observations; // by time
    std::vector<Objection> objections;
    std::vector<Retake> retakes;
    std::vector<PublishedVersion> versions; // the newest last
    std::string captions;                   // a file of what is said in the leading take, as a
                                            // path of a take
    std::string level;                      // in a person's words; empty: as it is reckoned
    std::string presupposes;                // what a learner must be able to do before
    std::string background;                 // of its style
    std::string credits;
    std::string series; // "part 2 of 5: …"
    bool operator==(const LessonPlan&) const = default;
};

// What must hold of every lesson: times within a day, texts of bounded length, phrases in order.
Status checkLesson(const LessonPlan& plan);

} // namespace wirenote
