// What is read off the strokes of the plucking hand: its patterns, the way of the pick, silent
// strings, speed, and which school they speak for. All of it common practice.
#include "plucking/cells.h"
#include "plucking/ghost_strings.h"
#include "plucking/pick_path.h"
#include "plucking/pick_strokes.h"
#include "plucking/pluck_load.h"
#include "plucking/school_fit.h"
#include "plucking/strokes.h"
#include "plucking/thumb_cycle.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

void strokeBy(Piece& piece, PluckingSchool school) {
    ReadingHead head;
    head.plucking_school.set(school);
    const auto found = strokes(piece.instrument, piece.timeline, piece.rows(), head).strokes;
    for (std::size_t i = 0; i < found.size(); ++i)
        piece.asPlayed().plans[i].stroke = found[i];
}

// Single notes in slots of `step_s`, at 120 beats a minute.
Piece line(const std::vector<Position>& places, double step_s, double length_s = 0.0) {
    std::vector<test::Row> rows;
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const Position& place : places) {
        const double at_s = step_s * static_cast<double>(rows.size());
        rows.push_back(
            {at_s, at_s + (length_s > 0.0 ? length_s : 0.9 * step_s), guitar.midiAt(place), place});
    }
    return test::pieceOf(rows);
}

std::vector<StringChange> pathOf(const Piece& piece) {
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    return pickPath(plucked, {0, plucked.size()});
}

// An odd number of notes on a string, begun on a down-stroke, forces the other slant; an even one
// lets it stay.
TEST(PickPath, TwoNotesAStringLetTheSlantStay) {
    Piece piece = line({{4, 5}, {4, 7}, {3, 5}, {3, 7}, {2, 5}, {2, 8}}, 0.125);
    strokeBy(piece, PluckingSchool::Alternate);
    const auto path = pathOf(piece);
    ASSERT_EQ(path.size(), 2U);
    for (const StringChange& change : path) {
        EXPECT_EQ(change.notes, 2);
        EXPECT_EQ(change.slant, Slant::Downward) << "it is left after an up-stroke";
        EXPECT_FALSE(change.flips);
        EXPECT_FALSE(change.swept);
    }
}

TEST(PickPath, ThreeNotesAStringTurnIt) {
    Piece piece = line({{5, 5}, {5, 7}, {5, 8}, {4, 5}, {4, 7}, {4, 9}, {3, 5}}, 0.125);
    strokeBy(piece, PluckingSchool::Alternate);
    const auto path = pathOf(piece);
    ASSERT_EQ(path.size(), 2U);
    EXPECT_EQ(path[0].slant, Slant::Upward);
    EXPECT_EQ(path[1].slant, Slant::Downward);
    EXPECT_TRUE(path[1].flips);
}

TEST(PickPath, ASweepStaysInTheStringsAndASkipIsTold) {
    Piece piece = line({{3, 5}, {2, 5}, {1, 5}, {3, 7}}, 0.125);
    strokeBy(piece, PluckingSchool::Sweep);
    const auto path = pathOf(piece);
    ASSERT_EQ(path.size(), 3U);
    EXPECT_TRUE(path[0].swept && path[1].swept);
    EXPECT_EQ(path[0].slant, Slant::Either);
    EXPECT_FALSE(path[2].swept);
    EXPECT_EQ(path[2].skipped, 1);
}

// p i m a m i in 6/8 over two chords: one pattern, on other strings where the bass moves.
TEST(Cells, APatternIsFoundWhileTheChordChanges) {
    const std::vector<Position> a = {{5, 0}, {3, 2}, {2, 1}, {1, 0}, {2, 1}, {3, 2}};
    const std::vector<Position> e = {{6, 0}, {3, 1}, {2, 0}, {1, 0}, {2, 0}, {3, 1}};
    std::vector<Position> places;
    for (const auto* bar : {&a, &a, &e, &e})
        for (int half = 0; half < 2; ++half)
            places.insert(places.end(), bar->begin(), bar->end());
    Piece piece = line(places, 60.0 / 120.0 / 3.0, 1.0);
    piece.timeline.metre = {6, 8};
    strokeBy(piece, PluckingSchool::Pima);
    const auto cells = cellsOf(piece);
    ASSERT_EQ(cells.size(), 1U);
    EXPECT_EQ(cells[0].first_bar, 1);
    EXPECT_EQ(cells[0].last_bar, 8);
    EXPECT_EQ(cells[0].beats, 2);
    std::vector<Stroke> strokes;
    for (const CellStroke& stroke : cells[0].strokes)
        strokes.insert(strokes.end(), stroke.strokes.begin(), stroke.strokes.end());
    EXPECT_EQ(
        strokes,
        (std::vector<Stroke>{Stroke::P, Stroke::I, Stroke::M, Stroke::A, Stroke::M, Stroke::I}));
    EXPECT_EQ(cells[0].moved, (std::vector<int>{5, 6, 7, 8}));
    EXPECT_TRUE(cells[0].exceptions.empty());
}

TEST(Cells, ABarThatDiffersIsAnExceptionWhereThePatternComesBack) {
    std::vector<test::Row> rows;
    for (int bar = 0; bar < 5; ++bar)
        for (int beat = 0; beat < 4; ++beat) {
            if (bar == 3 && beat == 2)
                continue;
            const double at_s = 2.0 * bar + 0.5 * beat;
            rows.push_back({at_s, at_s + 0.4, 52, {4, 2}});
            if (beat % 2 == 1)
                rows.push_back({at_s + 0.25, at_s + 0.45, 52, {4, 2}});
        }
    Piece piece = test::pieceOf(rows);
    strokeBy(piece, PluckingSchool::Alternate);
    const auto cells = cellsOf(piece);
    ASSERT_EQ(cells.size(), 1U);
    EXPECT_EQ(cells[0].last_bar, 5);
    EXPECT_EQ(cells[0].exceptions, std::vector<int>{4});
}

TEST(Cells, ALineThatGoesOnHasNone) {
    Piece piece = test::pieceOf({{0.0, 0.4, 52, {4, 2}},
                                 {0.5, 0.7, 54, {4, 4}},
                                 {0.75, 0.9, 55, {3, 0}},
                                 {2.0, 2.4, 57, {3, 2}},
                                 {3.0, 3.4, 59, {3, 4}}});
    strokeBy(piece, PluckingSchool::Alternate);
    EXPECT_TRUE(cellsOf(piece).empty());
    EXPECT_TRUE(cellsOf(Piece{}).empty());
}

// A hand that never stops passes the same strings whether they sound or not.
TEST(GhostStrings, AreThoseOfTheStrumThatGoesTheSameWay) {
    std::vector<test::Row> rows;
    for (int s = 4; s >= 1; --s)
        rows.push_back({0.008 * (4 - s), 0.3, 60, {s, 2}});
    for (int s = 1; s <= 3; ++s)
        rows.push_back({0.25 + 0.008 * s, 0.4, 60, {s, 2}});
    rows.push_back({0.5, 0.55, 40, {6, 0}, {Technique::GhostStroke}});
    rows.push_back({0.75, 0.8, 40, {6, 0}, {Technique::GhostStroke}});
    Piece piece = test::pieceOf(rows);
    strokeBy(piece, PluckingSchool::Strum);
    ASSERT_EQ(piece.asPlayed().plans[7].stroke.value, Stroke::Down);
    ASSERT_EQ(piece.asPlayed().plans[8].stroke.value, Stroke::Up);
    EXPECT_EQ(sweptBy(6, piece.rows(), 7), (Swept{4, 1}));
    EXPECT_EQ(sweptBy(6, piece.rows(), 8), (Swept{1, 3}));
    EXPECT_FALSE(sweptBy(6, piece.rows(), 0)) << "it sounds";
    const auto places = ghostPlaces(6, piece.rows(), {0, rows.size()});
    ASSERT_EQ(places.size(), 2U);
    EXPECT_EQ(places[0].second, (Position{4, 0}));
    EXPECT_EQ(places[1].second, (Position{1, 0}));
}

TEST(GhostStrings, AreAllWhereNothingElseIsStruck) {
    Piece piece = test::pieceOf({{0.0, 0.05, 40, {6, 0}, {Technique::GhostStroke}}});
    strokeBy(piece, PluckingSchool::Strum);
    EXPECT_EQ(sweptBy(6, piece.rows(), 0), (Swept{6, 1}));
}

PluckLoad loadOf(const Piece& piece) {
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    return pluckLoad(plucked, {0, plucked.size()});
}

TEST(PluckLoad, DownStrokesAloneTireSooner) {
    Piece fast = line(std::vector<Position>(16, {6, 0}), 0.125);
    strokeBy(fast, PluckingSchool::Alternate);
    EXPECT_NEAR(loadOf(fast).strokes_per_s, 8.0, 1e-9);
    EXPECT_EQ(loadOf(fast).sustained_s, 0.0);
    EXPECT_NEAR(loadOf(fast).top_tempo, 1.25, 0.01) << "ten a second";
    for (NotePlan& plan : fast.asPlayed().plans)
        plan.stroke.value = Stroke::Down;
    EXPECT_NEAR(loadOf(fast).top_tempo, 5.0 / 8.0, 0.01);
    EXPECT_GT(loadOf(fast).sustained_s, 1.5);
}

TEST(PluckLoad, TellsTheFingerThatComesAgainAndHowLoudEachIs) {
    Piece piece = line({{5, 0}, {3, 2}, {5, 0}, {3, 2}, {5, 0}, {3, 2}}, 0.25, 1.0);
    strokeBy(piece, PluckingSchool::Thumb);
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.notes[i].loudness_db = i % 2 == 0 ? -12.0 : -20.0;
    const PluckLoad load = loadOf(piece);
    EXPECT_NEAR(load.soonest_again_s, 0.5, 1e-9);
    ASSERT_EQ(load.levels.size(), 2U);
    EXPECT_EQ(load.levels[0].stroke, Stroke::P);
    EXPECT_NEAR(load.levels[0].loudness_db - load.levels[1].loudness_db, 8.0, 1e-9);
}

// Three a string, as economy has it, heard by nobody but set by a person.
TEST(SchoolFit, SetStrokesSpeakForTheSchoolThatExplainsThem) {
    Piece piece =
        line({{6, 5}, {6, 7}, {6, 8}, {5, 5}, {5, 7}, {5, 8}, {4, 5}, {4, 7}, {4, 9}}, 0.125);
    using enum Stroke;
    const std::vector<Stroke> economy = {Down, Up, Down, Down, Up, Down, Down, Up, Down};
    for (std::size_t i = 0; i < economy.size(); ++i)
        piece.asPlayed().plans[i].stroke.set(economy[i]);
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    const auto fits = schoolFits(plucked, {0, plucked.size()}, {});
    ASSERT_FALSE(fits.empty());
    EXPECT_EQ(fits.front().school, PluckingSchool::Economy);
    EXPECT_EQ(fits.front().agree, 9);
    EXPECT_TRUE(fits.front().against.empty());
    const auto alternate = std::ranges::find(fits, PluckingSchool::Alternate, &SchoolFit::school);
    EXPECT_LT(alternate->agree, 9);
    EXPECT_FALSE(alternate->against.empty());
}

TEST(SchoolFit, FewToldStrokesSayNothing) {
    Piece piece = line({{6, 5}, {6, 7}, {6, 8}}, 0.125);
    piece.asPlayed().plans[0].stroke.set(Stroke::Up);
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    EXPECT_TRUE(schoolFits(plucked, {0, plucked.size()}, {}).empty());
}

TEST(Departures, AreAccentsSkipsLeadInsAndStrokesThatLineUp) {
    Piece piece = line({{3, 5}, {3, 7}, {3, 5}, {3, 7}, {1, 5}, {1, 8}, {1, 5}, {1, 8}}, 0.125);
    strokeBy(piece, PluckingSchool::Alternate);
    piece.notes[2].techniques.push_back(Technique::Accent);
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    EXPECT_EQ(departureAt(plucked, 0), StrokeDeparture::LeadsIn);
    EXPECT_EQ(departureAt(plucked, 1), StrokeDeparture::None);
    EXPECT_EQ(departureAt(plucked, 2), StrokeDeparture::Accent);
    EXPECT_EQ(departureAt(plucked, 3), StrokeDeparture::LinesUp);
    EXPECT_EQ(departureAt(plucked, 4), StrokeDeparture::Skips);
}

// A person's stroke binds what comes after it, and as a whole the next best way turns something
// round.
TEST(PickWays, TheBestAsAWholeComeFirst) {
    Piece piece = line({{3, 5}, {3, 7}, {3, 5}, {3, 7}}, 0.125);
    const PluckedLine plucked(piece.instrument, piece.timeline, piece.rows());
    const std::vector<std::optional<bool>> nothing(4);
    const auto ways =
        pickWays(plucked, {0, plucked.size()}, PluckingSchool::Sequence, {}, nothing, 3);
    ASSERT_EQ(ways.size(), 3U);
    EXPECT_EQ(ways[0], (std::vector<bool>{true, false, true, false}));
    EXPECT_NE(ways[1], ways[0]);
    EXPECT_NE(ways[2], ways[1]);
    std::vector<std::optional<bool>> set(4);
    set[0] = false;
    EXPECT_EQ(pickWays(plucked, {0, plucked.size()}, PluckingSchool::Sequence, {}, set, 1).front(),
              (std::vector<bool>{false, true, false, true}));
}

// One wrong slur costs one stroke, not the rest: what is about the part stays, and one finger comes
// twice.
TEST(StrokesOfPart, OneWrongSlurCostsOneStroke) {
    Piece piece = test::scalePiece(40);
    piece.instrument = standardInstrument(InstrumentKind::Bass);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.value = {3, 5};
    ReadingHead head;
    head.plucking_school.set(PluckingSchool::Im);
    head.tool.set(PluckingTool::Fingers);
    strokeBy(piece, PluckingSchool::Im);
    std::vector<Stroke> before;
    for (const NotePlan& plan : piece.asPlayed().plans)
        before.push_back(plan.stroke.value);
    piece.notes[20].techniques.push_back(Technique::HammerOn);
    const auto part = strokesOfPart(piece.instrument, piece.timeline, piece.rows(), head, {14, 27});
    int changed = 0;
    for (std::size_t i = 0; i < part.strokes.size(); ++i)
        changed += part.strokes[i].value != before[14 + i] ? 1 : 0;
    EXPECT_EQ(part.strokes[6].value, Stroke::None);
    EXPECT_LE(changed, 8);
    EXPECT_EQ(part.strokes.back().value, before[26]);
}

// The alternating thumb has every beat; where it has none, the string of two beats before is named.
TEST(ThumbCycle, ABeatLeftOutIsNamedWithItsString) {
    std::vector<test::Row> rows;
    for (int beat = 0; beat < 8; ++beat) {
        const Position bass = beat % 2 == 0 ? Position{5, 3} : Position{4, 2};
        if (beat != 5)
            rows.push_back({0.5 * beat, 0.5 * beat + 0.45, beat % 2 == 0 ? 48 : 52, bass});
        rows.push_back({0.5 * beat + 0.25, 0.5 * beat + 0.45, 60, {2, 1}});
    }
    Piece piece = test::pieceOf(rows);
    strokeBy(piece, PluckingSchool::Thumb);
    piece.asPlayed().head.plucking_school.set(PluckingSchool::Thumb);
    const auto gaps = thumbGaps(piece);
    ASSERT_EQ(gaps.size(), 1U);
    EXPECT_EQ(gaps[0].bar, 2);
    EXPECT_EQ(gaps[0].beat, 1);
    EXPECT_EQ(gaps[0].string, 4);
    EXPECT_NEAR(gaps[0].time_s, 2.5, 1e-9);
    piece.asPlayed().head.plucking_school.set(PluckingSchool::Pima);
    EXPECT_TRUE(thumbGaps(piece).empty());
}

// Where nobody has placed a note, something is said all the same, and nothing breaks.
TEST(Strokes, OfNotesWithoutPlacesAndWithoutBeatsAreGiven) {
    Piece piece = line(std::vector<Position>(6, {3, 5}), 0.25);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.value = {0, 0};
    piece.timeline = {};
    for (const PluckingSchool school : {PluckingSchool::Alternate,
                                        PluckingSchool::Economy,
                                        PluckingSchool::Pima,
                                        PluckingSchool::Im,
                                        PluckingSchool::Hybrid}) {
        strokeBy(piece, school);
        for (const NotePlan& plan : piece.asPlayed().plans) {
            EXPECT_NE(plan.stroke.value, Stroke::Unknown);
            EXPECT_GT(plan.stroke.probability, 0.0);
            EXPECT_LT(plan.stroke.probability, 1.0);
        }
    }
    Piece empty;
    strokeBy(empty, PluckingSchool::Pima);
}

} // namespace
} // namespace wirenote
