// The journal on disk: killed, out of room, without power.
#include "session/journal_file.h"

#include "base/atomic_file.h"
#include "formats/piece_json.h"
#include "piece/edits.h"
#include "session/piece_guard.h"
#include "session/workspace.h"
#include "support/faults.h"
#include "support/performances.h"
#include "support/scratch.h"

#include <cerrno>
#include <csignal>
#include <gmock/gmock.h>
#include <map>
#include <sys/wait.h>
#include <unistd.h>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

struct Session {
    Piece piece = *readPieceJson(writePieceJson(test::richPiece()));
    std::vector<std::string> states = {writePieceJson(piece)};
    JournalFile journal;

    explicit Session(const fs::path& folder)
        : journal(folder, {"", "", "2026-01-01T00:00:00Z"}, piece) {}

    void edit(int n) {
        Piece after = piece;
        PieceEditor editor(after, "2026-01-01T00:00:01Z");
        const NoteId id = after.notes[static_cast<std::size_t>(n) % after.notes.size()].id;
        ASSERT_TRUE(
            editor.toggleTechnique(id, n % 2 == 0 ? Technique::Accent : Technique::Vibrato).ok());
        journal.add(difference(piece, after), true);
        piece = after;
        states.push_back(writePieceJson(piece));
    }
};

std::string stateIn(const fs::path& journal) {
    const auto read = recoverFrom(journal);
    return read ? writePieceJson(read->piece) : read.error().message;
}

TEST(JournalFile, IsThereAfterAKillWithEveryEdit) {
    const test::Scratch scratch;
    const pid_t child = ::fork();
    if (child == 0) {
        Session session(scratch.path());
        for (int n = 0; n < 20; ++n)
            session.edit(n);
        session.journal.flush();
        ::kill(::getpid(), SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    const auto kept = recoverableIn(scratch.path());
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(kept[0].steps, 20);
    const test::Scratch other;
    Session same(other.path());
    for (int n = 0; n < 20; ++n)
        same.edit(n);
    EXPECT_EQ(stateIn(kept[0].journal), same.states.back());
}

TEST(JournalFile, OfALivingProgramIsNotOfferedAndADiscardedOneIsGone) {
    const test::Scratch scratch;
    Session session(scratch.path());
    session.edit(0);
    session.journal.flush();
    EXPECT_TRUE(recoverableIn(scratch.path()).empty());
    session.journal.discard();
    EXPECT_TRUE(fs::is_empty(scratch.path()));
}

TEST(JournalFile, WithoutAnEditIsNotWorthOffering) {
    const test::Scratch scratch;
    { const Session session(scratch.path()); }
    EXPECT_TRUE(recoverableIn(scratch.path()).empty());
    EXPECT_TRUE(fs::is_empty(scratch.path()));
}

TEST(JournalFile, BeginsAnewAfterASave) {
    const test::Scratch scratch;
    {
        Session session(scratch.path());
        session.edit(0);
        session.journal.restart({"/a.wirenote", "", "2026-01-01T00:00:00Z"}, session.piece);
        session.edit(1);
    }
    const auto kept = recoverableIn(scratch.path());
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(kept[0].steps, 1);
    EXPECT_EQ(kept[0].header.piece_file, "/a.wirenote");
}

// Each write, flush and rename fails in turn, as on a full disk: what was kept before stays, a
// sentence says so, and the journal is whole again once there is room.
TEST(JournalFile, EveryCallThatFailsLeavesAWholeJournal) {
    int survived = 0;
    for (int n = 0;; ++n) {
        const test::Scratch scratch;
        std::vector<std::string> states;
        int calls = 0;
        bool told = false;
        {
            test::failCall(n, ENOSPC);
            Session session(scratch.path());
            for (int k = 0; k < 6; ++k) {
                session.edit(k);
                session.journal.flush();
            }
            session.journal.flush();
            calls = test::callsSoFar();
            test::failCall(-1, 0);
            told = session.journal.takeProblem().has_value();
            states = session.states;
        }
        const bool failed = calls > n;
        EXPECT_EQ(told, failed) << n;
        const auto kept = recoverableIn(scratch.path());
        if (!kept.empty()) {
            const std::string state = stateIn(kept[0].journal);
            EXPECT_NE(std::ranges::find(states, state), states.end()) << "call " << n;
            EXPECT_TRUE(failed || state == states.back());
        }
        ++survived;
        if (!failed)
            break;
    }
    EXPECT_GT(survived, 10) << "calls that were made to fail";
}

TEST(JournalFile, IsWholeAgainWhenThereIsRoomAgain) {
    const test::Scratch scratch;
    {
        Session session(scratch.path());
        session.edit(0);
        session.journal.flush();
        test::failCall(0, ENOSPC);
        session.edit(1);
        session.journal.flush();
        test::failCall(-1, 0);
        EXPECT_TRUE(session.journal.isLong()) << "it wants to begin anew";
        session.journal.restart({"", "", "2026-01-01T00:00:00Z", true}, session.piece);
        session.journal.flush();
        session.edit(2);
    }
    const auto kept = recoverableIn(scratch.path());
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(kept[0].steps, 1);
}

// A power cut: of what was written and not yet flushed any part may be missing. Replayed at every
// moment, with all of it, none of it and half of it lost.
TEST(JournalFile, AfterAPowerCutItOffersWhatWasFlushedOrLater) {
    const test::Scratch scratch;
    test::rememberWrites(true);
    std::vector<std::string> states;
    {
        Session session(scratch.path());
        for (int k = 0; k < 8; ++k) {
            session.edit(k);
            if (k % 3 == 2)
                session.journal.flush();
        }
        states = session.states;
    }
    const auto log = test::remembered();
    test::rememberWrites(false);
    const fs::path replay = scratch.path() / "replay";
    int moments = 0;
    for (std::size_t until = 1; until <= log.size(); ++until)
        for (const double kept_share : {0.0, 0.5, 1.0}) {
            std::map<std::string, std::pair<std::string, std::string>> files; // synced, loose
            for (std::size_t i = 0; i < until; ++i) {
                auto& [synced, loose] = files[log[i].path];
                if (log[i].call == test::Call::Write)
                    loose += log[i].bytes;
                else if (log[i].call != test::Call::Rename)
                    synced += std::exchange(loose, "");
                else
                    files[log[i].to] = std::exchange(files[log[i].path], {});
            }
            fs::remove_all(replay);
            fs::create_directories(replay);
            std::size_t flushed_steps = 0;
            for (const auto& [path, content] : files) {
                const auto& [synced, loose] = content;
                if (!path.ends_with(".journal"))
                    continue;
                const auto some =
                    static_cast<std::size_t>(kept_share * static_cast<double>(loose.size()));
                ASSERT_TRUE(
                    writeFileAtomically(replay / "1-0-0.journal", synced + loose.substr(0, some))
                        .ok());
                flushed_steps = static_cast<std::size_t>(countJournalSteps(synced));
            }
            for (const Recoverable& one : recoverableIn(replay)) {
                const std::string state = stateIn(one.journal);
                const auto at = std::ranges::find(states, state) - states.begin();
                EXPECT_LT(at, std::ssize(states)) << "a state that was never there";
                EXPECT_GE(static_cast<std::size_t>(at), flushed_steps);
                ++moments;
            }
        }
    EXPECT_GT(moments, 20);
}

TEST(PieceLock, IsOfOneProgramAtATimeAndEndsWithIt) {
    const test::Scratch scratch;
    const fs::path piece = scratch / "a.wirenote";
    {
        const auto mine = PieceLock::take(scratch / "open", piece);
        ASSERT_TRUE(mine.has_value());
        EXPECT_FALSE(PieceLock::take(scratch / "open", scratch.path() / "." / "a.wirenote"));
        EXPECT_TRUE(PieceLock::take(scratch / "open", scratch / "b.wirenote").has_value());
    }
    EXPECT_TRUE(PieceLock::take(scratch / "open", piece).has_value());
    const pid_t child = ::fork();
    if (child == 0) {
        const auto theirs = PieceLock::take(scratch / "open", piece);
        ::kill(::getpid(), SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    EXPECT_TRUE(PieceLock::take(scratch / "open", piece).has_value()) << "a dead one holds nothing";
}

} // namespace
} // namespace wirenote
