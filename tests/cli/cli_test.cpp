// The command line as scripts use it: files, exit status, one-line errors.
#include "base/atomic_file.h"
#include "formats/notes_json.h"
#include "music/string_table.h"
#include "session/demo.h"
#include "session/files.h"
#include "support/demo_files.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <fstream>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using ::testing::HasSubstr;
using ::testing::Not;

test::ShellResult cli(const std::string& arguments) {
    return test::shell(WIRENOTE_BIN_DIR "/wirenote-cli " + arguments);
}

class Cli : public ::testing::Test {
  protected:
    static void SetUpTestSuite() {
        s_folder =
            std::filesystem::temp_directory_path() / ("wirenote-cli-" + std::to_string(::getpid()));
        test::putDemo(s_folder);
    }
    static void TearDownTestSuite() { std::filesystem::remove_all(s_folder); }
    static std::string file(const std::string& name) { return (s_folder / name).string(); }
    static std::filesystem::path s_folder;
};
std::filesystem::path Cli::s_folder;

TEST_F(Cli, TranscribeWritesEveryFileAskedFor) {
    const auto result = cli(
        "transcribe " + file("heron-at-low-water.wav") +
        " --instrument guitar --tuning \"E2 A2 D3 G3 B3 E4\" --tempo 92 --meter 4/4 --out " +
        file("n.json") + " --musicxml " + file("n.musicxml") + " --midi " + file("n.mid") +
        " --tab " + file("n.tab") + " --jams " + file("n.jams") + " --piece " + file("n.wirenote"));
    ASSERT_EQ(result.status, 0) << result.output;
    EXPECT_THAT(result.output, Not(HasSubstr("heard "))) << "nobody looks at a terminal";
    const auto notes = readAny(file("n.json"));
    ASSERT_TRUE(notes.ok());
    EXPECT_GT(notes->notes.size(), 60U);
    EXPECT_DOUBLE_EQ(notes->timeline.tempo_bpm, 92.0);
    for (const char* name : {"n.musicxml", "n.mid", "n.wirenote"})
        EXPECT_EQ(readAny(file(name))->notes.size(), notes->notes.size()) << name;
    for (const char* name : {"n.tab", "n.jams"})
        EXPECT_GT(std::filesystem::file_size(file(name)), 500U) << name;
}

TEST_F(Cli, DemoMakesRecordingsTruthAndPiece) {
    const auto made = cli("demo --out " + file("made"));
    ASSERT_EQ(made.status, 0) << made.output;
    EXPECT_THAT(made.output, HasSubstr("simulated"));
    const DemoFiles files = demoIn(file("made"));
    for (const auto& each : {files.take, files.truth, files.slow, files.slow_truth})
        EXPECT_TRUE(std::filesystem::exists(each)) << each;
    const auto piece = readAny(files.piece);
    ASSERT_TRUE(piece.ok());
    ASSERT_EQ(piece->takes.size(), 2U);
    EXPECT_FALSE(piece->takes[1].demonstrations.empty());
}

// Strings by their name in the table, or by a table of one's own; kinds of evidence left out.
// On a terminal how far it is stands on one line that is written over; `script` gives it one.
TEST_F(Cli, ProgressOnATerminalIsOneLine) {
    const auto take = file("heron-at-low-water.wav");
    const auto result = test::shell("script -qec '" WIRENOTE_BIN_DIR "/wirenote-cli transcribe " +
                                    take + " --out " + file("out.json") + "' /dev/null");
    EXPECT_EQ(result.status, 0) << result.output;
    EXPECT_THAT(result.output, HasSubstr("\rheard "));
    std::size_t ends = 0;
    for (std::size_t at = 0; (at = result.output.find("heard ", at)) != std::string::npos; ++at)
        ends += at > 0 && result.output[at - 1] == '\n' ? 1 : 0;
    EXPECT_EQ(ends, 0U) << "it is never begun on another line";
}

// Who asks the window's program for help over a line without a display gets it.
TEST_F(Cli, HelpNeedsNoDisplay) {
    const auto help =
        test::shell("env -u DISPLAY -u WAYLAND_DISPLAY QT_QPA_PLATFORM=xcb " WIRENOTE_BIN_DIR
                    "/wirenote --help");
    EXPECT_EQ(help.status, 0) << help.output;
    EXPECT_THAT(help.output, HasSubstr("further recordings are takes"));
}

TEST_F(Cli, StringsComeFromTheTable) {
    const std::string take =
        "transcribe " + file("heron-at-low-water.wav") + " --out " + file("s.json") + " ";
    const auto stringsOf = [](const std::string& name) {
        return readAny(file(name))->instrument.strings;
    };
    ASSERT_EQ(cli(take + "--piece " + file("s.wirenote") +
                  " --instrument guitar --strings \"extra light, 9 to 42\"")
                  .status,
              0);
    EXPECT_NEAR(stringsOf("s.wirenote")[0].gauge_mm, 0.2286, 1e-4);
    const auto unknown = cli(take + "--strings heavy");
    EXPECT_EQ(unknown.status, 2);
    EXPECT_THAT(unknown.output, HasSubstr("light, 10 to 46"));

    std::string text = shippedStringsText();
    const std::string light = "\"core_density_kg_m3\": 7850";
    text.replace(text.find(light), light.size(), "\"core_density_kg_m3\": 8100");
    ASSERT_TRUE(writeFileAtomically(file("mine.json"), text).ok());
    ASSERT_EQ(
        cli(take + "--piece " + file("s.wirenote") + " --string-table " + file("mine.json")).status,
        0);
    ASSERT_TRUE(stringsOf("s.wirenote")[0].build.has_value()) << "the piece carries it";
    EXPECT_FALSE(stringsOf("s.wirenote")[5].build.has_value());

    ASSERT_TRUE(writeFileAtomically(file("mine.json"), std::string("{\"format\": 3}")).ok());
    const auto broken = cli(take + "--string-table " + file("mine.json"));
    EXPECT_EQ(broken.status, 3);
    EXPECT_THAT(broken.output, HasSubstr("mine.json"));
    EXPECT_EQ(cli(take + "--string-table " + file("nowhere.json")).status, 3);
}

TEST_F(Cli, EvidenceCanBeLeftOutForMeasuring) {
    const std::string take = "transcribe " + file("heron-at-low-water.wav") + " --out " +
                             file("w.json") + " --piece " + file("w.wirenote");
    ASSERT_EQ(cli(take + " --without stiffness,decay,comb,tilt,squeaks").status, 0);
    const auto deaf = readAny(file("w.wirenote"));
    ASSERT_TRUE(deaf.ok());
    for (const Note& note : deaf->notes) {
        EXPECT_FALSE(note.heard().stiffness.told());
        EXPECT_FALSE(std::ranges::any_of(note.heard().tone, &Measure::told));
    }
    ASSERT_EQ(cli(take + " --without decay").status, 0);
    int told = 0;
    const auto hearing = readAny(file("w.wirenote"));
    ASSERT_TRUE(hearing.ok());
    for (const Note& note : hearing->notes) {
        EXPECT_FALSE(note.heard().tone[static_cast<std::size_t>(ToneFigure::DecayLow)].told());
        told += note.heard().tone[static_cast<std::size_t>(ToneFigure::Comb)].told() ? 1 : 0;
    }
    EXPECT_GT(told, 10) << "the rest is measured";
    EXPECT_NE(cli(take + " --without luck").status, 0);
}

// The demo's lowest string is a whole step low, and nobody said so.
TEST_F(Cli, DoubtsAreListedTheQuestionsFirst) {
    const auto said = cli("doubts " + file("heron-at-low-water.wirenote"));
    ASSERT_EQ(said.status, 0);
    EXPECT_EQ(said.output.find("instrument: guitar D2 A2 D3 G3 B3 E4"), 0U) << said.output;
    EXPECT_NE(said.output.find("(now)"), std::string::npos);
    const std::string slow = file("slow.wirenote");
    ASSERT_EQ(cli("transcribe " + file("heron-shown-slowly.webm") + " --out " + file("slow.json") +
                  " --piece " + slow)
                  .status,
              0);
    const auto doubts = cli("doubts " + slow);
    for (const char* kind : {" s place ", " s finger "})
        EXPECT_NE(doubts.output.find(kind), std::string::npos) << kind << doubts.output;
    const auto wrong = cli("doubts " + file("heron-at-low-water.wav"));
    EXPECT_NE(wrong.status, 0);
    EXPECT_NE(wrong.output.find("heron-at-low-water.wav"), std::string::npos) << wrong.output;
}

TEST_F(Cli, ConvertGoesBetweenFormats) {
    ASSERT_EQ(
        cli("convert " + file("heron-at-low-water.truth.json") + " " + file("c.musicxml")).status,
        0);
    ASSERT_EQ(cli("convert " + file("c.musicxml") + " " + file("c.json")).status, 0);
    const auto truth = readAny(file("heron-at-low-water.truth.json"));
    const auto back = readAny(file("c.json"));
    ASSERT_EQ(back->notes.size(), truth->notes.size());
    for (std::size_t i = 0; i < truth->notes.size(); ++i)
        EXPECT_EQ(back->asPlayed().plans[i].position.value,
                  truth->asPlayed().plans[i].position.value)
            << i;
}

TEST_F(Cli, FingerPlacesBareNotes) {
    ASSERT_EQ(cli("convert " + file("heron-at-low-water.truth.json") + " " + file("f.mid")).status,
              0);
    ASSERT_EQ(
        cli("finger " + file("f.mid") + " --instrument acoustic --capo 2 --out " + file("f.json"))
            .status,
        0);
    const auto placed = readAny(file("f.json"));
    ASSERT_TRUE(placed.ok());
    EXPECT_EQ(placed->instrument.capo, 2);
    EXPECT_EQ(placed->instrument.kind, InstrumentKind::Acoustic);
    int with_place = 0;
    for (std::size_t i = 0; i < placed->notes.size(); ++i)
        if (placed->asPlayed().plans[i].placed()) {
            ++with_place;
            EXPECT_EQ(placed->instrument.midiAt(placed->asPlayed().plans[i].position.value),
                      placed->notes[i].midi());
        }
    EXPECT_GT(with_place, 60);
}

TEST_F(Cli, ReadingsAreMadeOnDemandAndKept) {
    std::filesystem::copy_file(file("heron-at-low-water.wirenote"), file("readings.wirenote"));
    const auto made = cli("readings " + file("readings.wirenote") + " --make no-open");
    ASSERT_EQ(made.status, 0) << made.output;
    EXPECT_THAT(made.output, HasSubstr("no open strings cannot be had at bar"))
        << "the lowest E is open only";
    const auto listed = cli("readings " + file("readings.wirenote"));
    EXPECT_EQ(listed.output, "as played\nno open strings\n");
    const auto told = cli("readings " + file("readings.wirenote") + " --in-full");
    EXPECT_THAT(told.output, HasSubstr("Adapted: made to be played otherwise"));
    EXPECT_THAT(told.output, HasSubstr("made from as played"));
    const auto piece = readAny(file("readings.wirenote"));
    ASSERT_TRUE(piece.ok());
    ASSERT_EQ(piece->readings.size(), 2U);
    EXPECT_EQ(piece->readings[1].head.wish.kind, WishKind::NoOpen);
    EXPECT_EQ(cli("readings " + file("readings.wirenote") + " --make faster").status, 2);
    EXPECT_EQ(cli("readings " + file("none.wirenote")).status, 3);
}

TEST_F(Cli, APieceIsTakenToAnotherKeyAndNeckAndWrittenInOneReading) {
    std::filesystem::copy_file(file("heron-at-low-water.wirenote"), file("other.wirenote"));
    const std::string piece = file("other.wirenote");
    EXPECT_EQ(cli("readings " + piece + " --transpose 3").status, 0) << "kept in the piece";
    EXPECT_EQ(readAny(piece)->readings.back().head.semitones, 3);
    EXPECT_EQ(cli("readings " + piece + " --out " + file("up.wirenote")).status, 2) << "for what?";
    const auto moved = cli("readings " + piece + " --transpose 3 --capo 1 --make no-open --out " +
                           file("up.wirenote"));
    ASSERT_EQ(moved.status, 0) << moved.output;
    const auto up = readAny(file("up.wirenote"));
    const auto was = readAny(piece);
    ASSERT_TRUE(up.ok() && was.ok());
    EXPECT_EQ(up->instrument.capo, 1);
    EXPECT_TRUE(up->takes.empty());
    EXPECT_EQ((up->notes.front().midi() - was->notes.front().midi() - 3) % 12, 0);

    ASSERT_EQ(cli("readings " + piece + " --make no-barre").status, 0);
    ASSERT_EQ(
        cli("convert " + piece + " " + file("one.wirenote") + " --reading \"no barre\"").status, 0);
    EXPECT_EQ(readAny(file("one.wirenote"))->asPlayed().head.wish.kind, WishKind::NoBarre);
    const auto wrong = cli("convert " + piece + " " + file("two.wirenote") + " --reading nothing");
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.output.find("there is no reading \"nothing\""), std::string::npos);
}

TEST_F(Cli, WhatDiffersBetweenTwoReadingsOrAScoreIsWritten) {
    const std::string piece = file("compared.wirenote");
    std::filesystem::copy_file(file("heron-at-low-water.wirenote"), piece);
    ASSERT_EQ(cli("readings " + piece + " --make \"transpose:2+capo:2\"").status, 0);
    const std::string diff = file("diff.json");
    ASSERT_EQ(cli("readings " + piece + " --compare \"as played\" 2 --out " + diff).status, 0);
    const auto json = nlohmann::json::parse(*readWholeFile(diff, 10'000'000));
    EXPECT_EQ(json["semitones"], 2);
    EXPECT_TRUE(json["differences"].is_array());
    const std::string score = file("compared.musicxml");
    ASSERT_EQ(cli("convert " + piece + " " + score).status, 0);
    EXPECT_EQ(cli("readings " + piece + " --compare 1 " + score).output, "nothing differs\n");
    EXPECT_EQ(cli("readings " + piece + " --compare 1 3").status, 2);
    EXPECT_EQ(cli("readings " + piece + " --compare 1").status, 2);
    EXPECT_EQ(cli("readings " + piece + " --compare 1 2 --out " + piece).status, 2)
        << "never over the piece";
}

TEST_F(Cli, FingerFollowsTheSchoolThatIsAskedFor) {
    const std::string notes = R"({"format": "wirenote-notes/1", "notes": [
        {"onset_s": 0.0, "offset_s": 0.4, "midi": 55}, {"onset_s": 0.5, "offset_s": 0.9, "midi": 57},
        {"onset_s": 1.0, "offset_s": 1.4, "midi": 59}, {"onset_s": 1.5, "offset_s": 1.9, "midi": 60}]})";
    ASSERT_TRUE(writeFileAtomically(file("line.json"), notes).ok());
    const auto openWith = [&](const std::string& school) {
        const auto done = cli("finger " + file("line.json") + " --fretting-school " + school +
                              " --out " + file("school.json"));
        EXPECT_EQ(done.status, 0) << done.output;
        int open = 0;
        for (const NotePlan& plan : readAny(file("school.json"))->asPlayed().plans)
            open += plan.position.value.fret == 0 ? 1 : 0;
        return open;
    };
    EXPECT_GT(openWith("open"), 0);
    EXPECT_EQ(openWith("closed"), 0);
    EXPECT_GT(openWith("open+roll+lift"), 0);
    for (const std::string school : {"alternate",
                                     "sequence",
                                     "economy",
                                     "sweep",
                                     "down",
                                     "cross",
                                     "strum",
                                     "pima",
                                     "thumb",
                                     "im",
                                     "ma",
                                     "hybrid",
                                     "slap",
                                     "auto"}) {
        const auto done = cli("finger " + file("line.json") + " --plucking-school " + school +
                              " --out " + file("school.json"));
        EXPECT_EQ(done.status, 0) << school << ": " << done.output;
    }
    const auto wrong = cli("finger " + file("line.json") + " --fretting-school box+jump --out " +
                           file("school.json"));
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.output.find("\"box+jump\" is none of: finger-per-fret, box"), std::string::npos)
        << wrong.output;
    EXPECT_EQ(
        cli("finger " + file("line.json") + " --fretting-school folk --out " + file("school.json"))
            .status,
        2);
}

TEST_F(Cli, FingerKeepsWhatTheFileGives) {
    std::ofstream(file("given.json")) << R"({"format": "wirenote-notes/1", "notes": [
        {"onset_s": 1.0, "offset_s": 1.9, "midi": 45, "string": 6, "fret": 5, "finger": "3"},
        {"onset_s": 2.0, "offset_s": 2.9, "midi": 50, "string": 4, "fret": 9},
        {"onset_s": 3.0, "offset_s": 3.9, "midi": 52}]})";
    ASSERT_EQ(cli("finger " + file("given.json") + " --out " + file("kept.json")).status, 0);
    const auto kept = readAny(file("kept.json"));
    ASSERT_TRUE(kept.ok());
    const auto& plans = kept->asPlayed().plans;
    EXPECT_EQ(plans[0].position.value, (Position{6, 5}));
    EXPECT_EQ(plans[0].finger.value, Finger::Ring);
    EXPECT_EQ(kept->instrument.midiAt(plans[1].position.value), 50)
        << "string 4 has no D at fret 9: it is placed anew";
    EXPECT_TRUE(plans[2].placed());
    ASSERT_EQ(cli("finger " + file("given.json") + " --again --out " + file("again.json")).status,
              0);
    const auto again = readAny(file("again.json"));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->asPlayed().plans[0].position.value, (Position{5, 0}));
}

struct Call {
    const char* arguments;
    int status;
    const char* says;
};
void PrintTo(const Call& call, std::ostream* out) {
    *out << call.arguments;
}
class Calls : public ::testing::TestWithParam<Call> {};
TEST_P(Calls, EndWithTheirStatusAndOneSentence) {
    const auto result = cli(GetParam().arguments);
    EXPECT_EQ(result.status, GetParam().status) << result.output;
    EXPECT_THAT(result.output, HasSubstr(GetParam().says));
    EXPECT_FALSE(std::filesystem::exists("/tmp/wirenote-never.json"));
}
INSTANTIATE_TEST_SUITE_P(
    Lines,
    Calls,
    ::testing::Values(
        Call{"", 2, "subcommand"},
        Call{"--help", 0, "transcribe"},
        Call{"sing", 2, "subcommand"},
        Call{"transcribe /none.wav --out /tmp/wirenote-never.json", 3, "no such file"},
        Call{"transcribe /etc/hostname --out /tmp/wirenote-never.json", 3, "not a recording"},
        Call{"transcribe x.wav --instrument banjo --out /tmp/wirenote-never.json",
             2,
             "no instrument"},
        Call{"transcribe x.wav --tuning E2 --out /tmp/wirenote-never.json", 2, "names 1 strings"},
        Call{"transcribe x.wav --capo 40 --out /tmp/wirenote-never.json", 2, "capo"},
        Call{"transcribe x.wav --a4 900 --out /tmp/wirenote-never.json", 2, "--a4"},
        Call{"transcribe x.wav --meter 4/5 --out /tmp/wirenote-never.json", 2, "metre"},
        Call{"transcribe x.wav --tempo fast --out /tmp/wirenote-never.json", 2, "--tempo"},
        Call{"finger /none.mid --out /tmp/wirenote-never.json", 3, "no such file"},
        Call{"convert /none.json /tmp/wirenote-never.json", 3, "no such file"},
        Call{"convert /none.json /tmp/x.docx", 2, "ending"},
        Call{"demo --out /proc/nothing", 3, "cannot be created"}));

// What used to be destroyed, lost or passed over in silence.
TEST_F(Cli, ARecordingIsNeverWrittenOver) {
    const std::string own = file("own.wav");
    std::filesystem::copy_file(file("heron-at-low-water.wav"), own);
    std::filesystem::create_symlink("own.wav", file("own-link.json"));
    const auto before = *readWholeFile(own, 100000000);
    for (const std::string& arguments :
         {"transcribe " + own + " --out " + own,
          "transcribe " + own + " --out " + file("x.json") + " --midi " + own,
          "transcribe " + own + " --out " + file("own-link.json"),
          "transcribe " + own + " --out " + file("x.json") + " --tab " + file("x.json"),
          "calibrate " + own + " --out " + own,
          "convert " + file("heron-at-low-water.wirenote") + " " +
              file("heron-at-low-water.wirenote")}) {
        const auto refused = cli(arguments);
        EXPECT_EQ(refused.status, 2) << arguments;
        EXPECT_THAT(refused.output, HasSubstr("Nothing was written")) << arguments;
        EXPECT_FALSE(std::filesystem::exists(file("x.json")));
    }
    EXPECT_EQ(*readWholeFile(own, 100000000), before);
}

TEST_F(Cli, WhatCannotBeMeantIsRefusedBeforeAnyWork) {
    const std::string take = "transcribe " + file("heron-at-low-water.wav") + " --out ";
    struct Row {
        std::string arguments;
        int status;
        const char* says;
    };
    for (const Row& row :
         {Row{take + file("x.json") + " --capo -5", 2, "capo"},
          Row{take + file("x.json") + " --tuning ''", 2, "tuning"},
          Row{take + file("x.json") + " --piece " + file("y.txt"), 2, ".wirenote"},
          Row{take + file("none/x.json"), 3, "no folder"},
          Row{take + file("x.json") + " --midi " + file("none/x.mid"), 3, "no folder"},
          Row{take + s_folder.string(), 3, "is a folder"}}) {
        const auto refused = cli(row.arguments);
        EXPECT_EQ(refused.status, row.status) << row.arguments << refused.output;
        EXPECT_THAT(refused.output, HasSubstr(row.says)) << row.arguments;
        EXPECT_FALSE(std::filesystem::exists(file("x.json"))) << row.arguments;
    }
}

TEST_F(Cli, ACalibrationOfAnotherKindOfInstrumentIsRefused) {
    ASSERT_EQ(cli("calibrate " + file("heron-at-low-water.wav") + " --instrument acoustic --out " +
                  file("acoustic.json"))
                  .status,
              3)
        << "no calibration take";
    ASSERT_TRUE(
        writeFileAtomically(file("acoustic.json"),
                            "{\"format\": \"wirenote-calibration/1\", \"instrument\": "
                            "{\"kind\": \"acoustic\"}, \"strings\": [{}, {}, {}, {}, {}, {}]}")
            .ok());
    const auto refused =
        cli("transcribe " + file("heron-at-low-water.wav") + " --instrument nylon --calibration " +
            file("acoustic.json") + " --out " + file("x.json"));
    EXPECT_EQ(refused.status, 3);
    EXPECT_THAT(refused.output, HasSubstr("another kind of instrument (acoustic, not nylon)"));
}

TEST_F(Cli, ACutRecordingIsHeardAndSaid) {
    const std::string bytes = *readWholeFile(file("heron-at-low-water.wav"), 100000000);
    ASSERT_TRUE(writeFileAtomically(file("cut.wav"), bytes.substr(0, bytes.size() / 3)).ok());
    const auto heard = cli("transcribe " + file("cut.wav") + " --out " + file("cut.json"));
    EXPECT_EQ(heard.status, 0);
    EXPECT_THAT(heard.output, HasSubstr("breaks off before the end"));
}

TEST_F(Cli, ALimitOnTheSizeOfFilesIsASentenceAndNotASignal) {
    const auto limited =
        test::shell("ulimit -f 2; " WIRENOTE_BIN_DIR "/wirenote-cli convert " +
                    file("heron-at-low-water.wirenote") + " " + file("limited.json"));
    EXPECT_EQ(limited.status, 3) << limited.output;
    EXPECT_THAT(limited.output, HasSubstr("cannot be written"));
    EXPECT_FALSE(std::filesystem::exists(file("limited.json")));
}

TEST_F(Cli, DevicesAndPipesTakeTheNotes) {
    EXPECT_EQ(cli("finger " + file("heron-at-low-water.wirenote") + " --out /dev/null").status, 0);
    EXPECT_TRUE(std::filesystem::is_character_file("/dev/null"));
    EXPECT_THAT(
        cli("finger " + file("heron-at-low-water.wirenote") + " --out /dev/stdout | head -3")
            .output,
        HasSubstr("beats_s"));
}

// A second recording of the same piece: what it shows of the first one.
TEST_F(Cli, SeveralRecordingsAreOnePieceAndTheFirstLeads) {
    const auto both =
        cli("transcribe " + file("heron-at-low-water.wav") + " " + file("heron-shown-slowly.webm") +
            " --out " + file("both.json") + " --piece " + file("both.wirenote"));
    ASSERT_EQ(both.status, 0) << both.output;
    const auto piece = readAny(file("both.wirenote"));
    ASSERT_TRUE(piece.ok());
    ASSERT_EQ(piece->takes.size(), 2U);
    EXPECT_GT(piece->takes[1].notes.size(), 20U);
    ASSERT_FALSE(piece->takes[1].demonstrations.empty());
    EXPECT_TRUE(piece->takes[1].demonstrations.front().inPiece());
    EXPECT_LT(piece->takes[1].demonstrations.front().tempoRatio(), 0.95);
    const auto json = readWholeFile(file("both.json"), 10'000'000);
    ASSERT_TRUE(json.ok());
    EXPECT_THAT(*json, HasSubstr("\"demonstrations\""));
    EXPECT_THAT(*json, HasSubstr("\"take\": 1"));
}

TEST_F(Cli, ASecondRecordingThatIsNoneIsNamed) {
    ASSERT_TRUE(writeFileAtomically(file("no-sound.wav"), "nothing").ok());
    const auto wrong = cli("transcribe " + file("heron-at-low-water.wav") + " " +
                           file("no-sound.wav") + " --out " + file("never.json"));
    EXPECT_EQ(wrong.status, 3);
    EXPECT_THAT(wrong.output, HasSubstr("no-sound.wav"));
    EXPECT_FALSE(std::filesystem::exists(file("never.json")));
}

// A name that is not UTF-8 ended the program while it saved.
TEST_F(Cli, AFileNamedInAnotherEncodingIsHeardAndWritten) {
    const std::string odd = file("caf\xE9.wav");
    std::filesystem::copy_file(file("heron-at-low-water.wav"), odd);
    const auto heard = cli("transcribe '" + odd + "' --out " + file("odd.json") + " --musicxml " +
                           file("odd.musicxml") + " --jams " + file("odd.jams") + " --piece " +
                           file("odd.wirenote"));
    ASSERT_EQ(heard.status, 0) << heard.output;
    const auto piece = readAny(file("odd.wirenote"));
    ASSERT_TRUE(piece.ok()) << piece.error().sentence();
    EXPECT_EQ(piece->title, "caf\xEF\xBF\xBD");
    EXPECT_EQ(mediaStateOf(*piece->lead(), file("odd.wirenote")), MediaState::Found);
    EXPECT_TRUE(readAny(file("odd.musicxml")).ok());
}

} // namespace
} // namespace wirenote
