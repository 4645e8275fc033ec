// Marks beside the notes in files: kept in the piece file, and in MusicXML where the standard has
// them.
#include "formats/musicxml.h"
#include "formats/piece_json.h"
#include "score/sheet.h"
#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// Eighths at 120, from 0 on.
Piece marked() {
    Piece piece = test::scalePiece(16);
    const auto at = [&piece](std::size_t note) { return piece.notes[note].onset_s(); };
    piece.marks = {{MarkKind::Dynamic, at(0), at(0), "pp"},
                   {MarkKind::Louder, at(1), at(6), {}},
                   {MarkKind::Segno, at(2), at(2), {}},
                   {MarkKind::Words, at(4), at(4), "to the sign"},
                   {MarkKind::Dynamic, at(6), at(6), "sfz"},
                   {MarkKind::Softer, at(8), at(12), {}},
                   {MarkKind::Fermata, at(15), at(15), {}}};
    return piece;
}

std::vector<std::string> standing(const Piece& piece) {
    std::vector<std::string> lines;
    for (const MarkSign& mark : writeSheet(piece, {}, CountSchool::Numbers).marks)
        lines.push_back(mark.from.toString() + "-" + mark.to.toString() + " " +
                        std::to_string(static_cast<int>(mark.kind)) + " " + mark.text);
    return lines;
}

TEST(SheetMarkFiles, ThePieceFileKeepsThem) {
    const Piece piece = marked();
    ASSERT_TRUE(checkPiece(piece).ok());
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->marks, piece.marks);
}

TEST(SheetMarkFiles, AnUnknownKindIsNamed) {
    std::string text = writePieceJson(marked());
    const auto at = text.find("\"segno\"");
    ASSERT_NE(at, std::string::npos);
    text.replace(at, 7, "\"spiral\"");
    const auto read = readPieceJson(text);
    ASSERT_FALSE(read.ok());
    EXPECT_THAT(read.error().message, HasSubstr("marks.kind"));
}

TEST(SheetMarkFiles, MusicXmlSaysAllOfThem) {
    const Piece piece = marked();
    const std::string xml = writeMusicXml(piece);
    for (const char* element : {"<pp />",
                                "<wedge type=\"crescendo\" number=\"2\" />",
                                "<wedge type=\"stop\" number=\"2\" />",
                                "<segno />",
                                "<words>to the sign</words>",
                                "<sfz />",
                                "<wedge type=\"diminuendo\"",
                                "<fermata type=\"upright\" />"})
        EXPECT_THAT(xml, HasSubstr(element));
    const auto read = readMusicXml(xml);
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(standing(*read), standing(piece));
}

// What other programs write: dynamics in a note's notations, both staves saying the same, a wedge
// that never ends, a level that the standard calls other.
TEST(SheetMarkFiles, MusicXmlOfOthersIsReadOnce) {
    const auto read = readMusicXml(R"(<score-partwise version="3.0"><part-list>
<score-part id="P1"><part-name>G</part-name></score-part></part-list><part id="P1"><measure number="1">
<attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>
<direction><direction-type><dynamics><mf/></dynamics></direction-type><staff>1</staff></direction>
<direction><direction-type><dynamics><mf/></dynamics></direction-type><staff>2</staff></direction>
<direction><direction-type><wedge type="crescendo"/></direction-type></direction>
<direction><direction-type><wedge type="stop" number="3"/></direction-type></direction>
<direction><direction-type><words>  </words></direction-type><offset>2</offset></direction>
<direction><direction-type><words>freely</words></direction-type><offset>2</offset></direction>
<note><pitch><step>E</step><octave>4</octave></pitch><duration>4</duration>
<notations><dynamics><f/><other-dynamics>x</other-dynamics></dynamics></notations></note>
<note><pitch><step>F</step><octave>4</octave></pitch><duration>4</duration>
<notations><fermata/></notations></note>
<note><chord/><pitch><step>A</step><octave>4</octave></pitch><duration>4</duration>
<notations><fermata/></notations></note></measure></part></score-partwise>)");
    ASSERT_TRUE(read.ok()) << read.error().message;
    std::vector<std::string> marks;
    for (const SheetMark& mark : read->marks)
        marks.push_back(markText(mark) + " " + std::to_string(static_cast<int>(4.0 * mark.at_s)));
    EXPECT_THAT(marks, ::testing::UnorderedElementsAre("mf 0", "f 0", "freely 2", "fermata 4"));
}

} // namespace
} // namespace wirenote
