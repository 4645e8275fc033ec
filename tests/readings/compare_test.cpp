// Every planted difference is found, and no other.
#include "readings/compare.h"

#include "readings/edition.h"
#include "support/pieces.h"
#include "support/random_sheets.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <array>
#include <random>
#include <set>

namespace wirenote {
namespace {

using Planted = std::pair<NoteId, ReadingDifferenceKind>;

Finger anotherFinger(Finger finger) {
    return finger == Finger::Ring ? Finger::Middle : Finger::Ring;
}

// Changes one note of b in one way; false where this note cannot be changed so.
bool plant(Piece& b, std::size_t i, ReadingDifferenceKind kind) {
    Note& note = b.notes[i];
    NotePlan& plan = b.asPlayed().plans[i];
    switch (kind) {
    case ReadingDifferenceKind::Missing:
        b.notes.erase(b.notes.begin() + static_cast<std::ptrdiff_t>(i));
        b.asPlayed().plans.erase(b.asPlayed().plans.begin() + static_cast<std::ptrdiff_t>(i));
        return true;
    case ReadingDifferenceKind::Pitch:
        if (!note.pitched())
            return false;
        note.pitch.value += note.pitch.value > 70 ? -1 : 1;
        return true;
    case ReadingDifferenceKind::Place:
        if (!plan.placed())
            return false;
        plan.position.value.string = plan.position.value.string == 1 ? 2 : 1;
        return true;
    case ReadingDifferenceKind::Finger:
        if (plan.finger.value == Finger::Unknown || plan.finger.value == Finger::Open)
            return false;
        plan.finger.value = anotherFinger(plan.finger.value);
        return true;
    case ReadingDifferenceKind::Stroke:
        if (plan.stroke.value == Stroke::Unknown)
            return false;
        plan.stroke.value = plan.stroke.value == Stroke::Up ? Stroke::Down : Stroke::Up;
        return true;
    case ReadingDifferenceKind::Technique:
        if (note.has(Technique::Accent))
            return false;
        note.techniques.push_back(Technique::Accent);
        return true;
    case ReadingDifferenceKind::Added:
    case ReadingDifferenceKind::Start:
    case ReadingDifferenceKind::Length:
        break;
    }
    return false;
}

std::set<Planted> found(const ReadingComparison& comparison) {
    std::set<Planted> all;
    for (const ReadingDifference& one : comparison.differences)
        all.emplace(one.a, one.kind);
    return all;
}

TEST(CompareReadings, FindsEachOfTwoHundredPlantedDifferencesAndNoOther) {
    constexpr std::array kKinds{ReadingDifferenceKind::Missing,
                                ReadingDifferenceKind::Pitch,
                                ReadingDifferenceKind::Place,
                                ReadingDifferenceKind::Finger,
                                ReadingDifferenceKind::Stroke,
                                ReadingDifferenceKind::Technique};
    int planted_in_all = 0;
    for (unsigned seed = 0; planted_in_all < 200; ++seed) {
        SCOPED_TRACE(seed);
        const Piece a = test::randomSheetPiece(seed);
        Piece b = a;
        std::mt19937 chance(seed);
        std::set<Planted> planted;
        std::set<NoteId> touched;
        for (int n = 0; n < 12 && b.notes.size() > 12; ++n) {
            const std::size_t i = chance() % b.notes.size();
            const NoteId id = b.notes[i].id;
            const ReadingDifferenceKind kind = kKinds[chance() % kKinds.size()];
            if (touched.insert(id).second && plant(b, i, kind))
                planted.emplace(id, kind);
        }
        const ReadingComparison comparison = compareReadings(a, b);
        EXPECT_EQ(found(comparison), planted);
        EXPECT_EQ(comparison.differences.size(), planted.size());
        for (const ReadingDifference& one : comparison.differences)
            ASSERT_LT(one.group, comparison.groups.size());
        planted_in_all += static_cast<int>(planted.size());
    }
}

TEST(CompareReadings, TheSamePieceDiffersInNothing) {
    for (unsigned seed = 500; seed < 530; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        EXPECT_TRUE(compareReadings(piece, piece).differences.empty()) << seed;
    }
}

// The same tune with other numbers of notes, in another tempo.
Piece retyped(Piece piece, double slower) {
    for (Note& note : piece.notes) {
        note.id += 1000;
        note.time.value.start_s *= slower;
        note.time.value.end_s *= slower;
    }
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.note += 1000;
    for (double& beat_s : piece.timeline.beats_s)
        beat_s *= slower;
    piece.timeline.tempo_bpm /= slower;
    piece.next_id += 1000;
    return piece;
}

Piece tune() {
    std::vector<test::Row> rows;
    const std::array kMidi{52, 55, 57, 59, 60, 62, 64, 62, 60, 59, 57, 55, 52, 52, 50, 52};
    for (std::size_t i = 0; i < kMidi.size(); ++i) {
        const double at_s = 0.5 * static_cast<double>(i);
        rows.push_back({at_s, at_s + 0.45, kMidi[i], {4, kMidi[i] - 50}});
    }
    return test::pieceOf(rows);
}

TEST(CompareReadings, AScoreIsComparedByWhereItsNotesStand) {
    const Piece a = tune();
    Piece b = retyped(a, 1.3);
    EXPECT_TRUE(compareReadings(a, b).differences.empty());
    b.notes[2].pitch.value += 2;
    b.asPlayed().plans[5].position.value = {3, 7};
    b.notes.erase(b.notes.begin() + 8);
    b.asPlayed().plans.erase(b.asPlayed().plans.begin() + 8);
    const ReadingComparison comparison = compareReadings(a, b);
    EXPECT_EQ(found(comparison),
              (std::set<Planted>{{a.notes[2].id, ReadingDifferenceKind::Pitch},
                                 {a.notes[5].id, ReadingDifferenceKind::Place},
                                 {a.notes[8].id, ReadingDifferenceKind::Missing}}));
    EXPECT_EQ(comparison.differences[0].bar, 1);
    EXPECT_DOUBLE_EQ(comparison.differences[0].beat, 3.0);
    EXPECT_EQ(comparison.differences[2].bar, 3);
}

// In scores with other numbers, by where their notes stand: notes more and notes moved, too.
TEST(CompareReadings, FindsWhatIsPlantedInAScoreAndNoOther) {
    std::mt19937 chance(3);
    int planted_in_all = 0;
    for (int round = 0; round < 40; ++round) {
        SCOPED_TRACE(round);
        std::vector<test::Row> rows;
        for (int i = 0; i < 32; ++i) { // halves of beats; no pitch comes again within four notes
            const int midi = 52 + (i * 5 + round) % 17;
            rows.push_back({0.5 * i, 0.5 * i + 0.24, midi, {3, midi - 45}});
        }
        const Piece a = test::pieceOf(rows);
        Piece b = retyped(a, 1.0 + 0.01 * round);
        const double half_s = 0.25 * (1.0 + 0.01 * round);
        std::set<Planted> planted;
        for (const std::size_t at : {3 + chance() % 4, 12 + chance() % 4, 22 + chance() % 4}) {
            const NoteId in_a = a.notes[at].id;
            Note& note = b.notes[at];
            switch (chance() % 3) {
            case 0: // half a beat later, where nothing stands
                note.time.value.start_s += half_s;
                note.time.value.end_s += half_s;
                planted.emplace(in_a, ReadingDifferenceKind::Start);
                break;
            case 1:
                note.pitch.value += 30;
                planted.emplace(in_a, ReadingDifferenceKind::Pitch);
                break;
            default:
                note.techniques = {Technique::Vibrato};
                planted.emplace(in_a, ReadingDifferenceKind::Technique);
            }
        }
        // And one more, at the end of a bar.
        Note more = b.notes[28];
        more.id = b.next_id++;
        more.pitch.value = 90;
        b.notes.insert(b.notes.begin() + 29, more);
        NotePlan plan;
        plan.note = more.id;
        plan.position.value = {0, 0};
        b.asPlayed().plans.insert(b.asPlayed().plans.begin() + 29, plan);
        planted.emplace(0, ReadingDifferenceKind::Added);
        ReadingComparison comparison = compareReadings(a, b);
        std::erase_if(comparison.differences, [](const ReadingDifference& one) {
            return one.kind == ReadingDifferenceKind::Length; // of what stands beside a moved note
        });
        EXPECT_EQ(found(comparison), planted);
        planted_in_all += static_cast<int>(planted.size());
    }
    EXPECT_EQ(planted_in_all, 160);
}

TEST(CompareReadings, AnotherKeyIsSaidOnce) {
    const Piece a = tune();
    Piece b = retyped(a, 1.0);
    for (std::size_t i = 0; i < b.notes.size(); ++i) {
        b.notes[i].pitch.value += 3;
        b.asPlayed().plans[i].position.value.fret += 3;
    }
    const ReadingComparison comparison = compareReadings(a, b);
    EXPECT_EQ(comparison.semitones, 3);
    EXPECT_TRUE(std::ranges::all_of(comparison.differences, [](const ReadingDifference& one) {
        return one.kind == ReadingDifferenceKind::Place;
    }));
}

TEST(CompareReadings, SaysWhatAnotherPlaceGainsAndLoses) {
    // Second string at fret 5 against the open first: the open string rings, and nothing moves.
    Piece a =
        test::pieceOf({{0.0, 0.4, 60, {2, 1}}, {0.5, 0.9, 64, {2, 5}}, {1.0, 1.4, 60, {2, 1}}});
    const auto held = [](Piece& piece, std::size_t i, Finger finger, int hand) {
        piece.asPlayed().plans[i].finger = {finger, Basis::Reasoned, 0.9, {}, {}};
        piece.asPlayed().plans[i].hand_fret = hand;
    };
    held(a, 0, Finger::Index, 1);
    held(a, 1, Finger::Index, 5);
    held(a, 2, Finger::Index, 1);
    Piece b = a;
    b.asPlayed().plans[1].position.value = {1, 0};
    held(b, 1, Finger::Open, 1);
    const ReadingComparison comparison = compareReadings(a, b);
    ASSERT_EQ(comparison.groups.size(), 1U);
    const auto gains = [&](GainKind kind) {
        return std::ranges::find(comparison.groups[0].weighed.gains, kind, &Gain::kind) !=
               comparison.groups[0].weighed.gains.end();
    };
    EXPECT_TRUE(gains(GainKind::Shifts));
    EXPECT_TRUE(gains(GainKind::Ringing));
    const ReadingComparison back = compareReadings(b, a);
    EXPECT_EQ(back.groups[0].weighed.losses.size(), comparison.groups[0].weighed.gains.size());
}

TEST(Edition, AScoreBecomesAReadingOfThePiece) {
    const Piece piece = tune();
    Piece score = retyped(piece, 1.25);
    score.notes[3].pitch.value += 1;
    score.asPlayed().plans[3].position.value = {4, 10};
    score.asPlayed().plans[4].finger = {Finger::Little, Basis::Set, 1.0, {}, {}};
    score.notes.erase(score.notes.begin());
    score.asPlayed().plans.erase(score.asPlayed().plans.begin());
    NoteId next = piece.next_id;
    const Reading reading = readingOfScore(piece, score, "edition", next);
    ASSERT_EQ(reading.plans.size(), piece.notes.size());
    EXPECT_TRUE(reading.plans[0].departure.left_out);
    EXPECT_EQ(reading.plans[3].departure.semitones, 1);
    EXPECT_EQ(reading.plans[3].departure.why, DepartureWhy::Edition);
    EXPECT_EQ(reading.plans[4].finger.value, Finger::Little);
    EXPECT_EQ(reading.plans[4].finger.setWhy(), SetWhy::Score);
    EXPECT_TRUE(reading.head.added.empty());
    // What the score has more stands in the time of the piece.
    Piece more = retyped(piece, 1.25);
    more.notes[1].time.value.start_s += 0.25 * 1.25;
    more.notes[1].time.value.end_s = more.notes[1].onset_s() + 0.2;
    Piece fuller = retyped(piece, 1.25);
    fuller.notes.insert(fuller.notes.begin() + 2, more.notes[1]);
    fuller.notes[2].id = fuller.next_id++;
    fuller.asPlayed().plans.insert(fuller.asPlayed().plans.begin() + 2, fuller.asPlayed().plans[1]);
    fuller.asPlayed().plans[2].note = fuller.notes[2].id;
    const Reading full = readingOfScore(piece, fuller, "edition", next);
    ASSERT_EQ(full.head.added.size(), 1U);
    EXPECT_NEAR(full.head.added[0].note.onset_s(), 0.75, 1e-6);
    EXPECT_EQ(full.head.added[0].note.id, piece.next_id);
}

} // namespace
} // namespace wirenote
