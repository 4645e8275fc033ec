#include "demo/heron.h"
#include "session/resolve.h"
#include "session/workspace.h"
#include "support/long_piece.h"
#include "support/pieces.h"

#include <algorithm>
#include <ctime>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Workspace, AnEditSaysWhatFollowedAndLeavesThePieceAlone) {
    Piece piece = standin::heronAtLowWater();
    for (NotePlan& plan : piece.asPlayed().plans) { // as if heard, not set
        plan.position.basis = Basis::Reasoned;
        plan.finger.basis = Basis::Reasoned;
    }
    placeAndStroke(piece);
    const Piece before = piece;
    const NoteId id = piece.notes[33].id;
    const auto outcome = tryEdit(
        piece, piece.notes[33].onset_s(), [id](PieceEditor& e) { return e.moveToString(id, 4); });
    ASSERT_TRUE(outcome.ok()) << outcome.error().message;
    EXPECT_TRUE(piece == before);
    apply(outcome->delta, piece);
    EXPECT_EQ(piece.plan(id)->position.value.string, 4);
    EXPECT_TRUE(piece.plan(id)->position.isSet());
    for (const NoteId other : outcome->followed)
        EXPECT_NE(piece.plan(other)->position.value, before.plan(other)->position.value);
    revert(outcome->delta, piece);
    EXPECT_TRUE(piece == before);
}

// A note that is moved takes its neighbours along, and they are told.
TEST(Workspace, NotesThatFollowAnEditAreNamed) {
    Piece piece =
        test::pieceOf({{0.0, 0.2, 69}, {0.25, 0.45, 71}, {0.5, 0.7, 72}, {0.75, 1.2, 69}});
    placeAndStroke(piece);
    const Position before = piece.plan(2)->position.value;
    const auto outcome = tryEdit(piece, 0.0, [](PieceEditor& e) { return e.moveToString(1, 4); });
    ASSERT_TRUE(outcome.ok()) << outcome.error().message;
    ASSERT_FALSE(outcome->followed.empty());
    apply(outcome->delta, piece);
    EXPECT_EQ(std::ranges::count(outcome->followed, 1), 0) << "it was moved by the person";
    for (const NoteId other : outcome->followed)
        EXPECT_FALSE(piece.plan(other)->position.isSet());
    EXPECT_NE(piece.plan(2)->position.value, before);
}

using Edit = std::function<Status(PieceEditor&)>;

std::vector<Edit> editsOf(const Note& note, const Note& next) {
    const NoteId id = note.id;
    const TimeRange later = {note.onset_s() + 0.07, note.offset_s() + 0.07};
    const double middle_s = 0.5 * (note.onset_s() + note.offset_s());
    return {
        [=](PieceEditor& e) { return e.moveToString(id, 4); },
        [=](PieceEditor& e) { return e.moveToString(id, 2); },
        [=](PieceEditor& e) { return e.setFret(id, 7); },
        [=, midi = next.midi()](PieceEditor& e) { return e.setPitch(id, midi); },
        [=](PieceEditor& e) { return e.setTime(id, later); },
        [=](PieceEditor& e) { return e.split(id, middle_s); },
        [=](PieceEditor& e) { return e.joinWithNext(id); },
        [=](PieceEditor& e) { return e.remove(id); },
        [=](PieceEditor& e) { return e.setStroke(id, Stroke::Up); },
        [=](PieceEditor& e) { return e.toggleTechnique(id, Technique::HammerOn); },
        [=](PieceEditor& e) { return e.accept(id); },
        [=](PieceEditor& e) {
            const auto added = e.add(later, 64, {});
            return added ? Status{} : Status(added.error());
        },
        [=](PieceEditor& e) { return e.setTempo(97.0); },       // moves every beat
        [=](PieceEditor& e) { return e.addReading("low", ""); } // every note gets a second plan
    };
}

void expectSame(const std::vector<PieceDelta::NoteState>& a,
                const std::vector<PieceDelta::NoteState>& b) {
    ASSERT_EQ(a.size(), b.size());
    for (std::size_t i = 0; i < a.size(); ++i) {
        EXPECT_EQ(a[i].note, b[i].note);
        EXPECT_EQ(a[i].plans, b[i].plans);
    }
}

// An edit that looks at its neighbourhood only does what it would do to the whole piece.
TEST(Edits, DoTheSameNearAsOnTheWholePiece) {
    const Piece piece = test::longPiece(1200);
    int done = 0;
    for (std::size_t at = 5; at + 1 < piece.notes.size(); at += 149) {
        const auto edits = editsOf(piece.notes[at], piece.notes[at + 1]);
        for (const Edit& edit : edits) {
            const double around_s = piece.notes[at].onset_s();
            Piece whole = piece;
            PieceEditor editor(whole, "2026-01-01T00:00:00Z");
            const bool allowed = edit(editor).ok();
            const auto outcome = tryEdit(piece, around_s, edit);
            ASSERT_EQ(outcome.ok(), allowed)
                << "edit " << (&edit - edits.data()) << " of note " << at << ": "
                << (outcome ? "" : outcome.error().message);
            if (!allowed)
                continue;
            resolveAround(whole, around_s);
            const PieceDelta expected = difference(piece, whole);
            expectSame(outcome->delta.gone, expected.gone);
            expectSame(outcome->delta.come, expected.come);
            EXPECT_EQ(outcome->delta.before, expected.before);
            EXPECT_EQ(outcome->delta.after, expected.after);
            EXPECT_EQ(outcome->delta.logged.size(), expected.logged.size());
            Piece applied = piece;
            apply(outcome->delta, applied);
            applied.log = whole.log;
            EXPECT_EQ(applied, whole);
            revert(outcome->delta, applied);
            applied.log = piece.log;
            EXPECT_EQ(applied, piece);
            ++done;
        }
    }
    EXPECT_GT(done, 90);
}

double secondsOf(const std::function<void()>& work) {
    const std::clock_t began = std::clock();
    work();
    return static_cast<double>(std::clock() - began) / CLOCKS_PER_SEC;
}

// What an edit costs does not grow with the piece; bench_edits has the exact figures.
TEST(Edits, InALongPieceAreQuick) {
    const auto halfOfEdits_s = [](Piece& piece) {
        std::vector<double> times;
        for (std::size_t at = 50; at + 50 < piece.notes.size(); at += piece.notes.size() / 20)
            times.push_back(secondsOf([&] {
                const NoteId id = piece.notes[at].id;
                const auto outcome =
                    tryEdit(piece, piece.notes[at].onset_s(), [id](PieceEditor& e) {
                        return e.setStroke(id, Stroke::Up);
                    });
                ASSERT_TRUE(outcome.ok());
                apply(outcome->delta, piece);
                revert(outcome->delta, piece);
            }));
        std::ranges::nth_element(times, times.begin() + 10);
        return times[10];
    };
    Piece few = test::longPiece(600);
    Piece many = test::longPiece(4800);
    const double whole_s = secondsOf([&] { placeAndStroke(many); });
    const double of_few_s = halfOfEdits_s(few);
    const double of_many_s = halfOfEdits_s(many);
    EXPECT_LT(of_many_s, 2.0 * of_few_s);
    EXPECT_LT(of_many_s, whole_s / 50.0);
}

} // namespace
} // namespace wirenote
