#include "formats/journal.h"

#include "formats/piece_json.h"
#include "piece/edits.h"
#include "support/performances.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

const JournalHeader kHeader{"/music/heron.wirenote", std::string(64, 'a'), "2026-01-01T00:00:00Z"};

// As a file would hold it: curves and tones are rounded there.
Piece stored(const Piece& piece) {
    return *readPieceJson(writePieceJson(piece));
}

struct Course {
    std::vector<Piece> states; // before the first edit, after each
    std::string journal;
    std::vector<std::size_t> ends; // of the journal after each state
};

Course course() {
    Course made;
    Piece piece = stored(test::richPiece());
    made.states.push_back(piece);
    made.journal = journalStart(kHeader, piece);
    made.ends.push_back(made.journal.size());
    std::vector<PieceDelta> done;
    const auto edit = [&](auto change) {
        Piece after = piece;
        PieceEditor editor(after, "2026-01-01T00:00:01Z");
        ASSERT_TRUE(change(editor).ok());
        done.push_back(difference(piece, after));
        made.journal += journalStep(done.back(), true);
        piece = after;
        made.states.push_back(piece);
        made.ends.push_back(made.journal.size());
    };
    edit([](PieceEditor& e) { return e.moveToString(1, 5); });
    edit([](PieceEditor& e) { return e.remove(3); });
    edit([](PieceEditor& e) { return e.split(7, 3.0); });
    edit([](PieceEditor& e) { return e.setTempo(100); });
    edit([](PieceEditor& e) { return e.setFinger(5, Finger::Little); });
    edit([](PieceEditor& e) { return e.addReading("one position", "to compare"); });
    edit([](PieceEditor& e) { return e.renameReading("as heard"); });
    for (int back = 0; back < 2; ++back) { // two steps undone
        revert(done.back(), piece);
        made.journal += journalStep(done.back(), false);
        done.pop_back();
        made.states.push_back(piece);
        made.ends.push_back(made.journal.size());
    }
    return made;
}

// The check value that published lists of CRCs give for CRC-32 over "123456789".
TEST(Journal, TheSumIsTheUsualCrc32) {
    EXPECT_EQ(crc32("123456789"), 0xCBF43926U);
    EXPECT_EQ(crc32(""), 0U);
}

TEST(Journal, GivesBackEveryStateEditByEdit) {
    const Course made = course();
    ASSERT_EQ(made.states.size(), 10U);
    for (std::size_t i = 0; i < made.states.size(); ++i) {
        const std::string_view bytes = std::string_view(made.journal).substr(0, made.ends[i]);
        const auto read = readJournal(bytes);
        ASSERT_TRUE(read.ok()) << read.error().message;
        EXPECT_EQ(read->steps, static_cast<int>(i));
        EXPECT_EQ(countJournalSteps(bytes), read->steps);
        EXPECT_FALSE(read->cut);
        EXPECT_EQ(writePieceJson(read->piece), writePieceJson(made.states[i])) << "step " << i;
        EXPECT_EQ(read->header, kHeader);
    }
}

// A kill or a power cut in the middle of a line: what stands before it counts.
TEST(Journal, CutAnywhereItGivesTheLastWholeState) {
    const Course made = course();
    for (std::size_t cut = made.ends.front(); cut < made.journal.size(); cut += 7) {
        const auto read = readJournal(std::string_view(made.journal).substr(0, cut));
        ASSERT_TRUE(read.ok()) << cut;
        std::size_t whole = 0;
        while (whole + 1 < made.ends.size() && made.ends[whole + 1] <= cut)
            ++whole;
        EXPECT_EQ(read->steps, static_cast<int>(whole)) << cut;
        EXPECT_EQ(read->cut, cut != made.ends[whole]) << cut;
    }
    EXPECT_FALSE(readJournal(std::string_view(made.journal).substr(0, made.ends[0] / 2)).ok());
}

TEST(Journal, AWrongByteEndsItThere) {
    Course made = course();
    made.journal[made.ends[2] + 40] ^= 1;
    const auto read = readJournal(made.journal);
    ASSERT_TRUE(read.ok());
    EXPECT_EQ(read->steps, 2);
    EXPECT_TRUE(read->cut);
}

TEST(Journal, ANewerVersionAndAnotherFileAreToldApart) {
    EXPECT_FALSE(readJournal("").ok());
    EXPECT_THAT(readJournal("words").error().message, HasSubstr("not a journal"));
    Piece piece = test::richPiece();
    std::string text = journalStart(kHeader, piece);
    const auto end = text.find('\n');
    std::string first = text.substr(9, end - 9);
    first.replace(first.find("journal/1"), 9, "journal/9");
    char sum[9];
    std::snprintf(sum, sizeof sum, "%08x", crc32(first));
    EXPECT_THAT(readJournalHeader(std::string(sum) + " " + first + "\n").error().message,
                HasSubstr("newer version"));
}

// A path is bytes, and need not be UTF-8.
TEST(Journal, KeepsAnyPath) {
    JournalHeader header = kHeader;
    header.piece_file = "/music/caf\xE9 100%.wirenote";
    EXPECT_EQ(readJournalHeader(journalStart(header, test::richPiece()))->piece_file,
              header.piece_file);
}

} // namespace
} // namespace wirenote
