// How loud hands and voices are against one another, over which strings a stroke goes, where the
// pick is put away, and what else a passage could be struck like. All of it common practice.
#include "plucking/balance.h"
#include "plucking/plucking_tool.h"
#include "plucking/strokes.h"
#include "plucking/strum_shape.h"
#include "plucking/tool_changes.h"
#include "support/pieces.h"

#include <gtest/gtest.h>
#include <set>

namespace wirenote {
namespace {

void stroke(Piece& piece, const std::vector<Stroke>& strokes) {
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.asPlayed().plans[i].stroke.set(strokes[i % strokes.size()]);
}

// Eighths on one string at 120 beats a minute.
Piece eighths(int count) {
    std::vector<test::Row> rows;
    for (int k = 0; k < count; ++k)
        rows.push_back({0.25 * k, 0.25 * k + 0.2, 57, {4, 7}});
    return test::pieceOf(rows);
}

TEST(Balance, TellsTheThumbFromTheFingers) {
    Piece piece = eighths(32);
    stroke(piece, {Stroke::P, Stroke::I, Stroke::P, Stroke::M});
    for (Note& note : piece.notes)
        note.loudness_db = piece.plan(note.id)->stroke.value == Stroke::P ? -24.0 : -18.0;
    const Balance balance = balanceOf(piece);
    ASSERT_TRUE(balance.fingers_over_thumb_db);
    EXPECT_NEAR(*balance.fingers_over_thumb_db, 6.0, 1e-9);
    EXPECT_FALSE(balance.fingers_over_pick_db) << "nothing is picked";
    EXPECT_FALSE(balance.tune_over_rest_db) << "one voice";
}

// A held bass under a tune: what is highest when it begins is the tune.
TEST(Balance, TellsTheTuneFromWhatGoesWithIt) {
    std::vector<test::Row> rows;
    for (int bar = 0; bar < 4; ++bar) {
        const double at_s = 2.0 * bar;
        rows.push_back({at_s, at_s + 2.0, 45, {5, 0}});
        for (int k = 0; k < 4; ++k) {
            rows.push_back({at_s + 0.25 + 0.5 * k, at_s + 0.7 + 0.5 * k, 72 + k, {1, 8 + k}});
            rows.push_back({at_s + 0.4 + 0.5 * k, at_s + 0.7 + 0.5 * k, 55, {3, 0}});
        }
    }
    Piece piece = test::pieceOf(rows);
    for (Note& note : piece.notes)
        note.loudness_db = note.midi() >= 72 ? -15.0 : -20.0;
    const Balance balance = balanceOf(piece);
    ASSERT_TRUE(balance.tune_over_rest_db);
    EXPECT_NEAR(*balance.tune_over_rest_db, 5.0, 1e-9);
}

TEST(Balance, FindsTheLoudCountOfTheBar) {
    Piece piece = eighths(48);
    for (std::size_t k = 0; k < piece.notes.size(); ++k)
        piece.notes[k].loudness_db = k % 8 == 2 || k % 8 == 6 ? -17.0 : -20.0; // the back-beat
    const Balance balance = balanceOf(piece);
    ASSERT_EQ(balance.counts.size(), 2U);
    EXPECT_EQ((std::set{balance.counts[0].beat, balance.counts[1].beat}), (std::set{1, 3}));
    EXPECT_EQ(balance.counts[0].half, 0);
    EXPECT_NEAR(balance.counts[0].above_db, 3.0, 1e-9);
    EXPECT_TRUE(balance.accents.empty()) << "3 dB are no accent";
}

TEST(Balance, NamesTheEchoAndWhatItEchoes) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 32; ++k)
        rows.push_back(
            {0.25 * k, 0.25 * k + 0.2, (k / 8) % 2 == 0 ? 57 + k % 8 : 60 - k % 8, {4, 7}});
    Piece piece = test::pieceOf(rows);
    for (std::size_t k = 16; k < 24; ++k) // bar 3 says bar 1 again
        piece.notes[k].loudness_db = -35.0;
    const Balance balance = balanceOf(piece);
    ASSERT_EQ(balance.echoes.size(), 1U);
    EXPECT_EQ(balance.echoes[0].bar, 3);
    EXPECT_EQ(balance.echoes[0].of, 1);
    EXPECT_NEAR(balance.echoes[0].softer_db, 5.0, 1e-9);
}

// A phrase and its echo (common practice): mf, p, and mf again.
TEST(Balance, ProposesDynamicsForEchoes) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 48; ++k) // six bars: A B A' B' C D
        rows.push_back({0.25 * k,
                        0.25 * k + 0.2,
                        k < 32 ? ((k / 8) % 2 == 0 ? 57 + k % 8 : 69 - k % 8) : 50 + k % 3 + k / 8,
                        {4, 7}});
    Piece piece = test::pieceOf(rows);
    for (std::size_t k = 16; k < 32; ++k)
        piece.notes[k].loudness_db = piece.notes[0].loudness_db - 4.0;
    const auto written = [&piece] {
        std::string all;
        for (const SheetMark& mark : balanceOf(piece).dynamics)
            all += mark.text + "@" + std::to_string(static_cast<int>(mark.at_s)) + " ";
        return all;
    };
    EXPECT_EQ(written(), "mf@0 p@4 mf@8 ");
    for (std::size_t k = 16; k < 32; ++k)
        piece.notes[k].loudness_db -= 4.0;
    EXPECT_EQ(written(), "f@0 p@4 f@8 ");
    piece.marks = {{MarkKind::Dynamic, 4.5, 4.5, "pp"}};
    EXPECT_EQ(written(), "f@0 f@8 ") << "a person has said it there";
}

TEST(Balance, ProposesAccentsThatNobodyMarked) {
    Piece piece = eighths(24);
    piece.notes[7].loudness_db = piece.notes[12].loudness_db = -25.0;
    EXPECT_EQ(balanceOf(piece).accents, (std::vector{piece.notes[7].id, piece.notes[12].id}));
    piece.notes[7].add(Technique::Accent);
    EXPECT_EQ(balanceOf(piece).accents, std::vector{piece.notes[12].id});
    EXPECT_TRUE(balanceOf(Piece{}).accents.empty());
}

std::optional<StrumShape> shapeOf(Piece piece, Stroke way) {
    stroke(piece, {way});
    return strumShape({piece.instrument, piece.timeline, piece.rows()}, 0);
}

TEST(StrumShape, NamesTheStringThatMustBeSilent) {
    const Piece chord = test::pieceOf({{0.0, 1.0, 43, {6, 3}},
                                       {0.0, 1.0, 55, {3, 0}},
                                       {0.0, 1.0, 50, {4, 0}},
                                       {0.0, 1.0, 62, {2, 3}}});
    const auto down = shapeOf(chord, Stroke::Down);
    ASSERT_TRUE(down);
    EXPECT_EQ(down->first, 6);
    EXPECT_EQ(down->last, 2);
    EXPECT_EQ(down->damped, std::vector{5});
    EXPECT_TRUE(down->arm);
    const auto up = shapeOf(chord, Stroke::Up);
    ASSERT_TRUE(up);
    EXPECT_EQ(up->first, 2) << "an up-stroke meets the thin strings first";
}

TEST(StrumShape, AWristTakesTwoStringsAndADeadOneIsSilent) {
    const auto fifth =
        shapeOf(test::pieceOf({{0.0, 1.0, 45, {5, 0}}, {0.0, 1.0, 52, {4, 2}}}), Stroke::Down);
    ASSERT_TRUE(fifth);
    EXPECT_FALSE(fifth->arm);
    const auto choked = shapeOf(test::pieceOf({{0.0, 1.0, 45, {5, 0}},
                                               {0.0, 1.0, 52, {4, 2}, {Technique::Dead}},
                                               {0.0, 1.0, 57, {3, 2}}}),
                                Stroke::Down);
    ASSERT_TRUE(choked);
    EXPECT_EQ(choked->damped, std::vector{4});
    EXPECT_FALSE(shapeOf(test::pieceOf({{0.0, 1.0, 45, {5, 0}}}), Stroke::Down)) << "one string";
    EXPECT_FALSE(
        shapeOf(test::pieceOf({{0.0, 1.0, 45, {5, 0}}, {0.0, 1.0, 52, {4, 2}}}), Stroke::P));
}

// Middle and ring finger play beside a pick; for the thumb or the index finger it has to go.
TEST(ToolChanges, ThePickIsTuckedAwayForThumbAndIndexOnly) {
    Piece piece = eighths(9);
    const std::vector<Stroke> hand = {Stroke::Down,
                                      Stroke::M,
                                      Stroke::A,
                                      Stroke::Down,
                                      Stroke::P,
                                      Stroke::I,
                                      Stroke::M,
                                      Stroke::P,
                                      Stroke::Down};
    stroke(piece, hand);
    const auto changes = toolChanges({piece.instrument, piece.timeline, piece.rows()});
    ASSERT_EQ(changes.size(), 2U);
    EXPECT_EQ(changes[0].attack, 4U);
    EXPECT_TRUE(changes[0].tucked);
    EXPECT_NEAR(changes[0].time_s, 0.25, 1e-9);
    EXPECT_EQ(changes[1].attack, 8U);
    EXPECT_FALSE(changes[1].tucked);
}

std::vector<std::vector<Stroke>>
waysOf(const Piece& piece, PluckingSchool school, std::size_t count) {
    ReadingHead head;
    head.plucking_school.set(school);
    head.tool.set(toolOf(school));
    return strokeWays(
        piece.instrument, piece.timeline, piece.rows(), head, {0, piece.notes.size()}, count);
}

TEST(StrokeWays, TheBestComesFirstAndIsWhatIsWritten) {
    for (const PluckingSchool school : {PluckingSchool::Alternate, PluckingSchool::Im}) {
        Piece piece = eighths(8);
        const auto ways = waysOf(piece, school, 4);
        ASSERT_EQ(ways.size(), 4U);
        ReadingHead head;
        head.plucking_school.set(school);
        const auto written = strokes(piece.instrument, piece.timeline, piece.rows(), head).strokes;
        for (std::size_t i = 0; i < written.size(); ++i)
            EXPECT_EQ(ways.front()[i], written[i].value);
        EXPECT_EQ((std::set<std::vector<Stroke>>(ways.begin(), ways.end()).size()), 4U)
            << "no two of them are the same";
    }
}

TEST(StrokeWays, KeepWhatAPersonSaid) {
    Piece piece = eighths(8);
    piece.asPlayed().plans[2].stroke.set(Stroke::Up);
    for (const auto& way : waysOf(piece, PluckingSchool::Alternate, 5))
        EXPECT_EQ(way[2], Stroke::Up);
}

Decision<PluckingTool> toolBySound(InstrumentKind kind, double edge_db) {
    Piece piece = eighths(12);
    piece.instrument = standardInstrument(kind);
    for (Note& note : piece.notes)
        note.ownSound().attack.edge_db = edge_db;
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.value = {3, 2};
    return likelyTool({piece.instrument, piece.timeline, piece.rows()});
}

// What is played does not tell a picked bass from a plucked one; how its strokes sound does.
TEST(LikelyTool, IsHeardWhereStrokesSoundHardOrSoft) {
    const auto picked = toolBySound(InstrumentKind::Bass, -20.0);
    EXPECT_EQ(picked.value, PluckingTool::Pick);
    EXPECT_EQ(picked.basis, Basis::Heard);
    ASSERT_FALSE(picked.reasons.empty());
    EXPECT_EQ(picked.reasons.front().kind, ReasonKind::StrokesSound);
    EXPECT_EQ(toolBySound(InstrumentKind::Bass, -32.0).value, PluckingTool::Fingers);
    EXPECT_EQ(toolBySound(InstrumentKind::Acoustic, -22.0).value, PluckingTool::Fingers);
    EXPECT_EQ(toolBySound(InstrumentKind::Acoustic, -12.0).value, PluckingTool::Pick);
    EXPECT_EQ(toolBySound(InstrumentKind::Bass, -6.0).basis, Basis::Reasoned)
        << "no string sounds so bright: it says nothing of what struck it";
    EXPECT_EQ(toolBySound(InstrumentKind::Bass, -26.5).basis, Basis::Reasoned) << "neither";
    EXPECT_EQ(toolBySound(InstrumentKind::Nylon, -12.0).value, PluckingTool::Fingers)
        << "nails on nylon sound hard, too";
}

} // namespace
} // namespace wirenote
