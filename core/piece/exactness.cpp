#include "piece/exactness.h"

#include "piece/doubts.h"
#include "piece/in_reading.h"

#include <algorithm>
#include <cstdlib>
#include <unordered_set>

namespace wirenote {
namespace {

// Points in the order of their kinds, each with how many notes and the first of them.
class Points {
  public:
    void add(Against what, NoteId note = 0, std::size_t count = 1) {
        const auto at = std::ranges::find(m_points, what, &ExactnessPoint::what);
        if (at == m_points.end())
            m_points.push_back({what, count, note});
        else
            at->count += count;
    }
    std::vector<ExactnessPoint> take() {
        std::ranges::stable_sort(m_points, {}, &ExactnessPoint::what);
        return std::move(m_points);
    }

  private:
    std::vector<ExactnessPoint> m_points;
};

void addDepartures(const Piece& piece, const Reading& reading, Points& points) {
    const ReadingHead& head = reading.head;
    if (head.instrument && *head.instrument != piece.instrument)
        points.add(Against::OtherNeck);
    if (head.semitones != 0)
        points.add(Against::OtherKey, 0, static_cast<std::size_t>(std::abs(head.semitones)));
    if (head.wish.kind != WishKind::None)
        points.add(Against::Wish);
    for (const NotePlan& plan : reading.plans) {
        if (plan.departure.left_out) {
            points.add(Against::LeftOut, plan.note);
            continue;
        }
        if (plan.departure.semitones != 0)
            points.add(Against::OtherPitch, plan.note);
        if (plan.departure.techniques)
            points.add(Against::OtherTechnique, plan.note);
    }
    for (const AddedNote& added : head.added)
        points.add(Against::Added, added.note.id);
    for (const Origin& origin : head.origins)
        if (origin.of != piece.asPlayed().head.name)
            points.add(Against::OtherSource);
}

// Why what a person set of a note was set; each why once.
std::vector<SetWhy> whysOf(const Note& note, const NotePlan& plan) {
    std::vector<SetWhy> whys;
    for (const SetWhy why : {note.existence.setWhy(),
                             note.time.setWhy(),
                             note.pitch.setWhy(),
                             plan.position.setWhy(),
                             plan.finger.setWhy(),
                             plan.stroke.setWhy()})
        if (why != SetWhy::Unsaid && std::ranges::find(whys, why) == whys.end())
            whys.push_back(why);
    return whys;
}

// Where a reading is to be played otherwise than it was, nothing of its places is a guess at what
// was played.
bool placedAnew(const Piece& piece, const ReadingHead& head) {
    return !head.made_from.empty() || head.wish.kind != WishKind::None || head.semitones != 0 ||
           (head.instrument && *head.instrument != piece.instrument);
}

bool ofTheHands(DoubtKind kind) {
    return kind == DoubtKind::Place || kind == DoubtKind::Finger || kind == DoubtKind::Stroke;
}

bool isGuess(const Note& note, const NotePlan& plan, bool placed_anew) {
    const auto unsure = [](const auto& decision) {
        return !decision.isSet() && decision.probability < kGuess;
    };
    return !plan.placed() || unsure(note.pitch) || (!placed_anew && unsure(plan.position)) ||
           (unsure(note.existence) && !note.pitch.isSet() && !plan.position.isSet());
}

void addSet(const Note& note, const NotePlan& plan, Points& points, std::size_t& asked) {
    for (const SetWhy why : whysOf(note, plan)) {
        if (why == SetWhy::Taste)
            points.add(Against::Taste, note.id);
        else if (why == SetWhy::Score)
            points.add(Against::FromScore, note.id);
        else if (why == SetWhy::Memory)
            points.add(Against::FromMemory, note.id);
        else if (why == SetWhy::Asked)
            ++asked;
    }
}

// What is the same in all readings that are as it was played.
bool isAdaptation(Against what) {
    switch (what) {
    case Against::OtherNeck:
    case Against::OtherKey:
    case Against::Wish:
    case Against::LeftOut:
    case Against::Added:
    case Against::OtherPitch:
    case Against::OtherTechnique:
    case Against::OtherSource:
    case Against::Taste:
        return true;
    case Against::NoNotes:
    case Against::FromScore:
    case Against::FromMemory:
    case Against::OpenDoubt:
    case Against::LeftOpen:
    case Against::Guess:
        break;
    }
    return false;
}

std::string counted(std::size_t count, const char* one, const char* many) {
    return std::to_string(count) + " " + (count == 1 ? one : many);
}

} // namespace

ExactnessStatement exactnessOf(const Piece& piece, std::size_t reading) {
    ExactnessStatement said;
    Points points;
    addDepartures(piece, piece.readings[reading], points);
    const Piece view = bareReading(piece, reading);
    if (view.notes.empty())
        points.add(Against::NoNotes);
    const bool placed_anew = placedAnew(piece, piece.readings[reading].head);
    std::unordered_set<NoteId> doubtful;
    for (const Doubt& doubt : openDoubts(view)) {
        if (placed_anew && ofTheHands(doubt.kind))
            continue;
        doubtful.insert(doubt.note);
        points.add(Against::OpenDoubt, doubt.note);
    }
    for (const OpenOnPurpose& left : leftOpen(view)) {
        doubtful.insert(left.note);
        points.add(Against::LeftOpen, left.note);
    }
    for (std::size_t i = 0; i < view.notes.size(); ++i) {
        const Note& note = view.notes[i];
        const NotePlan& plan = view.asPlayed().plans[i];
        addSet(note, plan, points, said.asked);
        if (!doubtful.contains(note.id) && isGuess(note, plan, placed_anew))
            points.add(Against::Guess, note.id);
        said.reasoned_fingers += plan.finger.basis == Basis::Reasoned &&
                                         plan.finger.value != Finger::Open &&
                                         plan.finger.value != Finger::Unknown
                                     ? 1
                                     : 0;
        said.reasoned_strokes += plan.stroke.basis == Basis::Reasoned &&
                                         plan.stroke.value != Stroke::Unknown &&
                                         plan.stroke.value != Stroke::None
                                     ? 1
                                     : 0;
    }
    said.against = points.take();
    const auto adapts = [](const ExactnessPoint& p) { return isAdaptation(p.what); };
    // Made for something, though nothing tells for what: by another school, say.
    if (!piece.readings[reading].head.made_from.empty() &&
        std::ranges::none_of(said.against, adapts))
        said.against.insert(said.against.begin(), {Against::Wish, 1, 0});
    said.exactness = said.against.empty()                        ? Exactness::NoteForNote
                     : std::ranges::any_of(said.against, adapts) ? Exactness::Adapted
                                                                 : Exactness::Essence;
    return said;
}

bool mayClaim(const ExactnessStatement& statement, Exactness claim) {
    // From the most exact to the least; to claim less is everybody's right.
    return static_cast<int>(claim) >= static_cast<int>(statement.exactness);
}

std::string againstText(const ExactnessPoint& point) {
    const std::size_t n = point.count;
    switch (point.what) {
    case Against::NoNotes:
        return "there are no notes";
    case Against::OtherNeck:
        return "another instrument, tuning or capo";
    case Against::OtherKey:
        return counted(n, "semitone", "semitones") + " away from where it was played";
    case Against::Wish:
        return "made to be played otherwise";
    case Against::LeftOut:
        return counted(n, "note left out", "notes left out");
    case Against::Added:
        return counted(n, "note added", "notes added");
    case Against::OtherPitch:
        return counted(n, "note at another pitch", "notes at another pitch");
    case Against::OtherTechnique:
        return counted(n, "note with another technique", "notes with another technique");
    case Against::OtherSource:
        return counted(n, "stretch from another source", "stretches from other sources");
    case Against::Taste:
        return counted(n, "matter of taste", "matters of taste");
    case Against::FromScore:
        return counted(n, "note from a score", "notes from a score");
    case Against::FromMemory:
        return counted(n, "note from memory", "notes from memory");
    case Against::OpenDoubt:
        return counted(n, "open doubt", "open doubts");
    case Against::LeftOpen:
        return counted(n, "doubt left open", "doubts left open");
    case Against::Guess:
        return counted(n, "guess", "guesses");
    }
    return {};
}

std::string exactnessLine(const Piece& piece, std::size_t reading) {
    if (const std::string& said = piece.readings[reading].head.statement; !said.empty())
        return said;
    const ExactnessStatement said = exactnessOf(piece, reading);
    Exactness shown = said.exactness;
    if (const auto& claim = piece.readings[reading].head.claim; claim && mayClaim(said, *claim))
        shown = *claim;
    std::string line = shown == Exactness::NoteForNote ? "Note for note"
                       : shown == Exactness::Essence   ? "The essence"
                                                       : "Adapted";
    for (std::size_t i = 0; i < said.against.size(); ++i)
        line += (i == 0 ? ": " : ", ") + againstText(said.against[i]);
    return line;
}

} // namespace wirenote
