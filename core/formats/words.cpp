#include "formats/words.h"

#include <algorithm>
#include <array>
#include <utility>

namespace wirenote {
namespace {

template <class E, std::size_t N> using Words = std::array<std::pair<E, std::string_view>, N>;

constexpr Words<Basis, 4> kBasis = {{{Basis::Heard, "heard"},
                                     {Basis::Seen, "seen"},
                                     {Basis::Reasoned, "reasoned"},
                                     {Basis::Set, "set"}}};
constexpr Words<Voice, 2> kVoices = {{{Voice::Upper, "upper"}, {Voice::Lower, "lower"}}};
constexpr Words<Technique, kTechniqueCount> kTechniques = {
    {{Technique::HammerOn, "hammer-on"}, {Technique::PullOff, "pull-off"},
     {Technique::Slide, "slide"},        {Technique::Bend, "bend"},
     {Technique::Release, "release"},    {Technique::Vibrato, "vibrato"},
     {Technique::PalmMute, "palm-mute"}, {Technique::Dead, "dead"},
     {Technique::Staccato, "staccato"},  {Technique::LetRing, "let-ring"},
     {Technique::Harmonic, "harmonic"},  {Technique::Grace, "grace"},
     {Technique::Accent, "accent"},      {Technique::GhostStroke, "ghost-stroke"},
     {Technique::PreBend, "pre-bend"},   {Technique::Roll, "roll"},
     {Technique::Rake, "rake"},          {Technique::Trill, "trill"},
     {Technique::Tremolo, "tremolo"},    {Technique::Tap, "tap"}}};
constexpr Words<Finger, 7> kFingers = {{{Finger::Unknown, ""},
                                        {Finger::Open, "0"},
                                        {Finger::Index, "1"},
                                        {Finger::Middle, "2"},
                                        {Finger::Ring, "3"},
                                        {Finger::Little, "4"},
                                        {Finger::Thumb, "T"}}};
constexpr Words<Stroke, 10> kStrokes = {{{Stroke::Unknown, ""},
                                         {Stroke::Down, "down"},
                                         {Stroke::Up, "up"},
                                         {Stroke::P, "p"},
                                         {Stroke::I, "i"},
                                         {Stroke::M, "m"},
                                         {Stroke::A, "a"},
                                         {Stroke::C, "c"},
                                         {Stroke::Ghost, "ghost"},
                                         {Stroke::None, "none"}}};
constexpr Words<ReasonKind, 46> kReasons = {{{ReasonKind::ClearPitch, "clear-pitch"},
                                             {ReasonKind::SharpAttack, "sharp-attack"},
                                             {ReasonKind::SoftAttack, "soft-attack"},
                                             {ReasonKind::OctaveDoubt, "octave-doubt"},
                                             {ReasonKind::OnlyPlace, "only-place"},
                                             {ReasonKind::StaysInPosition, "stays-in-position"},
                                             {ReasonKind::ShiftNeeded, "shift-needed"},
                                             {ReasonKind::OtherNeedsShift, "other-needs-shift"},
                                             {ReasonKind::OtherNeedsStretch, "other-needs-stretch"},
                                             {ReasonKind::OpenString, "open-string"},
                                             {ReasonKind::OpenGivesTime, "open-gives-time"},
                                             {ReasonKind::SameString, "same-string"},
                                             {ReasonKind::LowPosition, "low-position"},
                                             {ReasonKind::FingerPerFret, "finger-per-fret"},
                                             {ReasonKind::AlternatesOnBeat, "alternates-on-beat"},
                                             {ReasonKind::NotStruck, "not-struck"},
                                             {ReasonKind::FingersAlternate, "fingers-alternate"},
                                             {ReasonKind::FingerPerString, "finger-per-string"},
                                             {ReasonKind::StiffnessFits, "stiffness-fits"},
                                             {ReasonKind::DecayFits, "decay-fits"},
                                             {ReasonKind::CombFits, "comb-fits"},
                                             {ReasonKind::TiltFits, "tilt-fits"},
                                             {ReasonKind::SlideHeard, "slide-heard"},
                                             {ReasonKind::StringsInTurn, "strings-in-turn"},
                                             {ReasonKind::DecidedByPerson, "decided-by-person"},
                                             {ReasonKind::StruckAgain, "struck-again"},
                                             {ReasonKind::ShapeMoves, "shape-moves"},
                                             {ReasonKind::OverNode, "over-node"},
                                             {ReasonKind::NothingFits, "nothing-fits"},
                                             {ReasonKind::OutOfHand, "out-of-hand"},
                                             {ReasonKind::PlayedInOthers, "played-in-others"},
                                             {ReasonKind::FingerStays, "finger-stays"},
                                             {ReasonKind::UsualGrip, "usual-grip"},
                                             {ReasonKind::OneFinger, "one-finger"},
                                             {ReasonKind::FingerElsewhere, "finger-elsewhere"},
                                             {ReasonKind::FingerHolds, "finger-holds"},
                                             {ReasonKind::OpenRings, "open-rings"},
                                             {ReasonKind::ThumbOver, "thumb-over"},
                                             {ReasonKind::SweepsOn, "sweeps-on"},
                                             {ReasonKind::DownStrokesOnly, "down-strokes-only"},
                                             {ReasonKind::TakesTurns, "takes-turns"},
                                             {ReasonKind::ThumbHasBass, "thumb-has-bass"},
                                             {ReasonKind::ThumbTooSlow, "thumb-too-slow"},
                                             {ReasonKind::TipSeen, "tip-seen"},
                                             {ReasonKind::StrokeSeen, "stroke-seen"},
                                             {ReasonKind::StrokesSound, "strokes-sound"}}};

constexpr Words<FrettingSchool, kFrettingSchools + 1> kFrettingSchoolWords = {
    {{FrettingSchool::FingerPerFret, "finger-per-fret"},
     {FrettingSchool::FingerPerFret, "one-finger-per-fret"},
     {FrettingSchool::Box, "box"},
     {FrettingSchool::Classical, "classical"},
     {FrettingSchool::BassOneTwoFour, "bass-1-2-4"},
     {FrettingSchool::Open, "open"},
     {FrettingSchool::Closed, "closed"},
     {FrettingSchool::ThumbOver, "thumb-over"},
     {FrettingSchool::AsPlayed, "as-played"}}};
constexpr Words<FrettingRule, kFrettingRules> kFrettingRuleWords = {
    {{FrettingRule::FullBarre, "full-barre"},
     {FrettingRule::ShortBarre, "short-barre"},
     {FrettingRule::OneFinger, "one-finger"},
     {FrettingRule::SeparateFingers, "separate-fingers"},
     {FrettingRule::Roll, "roll"},
     {FrettingRule::NextFinger, "next-finger"},
     {FrettingRule::KeepDown, "keep-down"},
     {FrettingRule::Lift, "lift"},
     {FrettingRule::ThirdHigh, "third-high"},
     {FrettingRule::FourthHigh, "fourth-high"}}};
constexpr Words<SetWhy, kSetWhys> kSetWhyWords = {{{SetWhy::Unsaid, ""},
                                                   {SetWhy::Misheard, "misheard"},
                                                   {SetWhy::Score, "score"},
                                                   {SetWhy::Memory, "memory"},
                                                   {SetWhy::Taste, "taste"},
                                                   {SetWhy::Asked, "asked"}}};
constexpr Words<DoubtKind, 7> kDoubtKinds = {{{DoubtKind::Place, "place"},
                                              {DoubtKind::Pitch, "pitch"},
                                              {DoubtKind::Existence, "existence"},
                                              {DoubtKind::NoPlace, "no-place"},
                                              {DoubtKind::Stroke, "stroke"},
                                              {DoubtKind::OnlyHere, "only-here"},
                                              {DoubtKind::Finger, "finger"}}};
constexpr Words<Necessity, 3> kNecessities = {{{Necessity::Ordinary, "ordinary"},
                                               {Necessity::MayGo, "may-go"},
                                               {Necessity::MustLand, "must-land"}}};
constexpr Words<DepartureWhy, 9> kDepartureWhys = {{{DepartureWhy::None, ""},
                                                    {DepartureWhy::OffNeck, "off-neck"},
                                                    {DepartureWhy::OutOfHand, "out-of-hand"},
                                                    {DepartureWhy::MayGo, "may-go"},
                                                    {DepartureWhy::Ornament, "ornament"},
                                                    {DepartureWhy::ThinnedChord, "thinned-chord"},
                                                    {DepartureWhy::TuneAndBass, "tune-and-bass"},
                                                    {DepartureWhy::Edition, "edition"},
                                                    {DepartureWhy::Person, "person"}}};
constexpr Words<Exactness, 3> kExactness = {{{Exactness::NoteForNote, "note-for-note"},
                                             {Exactness::Essence, "essence"},
                                             {Exactness::Adapted, "adapted"}}};
constexpr Words<WishKind, 9> kWishes = {{{WishKind::None, ""},
                                         {WishKind::Easiest, "easiest"},
                                         {WishKind::OnePosition, "one-position"},
                                         {WishKind::NoOpen, "no-open"},
                                         {WishKind::NoBarre, "no-barre"},
                                         {WishKind::Stretch, "stretch"},
                                         {WishKind::SmallHand, "small-hand"},
                                         {WishKind::Tempo, "tempo"},
                                         {WishKind::Easier, "easier"}}};
constexpr Words<PluckingTool, 4> kTools = {{{PluckingTool::Unknown, ""},
                                            {PluckingTool::Pick, "pick"},
                                            {PluckingTool::Fingers, "fingers"},
                                            {PluckingTool::Both, "both"}}};
constexpr Words<PluckingSchool, kPluckingSchools + 1> kPluckingSchoolWords = {
    {{PluckingSchool::Unknown, ""},
     {PluckingSchool::Alternate, "alternate"},
     {PluckingSchool::Pima, "pima"},
     {PluckingSchool::Im, "im"},
     {PluckingSchool::Hybrid, "hybrid"},
     {PluckingSchool::Sequence, "sequence"},
     {PluckingSchool::Economy, "economy"},
     {PluckingSchool::Sweep, "sweep"},
     {PluckingSchool::Down, "down"},
     {PluckingSchool::Cross, "cross"},
     {PluckingSchool::Strum, "strum"},
     {PluckingSchool::Thumb, "thumb"},
     {PluckingSchool::Ma, "ma"},
     {PluckingSchool::Slap, "slap"}}};
constexpr Words<TakeKind, 4> kTakeKinds = {{{TakeKind::Studio, "studio"},
                                            {TakeKind::Stage, "stage"},
                                            {TakeKind::Lesson, "lesson"},
                                            {TakeKind::Own, "own"}}};
constexpr Words<ChannelChoice, 4> kChannels = {{{ChannelChoice::Mix, "mix"},
                                                {ChannelChoice::Left, "left"},
                                                {ChannelChoice::Right, "right"},
                                                {ChannelChoice::Difference, "difference"}}};
constexpr Words<TakeRights, 4> kRights = {{{TakeRights::Unknown, "unknown"},
                                           {TakeRights::OwnRecording, "own-recording"},
                                           {TakeRights::Permitted, "permitted"},
                                           {TakeRights::StudyOnly, "study-only"}}};
constexpr Words<SoundKind, 6> kSoundKinds = {{{SoundKind::Playing, "playing"},
                                              {SoundKind::Talk, "talk"},
                                              {SoundKind::TalkOverPlaying, "talk-over-playing"},
                                              {SoundKind::CountIn, "count-in"},
                                              {SoundKind::Noise, "noise"},
                                              {SoundKind::Silence, "silence"}}};
constexpr Words<DemonstrationKind, 5> kDemonstrationKinds = {
    {{DemonstrationKind::Piece, "piece"},
     {DemonstrationKind::Part, "part"},
     {DemonstrationKind::Again, "again"},
     {DemonstrationKind::Exercise, "exercise"},
     {DemonstrationKind::Other, "other"}}};
constexpr Words<SoundCaution, 5> kCautions = {{{SoundCaution::Truncated, "truncated"},
                                               {SoundCaution::Clipped, "clipped"},
                                               {SoundCaution::DeadChannel, "dead-channel"},
                                               {SoundCaution::BadSamples, "bad-samples"},
                                               {SoundCaution::LowRate, "low-rate"}}};

template <class E, std::size_t N> std::string_view word(const Words<E, N>& words, E value) {
    for (const auto& [v, text] : words)
        if (v == value)
            return text;
    return "";
}
template <class E, std::size_t N>
std::optional<E> value(const Words<E, N>& words, std::string_view text) {
    for (const auto& [v, t] : words)
        if (t == text)
            return v;
    return {};
}

} // namespace

std::string_view wordFor(Basis v) {
    return word(kBasis, v);
}
std::string_view wordFor(Technique v) {
    return word(kTechniques, v);
}
std::string_view wordFor(Finger v) {
    return word(kFingers, v);
}
std::string_view wordFor(Stroke v) {
    return word(kStrokes, v);
}
std::string_view wordFor(ReasonKind v) {
    return word(kReasons, v);
}
std::string_view wordFor(WishKind v) {
    return word(kWishes, v);
}
std::string_view wordFor(FrettingSchool v) {
    return word(kFrettingSchoolWords, v);
}
std::string_view wordFor(FrettingRule v) {
    return word(kFrettingRuleWords, v);
}
std::string wordsFor(const FrettingManner& manner) {
    std::string words(wordFor(manner.school));
    for (const FrettingRule rule : manner.rules)
        words += "+" + std::string(wordFor(rule));
    return words;
}
std::string_view wordFor(PluckingTool v) {
    return word(kTools, v);
}
std::string_view wordFor(PluckingSchool v) {
    return word(kPluckingSchoolWords, v);
}
std::string_view wordFor(TakeKind v) {
    return word(kTakeKinds, v);
}
std::string_view wordFor(ChannelChoice v) {
    return word(kChannels, v);
}
std::string_view wordFor(TakeRights v) {
    return word(kRights, v);
}
std::string_view wordFor(SoundKind v) {
    return word(kSoundKinds, v);
}
std::string_view wordFor(DemonstrationKind v) {
    return word(kDemonstrationKinds, v);
}
std::string_view wordFor(SoundCaution v) {
    return word(kCautions, v);
}
std::optional<Basis> basisFrom(std::string_view w) {
    return value(kBasis, w);
}
std::optional<Technique> techniqueFrom(std::string_view w) {
    return value(kTechniques, w);
}
std::optional<Finger> fingerFrom(std::string_view w) {
    return value(kFingers, w);
}
std::optional<Stroke> strokeFrom(std::string_view w) {
    return value(kStrokes, w);
}
std::optional<ReasonKind> reasonFrom(std::string_view w) {
    return value(kReasons, w);
}
std::optional<WishKind> wishKindFrom(std::string_view w) {
    return value(kWishes, w);
}
std::optional<FrettingSchool> frettingSchoolFrom(std::string_view w) {
    return value(kFrettingSchoolWords, w);
}
std::optional<FrettingRule> frettingRuleFrom(std::string_view w) {
    return value(kFrettingRuleWords, w);
}
std::optional<FrettingManner> frettingMannerFrom(std::string_view words) {
    const auto next = [&words] {
        const std::string_view one = words.substr(0, words.find('+'));
        words.remove_prefix(std::min(words.size(), one.size() + 1));
        return one;
    };
    const auto school = frettingSchoolFrom(next());
    if (!school)
        return {};
    FrettingManner manner{*school, {}};
    while (!words.empty()) {
        const auto rule = frettingRuleFrom(next());
        if (!rule)
            return {};
        manner.follow(*rule);
    }
    return manner;
}
std::optional<PluckingTool> toolFrom(std::string_view w) {
    return value(kTools, w);
}
std::optional<PluckingSchool> pluckingSchoolFrom(std::string_view w) {
    return value(kPluckingSchoolWords, w);
}
std::optional<TakeKind> takeKindFrom(std::string_view w) {
    return value(kTakeKinds, w);
}
std::optional<ChannelChoice> channelsFrom(std::string_view w) {
    return value(kChannels, w);
}
std::optional<TakeRights> rightsFrom(std::string_view w) {
    return value(kRights, w);
}
std::optional<SoundKind> soundKindFrom(std::string_view w) {
    return value(kSoundKinds, w);
}
std::optional<DemonstrationKind> demonstrationKindFrom(std::string_view w) {
    return value(kDemonstrationKinds, w);
}
std::string_view wordFor(Voice voice) {
    return word(kVoices, voice);
}
std::optional<Voice> voiceFrom(std::string_view w) {
    return value(kVoices, w);
}
std::string_view wordFor(SetWhy why) {
    return word(kSetWhyWords, why);
}
std::string_view wordFor(DoubtKind kind) {
    return word(kDoubtKinds, kind);
}
std::string_view wordFor(Necessity kind) {
    return word(kNecessities, kind);
}
std::string_view wordFor(DepartureWhy why) {
    return word(kDepartureWhys, why);
}
std::string_view wordFor(Exactness exactness) {
    return word(kExactness, exactness);
}
std::optional<SetWhy> setWhyFrom(std::string_view w) {
    return value(kSetWhyWords, w);
}
std::optional<DoubtKind> doubtKindFrom(std::string_view w) {
    return value(kDoubtKinds, w);
}
std::optional<Necessity> necessityFrom(std::string_view w) {
    return value(kNecessities, w);
}
std::optional<DepartureWhy> departureWhyFrom(std::string_view w) {
    return value(kDepartureWhys, w);
}
std::optional<Exactness> exactnessFrom(std::string_view w) {
    return value(kExactness, w);
}
std::optional<SoundCaution> cautionFrom(std::string_view w) {
    return value(kCautions, w);
}

} // namespace wirenote
