#include "piece/delta.h"
#include "piece/edits.h"
#include "support/pieces.h"

#include <functional>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

using test::pieceOf;

Piece threeNotes() {
    return pieceOf({{0.0, 0.4, 64, {1, 0}},
                    {0.5, 0.9, 59, {2, 0}},
                    {1.0, 1.4, 67, {1, 3}, {Technique::HammerOn}}});
}

struct EditCase {
    const char* name;
    std::function<Status(PieceEditor&)> edit;
};
void PrintTo(const EditCase& c, std::ostream* out) {
    *out << c.name;
}

class EveryEdit : public ::testing::TestWithParam<EditCase> {};
TEST_P(EveryEdit, LeavesASoundPieceAndCanBeUndoneAndRedone) {
    Piece before = threeNotes();
    before.takes = {Take{}};
    before.lead()->length_s = 3.0;
    before.misses = {{{1.6, 1.9}, 62, 0.4, {2, 3}}};
    Piece after = before;
    PieceEditor editor(after, "2026-01-01T00:00:00Z");
    const Status done = GetParam().edit(editor);
    ASSERT_TRUE(done.ok()) << done.error().message;
    const Status sound = checkPiece(after);
    EXPECT_TRUE(sound.ok()) << sound.error().message;
    EXPECT_FALSE(before == after);
    EXPECT_EQ(after.log.size(), 1U);
    const PieceDelta delta = difference(before, after);
    Piece piece = before;
    apply(delta, piece);
    EXPECT_TRUE(piece == after);
    revert(delta, piece);
    EXPECT_TRUE(piece == before);
}
INSTANTIATE_TEST_SUITE_P(
    Edits,
    EveryEdit,
    ::testing::Values(
        EditCase{"string", [](PieceEditor& e) { return e.moveToString(1, 2); }},
        EditCase{"missed_note",
                 [](PieceEditor& e) -> Status {
                     const auto id = e.takeMiss(0);
                     return id ? Status{} : Status(id.error());
                 }},
        EditCase{"fret", [](PieceEditor& e) { return e.setFret(2, 3); }},
        EditCase{"pitch", [](PieceEditor& e) { return e.setPitch(1, 52); }},
        EditCase{"time_past_the_next",
                 [](PieceEditor& e) {
                     return e.setTime(1, {0.7, 0.95});
                 }},
        EditCase{"finger", [](PieceEditor& e) { return e.setFinger(3, Finger::Ring); }},
        EditCase{"stroke", [](PieceEditor& e) { return e.setStroke(1, Stroke::Up); }},
        EditCase{"technique",
                 [](PieceEditor& e) { return e.toggleTechnique(3, Technique::HammerOn); }},
        EditCase{"split", [](PieceEditor& e) { return e.split(2, 0.7); }},
        EditCase{"join", [](PieceEditor& e) { return e.joinWithNext(1); }},
        EditCase{"add",
                 [](PieceEditor& e) -> Status {
                     const auto id = e.add({0.45, 0.49}, 62, Position{2, 3});
                     return id ? Status() : id.error();
                 }},
        EditCase{"remove", [](PieceEditor& e) { return e.remove(2); }},
        EditCase{"accept", [](PieceEditor& e) { return e.accept(3); }},
        EditCase{"reference", [](PieceEditor& e) { return e.setReference(415.3); }},
        EditCase{"tempo", [](PieceEditor& e) { return e.setTempo(90.0); }},
        EditCase{"downbeat", [](PieceEditor& e) { return e.setDownbeat(2); }},
        EditCase{"instrument",
                 [](PieceEditor& e) {
                     return e.setInstrument(standardInstrument(InstrumentKind::Nylon));
                 }}),
    [](const auto& row) { return std::string(row.param.name); });

class RefusedEdit : public ::testing::TestWithParam<EditCase> {};
TEST_P(RefusedEdit, ChangesNothingAndSaysWhy) {
    const Piece before = threeNotes();
    Piece after = before;
    PieceEditor editor(after, "now");
    const Status done = GetParam().edit(editor);
    ASSERT_FALSE(done.ok());
    EXPECT_FALSE(done.error().message.empty());
    EXPECT_TRUE(after == before);
}
INSTANTIATE_TEST_SUITE_P(
    Edits,
    RefusedEdit,
    ::testing::Values(
        EditCase{"no_such_note", [](PieceEditor& e) { return e.accept(99); }},
        EditCase{"pitch_not_on_string", [](PieceEditor& e) { return e.moveToString(2, 1); }},
        EditCase{"no_such_string", [](PieceEditor& e) { return e.moveToString(1, 7); }},
        EditCase{"fret_off_the_neck", [](PieceEditor& e) { return e.setFret(1, 30); }},
        EditCase{"pitch_off_the_neck", [](PieceEditor& e) { return e.setPitch(1, 20); }},
        EditCase{"ends_before_it_starts",
                 [](PieceEditor& e) {
                     return e.setTime(1, {0.5, 0.4});
                 }},
        EditCase{"split_outside", [](PieceEditor& e) { return e.split(1, 0.45); }},
        EditCase{"join_the_last", [](PieceEditor& e) { return e.joinWithNext(3); }},
        EditCase{"open_string_with_finger",
                 [](PieceEditor& e) { return e.setFinger(1, Finger::Index); }},
        EditCase{"reference_without_take", [](PieceEditor& e) { return e.setReference(440); }},
        EditCase{"tempo_of_nothing", [](PieceEditor& e) { return e.setTempo(0.0); }}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Edits, FretChangesThePitchAndStringKeepsIt) {
    Piece piece = threeNotes();
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.setFret(2, 5).ok());
    EXPECT_EQ(piece.notes[1].midi(), 64);
    EXPECT_TRUE(piece.notes[1].pitch.isSet());
    ASSERT_TRUE(editor.moveToString(2, 3).ok());
    EXPECT_EQ(piece.notes[1].midi(), 64);
    EXPECT_EQ(piece.asPlayed().plans[1].position.value, (Position{3, 9}));
}

Piece withFacts() {
    Piece piece = threeNotes();
    for (Note& note : piece.notes) {
        note.ownSound().attack.strength = 0.8;
        note.ownSound().thick_first = 0.1;
        note.ownSound().stiffness = {-9.0, 0.1};
        note.ownSound().tone[static_cast<std::size_t>(ToneFigure::Comb)] = {-1.0, 0.1};
    }
    return piece;
}

TEST(Edits, DecidingLosesNoFactThatIsStillTrue) {
    Piece piece = withFacts();
    const HeardFacts heard = piece.notes[1].heard();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.accept(2).ok());
    ASSERT_TRUE(editor.moveToString(2, 3).ok());
    ASSERT_TRUE(editor.setPitch(2, 59).ok()) << "the pitch that it has";
    ASSERT_TRUE(editor.setTime(2, {0.51, 0.8}).ok()) << "the same attack, put right";
    ASSERT_TRUE(editor.toggleTechnique(2, Technique::Accent).ok());
    EXPECT_EQ(piece.notes[1].heard(), heard);
}

TEST(Edits, AFactThatIsNoLongerTrueIsDropped) {
    Piece piece = withFacts();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.setFret(2, 3).ok());
    EXPECT_FALSE(piece.notes[1].heard().stiffness.told()) << "measured of another pitch";
    EXPECT_EQ(piece.notes[1].heard().tone, HeardTone{});
    EXPECT_EQ(piece.notes[1].heard().thick_first, 0.1) << "the stroke was the same";
    ASSERT_TRUE(editor.setPitch(1, 52).ok());
    EXPECT_FALSE(piece.notes[0].heard().stiffness.told());
    ASSERT_TRUE(editor.setTime(3, {1.2, 1.4}).ok());
    EXPECT_EQ(piece.notes[2].heard(), HeardFacts{}) << "another attack";
    Piece whole = withFacts();
    ASSERT_TRUE(PieceEditor(whole, "2026-01-01T00:00:00Z").split(1, 0.2).ok());
    EXPECT_TRUE(whole.notes[0].heard().stiffness.told());
    EXPECT_EQ(whole.notes[1].heard(), HeardFacts{}) << "nothing was heard to begin there";
}

TEST(Edits, SplitSharesTheCurveAndJoinGivesItBack) {
    Piece piece = threeNotes();
    piece.notes[0].curve = {{0.1, 5.0}, {0.3, -5.0}};
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.split(1, 0.2).ok());
    ASSERT_EQ(piece.notes.size(), 4U);
    EXPECT_EQ(piece.notes[0].curve.size(), 1U);
    EXPECT_EQ(piece.notes[1].curve.size(), 1U);
    ASSERT_TRUE(editor.joinWithNext(1).ok());
    EXPECT_EQ(piece.notes[0].time.value, (TimeRange{0.0, 0.4}));
    EXPECT_EQ(piece.notes[0].curve.size(), 2U);
}

TEST(Edits, AReferenceOneSemitoneLowerRenamesTheNotesButNotTheSetOnes) {
    Piece piece = threeNotes();
    piece.takes = {Take{}};
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.setPitch(2, 59).ok());
    ASSERT_TRUE(editor.setReference(440.0 * 0.9438743)
                    .ok()); // 100 cents down: the same sound is a semitone higher
    EXPECT_EQ(piece.notes[0].midi(), 65);
    EXPECT_EQ(piece.notes[1].midi(), 59);
    EXPECT_EQ(piece.lead()->reference.basis, Basis::Set);
}

TEST(Edits, TheOneIsWhereAPersonSaysItIs) {
    Piece piece = threeNotes(); // beats every 0.5 s
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.setDownbeat(2).ok());
    const auto ones = piece.timeline.downbeats_s();
    EXPECT_NEAR(ones.front(), 0.5, 1e-9);
}

TEST(CheckPiece, NamesWhatIsWrong) {
    Piece piece = threeNotes();
    piece.asPlayed().plans[1].position.value = {9, 2};
    EXPECT_EQ(checkPiece(piece).error().message, "note 2 is placed off the neck");
    piece = threeNotes();
    std::swap(piece.notes[0], piece.notes[1]);
    EXPECT_FALSE(checkPiece(piece).ok());
    piece = threeNotes();
    piece.asPlayed().plans.pop_back();
    EXPECT_FALSE(checkPiece(piece).ok());
}

// Signatures of well-known scales: common practice.
TEST(Key, IsGuessedFromTheScale) {
    const auto keyOf = [](const std::vector<int>& midi) {
        std::vector<test::Row> rows;
        for (std::size_t i = 0; i < midi.size(); ++i)
            rows.push_back(
                {0.5 * static_cast<double>(i), 0.5 * static_cast<double>(i) + 0.4, midi[i]});
        return guessKey(pieceOf(rows).notes).fifths;
    };
    EXPECT_EQ(keyOf({60, 62, 64, 65, 67, 69, 71}), 0);
    EXPECT_EQ(keyOf({55, 57, 59, 60, 62, 64, 66}), 1);
    EXPECT_EQ(keyOf({53, 55, 57, 58, 60, 62, 64}), -1);
    EXPECT_EQ(keyOf({57, 59, 61, 62, 64, 66, 68}), 3);
}

TEST(NearMisses, TakenAreNotesWhoseStringIsOpenAndOfferedNoMore) {
    Piece piece = threeNotes();
    piece.misses = {{{1.6, 1.9}, 62, 0.4, {2, 3}}, {{1.6, 1.9}, 200, 0.4, {2, 3}}};
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    EXPECT_FALSE(editor.takeMiss(1).ok()) << "not on this neck";
    EXPECT_FALSE(editor.takeMiss(7).ok());
    EXPECT_EQ(piece.misses.size(), 2U) << "nothing is lost by a refusal";
    const auto id = editor.takeMiss(0);
    ASSERT_TRUE(id.ok());
    EXPECT_EQ(piece.misses.size(), 1U);
    const Note* note = piece.note(*id);
    ASSERT_NE(note, nullptr);
    EXPECT_EQ(note->midi(), 62);
    EXPECT_EQ(note->pitch.basis, Basis::Set);
    EXPECT_FALSE(piece.plan(*id)->position.isSet());
}

TEST(StringTraits, OfAnotherInstrumentAreForgotten) {
    Piece piece = threeNotes();
    piece.string_traits.assign(6, {0.3, 0.1, Basis::Heard});
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.setInstrument(standardInstrument(InstrumentKind::Acoustic)).ok());
    EXPECT_TRUE(piece.string_traits.empty());
}

// What a reading decides is its own; what a note is, holds for all of them.
TEST(Readings, DecideApartAndShareTheirNotes) {
    Piece piece = threeNotes();
    const Piece before = piece;
    PieceEditor played(piece, "2026-01-01T00:00:00Z");
    EXPECT_THAT(played.addReading("", "").error().message, HasSubstr("give the reading a name"));
    EXPECT_THAT(played.addReading("as played", "").error().message, HasSubstr("already"));
    ASSERT_TRUE(played.addReading("easier", "for a first lesson").ok());
    ASSERT_EQ(piece.readings.size(), 2U);

    PieceEditor easier(piece, "2026-01-01T00:00:00Z", 1);
    const Position as_played = piece.asPlayed().plans[1].position.value;
    ASSERT_TRUE(easier.moveToString(2, 3).ok());
    EXPECT_EQ(piece.readings[1].plans[1].position.value.string, 3);
    EXPECT_EQ(piece.asPlayed().plans[1].position.value, as_played);

    ASSERT_TRUE(easier.setPitch(2, 65).ok());
    for (const Reading& reading : piece.readings)
        EXPECT_FALSE(reading.plans[1].placed()) << reading.head.name << ": it lay elsewhere";
    const auto added = played.add({2.0, 2.5}, 64, Position{1, 0});
    ASSERT_TRUE(added.ok());
    EXPECT_TRUE(piece.asPlayed().plans.back().placed());
    EXPECT_FALSE(piece.readings[1].plans.back().placed());
    ASSERT_TRUE(played.split(1, 0.2).ok());
    ASSERT_TRUE(played.remove(3).ok());
    ASSERT_TRUE(checkPiece(piece).ok()) << checkPiece(piece).error().message;

    EXPECT_THAT(played.removeReading().error().message, HasSubstr("what was played"));
    ASSERT_TRUE(easier.removeReading().ok());
    EXPECT_EQ(piece.readings.size(), 1U);

    // All of it is one difference, there and back.
    const PieceDelta all = difference(before, piece);
    Piece again = before;
    apply(all, again);
    EXPECT_TRUE(again == piece);
    revert(all, again);
    EXPECT_TRUE(again == before);
}

TEST(Readings, AnotherOneIsUndoneAndRedoneWithItsPlans) {
    Piece piece = threeNotes();
    const Piece before = piece;
    ASSERT_TRUE(PieceEditor(piece, "2026-01-01T00:00:00Z").addReading("closed", "").ok());
    ASSERT_TRUE(PieceEditor(piece, "2026-01-01T00:00:00Z", 1).moveToString(2, 3).ok());
    const PieceDelta delta = difference(before, piece);
    Piece there = before;
    apply(delta, there);
    EXPECT_TRUE(there == piece);
    revert(delta, there);
    EXPECT_TRUE(there == before);
}

TEST(Facts, GoWithTheTakeThatToldThem) {
    Piece piece = withFacts();
    piece.takes = {Take{}, Take{}, Take{}};
    piece.takes[1].path = "b";
    piece.takes[2].path = "c";
    NoteFacts second;
    second.take = 1;
    second.heard.squeak_before = true;
    NoteFacts third;
    third.take = 2;
    third.span = {7.0, 8.0};
    third.heard.stiffness = {-8.0, 0.2};
    piece.notes[0].facts = {second, third};
    EXPECT_NEAR(piece.notes[0].heard().stiffness.log_b, -8.0, 1e-9);
    EXPECT_TRUE(piece.notes[0].heard().squeak_before);
    ASSERT_TRUE(PieceEditor(piece, "2026-01-01T00:00:00Z").removeTake(1).ok());
    ASSERT_EQ(piece.notes[0].facts.size(), 1U);
    EXPECT_EQ(piece.notes[0].facts[0].take, 1U) << "the third take is the second now";
    EXPECT_FALSE(piece.notes[0].heard().squeak_before);
    // What its own sound tells goes before what others lend.
    piece.notes[0].ownSound().stiffness = {-9.0, 0.5};
    EXPECT_NEAR(piece.notes[0].heard().stiffness.log_b, -9.0, 1e-9);
    EXPECT_EQ(piece.notes[0].facts.size(), 2U);
}

TEST(Techniques, ANoteBeginsInOneWayAndIsShortOrRingsOn) {
    Piece piece = test::scalePiece(4);
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    const NoteId id = piece.notes[1].id;
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::Vibrato).ok());
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::Slide).ok());
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::HammerOn).ok());
    EXPECT_EQ(piece.notes[1].techniques,
              (std::vector<Technique>{Technique::Vibrato, Technique::HammerOn}));
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::LetRing).ok());
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::Staccato).ok());
    EXPECT_FALSE(piece.notes[1].has(Technique::LetRing));
    ASSERT_TRUE(editor.toggleTechnique(id, Technique::Staccato).ok());
    EXPECT_FALSE(piece.notes[1].has(Technique::Staccato)) << "taken back";
    for (int a = 0; a < kTechniqueCount; ++a)
        for (int b = 0; b < kTechniqueCount; ++b)
            EXPECT_EQ(excludes(static_cast<Technique>(a), static_cast<Technique>(b)),
                      excludes(static_cast<Technique>(b), static_cast<Technique>(a)));
}

TEST(About, IsSetWithTheTitleAndUndone) {
    Piece piece = test::scalePiece(2);
    const Piece before = piece;
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    EXPECT_FALSE(editor.setAbout("", {}).ok());
    ASSERT_TRUE(editor.setAbout("Low Water", {"Ada Example", "", "Cleo Example"}).ok());
    EXPECT_FALSE(editor.setKey({7}).ok());
    ASSERT_TRUE(editor.setKey({-3}).ok());
    const PieceDelta delta = difference(before, piece);
    const Changes what = changesOf(delta);
    EXPECT_TRUE(what.title && what.timeline);
    EXPECT_FALSE(what.notes || what.plans);
    revert(delta, piece);
    EXPECT_EQ(piece, before);
}

} // namespace
} // namespace wirenote
