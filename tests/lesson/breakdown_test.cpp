// How a piece is cut and in which order it is taught.
#include "lesson/breakdown.h"
#include "lesson/stumbles.h"
#include "lesson/teaching_order.h"
#include "support/pieces.h"
#include "support/random_sheets.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Quarters over so many bars of four, bar by bar on the pitches of a list.
Piece quarters(const std::vector<int>& bars) {
    std::vector<test::Row> rows;
    for (std::size_t bar = 0; bar < bars.size(); ++bar)
        for (int beat = 0; beat < 4; ++beat) {
            const double at_s = 2.0 * static_cast<double>(bar) + 0.5 * beat;
            const int fret = bars[bar] + beat;
            rows.push_back({at_s, at_s + 0.45, 55 + fret, {3, fret}});
        }
    return test::pieceOf(rows);
}

TEST(Breakdown, EveryNoteIsInOnePhraseInRandomPieces) {
    for (unsigned seed = 0; seed < 200; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        const LessonFacts facts(piece);
        const Breakdown breakdown = breakdownOf(facts);
        std::size_t covered = 0;
        Rational last = breakdown.phrases.empty() ? Rational(0) : breakdown.phrases.front().from;
        for (const TeachPhrase& phrase : breakdown.phrases) {
            EXPECT_LT(phrase.from, phrase.to) << seed;
            EXPECT_GE(phrase.from, last) << seed;
            last = phrase.to;
            const auto [first, end] = facts.momentsIn(phrase.from, phrase.to);
            covered += end - first;
        }
        EXPECT_EQ(covered, facts.moments().size()) << seed;
    }
}

TEST(Breakdown, PhrasesAreSecondsLongAndBeginAtBarLines) {
    const Piece piece = quarters({1, 2, 3, 4, 5, 6, 7, 8, 1, 3, 5, 7, 2, 4, 6, 8});
    const LessonFacts facts(piece);
    for (const TeachPhrase& phrase : breakdownOf(facts).phrases) {
        EXPECT_GE(phrase.span.length_s(), 1.5);
        EXPECT_LE(phrase.span.length_s(), 12.0);
        EXPECT_EQ(facts.placeAt(phrase.from).beat, 0);
    }
}

TEST(Breakdown, WhatComesAgainIsTaughtOnce) {
    const Piece piece = quarters({1, 3, 6, 9, 1, 3, 6, 9});
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    std::size_t taught = 0;
    for (const TeachPhrase& phrase : breakdown.phrases) {
        if (phrase.first_bar >= 5) {
            EXPECT_TRUE(phrase.same_as.has_value());
            EXPECT_TRUE(phrase.differences.empty());
            EXPECT_FALSE(phrase.taught());
        }
        taught += phrase.taught() ? 1 : 0;
    }
    EXPECT_EQ(2 * taught, breakdown.phrases.size());
    for (const TeachStep& step : breakdown.steps)
        if (step.kind == StepKind::Fretting) {
            EXPECT_TRUE(breakdown.phrases[step.phrases[0]].taught());
        }
}

// The same pitches on other strings are another thing to learn.
TEST(Breakdown, ARepeatOnOtherStringsIsTaughtAnew) {
    Piece piece = quarters({5, 7, 5, 7});
    for (std::size_t i = 8; i < 16; ++i) {
        Position& place = piece.asPlayed().plans[i].position.value;
        place = {4, place.fret + 5};
    }
    const LessonFacts facts(piece);
    for (const TeachPhrase& phrase : breakdownOf(facts).phrases)
        EXPECT_FALSE(phrase.same_as.has_value());
}

std::string orderOf(TeachingOrder order) {
    Piece piece = quarters({1, 3, 6, 9});
    piece.lesson.manner.order = order;
    piece.lesson.manner.tempi = {0.5, 1.0};
    piece.lesson.phrases = {{{0.0, 4.0}, "", false, false}, {{4.0, 8.0}, "", false, false}};
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    std::string text;
    for (const TeachStep& step : breakdown.steps) {
        text += "WCFPTSfJL"[static_cast<std::size_t>(step.kind)];
        for (const std::size_t p : step.phrases)
            text += breakdown.phrases[p].letter;
        text += ' ';
    }
    return text;
}

// The orders of teaching (needs N114, N115): common practice.
TEST(Breakdown, GoesInTheOrderOfTheTeacher) {
    EXPECT_EQ(orderOf(TeachingOrder::FrettingFirst),
              "WAB CA FA PA TA SA fA CB FB PB TB SB fB JAB JAB ");
    EXPECT_EQ(orderOf(TeachingOrder::PluckingFirst),
              "WAB CA PA FA TA SA fA CB PB FB TB SB fB JAB JAB ");
    EXPECT_EQ(orderOf(TeachingOrder::HandByHand), "WAB FA FB PA PB TA SA fA TB SB fB JAB JAB ");
    EXPECT_EQ(orderOf(TeachingOrder::Licks), "WAB WA CA FA PA SA fA WB CB FB PB SB fB JAB ");
    EXPECT_EQ(orderOf(TeachingOrder::Layers),
              "WAB CA LA LA PA LA FA SA fA CB LB LB PB LB FB SB fB JAB JAB ");
}

TEST(Breakdown, WhatIsLeftOutIsNotTaught) {
    Piece piece = quarters({1, 3, 6, 9});
    piece.lesson.phrases = {{{0.0, 4.0}, "", false, true}, {{4.0, 8.0}, "", true, false}};
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    EXPECT_EQ(breakdown.left_out(), (std::vector<std::size_t>{1}));
    EXPECT_TRUE(breakdown.phrases[0].free);
    for (const TeachStep& step : breakdown.steps)
        EXPECT_EQ(std::ranges::count(step.phrases, 1U), 0);
}

TEST(Breakdown, OnlyTheChosenBarsAreCut) {
    Piece piece = quarters({1, 3, 6, 9, 2, 4, 7, 8});
    piece.lesson.taught = {4.0, 8.0};
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    ASSERT_FALSE(breakdown.phrases.empty());
    EXPECT_EQ(breakdown.phrases.front().first_bar, 3);
    EXPECT_EQ(breakdown.phrases.back().last_bar, 4);
}

TEST(Breakdown, AnEmptyPieceHasNoPhrases) {
    const Piece piece = test::pieceOf({});
    const LessonFacts facts(piece);
    EXPECT_TRUE(breakdownOf(facts).phrases.empty());
    EXPECT_TRUE(breakdownOf(facts).steps.empty());
}

TEST(Stumbles, AShiftInsideFastNotesIsForeseen) {
    std::vector<test::Row> rows;
    const int frets[] = {1, 2, 1, 2, 12, 13, 12, 13};
    for (int i = 0; i < 8; ++i)
        rows.push_back({0.125 * i, 0.125 * i + 0.12, 55 + frets[i], {3, frets[i]}});
    Piece piece = test::pieceOf(rows);
    for (std::size_t i = 0; i < 8; ++i) {
        NotePlan& plan = piece.asPlayed().plans[i];
        plan.hand_fret = i < 4 ? 1 : 12;
        plan.finger.value = frets[i] == plan.hand_fret ? Finger::Index : Finger::Middle;
    }
    const LessonFacts facts(piece);
    const auto found = stumblesOf(facts);
    ASSERT_FALSE(found.empty());
    EXPECT_EQ(found.front().kind, StumbleKind::FastShift);
    EXPECT_NEAR(found.front().at_s, 0.5, 0.01);
}

TEST(Stumbles, ASkippedStringAndTwoLikeStrokesAreForeseen) {
    Piece piece = test::pieceOf({{0.0, 0.1, 45, {5, 0}},
                                 {0.15, 0.25, 64, {1, 0}},
                                 {0.3, 0.4, 64, {1, 0}},
                                 {0.45, 0.55, 64, {1, 0}}});
    const Stroke strokes[] = {Stroke::Down, Stroke::Up, Stroke::Down, Stroke::Down};
    for (std::size_t i = 0; i < 4; ++i)
        piece.asPlayed().plans[i].stroke.value = strokes[i];
    const LessonFacts facts(piece);
    std::vector<StumbleKind> kinds;
    for (const Stumble& one : stumblesOf(facts))
        kinds.push_back(one.kind);
    EXPECT_EQ(std::ranges::count(kinds, StumbleKind::StringSkip), 1);
    EXPECT_EQ(std::ranges::count(kinds, StumbleKind::StrokeTurns), 1);
}

// A thumb that comes back to the beat after a note of the tune off it is dropped at speed; two
// strings in a row for the thumb are grabbed with fingers (common practice).
TEST(Stumbles, AThumbUnderATuneIsDroppedOrHelped) {
    Piece piece = test::pieceOf({{0.0, 0.9, 45, {5, 0}},
                                 {0.25, 0.9, 64, {1, 0}},
                                 {0.5, 0.9, 50, {4, 0}},
                                 {0.75, 0.9, 55, {3, 0}}});
    const Stroke strokes[] = {Stroke::P, Stroke::A, Stroke::P, Stroke::P};
    for (std::size_t i = 0; i < 4; ++i)
        piece.asPlayed().plans[i].stroke.value = strokes[i];
    const LessonFacts facts(piece);
    const auto found = stumblesOf(facts);
    const auto has = [&found](StumbleKind kind, double at_s) {
        return std::ranges::any_of(found, [&](const Stumble& one) {
            return one.kind == kind && std::abs(one.at_s - at_s) < 0.01;
        });
    };
    EXPECT_TRUE(has(StumbleKind::DroppedThumb, 0.5));
    EXPECT_TRUE(has(StumbleKind::TemptingGrab, 0.75));
}

TEST(Stumbles, ASweepOverStringsIsNoTurnedStroke) {
    Piece piece =
        test::pieceOf({{0.0, 0.1, 45, {5, 0}}, {0.15, 0.25, 50, {4, 0}}, {0.3, 0.4, 55, {3, 0}}});
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.stroke.value = Stroke::Down;
    const LessonFacts facts(piece);
    for (const Stumble& one : stumblesOf(facts))
        EXPECT_NE(one.kind, StumbleKind::StrokeTurns);
}

TEST(Stumbles, AreRankedAndWithinTheirScale) {
    for (unsigned seed = 0; seed < 60; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        const LessonFacts facts(piece);
        double last = 1.0;
        for (const Stumble& one : stumblesOf(facts)) {
            EXPECT_LE(one.score, last) << seed;
            EXPECT_GE(one.score, 0.0) << seed;
            last = one.score;
        }
    }
}

TEST(Breakdown, SomethingEasyFollowsSomethingHard) {
    std::vector<TeachPhrase> phrases(3);
    for (std::size_t i = 0; i < 3; ++i) {
        phrases[i].letter = std::string(1, static_cast<char>('A' + i));
        phrases[i].span = {4.0 * static_cast<double>(i), 4.0 * static_cast<double>(i + 1)};
        phrases[i].hardness = i == 1 ? 0.95 : 0.2;
    }
    const auto steps = stepsOf(phrases, {}, true);
    const auto relief = std::ranges::find(steps, true, &TeachStep::relief);
    ASSERT_NE(relief, steps.end());
    EXPECT_EQ(relief->phrases, (std::vector<std::size_t>{0}));
    EXPECT_EQ((relief - 1)->phrases, (std::vector<std::size_t>{1})) << "after the hard one";
    EXPECT_EQ(std::ranges::count(steps, true, &TeachStep::relief), 1);
    for (const TeachStep& step : steps)
        EXPECT_GT(step.minutes, 0.0);
}

TEST(Breakdown, VoicesAreTaughtApartOnlyWhereThereAreTwo) {
    std::vector<TeachPhrase> phrases(1);
    phrases[0].letter = "A";
    phrases[0].span = {0.0, 4.0};
    TeachingManner manner;
    manner.order = TeachingOrder::VoiceByVoice;
    const auto layers = [&](bool one_voice) {
        return std::ranges::count(
            stepsOf(phrases, manner, one_voice), StepKind::Layer, &TeachStep::kind);
    };
    EXPECT_EQ(layers(false), 2);
    EXPECT_EQ(layers(true), 0);
}

TEST(Breakdown, ALongPieceIsJoinedInParts) {
    std::vector<TeachPhrase> phrases(20);
    for (std::size_t i = 0; i < phrases.size(); ++i)
        phrases[i].span = {4.0 * static_cast<double>(i), 4.0 * static_cast<double>(i + 1)};
    const auto steps = stepsOf(phrases, {}, true);
    for (std::size_t s = 0; s + 1 < steps.size(); ++s)
        if (steps[s].kind == StepKind::Joined) {
            EXPECT_LE(steps[s].phrases.size(), 8U);
        }
    EXPECT_EQ(steps.back().phrases.size(), 20U) << "all of it, in the end";
}

TEST(Stumbles, WhatATeacherSawConfirmsAndStandsBeside) {
    Piece piece = test::pieceOf({{0.0, 0.1, 45, {5, 0}}, {0.15, 0.25, 64, {1, 0}}});
    piece.asPlayed().plans[0].stroke.value = Stroke::Down;
    piece.asPlayed().plans[1].stroke.value = Stroke::Up;
    piece.lesson.observations = {{0.15, StumbleKind::StringSkip, 4, "they hit string 3"},
                                 {0.0, StumbleKind::LongBarre, 2, "they press far too hard"}};
    const LessonFacts facts(piece);
    const auto found = stumblesOf(facts);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].pupils + found[1].pupils, 6);
    EXPECT_EQ(found[0].score, 1.0);
    EXPECT_EQ(pupilsByKind({&piece.lesson,
                            &piece.lesson})[static_cast<std::size_t>(StumbleKind::StringSkip)],
              8);
}

} // namespace
} // namespace wirenote
