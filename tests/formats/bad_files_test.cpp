// Files that were refused once, each with the sentence that a person gets: tests/data/bad holds a
// folder for each reader, sentences.txt the expected sentences. WIRENOTE_ACCEPT=1 writes them anew;
// read the difference before keeping it.
#include "base/atomic_file.h"
#include "formats/calibration_json.h"
#include "formats/instrument_json.h"
#include "formats/journal.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "music/string_table.h"

#include <algorithm>
#include <cstdlib>
#include <functional>
#include <gtest/gtest.h>
#include <map>
#include <sstream>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

const fs::path kFolder = fs::path(WIRENOTE_SOURCE_DIR) / "tests/data/bad";

template <class Read> std::string refusalOf(Read read, const std::string& bytes) {
    const auto result = read(bytes);
    return result ? std::string("(is not refused)") : result.error().message;
}

std::string refusal(const std::string& reader, const std::string& bytes) {
    if (reader == "piece")
        return refusalOf(readPieceJson, bytes);
    if (reader == "notes")
        return refusalOf(readNotesJson, bytes);
    if (reader == "midi")
        return refusalOf(readMidi, bytes);
    if (reader == "musicxml")
        return refusalOf([](const std::string& b) { return readMusicXml(b); }, bytes);
    if (reader == "calibration")
        return refusalOf(readCalibrationJson, bytes);
    if (reader == "instrument")
        return refusalOf(readInstrumentJson, bytes);
    if (reader == "strings")
        return refusalOf(readStringTable, bytes);
    return refusalOf([](const std::string& b) { return readJournal(b); }, bytes);
}

std::map<std::string, std::string> expected() {
    std::map<std::string, std::string> sentences;
    std::istringstream lines(*readWholeFile(kFolder / "sentences.txt", 10'000'000));
    for (std::string line; std::getline(lines, line);)
        if (const auto tab = line.find('\t'); tab != std::string::npos)
            sentences[line.substr(0, tab)] = line.substr(tab + 1);
    return sentences;
}

std::map<std::string, std::string> told() {
    std::map<std::string, std::string> sentences;
    for (const auto& folder : fs::directory_iterator(kFolder)) {
        if (!folder.is_directory())
            continue;
        const std::string reader = folder.path().filename();
        for (const auto& file : fs::directory_iterator(folder.path()))
            sentences[reader + "/" + file.path().filename().string()] =
                refusal(reader, *readWholeFile(file.path(), 10'000'000));
    }
    return sentences;
}

TEST(BadFiles, EachHasItsSentence) {
    const auto sentences = told();
    if (std::getenv("WIRENOTE_ACCEPT")) {
        std::string text;
        for (const auto& [file, sentence] : sentences)
            text += file + "\t" + sentence + "\n";
        ASSERT_TRUE(writeFileAtomically(kFolder / "sentences.txt", text).ok());
    }
    const auto wanted = expected();
    EXPECT_GE(wanted.size(), 300U);
    EXPECT_EQ(wanted.size(), sentences.size()) << "every file has a sentence and the reverse";
    for (const auto& [file, sentence] : sentences) {
        const auto want = wanted.find(file);
        ASSERT_NE(want, wanted.end()) << file;
        EXPECT_EQ(sentence, want->second) << file;
        EXPECT_NE(sentence.find(';'), std::string::npos) << "what to do about " << file;
        EXPECT_EQ(sentence.find('\n'), std::string::npos) << file;
    }
}

} // namespace
} // namespace wirenote
