// What the tone of notes says of their strings, and how it is learned or switched off.
#include "strings/tone_traits.h"

#include "fretting/likeness.h"
#include "fretting/placing.h"
#include "music/string_physics.h"
#include "strings/string_traits.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

void learnTone(Piece& piece) {
    piece.string_traits =
        withTone(piece.instrument,
                 piece.rows(),
                 piece.string_traits,
                 stringProbabilities(piece.rows(), piece.instrument.stringCount()));
}

constexpr auto at(ToneFigure figure) {
    return static_cast<std::size_t>(figure);
}

// How each string of an invented instrument dies, at its open note.
constexpr double kOpenLoss[] = {2.6, 2.4, 2.3, 2.0, 1.9, 1.8};
constexpr double kCombAtOpen = 0.17;

HeardTone toneAt(Position place, double wobble = 0.0) {
    const double octaves = place.fret / 12.0;
    HeardTone tone{};
    tone[at(ToneFigure::DecayLow)] = {kOpenLoss[place.string - 1] + 0.35 * octaves + wobble, 0.05};
    tone[at(ToneFigure::DecayHigh)] = {kOpenLoss[place.string - 1] + 0.7 + 0.9 * octaves + wobble,
                                       0.05};
    tone[at(ToneFigure::Comb)] = {std::log(kCombAtOpen) + std::log(2.0) * octaves + 0.5 * wobble,
                                  0.04};
    return tone;
}

// A line over all strings whose places a person has told.
Piece toldPiece() {
    std::mt19937 random(7);
    std::normal_distribution<double> wobble(0.0, 0.04);
    std::vector<test::Row> rows;
    std::vector<Position> places;
    const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    for (int k = 0; k < 48; ++k)
        places.push_back({1 + k % 6, (k * 5) % 11});
    for (std::size_t i = 0; i < places.size(); ++i)
        rows.push_back({0.3 * static_cast<double>(i),
                        0.3 * static_cast<double>(i) + 0.28,
                        instrument.midiAt(places[i]),
                        places[i]});
    Piece piece = test::pieceOf(rows);
    piece.string_traits = statedTraits(instrument);
    for (std::size_t i = 0; i < places.size(); ++i) {
        piece.notes[i].ownSound().tone = toneAt(places[i], wobble(random));
        piece.asPlayed().plans[i].position.set(places[i]);
    }
    return piece;
}

const StringEvidence* of(ReasonKind kind, const std::vector<StringEvidence>& all) {
    const auto it = std::ranges::find(all, kind, &StringEvidence::kind);
    return it == all.end() ? nullptr : &*it;
}

TEST(ToneTraits, AreLearnedFromNotesWhosePlacesAreKnown) {
    Piece piece = toldPiece();
    learnTone(piece);
    for (std::size_t s = 0; s < 6; ++s) {
        const auto& tone = piece.string_traits[s].tone;
        ASSERT_TRUE(tone[at(ToneFigure::DecayLow)].told()) << s;
        EXPECT_NEAR(tone[at(ToneFigure::DecayLow)].at_open, kOpenLoss[s], 0.08) << s;
        EXPECT_NEAR(tone[at(ToneFigure::DecayLow)].per_octave, 0.35, 0.1) << s;
        ASSERT_TRUE(tone[at(ToneFigure::Comb)].told()) << s;
        EXPECT_NEAR(tone[at(ToneFigure::Comb)].at_open, std::log(kCombAtOpen), 0.05) << s;
        EXPECT_NEAR(tone[at(ToneFigure::Comb)].per_octave, std::log(2.0), 1e-9)
            << "half the string, twice the share";
        EXPECT_FALSE(tone[at(ToneFigure::Tilt)].told()) << "nothing was heard of it";
    }
}

TEST(ToneTraits, TellTheFiveStringsOfOnePitchApart) {
    Piece piece = toldPiece();
    learnTone(piece);
    // E4 lies on five strings: common practice.
    for (int string = 1; string <= 5; ++string) {
        const int fret = piece.instrument.fretFor(string, 64);
        Note note = piece.notes.front();
        note.pitch.value = 64.0;
        note.ownSound().tone = toneAt({string, fret});
        const auto evidence = toneEvidence(piece.instrument, piece.string_traits, note);
        const auto* comb = of(ReasonKind::CombFits, evidence);
        const auto* decay = of(ReasonKind::DecayFits, evidence);
        ASSERT_TRUE(comb && decay);
        EXPECT_EQ(comb->basis, Basis::Heard);
        double best = 1e9;
        int chosen = 0;
        for (int s = 1; s <= 5; ++s)
            if (const double cost = comb->against(s) + decay->against(s); cost < best) {
                best = cost;
                chosen = s;
            }
        EXPECT_EQ(chosen, string);
        for (const auto& kind : evidence)
            for (const double cost : kind.costs) {
                EXPECT_GE(cost, 0.0);
                EXPECT_LE(cost, 2.0 * ToneModel{}.most_nepers) << "two losses at the most";
            }
    }
}

TEST(ToneTraits, AFigureThatDoesNotTellStringsApartIsSwitchedOff) {
    Piece piece = toldPiece();
    std::mt19937 random(3);
    std::normal_distribution<double> any(2.2, 0.4);
    for (Note& note : piece.notes)
        note.ownSound().tone[at(ToneFigure::DecayLow)] = {any(random), 0.05};
    learnTone(piece);
    for (const StringTrait& trait : piece.string_traits) {
        EXPECT_FALSE(trait.tone[at(ToneFigure::DecayLow)].told());
        EXPECT_TRUE(trait.tone[at(ToneFigure::Comb)].told()) << "the others stay";
    }
}

// A string is brighter when it is struck harder: that is no other string.
TEST(ToneTraits, BrightnessIsHeldAgainstLoudness) {
    Piece piece = toldPiece();
    std::mt19937 random(19);
    std::normal_distribution<double> wobble(0.0, 0.4);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Note& note = piece.notes[i];
        const Position place = piece.asPlayed().plans[i].position.value;
        note.loudness_db = kToneLoudness_db + static_cast<double>((i * 7) % 19) - 9.0;
        note.ownSound().tone[at(ToneFigure::Tilt)] = {
            -12.0 + 1.5 * place.string - place.fret / 12.0 +
                0.25 * (note.loudness_db - kToneLoudness_db) + wobble(random),
            0.5};
    }
    learnTone(piece);
    for (std::size_t s = 0; s < 6; ++s) {
        const ToneTrait& tilt = piece.string_traits[s].tone[at(ToneFigure::Tilt)];
        ASSERT_TRUE(tilt.told());
        EXPECT_NEAR(tilt.per_db, 0.25, 0.06);
        EXPECT_NEAR(tilt.at_open, -12.0 + 1.5 * static_cast<double>(s + 1), 1.0) << s;
    }
    // The same tilt, soft and loud, speaks for different strings.
    Note note = piece.notes.front();
    note.pitch.value = 64.0;
    note.ownSound().tone = {};
    const auto best = [&](double loudness_db) {
        note.loudness_db = loudness_db;
        note.ownSound().tone[at(ToneFigure::Tilt)] = {-8.0, 0.3};
        const auto evidence = toneEvidence(piece.instrument, piece.string_traits, note);
        const auto& costs = of(ReasonKind::TiltFits, evidence)->costs;
        return std::ranges::min_element(costs) - costs.begin() + 1;
    };
    EXPECT_GT(best(-30.0), best(-10.0));
}

TEST(ToneTraits, AFewNotesTeachNothing) {
    Piece piece = toldPiece();
    piece.notes.resize(5);
    piece.asPlayed().plans.resize(5);
    learnTone(piece);
    for (const StringTrait& trait : piece.string_traits)
        for (const ToneTrait& tone : trait.tone)
            EXPECT_FALSE(tone.told());
    piece.string_traits.clear();
    learnTone(piece);
    EXPECT_TRUE(piece.string_traits.empty());
    EXPECT_TRUE(toneEvidence(piece.instrument, {}, toldPiece().notes.front()).empty());
}

TEST(ToneTraits, LossesOfACalibratedStringStay) {
    Piece piece = toldPiece();
    for (StringTrait& trait : piece.string_traits) {
        trait.basis = Basis::Set;
        trait.tone[at(ToneFigure::DecayLow)] = {1.0, 0.4, 0.1};
        trait.tone[at(ToneFigure::Comb)] = {-3.0, std::log(2.0), 0.3};
    }
    learnTone(piece);
    for (const StringTrait& trait : piece.string_traits) {
        EXPECT_DOUBLE_EQ(trait.tone[at(ToneFigure::DecayLow)].at_open, 1.0);
        EXPECT_NEAR(trait.tone[at(ToneFigure::Comb)].at_open, std::log(kCombAtOpen), 0.05)
            << "the hand is elsewhere today";
    }
}

TEST(ToneTraits, SlursMutesBendsAndHarmonicsTeachNothing) {
    for (const Technique technique :
         {Technique::HammerOn, Technique::PalmMute, Technique::Harmonic, Technique::Dead}) {
        Piece piece = toldPiece();
        for (Note& note : piece.notes)
            note.add(technique);
        learnTone(piece);
        EXPECT_FALSE(piece.string_traits[0].tone[at(ToneFigure::Comb)].told());
    }
}

// A line low on the neck whose stiffness tells its strings, then the same notes high on the neck,
// where the sound was too short or too noisy for it: the tone has been learned and tells them.
Piece twiceOver(bool with_tone) {
    const std::vector<Position> low = {{4, 2},
                                       {4, 4},
                                       {3, 2},
                                       {3, 4},
                                       {2, 3},
                                       {2, 5},
                                       {1, 2},
                                       {1, 3},
                                       {2, 5},
                                       {2, 3},
                                       {3, 4},
                                       {3, 2}};
    const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    std::vector<Position> places;
    for (int round = 0; round < 3; ++round)
        places.insert(places.end(), low.begin(), low.end());
    for (const Position& place : low)
        places.push_back(
            {place.string + 1, instrument.fretFor(place.string + 1, instrument.midiAt(place))});
    std::vector<test::Row> rows;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const double start = 0.3 * static_cast<double>(i) + (i < 36 ? 0.0 : 2.0);
        rows.push_back({start, start + 0.28, instrument.midiAt(places[i])});
    }
    std::mt19937 random(11);
    std::normal_distribution<double> wobble(0.0, 0.04);
    Piece piece = test::pieceOf(rows);
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (i < 36)
            piece.notes[i].ownSound().stiffness = {
                std::log(stiffnessAt(instrument, places[i].string, places[i].fret)), 0.03};
        if (with_tone)
            piece.notes[i].ownSound().tone = toneAt(places[i], wobble(random));
    }
    return piece;
}

TEST(ToneTraits, TellTheSameNotesOnOtherStringsWhereStiffnessFails) {
    Piece with = twiceOver(true);
    Piece without = twiceOver(false);
    test::placeAll(with);
    test::placeAll(without);
    int moved = 0;
    int moved_without = 0;
    for (std::size_t i = 0; i < 12; ++i) {
        const int low = with.asPlayed().plans[i].position.value.string;
        moved += with.asPlayed().plans[36 + i].position.value.string == low + 1 ? 1 : 0;
        moved_without += without.asPlayed().plans[36 + i].position.value.string == low + 1 ? 1 : 0;
    }
    EXPECT_GE(moved, 11) << "of 12";
    EXPECT_LE(moved_without, 1) << "without their tone the hand stays low";
    const auto& reasons = with.asPlayed().plans[40].position.reasons;
    EXPECT_TRUE(std::ranges::any_of(reasons, [](const Reason& r) {
        return r.kind == ReasonKind::CombFits || r.kind == ReasonKind::DecayFits;
    }));
    EXPECT_EQ(with.asPlayed().plans[40].position.basis, Basis::Heard);
}

} // namespace
} // namespace wirenote
