// Every technique in every format that can hold it.
#include "formats/ascii_tab.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "score/marks.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/shell.h"

#include "base/atomic_file.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;
using ::testing::HasSubstr;

Piece withAll() {
    std::vector<test::Row> rows;
    for (int t = 0; t < kTechniqueCount; ++t)
        rows.push_back({0.5 * t, 0.5 * t + 0.48, 64, {2, 5}, {static_cast<Technique>(t)}});
    rows[static_cast<std::size_t>(Technique::Release)].techniques.push_back(Technique::Bend);
    Piece piece = test::pieceOf(rows);
    for (Note& note : piece.notes) {
        const double sign = note.has(Technique::PreBend) ? -1.0 : 1.0;
        if (note.has(Technique::Bend) || note.has(Technique::PreBend))
            for (int k = 0; k < 20; ++k)
                note.curve.push_back({note.onset_s() + 0.02 * k, k < 8 ? 0.0 : sign * 200.0});
        if (note.has(Technique::Harmonic)) {
            note.pitch.value = 71;
            piece.asPlayed().plans[static_cast<std::size_t>(Technique::Harmonic)].position.value = {
                2, 12};
        }
        if (note.has(Technique::PreBend))
            piece.asPlayed().plans[static_cast<std::size_t>(Technique::PreBend)].position.value = {
                2, 3};
    }
    return piece;
}

std::vector<std::vector<Technique>> techniquesOf(const Piece& piece) {
    std::vector<std::vector<Technique>> all;
    for (const Note& note : piece.notes)
        all.push_back(note.techniques);
    return all;
}

TEST(TechniquesInFormats, PieceAndNotesJsonKeepEveryOne) {
    const Piece piece = withAll();
    const auto stored = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(stored.ok()) << stored.error().message;
    EXPECT_EQ(techniquesOf(*stored), techniquesOf(piece));
    const auto notes = readNotesJson(writeNotesJson(piece));
    ASSERT_TRUE(notes.ok()) << notes.error().message;
    EXPECT_EQ(techniquesOf(*notes), techniquesOf(piece));
}

TEST(TechniquesInFormats, MusicXmlIsValidAndBringsBackWhatItHasElementsFor) {
    const test::Scratch scratch;
    const Piece piece = withAll();
    const std::string xml = writeMusicXml(piece);
    ASSERT_TRUE(writeFileAtomically(scratch / "t.musicxml", xml).ok());
    // The published schema, MusicXML 3.0 (tests/data/musicxml-3.0), by xmllint.
    const auto valid = test::shell("xmllint --nonet --noout --schema " WIRENOTE_SOURCE_DIR
                                   "/tests/data/musicxml-3.0/musicxml.xsd " +
                                   (scratch / "t.musicxml").string());
    EXPECT_EQ(valid.status, 0) << valid.output;
    for (const char* element : {"<pre-bend",
                                "<release",
                                "<bend-alter>2<",
                                "<natural",
                                "<trill-mark",
                                "<tremolo",
                                "<arpeggiate",
                                "<accent",
                                "<staccato",
                                "<tap>",
                                "<notehead>x<",
                                "<mute>palm<"})
        EXPECT_TRUE(xml.find(element) != std::string::npos) << element;
    const auto read = readMusicXml(xml);
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), piece.notes.size());
    for (const Technique t : {Technique::PullOff, // the first note has none to be hammered from
                              Technique::Slide,
                              Technique::PalmMute,
                              Technique::Dead,
                              Technique::Staccato,
                              Technique::Harmonic,
                              Technique::Accent,
                              Technique::Trill,
                              Technique::Tremolo,
                              Technique::Roll,
                              Technique::Tap}) {
        EXPECT_TRUE(read->notes[static_cast<std::size_t>(t)].has(t)) << static_cast<int>(t);
    }
    const auto harmonic = static_cast<std::size_t>(Technique::Harmonic);
    EXPECT_EQ(read->notes[harmonic].midi(), 71);
    EXPECT_EQ(read->asPlayed().plans[harmonic].position.value, (Position{2, 12}));
}

TEST(TechniquesInFormats, TheTextTabSaysThemInOneSign) {
    const std::string tab = writeAsciiTab(withAll(), 400);
    for (const char* cell : {"h5", "p5", "/5", "5b", "5br", "5~", "x", "<12>"})
        EXPECT_THAT(tab, HasSubstr(cell));
}

Note with(std::vector<Technique> techniques, double settles_cents = 0.0) {
    Note note;
    note.time.value = {0.0, 1.0};
    note.pitch.value = 64;
    note.techniques = std::move(techniques);
    for (int k = 0; k < 20; ++k)
        note.curve.push_back({0.05 * k, k < 8 ? 0.0 : settles_cents});
    return note;
}

// Amounts in tones and their fractions, arrows, P.M.: common practice in tablature.
TEST(Marks, AreThoseOfTablature) {
    EXPECT_EQ(fretMark(with({}), {1, 7}), "7");
    EXPECT_EQ(fretMark(with({Technique::Harmonic}), {1, 12}), "<12>");
    EXPECT_EQ(fretMark(with({Technique::Dead}), {1, 0}), "x");
    EXPECT_EQ(fretMark(with({Technique::GhostStroke}), {6, 0}), "x");
    EXPECT_EQ(fretMark(with({Technique::PreBend}, -200.0), {1, 5}), "(5)");
    EXPECT_THAT(techniqueMarks(with({Technique::Bend}, 200.0)), ElementsAre("↑1"));
    EXPECT_THAT(techniqueMarks(with({Technique::Bend}, 100.0)), ElementsAre("↑½"));
    EXPECT_THAT(techniqueMarks(with({Technique::Bend}, 50.0)), ElementsAre("↑¼"));
    EXPECT_THAT(techniqueMarks(with({Technique::Bend, Technique::Release}, 300.0)),
                ElementsAre("↑1½", "↓"));
    EXPECT_THAT(techniqueMarks(with({Technique::PreBend, Technique::Release}, -200.0)),
                ElementsAre("↑1", "↓"));
    EXPECT_THAT(techniqueMarks(with({Technique::PalmMute, Technique::Accent})),
                ElementsAre("P.M.", ">"));
    EXPECT_TRUE(techniqueMarks(with({Technique::HammerOn})).empty());
    EXPECT_EQ(slurMark(with({Technique::HammerOn})), "h");
    EXPECT_EQ(slurMark(with({})), "");
}

TEST(Marks, ASlurComesFromTheNoteBeforeOnItsString) {
    const Piece piece = test::pieceOf({{0.0, 1.0, 64, {1, 0}},
                                       {0.0, 0.5, 50, {4, 0}},
                                       {0.5, 1.0, 52, {4, 2}, {Technique::HammerOn}}});
    EXPECT_EQ(noteBeforeOnString(piece, 2), std::optional<std::size_t>(1));
    EXPECT_EQ(noteBeforeOnString(piece, 0), std::nullopt);
    EXPECT_EQ(noteBeforeOnString(piece, 1), std::nullopt);
}

} // namespace
} // namespace wirenote
