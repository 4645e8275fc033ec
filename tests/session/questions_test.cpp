// What is asked of the piece as a whole, and what is not.
#include "session/questions.h"

#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "piece/edits.h"
#include "session/files.h"
#include "support/wrong_beats.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

// The beat at two thirds of its tempo; much that sounds lower than the neck.
Piece doubtful() {
    Piece piece = test::twoThirdsOfTheTempo({45, 52, 57, 52, 45, 50, 57, 62});
    for (int i = 0; i < 16; ++i)
        piece.misses.push_back({{1.0 + 0.5 * i, 1.2 + 0.5 * i}, 28 + 5 * (i % 2), 0.5, {0, 0}});
    return piece;
}

const Question* of(const std::vector<Question>& questions, QuestionKind kind) {
    const auto at = std::ranges::find(questions, kind, &Question::kind);
    return at == questions.end() ? nullptr : &*at;
}

TEST(Questions, InstrumentAndTempoComeFirstAndTheRestWaits) {
    const auto questions = openQuestions(doubtful());
    ASSERT_EQ(questions.size(), 2U) << "bars rest on the tempo";
    EXPECT_EQ(questions[0].kind, QuestionKind::Instrument);
    EXPECT_EQ(questions[1].kind, QuestionKind::Tempo);
    for (const Question& question : questions) {
        EXPECT_GE(question.choices.size(), 2U);
        EXPECT_LE(question.choices.size(), 3U);
        int now = 0;
        for (std::size_t i = 0; i < question.choices.size(); ++i) {
            now += question.choices[i].now ? 1 : 0;
            if (i > 0) {
                EXPECT_LE(question.choices[i].probability, question.choices[i - 1].probability);
            }
        }
        EXPECT_EQ(now, 1) << "what stands now can be taken too";
    }
    EXPECT_EQ(questions[0].choices.front().tuning.instrument.kind, InstrumentKind::Bass);
    EXPECT_TRUE(std::ranges::any_of(questions[1].choices, [](const auto& choice) {
        return std::abs(choice.timeline.tempo_bpm - 148.0) < 2.0;
    }));
    EXPECT_FALSE(questions[1].choices.front().now) << "the triplets that were heard are not";
}

// Programs that read the notes are told too, until a person has said it.
TEST(Questions, OtherTempiStandInTheNotes) {
    Piece piece = doubtful();
    const auto text = encode(piece, FileFormat::Notes);
    ASSERT_TRUE(text.ok());
    EXPECT_NE(text->find("tempo_alternatives"), std::string::npos);
    EXPECT_NE(text->find("\"bpm\": 148"), std::string::npos);
    piece.settled.tempo = true;
    const auto settled = encode(piece, FileFormat::Notes);
    ASSERT_TRUE(settled.ok());
    EXPECT_EQ(settled->find("tempo_alternatives"), std::string::npos);
}

TEST(Questions, WhatAPersonSaidIsNotAsked) {
    Piece piece = doubtful();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.setInstrument(standardInstrument(InstrumentKind::Guitar7)).ok());
    EXPECT_EQ(of(openQuestions(piece), QuestionKind::Instrument), nullptr);
    ASSERT_TRUE(editor.settle(settledBy(QuestionKind::Tempo)).ok());
    EXPECT_EQ(of(openQuestions(piece), QuestionKind::Tempo), nullptr);
    ASSERT_TRUE(editor.setTempo(120.0).ok());
    EXPECT_TRUE(piece.settled.tempo);
    EXPECT_FALSE(piece.settled.one);
    ASSERT_TRUE(editor.setDownbeat(piece.notes.front().id).ok());
    EXPECT_TRUE(piece.settled.one);
}

// A nylon guitar that was opened as an electric one.
Piece ofNylon(double probability) {
    Piece piece = test::twoThirdsOfTheTempo({40, 47, 52, 55, 59, 64, 59, 55});
    piece.settled = {.tempo = true, .metre = true, .one = true};
    if (!piece.lead())
        piece.takes.emplace_back();
    piece.lead()->sounds_like = {{InstrumentKind::Nylon, probability},
                                 {InstrumentKind::Guitar, 1.0 - probability}};
    return piece;
}

TEST(Questions, OtherStringsThanWereSaidAreOfferedOnce) {
    Piece piece = ofNylon(0.95);
    const auto questions = openQuestions(piece);
    ASSERT_EQ(questions.size(), 1U);
    const Choice& first = questions[0].choices.front();
    EXPECT_TRUE(first.by_sound);
    EXPECT_EQ(first.tuning.instrument.kind, InstrumentKind::Nylon);
    EXPECT_EQ(tuningText(first.tuning.instrument), tuningText(piece.instrument));
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.settle(settledBy(QuestionKind::Instrument)).ok()) << "it is no nylon guitar";
    EXPECT_TRUE(openQuestions(piece).empty());
}

TEST(Questions, StringsThatMayBeWhatWasSaidAreNotAskedAbout) {
    EXPECT_TRUE(openQuestions(ofNylon(0.7)).empty());
}

TEST(Questions, WhatATakeSoundsLikeIsKept) {
    const Piece piece = ofNylon(0.95);
    const auto back = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(back.ok());
    EXPECT_EQ(back->lead()->sounds_like, piece.lead()->sounds_like);
}

TEST(Questions, WhatNearlyWasANoteAndTheKindStandInTheNotes) {
    Piece piece = ofNylon(0.95);
    piece.misses.push_back({{1.0, 1.2}, 52, 0.4, {0, 0}});
    const auto text = encode(piece, FileFormat::Notes);
    ASSERT_TRUE(text.ok());
    EXPECT_NE(text->find("near_misses"), std::string::npos);
    EXPECT_NE(text->find("sounds_like"), std::string::npos);
    EXPECT_NE(text->find("nylon"), std::string::npos);
    EXPECT_TRUE(readNotesJson(*text).ok()) << "and is read again";
}

TEST(Questions, NoneOfAPieceWithoutNotes) {
    EXPECT_TRUE(openQuestions(Piece{}).empty());
}

TEST(Questions, AnswersAreKeptInTheFile) {
    Piece piece = doubtful();
    piece.settled = {.instrument = true, .tempo = false, .metre = true, .one = false};
    piece.chord_names = {{1.5, "Am"}};
    const auto again = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->settled, piece.settled);
    EXPECT_EQ(again->chord_names, piece.chord_names);
}

} // namespace
} // namespace wirenote
