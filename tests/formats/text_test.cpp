#include "formats/ascii_tab.h"
#include "formats/jams.h"

#include "base/atomic_file.h"
#include "support/performances.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(AsciiTab, ReadsAsPlayersWriteIt) {
    EXPECT_EQ(writeAsciiTab(test::richPiece()), R"(Test
Ada Example · played by Ben Example · written down by Cleo Example
guitar, E2 A2 D3 G3 B3 E4, 4/4, 120 beats a minute
The essence: 7 open doubts

   0      1                            2
e |------|----------------------------|--------------------2----|
B |------|--------0--1--3--------8----|-------/10---------------|
G |------|-0--h2----------------------|-------------------------|
D |-2----|----------------------------|-------------------------|
A |------|----------------------------|-------------------------|
E |------|----------------------------|-------------------------|
r:  q      e  e   e3 e3 e3 rq    q      ~q    q      rq    q
s:  D      U      U  D  U        D                         D
f:  2         2      2  2        2            2            2
)");
}

TEST(AsciiTab, LinesOfASystemAreEquallyLongAndBroken) {
    Piece piece = test::scalePiece(100);
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.asPlayed().plans[i].position.value = {1, 0};
    std::istringstream lines(writeAsciiTab(piece, 60));
    int tab_lines = 0;
    for (std::string line; std::getline(lines, line);)
        if (line.size() > 3 && line[2] == '|') {
            EXPECT_LE(line.size(), 75U); // one bar may be wider than the width asked for
            ++tab_lines;
        }
    EXPECT_EQ(tab_lines % 6, 0);
    EXPECT_GT(tab_lines, 12);
}

TEST(Jams, KeepsToTheWrittenDownSchema) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a.jams", writeJams(test::richPiece())).ok());
    const std::string check =
        "/usr/bin/python3 -c \"import json,sys,jsonschema; "
        "jsonschema.validate(json.load(open(sys.argv[1])), json.load(open(sys.argv[2])))\" ";
    const auto result = test::shell(check + (scratch / "a.jams").string() +
                                    " " WIRENOTE_SOURCE_DIR "/tests/data/jams-excerpt.schema.json");
    EXPECT_EQ(result.status, 0) << result.output;
}

} // namespace
} // namespace wirenote
