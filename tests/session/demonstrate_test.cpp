// From recordings to what they show: the simulated instrument plays four bars, then some of them
// slowly, once with wrong notes; in one recording and in two.
#include "session/demonstrate.h"

#include "form/agreement.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "media/sound_file.h"
#include "piece/doubts.h"
#include "session/resolve.h"
#include "session/transcribe.h"
#include "session/workspace.h"
#include "sounding/render.h"
#include "support/scratch.h"
#include "support/shown_piece.h"

#include <atomic>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

using test::barsRows;
using test::kBar_s;
using test::Row;

constexpr double kPause_s = 4.0; // between what is played: longer than a rest

void record(const std::vector<Row>& rows,
            const std::filesystem::path& file,
            double pluck_share = 0.0) {
    Piece piece = test::pieceOf(rows);
    placeAndStroke(piece);
    RenderOptions options;
    options.pluck_share = pluck_share;
    const auto sound = renderPiece(piece, options, {});
    ASSERT_TRUE(sound.ok());
    ASSERT_TRUE(writeWav(file, sound->view()).ok());
}

std::vector<Row> joined(std::vector<Row> one, const std::vector<Row>& other) {
    one.insert(one.end(), other.begin(), other.end());
    return one;
}

struct Fragments {
    std::vector<Row> rows;
    double slow_s = 0.0;
    double wrong_s = 0.0;
};

// Bars 3 and 4 slowly, then bars 2 and 3 with two wrong notes.
Fragments fragments(double from_s) {
    Fragments f;
    f.slow_s = from_s;
    f.rows = barsRows(2, 2, from_s, 0.6);
    f.wrong_s = f.rows.back().end_s + kPause_s;
    std::vector<Row> wrong = barsRows(1, 2, f.wrong_s, 0.7);
    wrong[3].midi += 1;
    wrong[10].midi += 2;
    f.rows = joined(f.rows, wrong);
    return f;
}

const Demonstration* shownAt(const Take& take, double at_s) {
    for (const Demonstration& one : take.demonstrations)
        if (one.span.contains(at_s + 0.1))
            return &one;
    return nullptr;
}

void expectShown(const Take& take, const Fragments& f) {
    const Demonstration* slow = shownAt(take, f.slow_s);
    const Demonstration* wrong = shownAt(take, f.wrong_s);
    ASSERT_TRUE(slow && wrong);
    EXPECT_NEAR(slow->ofPiece().start_s, 0.5 + 2 * kBar_s, 0.1);
    EXPECT_NEAR(slow->tempoRatio(), 0.6, 0.02);
    EXPECT_TRUE(slow->learn.value);
    EXPECT_NEAR(wrong->ofPiece().start_s, 0.5 + kBar_s, 0.1);
    EXPECT_FALSE(wrong->learn.value);
}

// Plucked near the neck, for the lens: the same notes, and another sound.
TEST(Demonstrate, WhatIsPluckedElsewhereIsOfferedForTheMark) {
    const test::Scratch scratch;
    record(barsRows(0, 4, 0.5), scratch / "lead.wav");
    record(barsRows(0, 4, 0.5, 0.8), scratch / "alike.wav");
    record(barsRows(0, 4, 0.5, 0.8), scratch / "elsewhere.wav", 0.36);
    auto piece = transcribe(scratch / "lead.wav", {}, {});
    ASSERT_TRUE(piece.ok());
    piece->lead()->path = (scratch / "lead.wav").string();
    for (const char* name : {"alike.wav", "elsewhere.wav"}) {
        Take take;
        take.name = name;
        take.path = (scratch / name).string();
        take.length_s = 12.0;
        piece->takes.push_back(take);
    }
    const auto heard = hearEveryTake(*piece, {});
    ASSERT_TRUE(heard.ok()) << heard.error().sentence();
    for (const std::size_t take : {1U, 2U})
        ASSERT_EQ(heard->takes[take].demonstrations.size(), 1U);
    EXPECT_TRUE(heard->takes[1].demonstrations.front().learn.value);
    EXPECT_FALSE(heard->takes[2].demonstrations.front().learn.value);
    EXPECT_FALSE(heard->takes[2].demonstrations.front().learn.isSet()) << "a person may say so";
}

TEST(Demonstrate, OneRecordingShowsItsPieceInParts) {
    const test::Scratch scratch;
    const auto piece_rows = barsRows(0, 4, 0.5);
    const Fragments f = fragments(piece_rows.back().end_s + kPause_s);
    record(joined(piece_rows, f.rows), scratch / "lesson.wav");
    auto piece = transcribe(scratch / "lesson.wav", {}, {});
    ASSERT_TRUE(piece.ok());
    ASSERT_TRUE(recogniseDemonstrations(*piece, {}).ok());
    expectShown(*piece->lead(), f);
    EXPECT_TRUE(piece->lead()->demonstrations.front().isItself());
    EXPECT_TRUE(checkPiece(*piece).ok());
    const auto again = readPieceJson(writePieceJson(*piece));
    ASSERT_TRUE(again.ok()) << again.error().sentence();
    EXPECT_TRUE(again->takes == piece->takes);
    EXPECT_NE(writeNotesJson(*piece).find("\"tempo_ratio\""), std::string::npos);
    for (const Doubt& doubt : openDoubts(*piece))
        EXPECT_LT(doubt.onset_s, f.slow_s) << "nobody is asked about what is shown once more";
}

class TwoRecordings : public ::testing::Test {
  protected:
    TwoRecordings() : m_shown(fragments(1.0)) {
        record(barsRows(0, 4, 0.5), scratch / "lead.wav");
        record(m_shown.rows, scratch / "other.wav");
        auto heard = transcribe(scratch / "lead.wav", {}, {});
        EXPECT_TRUE(heard.ok());
        piece = std::move(*heard);
        piece.lead()->path = (scratch / "lead.wav").string();
        const auto info = readMediaInfo(scratch / "other.wav");
        EXPECT_TRUE(info.ok());
        piece.takes.push_back(takeOf(scratch / "other.wav", *info));
    }
    test::Scratch scratch;
    Fragments m_shown;
    Piece piece;
};

TEST_F(TwoRecordings, TheOtherIsHeardAndVisitsThePiece) {
    const auto after = hearEveryTake(piece, {});
    ASSERT_TRUE(after.ok());
    EXPECT_EQ(after->takes[1].notes.size(), 32U);
    expectShown(after->takes[1], m_shown);
    EXPECT_EQ(after->takes[1].alignment.stretches.size(), 2U);
    EXPECT_EQ(after->takes[1].alignment.everyVisit({0.5 + 2.5 * kBar_s}).size(), 2U);
    // What both play is believed more.
    const auto counted = playedInVersions(*after, versionsOf(*after));
    EXPECT_EQ(counted[2U * 8U + 2U].times, 2);
    EXPECT_EQ(after->lead()->path, piece.lead()->path);
}

TEST_F(TwoRecordings, APersonSaysThatAPlayingCounts) {
    auto after = hearEveryTake(piece, {});
    ASSERT_TRUE(after.ok());
    const Demonstration* wrong = shownAt(after->takes[1], m_shown.wrong_s);
    ASSERT_TRUE(wrong);
    const auto index = static_cast<std::size_t>(wrong - after->takes[1].demonstrations.data());
    const auto outcome = tryEdit(
        *after,
        0.0,
        [index](PieceEditor& e) { return e.setLearn(1, index, true); },
        Resolve::Versions);
    ASSERT_TRUE(outcome.ok());
    Piece counted = *after;
    apply(outcome->delta, counted);
    EXPECT_EQ(playedInVersions(counted, versionsOf(counted))[2U * 8U + 5U].of, 3);
    revert(outcome->delta, counted);
    EXPECT_TRUE(counted == *after);
    ASSERT_TRUE(recogniseDemonstrations(counted, {}).ok());
    EXPECT_FALSE(shownAt(counted.takes[1], m_shown.wrong_s)->learn.value);
}

// One fragment right after the other, without a breath: where the first ends the second begins.
TEST_F(TwoRecordings, FragmentsWithoutABreathDoNotOverlap) {
    std::vector<Row> rows = barsRows(2, 1, 1.0, 0.5);
    for (const int bar : {0, 3, 1})
        rows = joined(rows, barsRows(bar, 1, rows.back().end_s + 0.02, 1.0));
    record(rows, scratch / "other.wav");
    const auto after = hearEveryTake(piece, {});
    ASSERT_TRUE(after.ok());
    EXPECT_TRUE(after->takes[1].alignment.valid());
    EXPECT_TRUE(checkPiece(*after).ok());
}

TEST_F(TwoRecordings, StoppedChangesNothing) {
    const std::atomic<bool> stop{true};
    JobControl job;
    job.cancel = &stop;
    EXPECT_EQ(hearEveryTake(piece, job).error().kind, ErrorKind::Cancelled);
}

TEST_F(TwoRecordings, AMissingRecordingIsNamed) {
    std::filesystem::remove(scratch / "other.wav");
    const auto after = hearEveryTake(piece, {});
    ASSERT_FALSE(after.ok());
    EXPECT_NE(after.error().sentence().find("other.wav"), std::string::npos);
}

} // namespace
} // namespace wirenote
