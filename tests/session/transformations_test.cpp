// Eight ways to make another reading, five passages each. What has to come out is common practice:
// whoever plays a passage a tone higher with a capo at fret 2 plays the frets he knows; a lowered
// sixth string is two frets further up for the same notes; and so on. That a hand can play it is
// said by a checker that knows nothing of the program's rules.
#include "piece/in_reading.h"
#include "session/arrange.h"
#include "session/resolve.h"
#include "support/hand_checker.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

#include <map>

namespace wirenote {
namespace {

constexpr const char* kNow = "2026-01-01T00:00:00Z";

// Notes one after the other, each held until the next but one of them sounds.
Piece line(const std::vector<int>& midi, double step_s = 0.25) {
    std::vector<test::Row> rows;
    for (std::size_t i = 0; i < midi.size(); ++i) {
        const double at_s = step_s * static_cast<double>(i);
        rows.push_back({at_s, at_s + 0.95 * step_s, midi[i]});
    }
    return test::pieceOf(rows);
}

// Chords, each struck at once, the lowest first.
Piece chords(const std::vector<std::vector<int>>& all) {
    std::vector<test::Row> rows;
    for (std::size_t c = 0; c < all.size(); ++c)
        for (std::size_t i = 0; i < all[c].size(); ++i) {
            const double at_s = static_cast<double>(c);
            rows.push_back({at_s + 0.004 * static_cast<double>(i), at_s + 0.95, all[c][i]});
        }
    return test::pieceOf(rows);
}

std::map<std::string, Piece> guitarPassages() {
    return {
        {"a scale of G in open position", line({43, 45, 47, 48, 50, 52, 54, 55, 57, 59, 60, 62})},
        {"a riff on the open low E", line({40, 52, 40, 50, 40, 47, 40, 45, 40, 43, 45, 40})},
        {"broken chords of C and A minor",
         line({48, 52, 55, 60, 64, 60, 55, 52, 45, 52, 57, 60, 64, 60, 57, 52})},
        {"chords of G, C and D",
         chords({{43, 47, 50, 55, 59, 67}, {48, 52, 55, 60, 64}, {50, 57, 62, 66}})},
        {"a tune over the open D", line({50, 66, 50, 69, 50, 67, 50, 66, 50, 64, 50, 62})}};
}

std::map<std::string, Piece> bassPassages() {
    std::map<std::string, Piece> all{
        {"roots and fifths", line({28, 35, 28, 35, 33, 40, 33, 40, 38, 45, 38, 33})},
        {"a walk", line({33, 35, 36, 37, 38, 40, 41, 43, 45, 43, 41, 40}, 0.3)},
        {"octaves", line({28, 40, 28, 40, 31, 43, 31, 43, 33, 45, 33, 45})},
        {"a minor pentatonic", line({28, 31, 33, 35, 38, 40, 43, 45, 43, 40, 38, 35})},
        {"a low riff", line({28, 28, 31, 28, 33, 31, 28, 28, 31, 28, 34, 33}, 0.3)}};
    for (auto& [name, piece] : all)
        piece.instrument = standardInstrument(InstrumentKind::Bass);
    return all;
}

struct Made {
    Piece view;
    MadeReading what;
};

Made made(Piece piece, const std::string& kind) {
    placeAndStroke(piece);
    const Piece before = piece;
    const auto recipe = parseRecipe(kind, piece.instrument);
    EXPECT_TRUE(recipe.ok()) << kind;
    const auto reading = makeReading(piece, *recipe, kNow);
    EXPECT_TRUE(reading.ok()) << (reading ? "" : reading.error().message);
    EXPECT_TRUE(piece.notes == before.notes && piece.asPlayed() == before.asPlayed())
        << "as played is not touched";
    return {asReading(piece, reading->index), *reading};
}

// All of it has a place, sounds there, and a hand can play it.
void expectPlayable(const Piece& view) {
    std::vector<double> ends_s;
    for (std::size_t i = 0; i < view.notes.size(); ++i) {
        const NotePlan& plan = view.asPlayed().plans[i];
        ASSERT_TRUE(plan.placed()) << "note " << i;
        EXPECT_EQ(view.instrument.midiAt(plan.position.value), view.notes[i].midi()) << i;
        EXPECT_NE(plan.stroke.value, Stroke::Unknown) << i;
        ends_s.push_back(view.notes[i].offset_s());
    }
    const auto why = test::firstImpossible(view, ends_s);
    EXPECT_FALSE(why) << *why;
    EXPECT_TRUE(checkPiece(view).ok());
}

void expectPitches(const Piece& from, const Piece& view, int semitones) {
    ASSERT_EQ(view.notes.size(), from.notes.size());
    for (std::size_t i = 0; i < from.notes.size(); ++i)
        EXPECT_EQ(view.notes[i].midi(), from.notes[i].midi() + semitones) << i;
}

TEST(Transformations, AnotherKeyLosesOpenStringsAndSaysWhich) {
    for (const auto& [name, piece] : guitarPassages()) {
        SCOPED_TRACE(name);
        Piece placed = piece;
        placeAndStroke(placed);
        const auto [view, what] = made(piece, "transpose:1");
        expectPlayable(view);
        expectPitches(piece, view, 1);
        EXPECT_FALSE(what.stopped.empty()) << "a semitone up no open string is left as it was";
        for (const NoteId id : what.stopped) {
            EXPECT_EQ(placed.plan(id)->position.value.fret, 0);
            EXPECT_GT(view.plan(id)->position.value.fret, 0);
        }
        EXPECT_EQ(view.key, transposed(piece.key, 1));
    }
}

TEST(Transformations, ATonesHigherWithACapoAtTwoIsPlayedAsBefore) {
    for (const auto& [name, piece] : guitarPassages()) {
        SCOPED_TRACE(name);
        Piece placed = piece;
        placeAndStroke(placed);
        const auto [view, what] = made(piece, "transpose:2+capo:2");
        expectPlayable(view);
        expectPitches(piece, view, 2);
        EXPECT_TRUE(what.stopped.empty() && what.moved.empty());
        for (std::size_t i = 0; i < view.notes.size(); ++i)
            EXPECT_EQ(view.asPlayed().plans[i].position.value,
                      placed.asPlayed().plans[i].position.value)
                << i;
    }
}

TEST(Transformations, ALoweredSixthStringMovesItsNotesUpTwoFrets) {
    for (const auto& [name, piece] : guitarPassages()) {
        SCOPED_TRACE(name);
        const auto [view, what] = made(piece, "tuning:D2 A2 D3 G3 B3 E4");
        expectPlayable(view);
        expectPitches(piece, view, 0);
        for (std::size_t i = 0; i < view.notes.size(); ++i) {
            const Position place = view.asPlayed().plans[i].position.value;
            EXPECT_TRUE(place.string != 6 || place.fret == view.notes[i].midi() - 38) << "D2 is 38";
            EXPECT_TRUE(view.notes[i].midi() != 40 || place == (Position{6, 2}))
                << "the low E has one place only";
        }
    }
}

TEST(Transformations, EasierTakesAwayAndAddsNothing) {
    for (const auto& [name, piece] : guitarPassages())
        for (int level = 1; level <= 3; ++level) {
            SCOPED_TRACE(name + ", level " + std::to_string(level));
            Piece asked = piece;
            asked.notes.back().need.kind = Necessity::MustLand;
            asked.notes[1].need.kind = Necessity::MayGo;
            const auto [view, what] = made(asked, "easier:" + std::to_string(level));
            expectPlayable(view);
            EXPECT_TRUE(view.note(asked.notes.back().id)) << "what must land stays";
            EXPECT_FALSE(view.note(asked.notes[1].id)) << "what may go is gone";
            for (const Note& note : view.notes)
                EXPECT_EQ(note.midi(), piece.note(note.id)->midi());
            const std::size_t most = level == 1 ? 6 : level == 2 ? 3 : 2;
            for (const IndexSpan stroke : strokeSpans(view.notes))
                EXPECT_LE(stroke.size(), most + 1) << "one more where it must land";
        }
}

TEST(Transformations, InOnePositionTheHandStays) {
    const std::map<std::string, std::vector<int>> lines{
        {"A minor pentatonic at fret 5", {45, 48, 50, 52, 55, 57, 60, 62, 64, 67, 69, 72}},
        {"C major at fret 7", {48, 50, 52, 53, 55, 57, 59, 60, 62, 64, 65, 67}},
        {"D major up to A", {57, 59, 61, 62, 64, 66, 67, 69, 67, 66, 64, 62}},
        {"a blues turn", {64, 67, 69, 70, 71, 69, 67, 64, 62, 64, 60, 57}},
        {"E minor in thirds", {52, 55, 54, 57, 55, 59, 57, 60, 59, 62, 60, 64}}};
    for (const auto& [name, midi] : lines) {
        SCOPED_TRACE(name);
        const Piece piece = line(midi);
        const auto [view, what] = made(piece, "one-position");
        expectPlayable(view);
        expectPitches(piece, view, 0);
        std::map<int, int> hands;
        for (const NotePlan& plan : view.asPlayed().plans)
            if (plan.position.value.fret > 0)
                ++hands[plan.hand_fret];
        EXPECT_TRUE(!what.unmet.empty() || hands.size() <= 1) << "or it says where not";
    }
}

TEST(Transformations, WithoutBarresEachFingerHasOneString) {
    const std::map<std::string, std::vector<std::vector<int>>> all{
        {"F, small", {{53, 57, 60}, {53, 57, 60, 65}}},
        {"B minor on four strings", {{59, 62, 66}, {54, 59, 62, 66}}},
        {"A major over three strings", {{57, 61, 64}, {52, 57, 61, 64}}},
        {"G, high", {{67, 71, 74}, {62, 67, 71}}},
        {"C minor", {{60, 63, 67}, {55, 60, 63}}}};
    for (const auto& [name, struck] : all) {
        SCOPED_TRACE(name);
        const auto [view, what] = made(chords(struck), "no-barre");
        expectPlayable(view);
        EXPECT_TRUE(what.unmet.empty());
        for (const IndexSpan stroke : strokeSpans(view.notes)) {
            std::map<Finger, int> used;
            for (std::size_t i = stroke.first; i < stroke.end; ++i)
                if (view.asPlayed().plans[i].position.value.fret > 0)
                    ++used[view.asPlayed().plans[i].finger.value];
            for (const auto& [finger, strings] : used)
                EXPECT_EQ(strings, 1) << static_cast<int>(finger);
        }
    }
}

TEST(Transformations, ABassOfFiveStringsPlaysWhatOneOfFourPlays) {
    for (const auto& [name, piece] : bassPassages()) {
        SCOPED_TRACE(name);
        const auto [five, what] = made(piece, "instrument:bass-5");
        expectPlayable(five);
        expectPitches(piece, five, 0);
        EXPECT_EQ(five.instrument.stringCount(), 5);
        EXPECT_TRUE(what.moved.empty());
        // And back, lower than four strings go: an octave up where it must.
        const auto [low, lower] = made(five, "transpose:-2+instrument:bass");
        expectPlayable(low);
        for (const Note& note : low.notes) {
            const int was = piece.note(note.id)->midi() - 2;
            EXPECT_EQ(note.midi(), was < 28 ? was + 12 : was) << "E1, 28, is the lowest string";
        }
    }
}

TEST(Transformations, AtAnotherTempoTheHandMovesLessAndWhatMayGoGoes) {
    for (const auto& [name, piece] : guitarPassages()) {
        SCOPED_TRACE(name);
        Piece asked = piece;
        asked.notes[1].need = {Necessity::MayGo, 1.4 * piece.timeline.tempo_bpm, ""};
        const auto [slow, kept] = made(asked, "tempo:1.2");
        expectPlayable(slow);
        EXPECT_TRUE(slow.note(asked.notes[1].id)) << "not yet so fast";
        const auto [fast, what] = made(asked, "tempo:1.5");
        expectPlayable(fast);
        EXPECT_FALSE(fast.note(asked.notes[1].id));
        for (const Note& note : fast.notes)
            EXPECT_EQ(note.midi(), piece.note(note.id)->midi());
    }
}

} // namespace
} // namespace wirenote
