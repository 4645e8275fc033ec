#include "formats/musicxml.h"

#include "base/atomic_file.h"
#include "piece/exactness.h"
#include "support/performances.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <cmath>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// The published schema, MusicXML 3.0 (tests/data/musicxml-3.0), by xmllint.
void expectValid(const std::string& xml, const test::Scratch& scratch) {
    ASSERT_TRUE(writeFileAtomically(scratch / "out.musicxml", xml).ok());
    const auto result = test::shell("xmllint --nonet --noout --schema " WIRENOTE_SOURCE_DIR
                                    "/tests/data/musicxml-3.0/musicxml.xsd " +
                                    (scratch / "out.musicxml").string());
    EXPECT_EQ(result.status, 0) << result.output;
}

TEST(MusicXml, TheSchemaCheckCanFail) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "bad.musicxml",
                                    "<score-partwise version=\"3.0\"><part/></score-partwise>")
                    .ok());
    EXPECT_NE(test::shell("xmllint --nonet --noout --schema " WIRENOTE_SOURCE_DIR
                          "/tests/data/musicxml-3.0/musicxml.xsd " +
                          (scratch / "bad.musicxml").string())
                  .status,
              0);
}

TEST(MusicXml, IsValidByThePublishedSchema) {
    const test::Scratch scratch;
    const std::string xml = writeMusicXml(test::richPiece());
    expectValid(xml, scratch);
    for (const char* part : {"<sign>TAB</sign>",
                             "<string>4</string>",
                             "<fret>2</fret>",
                             "<hammer-on type=\"start\"",
                             "<hammer-on type=\"stop\"",
                             "<slide type=\"start\"",
                             "<slide type=\"stop\"",
                             "<down-bow",
                             "<fingering>2</fingering>",
                             "<tied type=\"start\"",
                             "implicit=\"yes\"",
                             "<actual-notes>3</actual-notes>"})
        EXPECT_THAT(xml, HasSubstr(part));
}

TEST(MusicXml, EveryInstrumentMetreAndTheEmptyPieceAreValid) {
    const test::Scratch scratch;
    expectValid(writeMusicXml(Piece{}), scratch);
    Piece bass = test::pieceOf({{0.0, 0.4, 33, {3, 0}}, {0.5, 1.3, 40, {3, 7}}});
    bass.instrument = standardInstrument(InstrumentKind::Bass5);
    bass.timeline.metre = Metre{6, 8};
    bass.title = "Tide & <Rope> \"line\"";
    expectValid(writeMusicXml(bass), scratch);
    Piece seven = test::pieceOf({{0.0, 0.4, 35, {7, 0}}, {0.5, 0.9, 64}});
    seven.instrument = standardInstrument(InstrumentKind::Guitar7);
    seven.instrument.capo = 2;
    expectValid(writeMusicXml(seven), scratch);
}

// A schema cannot see pairs: every slur mark that starts must stop.
TEST(MusicXml, MarksComeInPairs) {
    const std::string xml = writeMusicXml(test::richPiece());
    const auto count = [&xml](const std::string& what) {
        std::size_t found = 0;
        for (auto at = xml.find(what); at != std::string::npos; at = xml.find(what, at + 1))
            ++found;
        return found;
    };
    for (const std::string element : {"hammer-on", "slide", "slur", "tied", "tie"}) {
        EXPECT_EQ(count("<" + element + " type=\"start\""), count("<" + element + " type=\"stop\""))
            << element;
        EXPECT_GE(count("<" + element + " type=\"start\""), 1U) << element;
    }
}

TEST(MusicXml, IsReadBackAsItWasWritten) {
    const Piece piece = test::richPiece();
    const auto read = readMusicXml(writeMusicXml(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), piece.notes.size());
    EXPECT_EQ(read->title, piece.title);
    const double shift = read->notes[0].onset_s() - piece.notes[0].onset_s();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        EXPECT_EQ(read->notes[i].midi(), piece.notes[i].midi());
        EXPECT_EQ(read->asPlayed().plans[i].position.value,
                  piece.asPlayed().plans[i].position.value);
        EXPECT_EQ(read->notes[i].techniques, piece.notes[i].techniques);
        EXPECT_NEAR(read->notes[i].onset_s() - shift, piece.notes[i].onset_s(), 0.01);
    }
    EXPECT_NEAR(read->timeline.tempo_bpm, 120.0, 0.01);
}

// Who made it is written as the standard's creators and comes back.
TEST(MusicXml, NamesComeBack) {
    const Piece piece = test::richPiece();
    const std::string xml = writeMusicXml(piece);
    EXPECT_THAT(xml, HasSubstr("<creator type=\"composer\">Ada Example</creator>"));
    const auto read = readMusicXml(xml);
    ASSERT_TRUE(read.ok());
    EXPECT_EQ(read->about, piece.about);
}

// Files of other programs: what can be read is, repeats are played out, and what cannot is listed.
TEST(MusicXml, WhatIsLeftOutIsListedWithItsBar) {
    const std::string note = "<note><pitch><step>E</step><octave>5</octave></pitch>"
                             "<duration>4</duration><voice>1</voice><type>whole</type></note>";
    const std::string file =
        "<score-partwise version='3.0'><part-list/><part id='P1'>"
        "<measure number='1'><barline location='left'><repeat direction='forward'/></barline>"
        "<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time>"
        "<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>"
        "</attributes>" +
        note +
        "<barline location='right'><repeat direction='backward' times='3'/></barline></measure>"
        "<measure number='2'><note><unpitched/><duration>1</duration></note></measure>"
        "<measure number='3'><direction><sound dacapo='yes'/></direction>" +
        note +
        "<note><pitch><step>E</step><octave>5</octave></pitch><duration>-3</duration></note>"
        "</measure></part><part id='P2'><measure number='1'/></part></score-partwise>";
    std::vector<std::string> unread;
    const auto read = readMusicXml(file, &unread);
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), 4U) << "the first bar three times, and the last one";
    EXPECT_EQ(read->notes[0].midi(), 64) << "it sounds an octave below what is written";
    EXPECT_THAT(
        unread,
        ::testing::IsSupersetOf({std::string("bar 2: a note without a pitch"),
                                 std::string("bar 2 is not as long as its metre says"),
                                 std::string("bar 3: a jump by word (dacapo) is not followed"),
                                 std::string("bar 3: a duration that cannot be"),
                                 std::string("part P2 is left out: a piece is one instrument's")}));
}

// What stood against "note for note" is not in the file: what was said of it goes on to hold.
TEST(MusicXml, HowExactItIsComesBack) {
    Piece piece = test::scalePiece(8);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.probability = 0.5;
    const std::string said = exactnessLine(piece);
    ASSERT_THAT(said, HasSubstr("8 open doubts"));
    auto read = readMusicXml(writeMusicXml(piece));
    ASSERT_TRUE(read.ok());
    EXPECT_EQ(exactnessLine(*read), said);
    EXPECT_EQ(exactnessLine(*readMusicXml(writeMusicXml(*read))), said) << "and again";
    // That it is note for note is for the facts to say, not for a file.
    for (const auto& [from, to] :
         {std::pair<std::string, std::string>{said, "Note for note"}, {said, ""}}) {
        std::string xml = writeMusicXml(piece);
        xml.replace(xml.find(from), from.size(), to);
        read = readMusicXml(xml);
        ASSERT_TRUE(read.ok());
        EXPECT_TRUE(read->asPlayed().head.statement.empty());
    }
}

TEST(MusicXml, HostileFilesAreRefusedInOneSentence) {
    EXPECT_THAT(readMusicXml("hello").error().message, HasSubstr("not"));
    EXPECT_THAT(readMusicXml("<html/>").error().message, HasSubstr("no score-partwise"));
    EXPECT_THAT(readMusicXml("<score-timewise/>").error().message, HasSubstr("part by part"));
    EXPECT_THAT(readMusicXml("<score-partwise><part id='P1'/></score-partwise>").error().message,
                HasSubstr("no notes"));
    // An external entity is neither fetched nor expanded.
    const auto entity =
        readMusicXml("<!DOCTYPE x [<!ENTITY e SYSTEM "
                     "'file:///etc/passwd'>]><score-partwise><work><work-title>&e;</work-title></"
                     "work><part id='P1'><measure><note><pitch><step>C</step>"
                     "<octave>4</octave></pitch><duration>1</duration></note></measure></part></"
                     "score-partwise>");
    ASSERT_TRUE(entity.ok());
    EXPECT_EQ(entity->title, "&e;");
    const auto pitch =
        readMusicXml("<score-partwise><part><measure "
                     "number='7'><note><pitch><step>Q</step><octave>4</octave></pitch><duration>1</"
                     "duration></note></measure></part></score-partwise>");
    EXPECT_THAT(pitch.error().message, HasSubstr("bar 7"));
}

} // namespace
} // namespace wirenote
