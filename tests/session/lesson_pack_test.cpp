// The pack of a lesson on disk: whole, renewed where something changed, and nothing of others in
// it.
#include "session/lesson_pack.h"

#include "base/atomic_file.h"
#include "media/media_info.h"
#include "media/sound_file.h"
#include "session/files.h"
#include "session/pack_contents.h"
#include "session/sheet.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sndfile.h>

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

namespace fs = std::filesystem;
using testing::Contains;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::Not;

// Draws nothing: painting has tests of its own.
const PackDrawer kDrawer = {
    [](const std::vector<SheetPage>& pages, const std::string&) {
        return "%PDF " + std::to_string(pages.size());
    },
    [](const std::vector<SheetPage>&, const std::string& html, const std::string&) {
        return "%PDF " + html;
    },
    [](const SheetPage& page) {
        return "<svg><title>" + std::to_string(page.systems.size()) + "</title></svg>";
    }};

Piece tune() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 16; ++i)
        rows.push_back({0.5 * i, 0.5 * i + 0.45, 60 + i % 7, {2, 1 + i % 7}});
    Piece piece = test::pieceOf(rows);
    piece.title = "Reeds";
    for (NotePlan& plan : piece.asPlayed().plans) {
        plan.finger.value = Finger::Index;
        plan.stroke.value = Stroke::Down;
    }
    piece.lesson.phrases = {{{0.0, 4.0}, "first", false, true},
                            {{4.0, 8.0}, "second", false, false}};
    piece.lesson.manner.tempi = {1.0};
    return piece;
}

std::string textOf(const fs::path& file) {
    const auto bytes = readWholeFile(file, 50U << 20U);
    return bytes ? *bytes : std::string();
}

TEST(LessonPack, HoldsEverythingAndSaysWhat) {
    const test::Scratch scratch;
    const auto made = makeLessonPack(tune(), scratch / "pack", {}, kDrawer, {});
    ASSERT_TRUE(made.ok()) << made.error().sentence();
    for (const char* file : {"index.html",
                             "free.html",
                             "sheet.pdf",
                             "hand-out.pdf",
                             "piece.musicxml",
                             "piece.mid",
                             "decisions.csv",
                             "film/captions.vtt",
                             "film/chapters.vtt",
                             "film/shot-list.txt",
                             "film/prompt.txt",
                             "sound/phrase-A-100.ogg",
                             "sound/phrase-B-100.ogg",
                             "sound/whole-100.ogg"}) {
        EXPECT_TRUE(fs::exists(scratch / "pack" / file)) << file;
        EXPECT_THAT(made->written, Contains(std::string(file)));
        EXPECT_THAT(textOf(scratch / "pack/CONTENTS.txt"), HasSubstr(std::string(file) + ":"));
    }
    EXPECT_TRUE(textOf(scratch / "pack/film/captions.vtt").starts_with("WEBVTT\n\n00:00:00"));
    EXPECT_THAT(textOf(scratch / "pack/free.html"), Not(HasSubstr("phrase-B")));
    const auto again = readAny(scratch / "pack/piece.musicxml");
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->notes.size(), 16U);
}

// What is played along with, as it is on disk: on the beat within two milliseconds.
TEST(LessonPack, SoundsOnDiskAreOnTheBeat) {
    const test::Scratch scratch;
    for (const SoundFormat format : {SoundFormat::Ogg, SoundFormat::Flac}) {
        PackOptions options;
        options.sound = format;
        const fs::path folder = scratch / std::string(endingOf(format));
        ASSERT_TRUE(makeLessonPack(tune(), folder, options, kDrawer, {}).ok());
        const fs::path file = folder / "sound" / ("whole-100." + std::string(endingOf(format)));
        SF_INFO info{};
        SNDFILE* sound = sf_open(file.c_str(), SFM_READ, &info);
        ASSERT_NE(sound, nullptr);
        std::vector<float> samples(static_cast<std::size_t>(info.frames));
        ASSERT_EQ(sf_read_float(sound, samples.data(), info.frames), info.frames);
        sf_close(sound);
        // The count before the piece is clicks alone, half a second apart.
        for (int beat = 0; beat < 4; ++beat) {
            const auto from =
                static_cast<std::size_t>(std::max(0.0, (0.5 * beat - 0.01)) * 44100.0);
            std::size_t at = from;
            while (at < samples.size() && std::abs(samples[at]) < 0.08F)
                ++at;
            EXPECT_NEAR(static_cast<double>(at) / 44100.0, 0.5 * beat, 0.002)
                << endingOf(format) << " " << beat;
        }
    }
}

TEST(LessonPack, OnlyWhatChangedIsWrittenAgain) {
    const test::Scratch scratch;
    Piece piece = tune();
    ASSERT_TRUE(makeLessonPack(piece, scratch / "pack", {}, kDrawer, {}).ok());
    const auto same = makeLessonPack(piece, scratch / "pack", {}, kDrawer, {});
    ASSERT_TRUE(same.ok());
    EXPECT_THAT(same->written, IsEmpty());
    EXPECT_EQ(same->version, 1);
    // A place in the second phrase.
    piece.asPlayed().plans[12].position.value = {
        3, 4 + piece.asPlayed().plans[12].position.value.fret};
    const auto old = outOfDatePack(piece, scratch / "pack", {});
    ASSERT_TRUE(old.ok());
    EXPECT_THAT(*old, Contains("sound/phrase-B-100.ogg"));
    EXPECT_THAT(*old, Not(Contains("sound/phrase-A-100.ogg")));
    EXPECT_THAT(*old, Contains("index.html"));
    const auto renewed = makeLessonPack(piece, scratch / "pack", {}, kDrawer, {});
    ASSERT_TRUE(renewed.ok());
    EXPECT_EQ(renewed->version, 2);
    EXPECT_THAT(renewed->written, testing::UnorderedElementsAreArray(*old));
    EXPECT_THAT(renewed->kept, Contains("sound/phrase-A-100.ogg"));
    const auto contents = readPackContents(textOf(scratch / "pack/contents.json"));
    ASSERT_TRUE(contents.ok());
    EXPECT_EQ(contents->changes.size(), 2U);
}

// A text that a person changes renews the page and what is printed, and no sound.
TEST(LessonPack, WordsAloneRenewNoSound) {
    const test::Scratch scratch;
    Piece piece = tune();
    ASSERT_TRUE(makeLessonPack(piece, scratch / "pack", {}, kDrawer, {}).ok());
    piece.lesson.words = {{0.0, StepKind::Fretting, 0, "Slide in from nowhere.", ""}};
    const auto old = outOfDatePack(piece, scratch / "pack", {});
    ASSERT_TRUE(old.ok());
    EXPECT_THAT(*old, Contains("index.html"));
    EXPECT_THAT(*old, Contains("film/prompt.txt"));
    for (const std::string& file : *old)
        EXPECT_FALSE(file.starts_with("sound/")) << file;
}

TEST(LessonPack, RecordingsOfOthersStayOut) {
    const test::Scratch scratch;
    Piece piece = tune();
    Take take;
    take.name = "secret take";
    take.path = "/somewhere/secret.wav";
    take.length_s = 9.0;
    piece.takes = {take};
    PaperScore paper;
    paper.name = "secret score";
    piece.papers = {paper};
    const auto made = makeLessonPack(piece, scratch / "pack", {}, kDrawer, {});
    ASSERT_TRUE(made.ok()) << made.error().sentence();
    EXPECT_EQ(made->left_out.size(), 2U);
    for (const auto& entry : fs::recursive_directory_iterator(scratch / "pack"))
        if (entry.is_regular_file()) {
            EXPECT_THAT(textOf(entry.path()), Not(HasSubstr("secret"))) << entry.path();
        }
}

TEST(LessonPack, AForeignFolderIsLeftAlone) {
    const test::Scratch scratch;
    fs::create_directories(scratch / "mine");
    ASSERT_TRUE(writeFileAtomically(scratch / "mine/letter.txt", "dear").ok());
    const auto refused = makeLessonPack(tune(), scratch / "mine", {}, kDrawer, {});
    ASSERT_FALSE(refused.ok());
    EXPECT_EQ(refused.error().kind, ErrorKind::BadInput);
    EXPECT_THAT(refused.error().message, HasSubstr("; choose an empty"));
    EXPECT_EQ(std::distance(fs::directory_iterator(scratch / "mine"), {}), 1);
    ASSERT_TRUE(writeFileAtomically(scratch / "mine/contents.json", "{\"format\": \"x\"}").ok());
    EXPECT_FALSE(makeLessonPack(tune(), scratch / "mine", {}, kDrawer, {}).ok());
    EXPECT_FALSE(makeLessonPack(test::pieceOf({}), scratch / "none", {}, kDrawer, {}).ok());
    EXPECT_FALSE(fs::exists(scratch / "none"));
    EXPECT_FALSE(outOfDatePack(tune(), scratch / "none", {}).ok());
}

// A list from elsewhere must not remove files outside the folder.
TEST(LessonPack, AListThatPointsOutOfTheFolderIsRefused) {
    for (const char* file : {"../letter.txt", "/etc/passwd", "sound/../../x", "", "."}) {
        PackContents contents;
        contents.entries = {{file, "x", "y"}};
        EXPECT_FALSE(readPackContents(writePackContents(contents)).ok()) << file;
    }
    PackContents good;
    good.version = 7;
    good.entries = {{"sound/a.ogg", "what", "key"}};
    good.changes = {{7, "2026-01-01T00:00:00Z", {"sound/a.ogg"}}};
    const auto again = readPackContents(writePackContents(good));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->version, 7);
    EXPECT_EQ(again->changes.at(0).files.at(0), "sound/a.ogg");
    EXPECT_FALSE(readPackContents("[").ok());
}

TEST(LessonPack, StoppedItLeavesNothingNew) {
    const test::Scratch scratch;
    std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    const auto made = makeLessonPack(tune(), scratch / "pack", {}, kDrawer, job);
    ASSERT_FALSE(made.ok());
    EXPECT_EQ(made.error().kind, ErrorKind::Cancelled);
    EXPECT_FALSE(fs::exists(scratch / "pack/index.html"));
    EXPECT_FALSE(fs::exists(scratch / "pack/contents.json"));
    // The same folder once more: it was refused for the empty folders in it.
    EXPECT_TRUE(makeLessonPack(tune(), scratch / "pack", {}, kDrawer, {}).ok());
}

// Stopped when it has made a few files, it has put none in place.
TEST(LessonPack, StoppedHalfWayAnEarlierPackStaysWhatItWas) {
    const test::Scratch scratch;
    Piece piece = tune();
    ASSERT_TRUE(makeLessonPack(piece, scratch / "pack", {}, kDrawer, {}).ok());
    const std::string before = textOf(scratch / "pack/sheet.pdf");
    const std::string listed = textOf(scratch / "pack/contents.json");
    piece.asPlayed().plans[1].position.value = {3, 7};
    std::atomic<bool> stop = false;
    JobControl job;
    job.cancel = &stop;
    job.progress = [&stop](double done, double total) { stop = done > 0.4 * total; };
    const auto made = makeLessonPack(piece, scratch / "pack", {}, kDrawer, job);
    ASSERT_FALSE(made.ok());
    EXPECT_EQ(made.error().kind, ErrorKind::Cancelled);
    EXPECT_EQ(textOf(scratch / "pack/sheet.pdf"), before);
    EXPECT_EQ(textOf(scratch / "pack/contents.json"), listed);
    for (const auto& entry : fs::recursive_directory_iterator(scratch / "pack"))
        if (entry.is_regular_file()) {
            EXPECT_NE(entry.path().filename().string().front(), '.')
                << "half made: " << entry.path();
        }
}

TEST(ExcerptPage, ShowsOneStretchWithItsOwnNumbers) {
    const auto pages = excerptPages(tune(), {{2, 2}, {1, 3}});
    ASSERT_EQ(pages.size(), 2U);
    ASSERT_EQ(pages[0].systems.size(), 1U);
    EXPECT_EQ(pages[0].systems[0].bars.size(), 1U);
    EXPECT_EQ(pages[1].systems[0].bars.size(), 3U);
}

// The lesson that a person planned comes back with the piece.
TEST(LessonPlan, IsKeptInThePieceFile) {
    const test::Scratch scratch;
    Piece piece = tune();
    LessonPlan& plan = piece.lesson;
    plan.manner = {"es",
                   StringNaming::Letter,
                   FingerNaming::Name,
                   StrokeNaming::Sign,
                   NoteNaming::Syllables,
                   false,
                   CountSchool::German,
                   TeachingOrder::Layers,
                   {0.5, 1.2},
                   {{"down-stroke", "chop"}}};
    plan.taught = {1.0, 7.0};
    plan.words = {{4.0, StepKind::Layer, 2, "own", "made"}};
    plan.observations = {{2.0, StumbleKind::LongBarre, 3, "they squeeze"}};
    plan.objections = {{1.0, "R.", "it is a G", "2026-01-01T00:00:00Z", Verdict::Answered, "no"}};
    plan.retakes = {{0.0, StepKind::Plucking}};
    plan.versions = {{2, "2026-01-02T00:00:00Z", "bar 3"}};
    plan.captions = "said.srt";
    plan.level = "easy";
    plan.presupposes = "open chords";
    plan.background = "river music";
    plan.credits = "a friend";
    plan.series = "part 2";
    ASSERT_TRUE(writeAny(piece, scratch / "p.wirenote").ok());
    const auto again = readAny(scratch / "p.wirenote");
    ASSERT_TRUE(again.ok()) << again.error().sentence();
    EXPECT_EQ(again->lesson, plan);
}

struct BadPlan {
    const char* name;
    void (*spoil)(LessonPlan&);
};

TEST(LessonPlan, WhatCannotBeIsRefused) {
    const BadPlan cases[] = {
        {"overlap",
         [](LessonPlan& p) {
             p.phrases = {{{0, 4}, "", false, false}, {{3, 5}, "", false, false}};
         }},
        {"empty phrase",
         [](LessonPlan& p) {
             p.phrases = {{{4, 4}, "", false, false}};
         }},
        {"tempo", [](LessonPlan& p) { p.manner.tempi = {0.0}; }},
        {"too many tempi", [](LessonPlan& p) { p.manner.tempi.assign(9, 1.0); }},
        {"endless",
         [](LessonPlan& p) {
             p.observations = {{1e9, StumbleKind::Seen, 1, ""}};
         }},
        {"pupils",
         [](LessonPlan& p) {
             p.observations = {{1, StumbleKind::Seen, -1, ""}};
         }},
        {"long", [](LessonPlan& p) { p.credits.assign(20000, 'x'); }},
        {"word",
         [](LessonPlan& p) {
             p.manner.glossary = {{"", "x"}};
         }},
        {"version",
         [](LessonPlan& p) {
             p.versions = {{0, "", ""}};
         }},
        {"backwards", [](LessonPlan& p) {
             p.taught = {4.0, 1.0};
         }}};
    for (const BadPlan& one : cases) {
        Piece piece = tune();
        one.spoil(piece.lesson);
        EXPECT_FALSE(checkPiece(piece).ok()) << one.name;
    }
    EXPECT_TRUE(checkPiece(tune()).ok());
}

// The tune with a recording of eight seconds beside a piece file.
Piece recordedTune(const test::Scratch& scratch, TakeRights rights) {
    Piece piece = tune();
    const Sound hum{std::vector<float>(static_cast<std::size_t>(9.0 * 22050), 0.1F), 22050.0};
    EXPECT_TRUE(writeWav(scratch / "take.wav", hum.view()).ok());
    piece.takes.emplace_back();
    piece.takes[0].name = "reeds";
    piece.takes[0].path = "take.wav";
    piece.takes[0].length_s = 9.0;
    piece.takes[0].rights = rights;
    piece.lesson.manner.tempi = {0.5};
    return piece;
}

PackOptions besideOf(const test::Scratch& scratch) {
    PackOptions options;
    options.piece_file = scratch / "piece.wirenote";
    return options;
}

TEST(LessonPack, TheOwnTakeGoesWithItSlowerAndItsPhrasesAreChapters) {
    const test::Scratch scratch;
    Piece piece = recordedTune(scratch, TakeRights::OwnRecording);
    piece.lesson.manner.tempi.push_back(1.0);
    const auto made = makeLessonPack(piece, scratch / "pack", besideOf(scratch), kDrawer, {});
    ASSERT_TRUE(made.ok()) << made.error().sentence();
    const fs::path film = scratch / "pack/film/performance-50.webm";
    const auto info = readMediaInfo(film);
    ASSERT_TRUE(info.ok()) << info.error().sentence();
    EXPECT_NEAR(info->length_s, (8.0 + 0.5) / 0.5, 0.1); // half a second after the last phrase
    EXPECT_THAT(textOf(film), HasSubstr("first"));       // a title of a chapter
    EXPECT_FALSE(fs::exists(scratch / "pack/film/performance-100.webm"));
    const std::string page = textOf(scratch / "pack/index.html");
    EXPECT_THAT(page, HasSubstr("src=\"film/performance-50.webm\""));
    EXPECT_THAT(page, HasSubstr("data-at=\"8.000000\"")); // phrase B: 4 s at half the tempo
    EXPECT_THAT(textOf(scratch / "pack/free.html"), Not(HasSubstr("performance-50")));
}

TEST(LessonPack, TheTakeOfSomebodyElseStaysOut) {
    for (const TakeRights rights : {TakeRights::Unknown, TakeRights::StudyOnly}) {
        const test::Scratch scratch;
        const Piece piece = recordedTune(scratch, rights);
        const auto made = makeLessonPack(piece, scratch / "pack", besideOf(scratch), kDrawer, {});
        ASSERT_TRUE(made.ok()) << made.error().sentence();
        EXPECT_FALSE(fs::exists(scratch / "pack/film/performance-50.webm"));
        EXPECT_THAT(textOf(scratch / "pack/index.html"), Not(HasSubstr("performance-")));
        EXPECT_THAT(made->left_out, Contains(HasSubstr("nobody has said")));
    }
}

TEST(LessonPack, ATakeThatIsGoneIsToldAndWhatWasMadeOfItIsRemovedWhenItMayNotStay) {
    const test::Scratch scratch;
    Piece piece = recordedTune(scratch, TakeRights::Permitted);
    const PackOptions options = besideOf(scratch);
    ASSERT_TRUE(makeLessonPack(piece, scratch / "pack", options, kDrawer, {}).ok());
    const auto again = makeLessonPack(piece, scratch / "pack", options, kDrawer, {});
    ASSERT_TRUE(again.ok());
    EXPECT_THAT(again->kept, Contains(std::string("film/performance-50.webm")));
    EXPECT_THAT(again->written, IsEmpty());
    piece.takes[0].rights = TakeRights::StudyOnly;
    const auto taken_back = makeLessonPack(piece, scratch / "pack", options, kDrawer, {});
    ASSERT_TRUE(taken_back.ok());
    EXPECT_THAT(taken_back->removed, Contains(std::string("film/performance-50.webm")));
    piece.takes[0].rights = TakeRights::Permitted;
    fs::remove(scratch / "take.wav");
    const auto gone = makeLessonPack(piece, scratch / "pack", options, kDrawer, {});
    ASSERT_TRUE(gone.ok());
    EXPECT_THAT(gone->left_out, Contains(HasSubstr("not where it was")));
}

// What is left out at an end is not in the film either, and a take whose length nobody knows is
// taken as far as the piece goes.
TEST(LessonPack, TheSlowTakeHoldsWhatIsTaught) {
    const test::Scratch scratch;
    Piece piece = recordedTune(scratch, TakeRights::OwnRecording);
    piece.takes[0].length_s = 0.0;
    piece.lesson.phrases[1].left_out = true; // from 4 s on
    const auto made = makeLessonPack(piece, scratch / "pack", besideOf(scratch), kDrawer, {});
    ASSERT_TRUE(made.ok()) << made.error().sentence();
    const auto info = readMediaInfo(scratch / "pack/film/performance-50.webm");
    ASSERT_TRUE(info.ok()) << info.error().sentence();
    EXPECT_NEAR(info->length_s, (4.0 + 0.5) / 0.5, 0.1);
    EXPECT_THAT(textOf(scratch / "pack/film/performance-50.webm"), Not(HasSubstr("second")));
}

// A long piece still has its pack, without the film that nobody could use.
TEST(LessonPack, ATakeThatWouldBecomeTooLongIsLeftOutAndTold) {
    const test::Scratch scratch;
    Piece piece = recordedTune(scratch, TakeRights::OwnRecording);
    piece.takes[0].length_s = 1000.0;
    piece.notes.back().time.value = {950.0, 951.0};
    piece.timeline.beats_s.clear();
    for (double t = 0.0; t < 960.0; t += 0.5)
        piece.timeline.beats_s.push_back(t);
    piece.lesson.phrases = {{{0.0, 4.0}, "first", false, false},
                            {{4.0, 952.0}, "rest", false, false}};
    const PackOptions options = besideOf(scratch);
    const auto old = outOfDatePack(piece, scratch / "pack", options);
    EXPECT_FALSE(old.ok()); // none is there yet
    piece.lesson.manner.tempi = {0.5};
    const auto made = makeLessonPack(piece, scratch / "pack", options, kDrawer, {});
    ASSERT_TRUE(made.ok()) << made.error().sentence();
    EXPECT_FALSE(fs::exists(scratch / "pack/film/performance-50.webm"));
    EXPECT_THAT(made->left_out, Contains(HasSubstr("longer than half an hour")));
}

} // namespace
} // namespace wirenote
