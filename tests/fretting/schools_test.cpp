// What the schools do differently, each as its teachers say: common practice.
#include "fretting/placing.h"
#include "fretting/schools.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

class Schools : public ::testing::Test {
  protected:
    // A line of quarter notes at these places, or at any that give these pitches.
    Piece line(const std::vector<Position>& places, InstrumentKind kind = InstrumentKind::Guitar) {
        const Instrument instrument = standardInstrument(kind);
        std::vector<test::Row> rows;
        for (const Position& place : places) {
            const double at_s = 0.5 * static_cast<double>(rows.size());
            rows.push_back({at_s, at_s + 0.45, instrument.midiAt(place), place});
        }
        Piece piece = test::pieceOf(rows);
        piece.instrument = instrument;
        return piece;
    }
    static std::vector<NotePlan> solved(const Piece& piece, const FrettingManner& manner) {
        ReadingHead head;
        head.fretting = manner;
        return place(piece.instrument, piece.rows(), {}, head).plans;
    }
    static std::vector<NotePlan> solved(const Piece& piece, FrettingSchool school) {
        return solved(piece, FrettingManner{school, {}});
    }
    // What sounds together.
    Piece grip(const std::vector<Position>& places) {
        const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
        std::vector<test::Row> rows;
        for (const Position& place : places)
            rows.push_back({0.0, 1.0, instrument.midiAt(place), place});
        return test::pieceOf(rows);
    }
    static std::string ruled(const Piece& piece, FrettingRule rule) {
        return fingers(piece, FrettingManner{FrettingSchool::FingerPerFret, {rule}});
    }
    static std::string fingers(const Piece& piece, FrettingSchool school) {
        return fingers(piece, FrettingManner{school, {}});
    }
    static std::string fingers(Piece piece, const FrettingManner& manner) {
        for (NotePlan& plan : piece.asPlayed().plans)
            plan.position.set(plan.position.value);
        std::string word;
        for (const NotePlan& plan : solved(piece, manner))
            word += plan.finger.value == Finger::Thumb ? 'T'
                    : plan.finger.value == Finger::Open
                        ? '0'
                        : static_cast<char>('1' + static_cast<int>(plan.finger.value) -
                                            static_cast<int>(Finger::Index));
        return word;
    }
    static int openStrings(const Piece& piece, FrettingSchool school) {
        int open = 0;
        for (const NotePlan& plan : solved(piece, school))
            open += plan.finger.value == Finger::Open ? 1 : 0;
        return open;
    }
};

TEST_F(Schools, LowOnTheBassThreeFretsAreForFirstSecondAndFourth) {
    const Piece low = line({{4, 1}, {4, 2}, {4, 3}, {3, 1}, {3, 3}, {3, 1}}, InstrumentKind::Bass);
    EXPECT_EQ(fingers(low, FrettingSchool::BassOneTwoFour), "124141");
    EXPECT_EQ(fingers(low, FrettingSchool::FingerPerFret), "123131");
    const Piece high =
        line({{4, 8}, {4, 9}, {4, 10}, {3, 8}, {3, 10}, {3, 11}}, InstrumentKind::Bass);
    EXPECT_EQ(fingers(high, FrettingSchool::BassOneTwoFour), "123134") << "where frets are narrow";
}

TEST_F(Schools, ThreeFingersDoWithoutTheLittleOne) {
    const Piece box = line({{2, 5}, {2, 8}, {1, 5}, {1, 8}, {1, 5}, {2, 8}, {2, 5}});
    EXPECT_EQ(fingers(box, FrettingSchool::FingerPerFret), "1414141");
    EXPECT_EQ(fingers(box, FrettingSchool::Box), "1313131");
}

TEST_F(Schools, OpenStringsAreWelcomeOrAvoided) {
    const Piece tune = line({{3, 0}, {3, 2}, {2, 0}, {2, 1}, {2, 3}, {1, 0}, {1, 1}, {1, 3}});
    EXPECT_GE(openStrings(tune, FrettingSchool::Open), 3);
    EXPECT_EQ(openStrings(tune, FrettingSchool::Closed), 0);
}

TEST_F(Schools, TheThumbTakesTheThickestStringWhereTheSchoolLetsIt) {
    Piece grip = test::pieceOf({{0.0, 0.9, 41, {6, 1}},
                                {0.005, 0.9, 53, {4, 3}},
                                {0.01, 0.9, 57, {3, 2}},
                                {0.015, 0.9, 60, {2, 1}},
                                {0.02, 0.9, 65, {1, 1}}});
    EXPECT_EQ(fingers(grip, FrettingSchool::ThumbOver), "T3211");
    EXPECT_EQ(fingers(grip, FrettingSchool::FingerPerFret).find('T'), std::string::npos);
}

TEST_F(Schools, AClassicalHandMovesLess) {
    const Piece tune =
        line({{1, 5}, {1, 7}, {1, 8}, {1, 10}, {1, 8}, {1, 7}, {1, 5}, {2, 8}, {2, 6}, {2, 5}});
    const auto shifts = [&](FrettingSchool school) {
        int moved = 0;
        const auto plans = solved(tune, school);
        for (std::size_t i = 1; i < plans.size(); ++i)
            moved += plans[i].hand_fret != plans[i - 1].hand_fret ? 1 : 0;
        return moved;
    };
    EXPECT_LE(shifts(FrettingSchool::Classical), shifts(FrettingSchool::FingerPerFret));
}

// What a person said of some notes tells how the others were played.
TEST_F(Schools, AsPlayedTakesTheFingersThatThisPlayerUses) {
    Piece piece = line(std::vector<Position>(24, Position{3, 7}));
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        NotePlan& plan = piece.asPlayed().plans[i];
        plan.position.set({3, i % 2 == 0 ? 7 : 9});
        piece.notes[i].pitch.value = piece.instrument.midiAt(plan.position.value);
        if (i < 20 && i % 2 == 0)
            plan.finger.set(Finger::Middle);
    }
    EXPECT_EQ(solved(piece, FrettingSchool::AsPlayed)[22].finger.value, Finger::Middle);
}

// One note of a line that a person stopped where it could have been open: this player's lines are
// stopped. And the line stays about that place.
TEST_F(Schools, AGivenPlaceTellsWhereTheLineIs) {
    Piece bass = line({{4, 5}, {4, 5}, {3, 7}, {2, 7}, {3, 7}, {3, 5}, {4, 5}, {4, 8}},
                      InstrumentKind::Bass);
    const std::vector<NotePlan> truth = bass.asPlayed().plans;
    for (NotePlan& plan : bass.asPlayed().plans)
        plan.position = {};
    bass.asPlayed().plans[0].position.set({4, 5});
    const auto plans = solved(bass, FrettingSchool::FingerPerFret);
    for (std::size_t i = 0; i < plans.size(); ++i)
        EXPECT_EQ(plans[i].position.value, truth[i].position.value) << i;
}

// What teachers argue about, both answers each: common practice.
TEST_F(Schools, StringsOnOneFretUnderOneFingerOrEachUnderItsOwn) {
    const Piece a_major = grip({{5, 0}, {4, 2}, {3, 2}, {2, 2}});
    EXPECT_EQ(ruled(a_major, FrettingRule::OneFinger), "0111");
    EXPECT_EQ(ruled(a_major, FrettingRule::SeparateFingers), "0123");
}

TEST_F(Schools, TheNextStringOnTheSameFretByTheSameFingerOrAnother) {
    const Piece crossing = line({{2, 5}, {1, 5}, {2, 5}});
    const std::string rolled = ruled(crossing, FrettingRule::Roll);
    EXPECT_EQ(rolled[0], rolled[1]);
    const std::string fresh = ruled(crossing, FrettingRule::NextFinger);
    EXPECT_NE(fresh[0], fresh[1]);
}

TEST_F(Schools, HighOnTheNeckTheThirdFingerGoesForTheFourthOrNot) {
    const Piece high = line({{1, 12}, {1, 15}, {1, 12}, {1, 15}});
    EXPECT_EQ(ruled(high, FrettingRule::ThirdHigh), "1313");
    EXPECT_EQ(ruled(high, FrettingRule::FourthHigh), "1414");
    const Piece low = line({{1, 3}, {1, 6}, {1, 3}, {1, 6}});
    EXPECT_EQ(ruled(low, FrettingRule::ThirdHigh), "1414") << "where frets are wide";
}

TEST_F(Schools, ABarreOverAllStringsOrOverWhatSounds) {
    const Piece outer = grip({{6, 5}, {1, 5}});
    EXPECT_EQ(ruled(outer, FrettingRule::FullBarre), "11");
    const std::string apart = ruled(outer, FrettingRule::ShortBarre);
    EXPECT_NE(apart[0], apart[1]);
}

TEST_F(Schools, WhatComesAgainStaysDownOrIsLifted) {
    const Piece again = line({{2, 3}, {4, 3}, {2, 3}, {4, 3}, {2, 3}});
    const std::string kept = ruled(again, FrettingRule::KeepDown);
    EXPECT_NE(kept[0], kept[1]) << "its finger is not free";
    EXPECT_EQ(kept[0], kept[2]);
}

TEST_F(Schools, OneAnswerTakesThePlaceOfTheOther) {
    FrettingManner manner;
    for (const FrettingRule rule :
         {FrettingRule::Lift, FrettingRule::FullBarre, FrettingRule::KeepDown})
        manner.follow(rule);
    EXPECT_EQ(manner.rules, (std::vector{FrettingRule::FullBarre, FrettingRule::KeepDown}));
    EXPECT_FALSE(manner.follows(FrettingRule::Lift));
    manner.leaveToSchool(FrettingRule::KeepDown);
    EXPECT_EQ(manner.rules, std::vector{FrettingRule::FullBarre});
}

} // namespace
} // namespace wirenote
