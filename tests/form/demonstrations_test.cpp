// What stretches of playing show: an invented piece of eight bars, and fragments of it slowly, out
// of order, in other keys and with wrong notes.
#include "form/demonstrations.h"

#include "form/agreement.h"
#include "form/bar_evidence.h"
#include "form/variants.h"
#include "form/versions.h"
#include "support/shown_piece.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using test::barsRows;
using test::kBar_s;
using test::Recorded;
using test::Row;
using ::testing::Each;

constexpr int kBars = 8;

Recorded piecePlayed() {
    Recorded recorded;
    recorded.play(barsRows(0, kBars, 1.0));
    return recorded;
}

void showBars(Recorded& recorded, int first, int count, double tempo, int raised = 0) {
    std::vector<Row> rows = barsRows(first, count, recorded.end_s() + 2.0, tempo);
    for (Row& row : rows)
        row.midi += raised;
    recorded.play(rows);
}

void expectOfBars(const Demonstration& shown, int first, int count, double tempo) {
    ASSERT_TRUE(shown.inPiece());
    EXPECT_NEAR(shown.ofPiece().start_s, 1.0 + first * kBar_s, 0.1);
    EXPECT_NEAR(shown.ofPiece().end_s, 1.0 + (first + count) * kBar_s, 0.3);
    EXPECT_NEAR(shown.tempoRatio(), tempo, 0.03 * tempo);
}

TEST(Demonstrations, ThePieceAloneIsItself) {
    const auto found = demonstrationsOf(piecePlayed().lead());
    ASSERT_EQ(found.front().size(), 1U);
    EXPECT_TRUE(found.front().front().isItself());
    EXPECT_EQ(found.front().front().kind, DemonstrationKind::Piece);
}

TEST(Demonstrations, FragmentsLieOnTheirBarsAtAnyTempo) {
    Recorded recorded = piecePlayed();
    const struct {
        int first;
        int count;
        double tempo;
    } fragments[] = {{4, 2, 0.5}, {0, 1, 0.4}, {6, 2, 1.0}, {2, 3, 0.7}, {4, 2, 1.5}};
    for (const auto& f : fragments)
        showBars(recorded, f.first, f.count, f.tempo);
    const auto found = demonstrationsOf(recorded.lead()).front();
    ASSERT_EQ(found.size(), 1 + std::size(fragments));
    for (std::size_t i = 0; i < std::size(fragments); ++i) {
        expectOfBars(found[i + 1], fragments[i].first, fragments[i].count, fragments[i].tempo);
        EXPECT_EQ(found[i + 1].kind, DemonstrationKind::Part);
        EXPECT_TRUE(found[i + 1].learn.value);
        EXPECT_GT(found[i + 1].probability, 0.9);
    }
}

TEST(Demonstrations, AnotherTakeMayJumpWithinOneStretch) {
    Piece piece = piecePlayed().lead();
    std::vector<Row> rows = barsRows(5, 2, 1.0, 0.6);
    for (const Row& row : barsRows(1, 2, rows.back().end_s + 0.3, 0.6))
        rows.push_back(row);
    piece.takes.push_back(Recorded().play(rows).other());
    const auto found = demonstrationsOf(piece)[1];
    ASSERT_EQ(found.size(), 2U);
    expectOfBars(found[0], 5, 2, 0.6);
    expectOfBars(found[1], 1, 2, 0.6);
}

TEST(Demonstrations, AllOfItAgainIsThePieceAgain) {
    Recorded recorded = piecePlayed();
    showBars(recorded, 0, kBars, 0.5);
    const auto found = demonstrationsOf(recorded.lead()).front();
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[1].kind, DemonstrationKind::Piece);
    EXPECT_FALSE(found[1].isItself());
}

TEST(Demonstrations, APassageInAnotherKeyIsFound) {
    Piece piece = piecePlayed().lead();
    Recorded other;
    showBars(other, 2, 4, 1.0, 3);
    piece.takes.push_back(other.other());
    const auto found = demonstrationsOf(piece)[1];
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].semitones, 3);
    expectOfBars(found[0], 2, 4, 1.0);
}

TEST(Demonstrations, OtherMusicIsSomethingElseAndAFigureAnExercise) {
    Recorded recorded = piecePlayed();
    showBars(recorded, 40, 1, 1.0);
    std::vector<Row> figure;
    for (int i = 0; i < 24; ++i) {
        const double at_s = recorded.end_s() + 2.0 + 0.25 * i;
        static constexpr int kFigure[] = {47, 50, 54, 50};
        figure.push_back({at_s, at_s + 0.2, kFigure[i % 4]});
    }
    recorded.play(figure);
    for (Row& row : figure) {
        row.start_s += 10.0;
        row.end_s += 10.0;
    }
    recorded.play(figure);
    const auto found = demonstrationsOf(recorded.lead()).front();
    ASSERT_EQ(found.size(), 4U);
    EXPECT_EQ(found[1].kind, DemonstrationKind::Other);
    EXPECT_EQ(found[2].kind, DemonstrationKind::Exercise);
    EXPECT_EQ(found[3].kind, DemonstrationKind::Again);
    for (std::size_t i = 1; i < found.size(); ++i)
        EXPECT_FALSE(found[i].inPiece());
}

// Somebody talks in the middle: what comes after it is more of the piece, not something else.
TEST(Demonstrations, ThePieceGoesOnAfterTalk) {
    Recorded recorded;
    recorded.play(barsRows(0, 4, 1.0)).play(barsRows(4, 4, 14.0));
    showBars(recorded, 5, 2, 0.5);
    const auto found = demonstrationsOf(recorded.lead()).front();
    ASSERT_EQ(found.size(), 3U);
    EXPECT_TRUE(found[0].isItself());
    EXPECT_TRUE(found[1].isItself());
    EXPECT_NEAR(found[2].ofPiece().start_s, 16.0, 0.1);
}

TEST(Demonstrations, WhatDiffersIsNotLearnedFromUntilAPersonSaysSo) {
    Recorded recorded = piecePlayed();
    showBars(recorded, 2, 2, 0.5);
    std::vector<Row> wrong = barsRows(2, 2, recorded.end_s() + 2.0, 0.5);
    wrong[3].midi += 1;
    wrong[9].midi -= 2;
    recorded.play(wrong);
    Piece piece = recorded.lead();
    auto found = demonstrationsOf(piece).front();
    ASSERT_EQ(found.size(), 3U);
    EXPECT_TRUE(found[1].learn.value);
    EXPECT_FALSE(found[2].learn.value);
    EXPECT_FALSE(found[2].learn.isSet());
    piece.takes[0].demonstrations = found;
    piece.takes[0].demonstrations[2].learn.set(true);
    EXPECT_TRUE(demonstrationsOf(piece).front()[2].learn.value);
}

// Two later playings agree on what the first one has otherwise: then it is the first that differs.
// Wrong, then right: a teacher shows both, and both are offered as a pair.
TEST(Demonstrations, AWrongAndARightOneAfterTheOtherAreAPair) {
    Recorded recorded = piecePlayed();
    std::vector<Row> wrong = barsRows(2, 2, recorded.end_s() + 2.0, 0.5);
    wrong[3].midi += 1;
    recorded.play(wrong);
    showBars(recorded, 2, 2, 0.5);
    showBars(recorded, 5, 2, 0.5);
    const auto found = demonstrationsOf(recorded.lead()).front();
    ASSERT_EQ(found.size(), 4U);
    EXPECT_FALSE(found[1].learn.value);
    EXPECT_EQ(nextOfSameBars(found, 1), std::optional<std::size_t>(2));
    EXPECT_TRUE(found[2].learn.value);
    EXPECT_EQ(nextOfSameBars(found, 2), std::nullopt);
}

TEST(Demonstrations, WhatMostPlayIsNotWrong) {
    Recorded recorded = piecePlayed();
    for (int k = 0; k < 3; ++k) {
        std::vector<Row> rows = barsRows(2, 2, recorded.end_s() + 2.0, 0.5);
        rows[3].midi += 1;
        recorded.play(rows);
    }
    const auto found = demonstrationsOf(recorded.lead()).front();
    EXPECT_TRUE(std::ranges::all_of(found, [](const auto& d) { return d.learn.value; }));
}

TEST(Demonstrations, NothingToHearIsNothing) {
    Piece silent;
    EXPECT_TRUE(demonstrationsOf(silent).empty());
    silent.takes.resize(2);
    for (const auto& of_take : demonstrationsOf(silent))
        EXPECT_TRUE(of_take.empty());
}

Piece withDemonstrations(Piece piece) {
    auto found = demonstrationsOf(piece);
    for (std::size_t t = 0; t < found.size(); ++t)
        piece.takes[t].demonstrations = std::move(found[t]);
    return piece;
}

// A verse of two bars eight times, differences planted in some of them.
Piece verseEightTimes() {
    Recorded recorded;
    for (int k = 0; k < 8; ++k) {
        std::vector<Row> rows =
            barsRows(0, 2, k == 0 ? 1.0 : recorded.end_s() + 2.0, 0.9 + 0.03 * k);
        if (k == 2 || k == 4 || k == 5) // slurred in three
            rows[5].techniques = {Technique::HammerOn};
        if (k == 3 || k == 6) { // an extra open string in two
            Row extra = rows[8];
            extra.midi = 40;
            rows.insert(rows.begin() + 8, extra);
        }
        if (k == 7)
            rows[12].midi += 2;
        if (k == 1) // one left out
            rows.erase(rows.begin() + 10);
        recorded.play(rows);
    }
    return withDemonstrations(recorded.lead());
}

TEST(Variants, EachPlantedDifferenceIsCounted) {
    const auto variants = variantsOf(versionsOf(verseEightTimes()));
    const auto timesOf = [&](VersionDifferenceKind kind) {
        const auto found = std::ranges::find(variants, kind, &Variant::kind);
        return found == variants.end() ? std::pair(0, 0) : std::pair(found->times, found->of);
    };
    EXPECT_EQ(timesOf(VersionDifferenceKind::Slurred), std::pair(3, 8));
    EXPECT_EQ(timesOf(VersionDifferenceKind::Added), std::pair(2, 8));
    EXPECT_EQ(timesOf(VersionDifferenceKind::Missing), std::pair(1, 8));
    EXPECT_EQ(timesOf(VersionDifferenceKind::Pitch), std::pair(1, 8));
    EXPECT_EQ(variants.size(), 4U);
    EXPECT_EQ(variants.front().kind, VersionDifferenceKind::Slurred) << "the most frequent first";
}

// The same in one go: then the repeats of the phrase are the playings.
TEST(Variants, RepeatsWithinThePieceCountToo) {
    std::vector<Row> rows;
    for (int k = 0; k < 4; ++k)
        for (Row row : barsRows(0, 2, 2.0 * kBar_s * k)) {
            if (k == 2 && rows.size() == 2U * 16U + 3U)
                row.techniques = {Technique::HammerOn};
            rows.push_back(row);
        }
    const Piece piece = test::pieceOf(rows);
    const auto bars = contentsOf(piece, quantise(piece));
    const auto repeats = repeatsOf(piece, bars, phrasesOf(bars));
    const auto variants = variantsOf(repeats);
    ASSERT_EQ(variants.size(), 1U);
    EXPECT_EQ(variants[0].kind, VersionDifferenceKind::Slurred);
    EXPECT_EQ(variants[0].times, 1);
}

TEST(Agreement, OthersSupportAndContradict) {
    Recorded recorded = piecePlayed();
    for (int k = 0; k < 3; ++k) {
        std::vector<Row> rows = barsRows(2, 2, recorded.end_s() + 2.0, 0.5);
        rows.erase(rows.begin() + 6);
        recorded.play(rows);
    }
    Piece piece = withDemonstrations(recorded.lead());
    const std::size_t left_out = 2U * 8U + 6U;
    for (Note& note : piece.notes)
        note.existence.probability = 0.6;
    poolVersions(piece, versionsOf(piece));
    EXPECT_LT(piece.notes[left_out].existence.probability, 0.4);
    EXPECT_GT(piece.notes[left_out - 1].existence.probability, 0.9);
    EXPECT_DOUBLE_EQ(piece.notes[0].existence.probability, 0.6) << "nobody else plays it";
    const auto& reasons = piece.notes[left_out].existence.reasons;
    ASSERT_EQ(reasons.size(), 1U);
    EXPECT_EQ(reasons[0].kind, ReasonKind::PlayedInOthers);
    EXPECT_EQ(std::pair(reasons[0].a, reasons[0].b), std::pair(1, 4));
}

TEST(Agreement, SaidAnewTakesTheFormerWordBack) {
    Recorded recorded = piecePlayed();
    showBars(recorded, 2, 2, 0.5);
    Piece piece = withDemonstrations(recorded.lead());
    for (Note& note : piece.notes)
        note.existence.probability = 0.6;
    Piece twice = piece;
    poolVersions(piece, versionsOf(piece));
    poolVersions(twice, versionsOf(twice));
    poolVersions(twice, versionsOf(twice));
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        EXPECT_NEAR(
            piece.notes[i].existence.probability, twice.notes[i].existence.probability, 1e-9);
    for (Demonstration& one : twice.takes[0].demonstrations)
        one.learn.set(one.isItself());
    poolVersions(twice, versionsOf(twice));
    for (const Note& note : twice.notes)
        EXPECT_NEAR(note.existence.probability, 0.6, 1e-9);
}

TEST(Agreement, WhatAllOthersPlayWasPlayed) {
    Recorded lead;
    std::vector<Row> rows = barsRows(0, kBars, 1.0);
    const Row lacking = rows[19];
    rows.erase(rows.begin() + 19);
    lead.play(rows);
    for (int k = 0; k < 3; ++k)
        showBars(lead, 2, 2, 0.5);
    Piece piece = withDemonstrations(lead.lead());
    const std::size_t before = piece.notes.size();
    EXPECT_EQ(poolVersions(piece, versionsOf(piece)), 1);
    ASSERT_EQ(piece.notes.size(), before + 1);
    EXPECT_EQ(piece.notes[19].midi(), lacking.midi);
    EXPECT_NEAR(piece.notes[19].onset_s(), lacking.start_s, 0.05);
    EXPECT_TRUE(checkPiece(piece).ok());
}

TEST(BarEvidence, TheWorstBarIsFirstAndTheSlowestPlayingTellsMost) {
    Recorded recorded = piecePlayed();
    showBars(recorded, 4, 2, 0.5);
    showBars(recorded, 4, 2, 0.8);
    Piece piece = withDemonstrations(recorded.lead());
    for (double& beat : piece.timeline.beats_s)
        beat += 1.0;
    piece.notes[3U * 8U + 1U].pitch.probability = 0.3;
    for (NotePlan& plan : piece.asPlayed().plans) {
        plan.position.value = {3, 5};
        plan.position.probability = 0.95;
    }
    const auto bars = contentsOf(piece, quantise(piece));
    const auto evidence = barEvidence(piece, bars, versionsOf(piece));
    ASSERT_FALSE(evidence.empty());
    EXPECT_EQ(evidence.front().number, 4);
    const auto fifth = std::ranges::find(evidence, 5, &BarEvidence::number);
    ASSERT_NE(fifth, evidence.end());
    EXPECT_EQ(fifth->playings, 3);
    EXPECT_EQ(fifth->best_demonstration, std::optional<std::size_t>(1));
    const auto first = std::ranges::find(evidence, 1, &BarEvidence::number);
    EXPECT_EQ(first->playings, 1);
    EXPECT_FALSE(first->best_demonstration);
}

} // namespace
} // namespace wirenote
