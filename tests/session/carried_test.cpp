#include "session/carried.h"
#include "support/performances.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using enum PiecePart;
using ::testing::Contains;
using ::testing::IsEmpty;
using ::testing::Not;

TEST(Carried, IsSaidOfWhatThePieceHas) {
    Piece piece = test::richPiece();
    piece.asPlayed().plans[0].finger.set(Finger::Middle);
    piece.timeline.sections = {{"Verse", {0.0, 2.0}}};
    EXPECT_THAT(notCarried(piece, FileFormat::Piece), IsEmpty());
    const auto midi = notCarried(piece, FileFormat::Midi);
    EXPECT_THAT(midi, Contains(Fingers));
    EXPECT_THAT(midi, Contains(Sections));
    EXPECT_THAT(midi, Contains(Places)) << "a channel is a string, but no fret";
    EXPECT_THAT(midi, Not(Contains(Chords))) << "there are none";
    const auto xml = notCarried(piece, FileFormat::MusicXml);
    EXPECT_THAT(xml, Not(Contains(Fingers)));
    EXPECT_THAT(xml, Not(Contains(Sections)));
    EXPECT_EQ(wordsFor({Fingers, Strokes, Chords}), "fingers, strokes and names of chords");
    EXPECT_EQ(wordsFor({Fingers}), "fingers");
}

} // namespace
} // namespace wirenote
