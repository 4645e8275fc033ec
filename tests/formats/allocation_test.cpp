// Every allocation of the readers and writers fails in turn: nothing leaks, nothing is half-made,
// and the only thing that comes out is std::bad_alloc, which session/files turns into a sentence.
#include "formats/journal.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "support/performances.h"

#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <gtest/gtest.h>
#include <new>
#include <stdexcept>
#include <sys/wait.h>
#include <unistd.h>

namespace {
thread_local long fails_at = -1; // counted down; −1: never
thread_local long allocated = 0;
} // namespace

void* operator new(std::size_t size) {
    ++allocated;
    if (fails_at >= 0 && fails_at-- == 0)
        throw std::bad_alloc();
    if (void* memory = std::malloc(size == 0 ? 1 : size))
        return memory;
    throw std::bad_alloc();
}
void operator delete(void* memory) noexcept {
    std::free(memory);
}
void operator delete(void* memory, std::size_t) noexcept {
    std::free(memory);
}

namespace wirenote {
namespace {

struct Work {
    const char* name;
    std::function<void()> run;
    bool json = true; // goes through the JSON library
};

constexpr int kThrown = 3;
constexpr int kWentOn = 4;

int inAProcess(const std::function<int()>& work) {
    const pid_t child = ::fork();
    if (child == 0) {
        std::freopen("/dev/null", "w", stderr);
        ::_exit(work());
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    return status;
}

class Allocation : public ::testing::TestWithParam<Work> {};

TEST_P(Allocation, ThatFailsIsSurvivedWhicheverItIs) {
    GetParam().run(); // what is made once is there now
    allocated = 0;
    GetParam().run();
    const long all = allocated;
    ASSERT_GT(all, 10);
    int thrown = 0;
    int ended = 0;
    const long step = std::max(1L, all / 400);
    for (long n = 0; n < all; n += step) {
        const int status = inAProcess([n] {
            fails_at = n;
            try {
                GetParam().run();
            } catch (const std::bad_alloc&) {
                return kThrown;
            }
            return kWentOn;
        });
        thrown += WIFEXITED(status) && WEXITSTATUS(status) == kThrown ? 1 : 0;
        ended += WIFSIGNALED(status) ? 1 : 0;
        EXPECT_TRUE(WIFEXITED(status) || GetParam().json) << "allocation " << n;
    }
    std::printf("%ld allocations, %d survived as an exception, %d ended in the library\n",
                all,
                thrown,
                ended);
    EXPECT_LT(ended, thrown) << "that is more than the library's corners";
    EXPECT_GT(thrown, 0);
    RecordProperty("allocations", static_cast<int>(all));
    GetParam().run();
}

std::function<void()> reading(std::string text,
                              const std::function<bool(const std::string&)>& read) {
    return [text = std::move(text), read] {
        if (!read(text))
            throw std::logic_error("refused what is sound");
    };
}

INSTANTIATE_TEST_SUITE_P(
    Of,
    Allocation,
    ::testing::Values(
        Work{"reading_a_piece",
             reading(writePieceJson(test::richPiece()),
                     [](const std::string& text) { return readPieceJson(text).ok(); })},
        Work{"reading_notes",
             reading(writeNotesJson(test::richPiece()),
                     [](const std::string& text) { return readNotesJson(text).ok(); })},
        Work{"reading_midi",
             reading(writeMidi(test::richPiece()),
                     [](const std::string& text) { return readMidi(text).ok(); }),
             false},
        Work{"reading_musicxml",
             reading(writeMusicXml(test::richPiece()),
                     [](const std::string& text) { return readMusicXml(text).ok(); }),
             false},
        Work{"reading_a_journal",
             reading(journalStart({}, test::richPiece()),
                     [](const std::string& text) { return readJournal(text).ok(); })},
        Work{"writing_a_piece", [] { static_cast<void>(writePieceJson(test::richPiece())); }},
        Work{"writing_notes", [] { static_cast<void>(writeNotesJson(test::richPiece())); }},
        Work{"writing_midi", [] { static_cast<void>(writeMidi(test::richPiece())); }, false},
        Work{"writing_musicxml",
             [] { static_cast<void>(writeMusicXml(test::richPiece())); },
             false}),
    [](const auto& row) { return std::string(row.param.name); });

} // namespace
} // namespace wirenote
