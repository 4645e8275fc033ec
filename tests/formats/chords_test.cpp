// Chords in every open format.
#include "formats/ascii_tab.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/shell.h"

#include "base/atomic_file.h"

#include <gmock/gmock.h>
#include <sstream>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// Two strums and a note between, at 120 beats a minute.
Piece strums() {
    std::vector<test::Row> rows;
    for (const double t : {0.0, 1.0}) {
        rows.push_back({t, t + 0.45, 48, {5, 3}});
        rows.push_back({t, t + 0.45, 52, {4, 2}});
        rows.push_back({t, t + 0.45, 55, {3, 0}});
        rows.push_back({t, t + 0.45, 60, {2, 1}});
        if (t == 0.0)
            rows.push_back({0.5, 0.95, 64, {1, 0}});
    }
    return test::pieceOf(rows);
}

TEST(ChordsInFormats, MusicXmlIsValidAndKeepsEveryString) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "c.musicxml", writeMusicXml(strums())).ok());
    // The published schema, MusicXML 3.0 (tests/data/musicxml-3.0), by xmllint.
    const auto valid = test::shell("xmllint --nonet --noout --schema " WIRENOTE_SOURCE_DIR
                                   "/tests/data/musicxml-3.0/musicxml.xsd " +
                                   (scratch / "c.musicxml").string());
    EXPECT_EQ(valid.status, 0) << valid.output;
    EXPECT_THAT(writeMusicXml(strums()), HasSubstr("<chord"));
    const auto read = readMusicXml(writeMusicXml(strums()));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), 9U);
    std::vector<Position> places;
    for (std::size_t i = 0; i < 4; ++i)
        places.push_back(read->asPlayed().plans[i].position.value);
    EXPECT_THAT(places,
                ::testing::UnorderedElementsAre(
                    Position{5, 3}, Position{4, 2}, Position{3, 0}, Position{2, 1}));
    for (std::size_t i = 1; i < 4; ++i)
        EXPECT_NEAR(read->notes[i].onset_s(), read->notes[0].onset_s(), 1e-6);
}

TEST(ChordsInFormats, MidiHasAChannelAString) {
    const auto read = readMidi(writeMidi(strums()));
    ASSERT_TRUE(read.ok());
    EXPECT_EQ(read->notes.size(), 9U);
}

TEST(ChordsInFormats, TheTextTabStandsTheFretsOfAStrokeUnderEachOther) {
    const std::string tab = writeAsciiTab(strums());
    // Common practice: the thinnest string on top, frets of one stroke in one column.
    std::vector<std::string> lines;
    std::istringstream in(tab);
    for (std::string line; std::getline(in, line);)
        if (line.find('|') != std::string::npos)
            lines.push_back(line);
    ASSERT_GE(lines.size(), 6U);
    const std::size_t column = lines[4].find('3');
    ASSERT_NE(column, std::string::npos) << tab;
    EXPECT_EQ(lines[3][column], '2') << tab;
    EXPECT_EQ(lines[2][column], '0') << tab;
    EXPECT_EQ(lines[1][column], '1') << tab;
}

TEST(ChordsInFormats, GhostStrokesStayGhosts) {
    Piece piece = strums();
    piece.notes[4].techniques.push_back(Technique::GhostStroke);
    const auto read = readNotesJson(writeNotesJson(piece));
    ASSERT_TRUE(read.ok());
    int ghosts = 0;
    for (const Note& note : read->notes)
        ghosts += note.has(Technique::GhostStroke) ? 1 : 0;
    EXPECT_EQ(ghosts, 1);
}

} // namespace
} // namespace wirenote
