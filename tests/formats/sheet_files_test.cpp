// Text tab there and back, compressed MusicXML, and rows of values.
#include "formats/ascii_tab.h"
#include "formats/csv.h"
#include "formats/musicxml.h"
#include "formats/mxl.h"
#include "support/only_in.h"
#include "support/performances.h"
#include "support/random_sheets.h"
#include "support/scratch.h"
#include "support/shell.h"

#include "base/atomic_file.h"
#include "score/bars.h"

#include <gmock/gmock.h>
#include <set>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// What a text tab says of a piece in one voice: place, length, string, fret, hands.
std::vector<std::string> said(const Piece& piece) {
    std::vector<std::string> lines;
    for (const Bar& bar : writeScore(piece).bars)
        for (const Value& value : bar.values) {
            if (value.tied_from_before)
                continue;
            for (const std::size_t i : value.notes) {
                const NotePlan& plan = piece.asPlayed().plans[i];
                if (!plan.placed())
                    continue;
                const bool told =
                    plan.stroke.value >= Stroke::Down && plan.stroke.value <= Stroke::C;
                lines.push_back(
                    (bar.start + value.start).toString() + " " +
                    std::to_string(plan.position.value.string) + "." +
                    (piece.notes[i].pitched() ? std::to_string(plan.position.value.fret) : "x") +
                    (told ? " s" + std::to_string(static_cast<int>(plan.stroke.value)) : "") +
                    (piece.notes[i].has(Technique::HammerOn) ? " h" : ""));
            }
        }
    std::ranges::sort(lines);
    return lines;
}

// Without what letters on a line cannot say.
Piece sayable(Piece piece) {
    auto& plans = piece.asPlayed().plans;
    std::set<NoteId> unplaced;
    for (const NotePlan& plan : plans)
        if (!plan.placed())
            unplaced.insert(plan.note);
    std::erase_if(piece.notes, [&](const Note& note) { return unplaced.contains(note.id); });
    std::erase_if(plans, [](const NotePlan& plan) { return !plan.placed(); });
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Note& note = piece.notes[i];
        std::erase_if(note.techniques, [](Technique t) { return t != Technique::HammerOn; });
        note.curve.clear();
        note.pitch.value = piece.instrument.midiAt(plans[i].position.value);
        note.voice.reset();
    }
    return piece;
}

TEST(TextTab, ComesBackWithRhythmFingersAndStrokes) {
    for (unsigned seed = 0; seed < 300; ++seed) {
        const Piece piece = sayable(test::randomSheetPiece(seed));
        if (piece.notes.empty())
            continue;
        const std::string text = writeAsciiTab(piece);
        const auto read = readAsciiTab(text);
        ASSERT_TRUE(read.ok()) << seed << ": " << read.error().message << "\n" << text;
        EXPECT_EQ(test::onlyIn(said(piece), said(read->piece)), "") << seed << "\n" << text;
        EXPECT_EQ(test::onlyIn(said(read->piece), said(piece)), "") << seed << "\n" << text;
        EXPECT_THAT(read->unread, ::testing::IsEmpty()) << seed << "\n" << text;
        if (HasFailure())
            return;
    }
}

TEST(TextTab, ReadsWhatPeopleType) {
    const auto read = readAsciiTab("My tune\n\n"
                                   "e|-----------0---|-3-------|\n"
                                   "B|---------1-----|-0-------|\n"
                                   "G|-----0h2-------|-0-------|\n"
                                   "D|---2-----------|-0---x---|\n"
                                   "A|-3-------------|-2-------|\n"
                                   "E|---------------|-3-------|\n");
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->piece.title, "My tune");
    ASSERT_EQ(read->piece.notes.size(), 13U);
    EXPECT_EQ(read->piece.asPlayed().plans[0].position.value, (Position{5, 3}));
    EXPECT_EQ(read->piece.notes.front().midi(), 48);
    EXPECT_TRUE(read->piece.notes.back().has(Technique::Dead));
}

struct BadTab {
    const char* name;
    const char* text;
    const char* said;
};
void PrintTo(const BadTab& bad, std::ostream* out) {
    *out << bad.name;
}
class BadTabs : public ::testing::TestWithParam<BadTab> {};
TEST_P(BadTabs, AreReadAsFarAsTheyGo) {
    const auto read = readAsciiTab(GetParam().text);
    const std::string what =
        read ? read->unread.empty() ? "" : read->unread.front() : read.error().message;
    EXPECT_THAT(what, HasSubstr(GetParam().said));
}
INSTANTIATE_TEST_SUITE_P(
    TextTab,
    BadTabs,
    ::testing::Values(
        BadTab{"nothing", "hello\nworld\n", "holds no tab"},
        BadTab{"no_numbers", "e|------|\nB|------|\nG|------|\nD|------|\n", "no number"},
        BadTab{"two_strings", "e|--0-1--|\nB|--2-3--|\n", "4 to 7 strings"},
        BadTab{"uneven",
               "e|--0---|\nB|------|\nG|---\nD|------|\nA|------|\nE|------|\n",
               "not equally long"},
        BadTab{"a_string_short",
               "e|--0---|\nB|------|\nG|------|\nD|------|\nA|------|\nE|------|\n\n"
               "e|--0---|\nB|------|\nG|------|\nD|------|\nA|------|\n",
               "line 8: has 5 lines where the others have 6"},
        BadTab{"strange_sign",
               "e|--0-?-|\nB|------|\nG|------|\nD|------|\nA|------|\nE|------|\n",
               "\"?\" on string 1"},
        BadTab{"off_the_neck",
               "e|--0-99-|\nB|-------|\nG|-------|\nD|-------|\nA|-------|\nE|-------|\n",
               "fret 99 is not on this neck"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Mxl, ComesBackAndIsAnArchiveThatOthersOpen) {
    const test::Scratch scratch;
    const std::string xml = writeMusicXml(test::richPiece());
    const std::string archive = compressMusicXml(xml);
    EXPECT_LT(archive.size(), xml.size() / 3);
    EXPECT_EQ(*uncompressMusicXml(archive), xml);
    EXPECT_EQ(compressMusicXml(xml), archive) << "the same bytes each time";
    ASSERT_TRUE(writeFileAtomically(scratch / "a.mxl", archive).ok());
    // Python's zipfile reads it too.
    const auto listed = test::shell("python3 -m zipfile -l " + (scratch / "a.mxl").string());
    EXPECT_THAT(listed.output, HasSubstr("META-INF/container.xml"));
    EXPECT_THAT(listed.output, HasSubstr("score.musicxml"));
}

TEST(Mxl, HostileArchivesAreRefusedInOneSentence) {
    EXPECT_THAT(uncompressMusicXml("hello").error().message, HasSubstr("not an archive"));
    EXPECT_THAT(uncompressMusicXml("").error().message, HasSubstr("not an archive"));
    const std::string whole = compressMusicXml(writeMusicXml(test::richPiece()));
    EXPECT_FALSE(uncompressMusicXml(whole.substr(0, whole.size() / 2)).ok());
    // A hundred million zeros in a few kilobytes.
    EXPECT_THAT(uncompressMusicXml(compressMusicXml(std::string(100'000'000, ' '))).error().message,
                HasSubstr("swells to more than 64 MB"));
}

TEST(Csv, HasARowForEachNote) {
    const Piece piece = test::richPiece();
    const std::string csv = writeCsv(piece);
    EXPECT_EQ(static_cast<std::size_t>(std::ranges::count(csv, '\n')), piece.notes.size() + 1);
    EXPECT_THAT(csv, HasSubstr("bar,beat,onset_s"));
}

} // namespace
} // namespace wirenote
