// How exact a reading may be said to be, on 100 constructed states: every way in which it can fall
// short of "note for note", alone, in pairs and with notes about it.
#include "piece/exactness.h"

#include "piece/in_reading.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <functional>
#include <set>

namespace wirenote {
namespace {

// Everything heard clearly, and nothing else.
Piece clear(int notes) {
    std::vector<test::Row> rows;
    for (int i = 0; i < notes; ++i)
        rows.push_back({0.5 * i, 0.5 * i + 0.4, 60 + i % 5, {2, 1 + i % 5}});
    Piece piece = test::pieceOf(rows);
    for (NotePlan& plan : piece.asPlayed().plans) {
        plan.position.probability = 0.97;
        plan.finger = {Finger::Index, Basis::Seen, 0.95, {}, {}};
        plan.stroke = {Stroke::Down, Basis::Heard, 0.95, {}, {}};
    }
    Reading other = piece.asPlayed();
    other.head.name = "other";
    piece.readings.push_back(other);
    return piece;
}

// What falls short, how it is to be named, and what is left of the exactness then.
struct Fault {
    Against what;
    Exactness left;
    std::function<void(Piece&, std::size_t note)> make; // in the second reading, or in both
};

// What was changed on purpose.
std::vector<Fault> adaptations() {
    return {
        {Against::OtherNeck,
         Exactness::Adapted,
         [](Piece& p, std::size_t) {
             p.readings[1].head.instrument = p.instrument;
             p.readings[1].head.instrument->capo = 1;
             for (NotePlan& plan : p.readings[1].plans)
                 --plan.position.value.fret;
         }},
        {Against::OtherKey,
         Exactness::Adapted,
         [](Piece& p, std::size_t) { p.readings[1].head.semitones = 4; }},
        {Against::Wish,
         Exactness::Adapted,
         [](Piece& p, std::size_t) {
             p.readings[1].head.wish = {WishKind::NoBarre, 0.0};
         }},
        {Against::LeftOut,
         Exactness::Adapted,
         [](Piece& p, std::size_t n) {
             p.readings[1].plans[n].departure = {DepartureWhy::Ornament, true, 0, {}};
         }},
        {Against::Added,
         Exactness::Adapted,
         [](Piece& p, std::size_t n) {
             AddedNote one{p.notes[n], p.readings[1].plans[n]};
             one.note.id = one.plan.note = p.next_id++;
             p.readings[1].head.added.push_back(one);
         }},
        {Against::OtherPitch,
         Exactness::Adapted,
         [](Piece& p, std::size_t n) { p.readings[1].plans[n].departure.semitones = 1; }},
        {Against::OtherTechnique,
         Exactness::Adapted,
         [](Piece& p, std::size_t n) {
             p.readings[1].plans[n].departure.techniques = std::vector{Technique::Accent};
         }},
        {Against::OtherSource,
         Exactness::Adapted,
         [](Piece& p, std::size_t) {
             p.readings[1].head.origins.push_back({{0.0, 1.0}, "an edition", ""});
         }},
        {Against::Taste,
         Exactness::Adapted,
         [](Piece& p, std::size_t n) {
             p.readings[1].plans[n].position.set(p.readings[1].plans[n].position.value,
                                                 SetWhy::Taste);
         }}};
}

// What is not known, or not from the recording.
std::vector<Fault> gaps() {
    return {
        {Against::FromScore,
         Exactness::Essence,
         [](Piece& p, std::size_t n) {
             p.notes[n].pitch.set(p.notes[n].pitch.value, SetWhy::Score);
         }},
        {Against::FromMemory,
         Exactness::Essence,
         [](Piece& p, std::size_t n) {
             p.readings[1].plans[n].finger.set(Finger::Index, SetWhy::Memory);
         }},
        {Against::OpenDoubt,
         Exactness::Essence,
         [](Piece& p, std::size_t n) { p.notes[n].pitch.probability = 0.5; }},
        {Against::LeftOpen,
         Exactness::Essence,
         [](Piece& p, std::size_t n) {
             p.notes[n].left_open = {{DoubtKind::Stroke, "does not matter"}};
         }},
        {Against::Guess, Exactness::Essence, [](Piece& p, std::size_t n) {
             p.notes[n].pitch.probability = 0.79;
         }}};
}

const std::vector<Fault>& faults() {
    static const std::vector<Fault> kFaults = [] {
        std::vector<Fault> all = adaptations();
        std::ranges::move(gaps(), std::back_inserter(all));
        return all;
    }();
    return kFaults;
}

void expectSaid(const Piece& piece, const std::set<Against>& expected, Exactness exactness) {
    ASSERT_TRUE(checkPiece(piece).ok()) << checkPiece(piece).error().message;
    const ExactnessStatement said = exactnessOf(piece, 1);
    std::set<Against> found;
    for (const ExactnessPoint& point : said.against) {
        found.insert(point.what);
        EXPECT_FALSE(againstText(point).empty());
    }
    EXPECT_EQ(found, expected);
    EXPECT_EQ(said.exactness, exactness);
    EXPECT_EQ(mayClaim(said, Exactness::NoteForNote), expected.empty());
    EXPECT_TRUE(mayClaim(said, Exactness::Adapted));
}

TEST(Exactness, ClearNotesAreNoteForNote) {
    const Piece piece = clear(6);
    expectSaid(piece, {}, Exactness::NoteForNote);
    EXPECT_EQ(exactnessLine(piece, 1), "Note for note");
}

// 14 alone and 91 pairs, whose second fault is on another note.
TEST(Exactness, EveryFaultIsNamedAloneAndBesideEveryOther) {
    int states = 0;
    for (std::size_t a = 0; a < faults().size(); ++a)
        for (std::size_t b = a; b < faults().size(); ++b) {
            SCOPED_TRACE(std::to_string(a) + " " + std::to_string(b));
            Piece piece = clear(6);
            faults()[a].make(piece, 1);
            if (b != a)
                faults()[b].make(piece, 4);
            // An added note is a copy of the note it is beside, faults and all.
            std::ranges::stable_sort(piece.readings[1].head.added, {}, [](const AddedNote& one) {
                return one.note.onset_s();
            });
            expectSaid(piece,
                       {faults()[a].what, faults()[b].what},
                       std::max(faults()[a].left, faults()[b].left));
            ++states;
        }
    EXPECT_EQ(states, 105);
}

TEST(Exactness, WithoutNotesNothingCanBeClaimed) {
    Piece piece = clear(0);
    EXPECT_FALSE(mayClaim(exactnessOf(piece, 0), Exactness::NoteForNote));
}

TEST(Exactness, AKnowingDepartureIsNoCorrection) {
    // The same place, set by the same hand: misheard before, or liked better.
    Piece corrected = clear(4);
    corrected.asPlayed().plans[2].position.set({3, 9}, SetWhy::Misheard);
    EXPECT_EQ(exactnessOf(corrected).exactness, Exactness::NoteForNote);
    Piece liked = clear(4);
    liked.asPlayed().plans[2].position.set({3, 9}, SetWhy::Taste);
    EXPECT_EQ(exactnessOf(liked).exactness, Exactness::Adapted);
}

TEST(Exactness, WhatIsClaimedIsNeverMoreThanTheFactsAllow) {
    Piece piece = clear(4);
    piece.readings[1].head.claim = Exactness::NoteForNote;
    EXPECT_EQ(exactnessLine(piece, 1), "Note for note");
    piece.notes[2].pitch.probability = 0.5;
    EXPECT_EQ(exactnessLine(piece, 1), "The essence: 1 open doubt");
    piece.readings[1].head.claim = Exactness::Adapted;
    EXPECT_EQ(exactnessLine(piece, 1), "Adapted: 1 open doubt") << "less may always be claimed";
}

TEST(Exactness, WhatWasMadeIsNeverNoteForNoteEvenByItself) {
    Piece piece = clear(4);
    piece.readings[1].head.made_from = "as played";
    EXPECT_EQ(exactnessOf(piece, 1).exactness, Exactness::Adapted);
    piece.readings[1].plans[2].departure = {DepartureWhy::MayGo, true, 0, {}};
    const Piece alone = inReading(piece, 1);
    EXPECT_EQ(exactnessLine(alone), "Adapted: 1 note left out")
        << "though what it leaves out is not there any more";
}

TEST(Exactness, WhoWasAskedAndWhatIsReasonedStandsBeside) {
    Piece piece = clear(4);
    piece.asPlayed().plans[0].finger.set(Finger::Ring, SetWhy::Asked);
    piece.asPlayed().plans[1].finger = {Finger::Middle, Basis::Reasoned, 0.9, {}, {}};
    piece.asPlayed().plans[2].stroke = {Stroke::Up, Basis::Reasoned, 0.9, {}, {}};
    const ExactnessStatement said = exactnessOf(piece);
    EXPECT_TRUE(said.against.empty());
    EXPECT_EQ(said.asked, 1U);
    EXPECT_EQ(said.reasoned_fingers, 1U);
    EXPECT_EQ(said.reasoned_strokes, 1U);
}

} // namespace
} // namespace wirenote
