// Everything the core can say has words for players.
#include "app/text/playing_wording.h"
#include "app/text/wording.h"

#include <gtest/gtest.h>
#include <set>

namespace wirenote::app {
namespace {

TEST(Wording, EveryReasonHasWordsWithoutHoles) {
    std::set<QString> said;
    for (int kind = 0; kind <= static_cast<int>(ReasonKind::NothingFits); ++kind) {
        const QString text =
            reasonTitle({static_cast<ReasonKind>(kind), Basis::Reasoned, 3, 5, 0.5});
        EXPECT_FALSE(text.isEmpty()) << "kind " << kind;
        EXPECT_FALSE(text.contains('%')) << text.toStdString();
        EXPECT_TRUE(said.insert(text).second) << "said twice: " << text.toStdString();
    }
    EXPECT_EQ(reasonTitle({ReasonKind::DecayFits, Basis::Heard, 3, 5, 0.0}),
              "dies away as on string 3, unlike string 5");
    EXPECT_EQ(reasonTitle({ReasonKind::FingerPerFret, Basis::Reasoned, 3, 5, 0.0}),
              "one finger per fret from fret 5");
}

// What is still to be filmed: which hands, where on the neck, and how to come by it.
TEST(Wording, AShotSaysWhatItMustShow) {
    Piece piece;
    piece.takes.resize(2);
    WantedShot shot;
    shot.fretting = true;
    shot.lowest_fret = 5;
    shot.highest_fret = 8;
    EXPECT_EQ(hiddenText(shot), "the fretting hand");
    EXPECT_TRUE(angleText(shot).contains("from fret 4 to 9")) << angleText(shot).toStdString();
    EXPECT_FALSE(angleText(shot).contains("plucked"));
    EXPECT_TRUE(shotText(piece, shot).contains("no take with a picture"));
    shot.plucking = true;
    shot.lowest_fret = shot.highest_fret = 0;
    shot.film = 1;
    EXPECT_EQ(hiddenText(shot), "both hands");
    EXPECT_TRUE(angleText(shot).contains("plucked"));
    EXPECT_TRUE(shotText(piece, shot).contains("take 2 shows it and has not been looked at"));
    piece.takes[1].film.frames.push_back({});
    piece.takes[1].film.followed = 0.9;
    EXPECT_TRUE(shotText(piece, shot).contains("hidden or out of the picture"));
    shot.fretting = false;
    EXPECT_EQ(hiddenText(shot), "the plucking hand");
}

// Places as players say them; never a beat that a bar does not have.
TEST(Wording, AMomentHasAPlaceThatIsThere) {
    Timeline t;
    t.metre = {3, 4};
    t.tempo_bpm = 60.0;
    for (int i = 0; i < 12; ++i)
        t.beats_s.push_back(1.0 * i);
    const TimelineMap map(t);
    EXPECT_EQ(musicPlaceText(map, 0.0), "bar 1, beat 1");
    EXPECT_EQ(musicPlaceText(map, 2.02), "bar 1, beat 3");
    EXPECT_EQ(musicPlaceText(map, 2.97), "bar 2, beat 1") << "not beat 4 of three";
    EXPECT_EQ(musicPlaceText(map, 2.85), "bar 2, just before beat 1");
    EXPECT_EQ(musicPlaceText(map, 4.5), "bar 2, the “and” of 2");
    EXPECT_EQ(musicPlaceText(map, 4.7), "bar 2, late in beat 2");
    EXPECT_EQ(musicPlaceText(map, 4.15), "bar 2, just after beat 2");
    EXPECT_EQ(musicPlaceText(map, 4.33), "bar 2, early in beat 2");
    EXPECT_EQ(divisionText(3, false), "triplets");
    EXPECT_EQ(divisionText(3, true), "eighths");
    EXPECT_EQ(centsText(-1.2), "1 cent flat");
    EXPECT_EQ(centsText(2.0), "2 cents sharp");
}

TEST(Wording, EveryToolInstrumentAndTechniqueHasWords) {
    std::set<QString> said;
    for (const PluckingTool tool :
         {PluckingTool::Unknown, PluckingTool::Pick, PluckingTool::Fingers})
        EXPECT_TRUE(said.insert(toolText(tool)).second);
    for (int kind = 0; kind <= static_cast<int>(InstrumentKind::Bass5); ++kind)
        EXPECT_TRUE(said.insert(instrumentText(static_cast<InstrumentKind>(kind))).second) << kind;
    const Note note;
    for (int technique = 0; technique < kTechniqueCount; ++technique)
        EXPECT_FALSE(techniqueText(note, static_cast<Technique>(technique)).isEmpty()) << technique;
    EXPECT_FALSE(said.contains(QString()));
}

} // namespace
} // namespace wirenote::app
