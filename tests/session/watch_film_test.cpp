// SIMULATED: a film from the simulated camera with the sound of the simulated instrument, and what
// is made of both.
#include "session/watch_film.h"

#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "piece/edits.h"
#include "seeing/neck_way.h"
#include "session/resolve.h"
#include "session/transcribe.h"
#include "support/simulated_film.h"

#include <atomic>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

class Film : public ::testing::Test, protected test::SimulatedFilm {};

TEST_F(Film, ShowsWhereNotesWerePlayed) {
    const auto film = path();
    TranscribeOptions options;
    options.left_out = {true, true, true, true, true}; // what the sound says of the strings
    const auto heard = transcribe(film, options, {});
    ASSERT_TRUE(heard.ok());
    options.film = FilmOptions{marksAt(0.0), 0.0};
    FilmFacts said;
    options.film_seen = [&said](const Result<FilmFacts>& seen) { said = *seen; };
    const auto seen = transcribe(film, options, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GT(said.followed, 0.9);
    EXPECT_GT(said.trust, 0.8);
    EXPECT_GE(rightPlaces(*seen), 10) << "of 12";
    EXPECT_LT(rightPlaces(*heard), rightPlaces(*seen)) << "the sound alone does not tell";
    bool reason = false;
    for (const NotePlan& plan : seen->asPlayed().plans)
        for (const Reason& why : plan.position.reasons)
            reason = reason || (why.kind == ReasonKind::TipSeen && why.basis == Basis::Seen);
    EXPECT_TRUE(reason) << "the why card can say so";
}

TEST_F(Film, FindsTheNeckByItself) {
    TranscribeOptions options;
    options.left_out = {true, true, true, true, true};
    options.film = FilmOptions{std::nullopt, 0.0};
    const auto seen = transcribe(path(), options, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GE(rightPlaces(*seen), 10) << "of 12";
    ASSERT_TRUE(seen->lead()->has_picture);
    const FilmFacts& facts = seen->lead()->film;
    EXPECT_EQ(facts.neck, Basis::Seen);
    EXPECT_GT(facts.followed, 0.9);
    EXPECT_EQ(facts.offset, Basis::Set);
    for (const double time_s : {0.5, 3.3, 6.0}) {
        const auto neck = neckAt(plane, facts, time_s);
        ASSERT_TRUE(neck) << time_s;
        for (const double fret : {0.0, 12.0}) {
            const PicturePoint here = project(*neck, plane.edge(fret, true));
            const PicturePoint truth_at = project(cameraAt(time_s), plane.edge(fret, true));
            EXPECT_LT(std::hypot(here.x - truth_at.x, here.y - truth_at.y), 6.0) << "pixels";
        }
    }
    // It stays with the piece, and is told to whoever reads the notes.
    const auto again = readPieceJson(writePieceJson(*seen));
    ASSERT_TRUE(again.ok());
    ASSERT_EQ(again->lead()->film.frames.size(), facts.frames.size());
    EXPECT_NEAR(again->lead()->film.frames.back().corners[5], facts.frames.back().corners[5], 0.01);
    const std::string notes = writeNotesJson(*seen);
    EXPECT_NE(notes.find("neck_keyframes"), std::string::npos);
    EXPECT_NE(notes.find("av_offset_ms"), std::string::npos);
}

// A left-handed player, or a mirrored film: fingers come from the other side.
TEST_F(Film, IsTurnedOverWhereFingersComeFromTheOtherSide) {
    TranscribeOptions options;
    options.left_out = {true, true, true, true, true};
    options.film = FilmOptions{std::nullopt, 0.0};
    const auto seen = transcribe(path("hflip"), options, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GE(rightPlaces(*seen), 10) << "of 12";
}

// The neck marked in the middle of the film is followed both ways; a film that shows something else
// is not trusted, and does no harm.
TEST_F(Film, IsNotTrustedWhereItShowsSomethingElse) {
    const auto film = path();
    Piece other = *transcribe(film, {}, {});
    for (std::size_t n = 0; n < other.notes.size(); ++n) // another tune, high on the neck
        other.notes[n].pitch.value = 78.0 + static_cast<double>(5 * n % 7);
    const auto seen = watchFilm(film, {marksAt(3.0), 0.0}, 0.0, other, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GT(seen->followed, 0.9);
    EXPECT_LT(seen->trust, 0.1);
}

// The leading take is a sound; its film is another take, on another clock.
TEST_F(Film, OfAnotherTakeTellsTheSameNotes) {
    constexpr double kLater_s = 0.25; // the film's clock against that of the piece
    Piece piece = truth;
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position = {};
    for (Note& note : piece.notes) {
        note.facts.clear();
        note.time.value.start_s -= kLater_s;
        note.time.value.end_s -= kLater_s;
    }
    Take sound;
    Take filmed;
    sound.length_s = filmed.length_s = 7.0;
    filmed.has_picture = true;
    filmed.alignment.stretches = {{{0.0, kLater_s}}};
    filmed.alignment.basis = Basis::Heard;
    ASSERT_NEAR(filmed.alignment.toTake({1.0}).s, 1.0 + kLater_s, 1e-9);
    piece.takes = {sound, filmed};
    const std::vector<Note> before = piece.notes;
    const auto seen = watchTake(1, path(), {marksAt(0.0), 0.0}, piece, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GT(seen->trust, 0.8);
    EXPECT_LT(seen->off_mm, 2.0);
    EXPECT_GE(seen->off_mm, 0.0) << "its wires are in sight";
    for (const Note& note : piece.notes) {
        const NoteFacts* facts = note.factsOf(1);
        ASSERT_TRUE(facts);
        EXPECT_FALSE(facts->seen.tips.empty());
        EXPECT_NEAR(facts->span.start_s, note.onset_s() + kLater_s, 1e-9) << "in the take's time";
        EXPECT_FALSE(note.factsOf(0)) << "the leading take has shown nothing";
    }
    // As one edit of the piece as it was, with the film kept beside its take.
    Piece after = piece;
    after.notes = before;
    PieceEditor editor(after, "");
    ASSERT_TRUE(editor.adoptFilm(1, *seen, piece.notes).ok());
    EXPECT_TRUE(after.takes[1].film.told());
    EXPECT_FALSE(after.takes[0].film.told());
    placeAll(after);
    int right = 0;
    for (std::size_t n = 0; n < truth.notes.size(); ++n)
        right +=
            after.asPlayed().plans[n].position.value == truth.asPlayed().plans[n].position.value
                ? 1
                : 0;
    EXPECT_GE(right, 10) << "of 12";
    EXPECT_FALSE(editor.adoptFilm(2, *seen, piece.notes).ok()) << "there is no such take";
}

// A film that shows no hand at the notes earns no trust by what another film shows of them.
TEST_F(Film, IsTrustedForWhatItShowsItself) {
    Piece piece = truth;
    Take filmed;
    filmed.length_s = 7.0;
    filmed.alignment.basis = Basis::Heard;
    piece.takes = {filmed, filmed};
    ASSERT_TRUE(watchTake(1, path(), {marksAt(0.0), 0.0}, piece, {}).ok());
    ASSERT_TRUE(piece.notes.front().seen());
    EXPECT_GT(piece.notes.front().seen()->trust, 0.8);
    for (Note& note : piece.notes) { // long after the film is over
        note.time.value.start_s += 100.0;
        note.time.value.end_s += 100.0;
    }
    const auto first = watchTake(0, path(), {marksAt(0.0), 0.0}, piece, {});
    ASSERT_TRUE(first.ok());
    EXPECT_EQ(first->trust, 0.0);
    ASSERT_TRUE(piece.notes.front().seen());
    EXPECT_FALSE(piece.notes.front().seen()->tips.empty()) << "the other film is still believed";
}

TEST_F(Film, OfATakeThatPlaysNothingOfThePieceIsRefused) {
    Piece piece = truth;
    Take filmed;
    filmed.length_s = 7.0;
    filmed.alignment.stretches = {{{0.0, 100.0}}};
    piece.takes = {Take{}, filmed};
    const auto unknown = watchTake(1, path(), {}, piece, {});
    ASSERT_FALSE(unknown.ok()) << "it may be of anything";
    EXPECT_NE(unknown.error().message.find("is not lined up"), std::string::npos);
    piece.takes[1].alignment.basis = Basis::Heard;
    const auto seen = watchTake(1, path(), {}, piece, {});
    ASSERT_FALSE(seen.ok());
    EXPECT_NE(seen.error().message.find("plays no note of this piece; line the take up"),
              std::string::npos)
        << seen.error().message;
}

TEST_F(Film, NamesWhatIsWrongWithTheMarks) {
    const auto film = path();
    Piece piece = truth;
    NeckMarks line = marksAt(0.0);
    for (NeckMark& mark : line.marks)
        mark.at.y = 2.0 * mark.at.x;
    const auto refused = watchFilm(film, {line, 0.0}, 0.0, piece, {});
    ASSERT_FALSE(refused.ok());
    EXPECT_NE(refused.error().message.find("no neck"), std::string::npos);
    NeckMarks aside = marksAt(0.0);
    for (NeckMark& mark : aside.marks)
        mark.at = {mark.at.x / 20.0, mark.at.y / 20.0}; // a corner of the picture
    EXPECT_FALSE(watchFilm(film, {aside, 0.0}, 0.0, piece, {}).ok());
    NeckMarks late = marksAt(0.0);
    late.time_s = 99.0;
    EXPECT_FALSE(watchFilm(film, {late, 0.0}, 0.0, piece, {}).ok()) << "after the end";
    // The sound goes on alone where somebody is told, and the work ends where nobody is.
    TranscribeOptions options;
    options.film = FilmOptions{line, 0.0};
    EXPECT_FALSE(transcribe(film, options, {}).ok());
    bool told = false;
    options.film_seen = [&told](const Result<FilmFacts>& seen) { told = !seen.ok(); };
    EXPECT_TRUE(transcribe(film, options, {}).ok());
    EXPECT_TRUE(told);
    const std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    const auto stopped = watchFilm(film, {marksAt(0.0), 0.0}, 0.0, piece, job);
    ASSERT_FALSE(stopped.ok());
    EXPECT_EQ(stopped.error().kind, ErrorKind::Cancelled);
}

// Invented: a hand that moves most a moment after each attack.
TEST(OffsetByMotion, IsWhereThePictureMovesMost) {
    PluckTrack moved;
    std::vector<double> onsets_s;
    for (int k = 0; k < 20; ++k)
        onsets_s.push_back(1.0 + 0.37 * k + 0.05 * (k % 3));
    for (int k = 0; k < 300; ++k) {
        moved.times_s.push_back(k / 30.0);
        double sum = 0.5;
        for (const double onset_s : onsets_s)
            sum += std::exp(-0.5 * std::pow((moved.times_s.back() - onset_s - 0.08) / 0.03, 2));
        moved.down.push_back(sum);
        moved.up.push_back(sum);
    }
    const auto offset = offsetByMotion(moved, onsets_s);
    ASSERT_TRUE(offset);
    EXPECT_NEAR(*offset, 0.08, 0.01);
    // Fingers that come back down a while after they have plucked.
    PluckTrack fingers = moved;
    std::rotate(fingers.down.begin(), fingers.down.end() - 5, fingers.down.end());
    const auto by_fingers = offsetByMotion(fingers, onsets_s);
    ASSERT_TRUE(by_fingers);
    EXPECT_NEAR(*by_fingers, 0.08, 0.015);
    // A cut, and a camera that is pushed: all of the picture moves.
    PluckTrack cut = moved;
    for (const std::size_t k : {60U, 200U})
        cut.down[k] = cut.up[k] = 60.0;
    const auto over_cuts = offsetByMotion(cut, onsets_s);
    ASSERT_TRUE(over_cuts);
    EXPECT_NEAR(*over_cuts, 0.08, 0.01);
    PluckTrack still = moved;
    still.down = still.up = std::vector<double>(300, 0.5);
    EXPECT_FALSE(offsetByMotion(still, onsets_s)) << "it is still";
    EXPECT_FALSE(offsetByMotion(moved, {1.0, 2.0})) << "too few notes";
}

} // namespace
} // namespace wirenote
