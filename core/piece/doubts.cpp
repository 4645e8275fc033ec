#include "piece/doubts.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <unordered_set>

namespace wirenote {
namespace {

// Much hangs on a long note and on one whose neighbours follow from it.
double weightOf(const Piece& piece, std::size_t i) {
    const Note& note = piece.notes[i];
    const double length = std::min(1.0, note.time.value.length_s() / 0.5);
    const bool carries_slur = i + 1 < piece.notes.size() && piece.notes[i + 1].slurred();
    return std::min(1.0, 0.75 + 0.15 * length + (carries_slur ? 0.1 : 0.0));
}

// A strum whose strings were heard in one order while the moving hand goes the other way.
bool earAgainstRule(const Decision<Stroke>& stroke) {
    if (stroke.value != Stroke::Down && stroke.value != Stroke::Up)
        return false;
    const auto heard = std::ranges::find(stroke.reasons, ReasonKind::StringsInTurn, &Reason::kind);
    if (heard == stroke.reasons.end())
        return false;
    const bool as_heard = (heard->a > 0) == (stroke.value == Stroke::Down);
    const bool as_the_rule =
        std::ranges::find(stroke.reasons, ReasonKind::AlternatesOnBeat, &Reason::kind) !=
        stroke.reasons.end();
    return as_heard != as_the_rule;
}

// A stroke that is a toss-up. Where two fingers take turns the question is where they began, and
// not one for each note.
bool tossUp(const Decision<Stroke>& stroke) {
    constexpr double kTossUp = 0.6;
    return stroke.value != Stroke::Unknown && stroke.probability < kTossUp &&
           std::ranges::find(stroke.reasons, ReasonKind::FingersAlternate, &Reason::kind) ==
               stroke.reasons.end();
}

// Behind what is in doubt of notes: a stroke turned round changes no note.
double strokeUrgency(const NotePlan& plan, double sure) {
    if (plan.stroke.isSet() || plan.stroke.probability >= sure ||
        !(earAgainstRule(plan.stroke) || tossUp(plan.stroke)))
        return 0.0;
    return 0.22 + 0.3 * (sure - plan.stroke.probability);
}

// Behind what is in doubt of notes, too: another finger sounds the same.
double fingerUrgency(const NotePlan& plan, double sure) {
    if (plan.finger.isSet() || plan.finger.value == Finger::Open ||
        plan.finger.value == Finger::Unknown || plan.finger.probability >= sure)
        return 0.0;
    return 0.22 + 0.3 * (sure - plan.finger.probability);
}

// What is shown once more, or is not to be learned from, is not what is written down: it is
// evidence, and nobody is asked about it.
class ShownAgain {
  public:
    explicit ShownAgain(const Piece& piece) {
        if (piece.lead())
            for (const Demonstration& one : piece.lead()->demonstrations)
                if ((one.inPiece() && !one.isItself()) || !one.learn.value)
                    m_spans.push_back(one.span);
    }
    // To be asked of notes in order of time.
    bool has(double at_s) {
        while (m_next < m_spans.size() && m_spans[m_next].end_s <= at_s)
            ++m_next;
        return m_next < m_spans.size() && m_spans[m_next].contains(at_s);
    }

  private:
    std::vector<TimeRange> m_spans;
    std::size_t m_next = 0;
};

// In the leading take and in none of several others, and nobody has said anything of it.
bool isOnlyHere(const Note& note) {
    constexpr int kPlayings = 3; // with the leading one
    return !note.existence.isSet() && !note.slip &&
           std::ranges::any_of(note.existence.reasons, [](const Reason& r) {
               return r.kind == ReasonKind::PlayedInOthers && r.a == 1 && r.b >= kPlayings;
           });
}

bool isLeft(const Note& note, DoubtKind kind) {
    return std::ranges::find(note.left_open, kind, &LeftOpen::kind) != note.left_open.end();
}

// Once a stroke: on its first note that is in no doubt itself.
void addStrokes(const Piece& piece, const DoubtParameters& parameters, std::vector<Doubt>& doubts) {
    std::unordered_set<NoteId> doubtful;
    for (const Doubt& doubt : doubts)
        doubtful.insert(doubt.note);
    ShownAgain shown_again(piece);
    for (const IndexSpan span : strokeSpans(piece.notes)) {
        if (shown_again.has(piece.notes[span.first].onset_s()) ||
            isLeft(piece.notes[span.first], DoubtKind::Stroke))
            continue;
        const double urgency =
            strokeUrgency(piece.asPlayed().plans[span.first], parameters.sure_stroke);
        for (std::size_t i = span.first; urgency > 0.0 && i < span.end; ++i)
            if (const Note& note = piece.notes[i]; !doubtful.contains(note.id)) {
                doubts.push_back({note.id, DoubtKind::Stroke, note.onset_s(), urgency});
                break;
            }
    }
}

// Where and how notes are taken in it is a proposal.
bool isProposed(const Piece& piece) {
    return !piece.asPlayed().head.made_from.empty();
}

// All that may be doubted of a note, one by one.
template <class Consider>
void considerAll(const Piece& piece,
                 std::size_t i,
                 const DoubtParameters& parameters,
                 const Consider& consider) {
    const Note& note = piece.notes[i];
    const NotePlan& plan = piece.asPlayed().plans[i];
    const bool found = !isProposed(piece);
    if (!plan.placed())
        consider(DoubtKind::NoPlace, 1.0);
    else if (found && !plan.position.isSet())
        consider(DoubtKind::Place, (1.0 - plan.position.probability) * weightOf(piece, i));
    if (found && plan.placed())
        consider(DoubtKind::Finger, fingerUrgency(plan, parameters.sure_finger));
    if (!note.pitch.isSet())
        consider(DoubtKind::Pitch, 1.0 - note.pitch.probability);
    // Who has decided its string or its pitch has said that it was played.
    if (!note.existence.isSet() && !note.pitch.isSet() && !plan.position.isSet())
        consider(DoubtKind::Existence, 1.0 - note.existence.probability);
    if (isOnlyHere(note))
        consider(DoubtKind::OnlyHere, parameters.only_here);
}

} // namespace

std::vector<Doubt> openDoubts(const Piece& piece, const DoubtParameters& parameters) {
    std::vector<Doubt> doubts;
    ShownAgain shown_again(piece);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        if (shown_again.has(note.onset_s()))
            continue;
        Doubt worst{note.id, DoubtKind::Place, note.onset_s(), 0.0};
        considerAll(piece, i, parameters, [&](DoubtKind kind, double urgency) {
            if (urgency > worst.urgency && !isLeft(note, kind)) {
                worst.kind = kind;
                worst.urgency = urgency;
            }
        });
        if (worst.urgency >= parameters.least_urgency)
            doubts.push_back(worst);
    }
    if (!isProposed(piece))
        addStrokes(piece, parameters, doubts);
    std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) {
        return a.urgency > b.urgency;
    });
    return doubts;
}

std::vector<OpenOnPurpose> leftOpen(const Piece& piece) {
    std::vector<OpenOnPurpose> found;
    for (const Note& note : piece.notes)
        for (const LeftOpen& one : note.left_open)
            found.push_back({note.id, note.onset_s(), one});
    return found;
}

} // namespace wirenote
