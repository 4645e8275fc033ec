// Twice the input may take two and a half times as long, no more: in processor time, the least of
// several runs.
#include "form/form.h"
#include "formats/ascii_tab.h"
#include "formats/jams.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "piece/delta.h"
#include "piece/edits.h"
#include "score/quantise.h"
#include "support/pieces.h"

#include <algorithm>
#include <ctime>
#include <functional>
#include <gtest/gtest.h>
#include <malloc.h>

namespace wirenote {
namespace {

// Four times the input may take eight times as long: what is linear takes four to six, as caches
// have room for the small one only, what is quadratic sixteen.
constexpr int kTimes = 4;
constexpr double kMost = 8.0;
constexpr int kRuns = 5;

double processor_s() {
    timespec now{};
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

struct Work {
    const char* name;
    int size; // half of it and twice as much are compared
    // Makes the input of a size and gives back what is to be timed.
    std::function<std::function<void()>(int)> prepare;
};

Piece lineOf(int notes) {
    std::vector<test::Row> played;
    for (int i = 0; i < notes; ++i)
        played.push_back({0.25 * i, 0.25 * i + 0.2, 52 + (i * 7) % 12, {4, 2 + (i * 7) % 12}});
    return test::pieceOf(played);
}

std::string tiedXml(int notes) {
    std::string xml = "<score-partwise><part id='P1'>";
    for (int i = 0; i < notes; ++i) {
        if (i % 8 == 0)
            xml += std::string(i > 0 ? "</measure>" : "") + "<measure number='" +
                   std::to_string(i / 8 + 1) +
                   "'><attributes><divisions>2</divisions></attributes>";
        xml +=
            "<note><pitch><step>E</step><octave>" + std::to_string(3 + i % 3) +
            "</octave></pitch><duration>1</duration><tie type='start'/><tie type='stop'/></note>";
    }
    return xml + "</measure></part></score-partwise>";
}

std::string changingXml(int bars) {
    std::string xml = "<score-partwise><part id='P1'>";
    for (int i = 0; i < bars; ++i)
        xml += "<measure number='" + std::to_string(i + 1) + "'><attributes><time><beats>" +
               std::to_string(2 + i % 2) +
               "</beats><beat-type>4</beat-type></time></attributes><note><pitch><step>E</step>"
               "<octave>4</octave></pitch><duration>" +
               std::to_string(2 + i % 2) + "</duration></note></measure>";
    return xml + "</part></score-partwise>";
}

class Growth : public ::testing::TestWithParam<Work> {
  protected:
    // Large blocks would come from the system one by one and each of their pages cost a fault,
    // which is not what is measured here.
    static void SetUpTestSuite() {
        mallopt(M_MMAP_THRESHOLD, 1 << 30);
        mallopt(M_TRIM_THRESHOLD, 1 << 30);
    }
};

TEST_P(Growth, IsNearlyLinear) {
    const auto least = [](int size) {
        const auto run = GetParam().prepare(size);
        double best = 1e9;
        for (int k = 0; k < kRuns; ++k) {
            const double start_s = processor_s();
            run();
            best = std::min(best, processor_s() - start_s);
        }
        return best;
    };
    // A restless machine may spoil a run, not three.
    double small_s = 0.0;
    double large_s = 1.0;
    for (int tries = 0; tries < 3 && large_s >= kMost * small_s; ++tries) {
        small_s = least(GetParam().size / 2);
        large_s = least(kTimes * (GetParam().size / 2));
    }
    RecordProperty("ratio_percent", static_cast<int>(100.0 * large_s / small_s));
    EXPECT_LT(large_s, kMost * small_s) << small_s << " s, then " << large_s << " s";
}

template <class T> void use(const T& value) {
    // Looked at, so that it is made.
    asm volatile("" : : "r"(&value) : "memory");
}

INSTANTIATE_TEST_SUITE_P(
    Of,
    Growth,
    ::testing::Values(
        Work{"ties", 20000, [](int n) { return [xml = tiedXml(n)] { use(readMusicXml(xml)); }; }},
        Work{"reading_changing_metres",
             4000,
             [](int n) { return [xml = changingXml(n)] { use(readMusicXml(xml)); }; }},
        Work{"writing_changing_metres",
             2000,
             [](int n) {
                 return [piece = *readMusicXml(changingXml(n))] { use(writeMusicXml(piece)); };
             }},
        Work{"counting_metres",
             4000,
             [](int n) {
                 return
                     [piece = *readMusicXml(changingXml(n))] { use(piece.timeline.downbeats_s()); };
             }},
        Work{"checking",
             10000,
             [](int n) { return [piece = lineOf(n)] { use(checkPiece(piece)); }; }},
        Work{
            "notes_json",
            5000,
            [](int n) { return [text = writeNotesJson(lineOf(n))] { use(readNotesJson(text)); }; }},
        Work{
            "piece_json",
            2500,
            [](int n) { return [text = writePieceJson(lineOf(n))] { use(readPieceJson(text)); }; }},
        Work{"midi",
             20000,
             [](int n) { return [bytes = writeMidi(lineOf(n))] { use(readMidi(bytes)); }; }},
        Work{"writing_midi",
             5000,
             [](int n) { return [piece = lineOf(n)] { use(writeMidi(piece)); }; }},
        Work{"writing_musicxml",
             2500,
             [](int n) { return [piece = lineOf(n)] { use(writeMusicXml(piece)); }; }},
        Work{"writing_tab",
             2500,
             [](int n) { return [piece = lineOf(n)] { use(writeAsciiTab(piece)); }; }},
        Work{"writing_jams",
             2500,
             [](int n) { return [piece = lineOf(n)] { use(writeJams(piece)); }; }},
        Work{"difference",
             40000,
             [](int n) {
                 return
                     [piece = lineOf(n), other = lineOf(n + 1)] { use(difference(piece, other)); };
             }},
        Work{"hearing_again_what_a_person_set",
             5000,
             [](int n) {
                 Piece set = lineOf(n);
                 for (Note& note : set.notes)
                     note.pitch.basis = Basis::Set;
                 return [set, heard = lineOf(n)] {
                     Piece piece = set;
                     use(PieceEditor(piece, "2026-01-01T00:00:00Z").adoptHearing(heard, {0, 1e5}));
                     ASSERT_EQ(piece.notes.size(), set.notes.size());
                 };
             }},
        Work{"phrases",
             8000,
             [](int n) {
                 const Piece piece = lineOf(n);
                 return [bars = contentsOf(piece, quantise(piece))] { use(phrasesOf(bars)); };
             }},
        Work{"quantising",
             40000,
             [](int n) { return [piece = lineOf(n)] { use(quantise(piece)); }; }}),
    [](const auto& row) { return std::string(row.param.name); });

} // namespace
} // namespace wirenote
