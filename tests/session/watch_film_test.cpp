// SIMULATED: a film from the simulated camera with the sound of the simulated instrument, and what
// is made of both.
#include "session/watch_film.h"

#include "camera/filmed_neck.h"
#include "media/sound_file.h"
#include "session/transcribe.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/recordings.h"
#include "support/scratch.h"

#include <cmath>
#include <fstream>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 12.0; // pictures a second
constexpr double kLength_s = 7.0;

// A line of notes, each on a string that is not the usual one for it: the hand changes position all
// the time, so that the sound hardly tells the place.
Piece played() {
    static constexpr int kHand[] = {7, 2, 9, 5, 3, 8, 4, 10, 6, 2, 7, 5};
    std::vector<test::Row> rows;
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (int k = 0; k < 12; ++k) {
        const Position place{2 + k % 4, kHand[k] + k % 3};
        rows.push_back({0.5 + 0.5 * k, 0.95 + 0.5 * k, guitar.midiAt(place), place});
    }
    return test::pieceOf(rows);
}

class Film : public ::testing::Test {
  protected:
    test::Scratch scratch;
    Piece truth = played();
    NeckPlane plane{truth.instrument};

    Homography cameraAt(double time_s) const {
        return standin::cameraOn(plane,
                                 1.5 * std::sin(time_s),
                                 1.5,
                                 {250.0 + 3.0 * std::sin(2.0 * time_s), 105.0 + time_s});
    }

    // The hand that plays the note that sounds, or the next one.
    standin::FilmedHand handAt(double time_s) const {
        for (std::size_t n = 0; n < truth.notes.size(); ++n)
            if (time_s < truth.notes[n].offset_s() || n + 1 == truth.notes.size()) {
                const Position place = truth.asPlayed().plans[n].position.value;
                const int hand = place.fret - static_cast<int>(n % 3);
                return standin::handOn(plane, hand, place.string, place.fret);
            }
        return {};
    }

    std::filesystem::path film(double late_s) {
        const auto path = scratch / "film.mp4";
        RenderOptions render;
        render.noise_db = -70.0;
        const auto sound = renderPiece(truth, render, {});
        EXPECT_TRUE(sound.ok());
        EXPECT_TRUE(writeWav(scratch / "sound.wav", sound->view()).ok());
        std::ofstream raw(scratch / "film.rgb", std::ios::binary);
        for (int k = 0; k < static_cast<int>(kLength_s * kRate); ++k) {
            standin::FilmedView view;
            view.neck = cameraAt(k / kRate);
            view.width = 960;
            view.height = 540;
            view.fine = false;
            view.grain = static_cast<std::uint32_t>(k + 1);
            const auto rgb = standin::filmNeck(plane, view, handAt(k / kRate - late_s));
            raw.write(reinterpret_cast<const char*>(rgb.data()),
                      static_cast<std::streamsize>(rgb.size()));
        }
        raw.close();
        const auto made = test::shell(
            "ffmpeg -v error -y -f rawvideo -pix_fmt rgb24 -s 960x540 -r 12 -i " +
            (scratch / "film.rgb").string() + " -i " + (scratch / "sound.wav").string() +
            " -pix_fmt yuv420p -c:v mpeg4 -q:v 3 -shortest " + path.string());
        EXPECT_EQ(made.status, 0) << made.output;
        return path;
    }

    NeckMarks marksAt(double time_s) const {
        NeckMarks marks{time_s, {}};
        for (const double fret : {0.0, 12.0})
            for (const bool thin : {false, true})
                marks.marks.push_back(
                    {fret, thin, project(cameraAt(time_s), plane.edge(fret, thin))});
        return marks;
    }

    int rightPlaces(const Piece& heard) const {
        int right = 0;
        for (std::size_t n = 0; n < truth.notes.size(); ++n)
            for (std::size_t i = 0; i < heard.notes.size(); ++i)
                if (std::abs(heard.notes[i].onset_s() - truth.notes[n].onset_s()) < 0.05 &&
                    heard.notes[i].midi() == truth.notes[n].midi())
                    right += heard.asPlayed().plans[i].position.value ==
                                     truth.asPlayed().plans[n].position.value
                                 ? 1
                                 : 0;
        return right;
    }
};

TEST_F(Film, ShowsWhereNotesWerePlayed) {
    const auto path = film(0.0);
    TranscribeOptions options;
    options.left_out = {true, true, true, true, true}; // what the sound says of the strings
    const auto heard = transcribe(path, options, {});
    ASSERT_TRUE(heard.ok());
    options.film = FilmOptions{marksAt(0.0), 0.0};
    FilmFacts said;
    options.film_seen = [&said](const Result<FilmFacts>& seen) { said = *seen; };
    const auto seen = transcribe(path, options, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GT(said.followed, 0.9);
    EXPECT_GT(said.trust, 0.8);
    EXPECT_GE(rightPlaces(*seen), 11) << "of 12";
    EXPECT_LT(rightPlaces(*heard), rightPlaces(*seen)) << "the sound alone does not tell";
    bool reason = false;
    for (const NotePlan& plan : seen->asPlayed().plans)
        for (const Reason& why : plan.position.reasons)
            reason = reason || (why.kind == ReasonKind::TipSeen && why.basis == Basis::Seen);
    EXPECT_TRUE(reason) << "the why card can say so";
}

// The neck marked in the middle of the film is followed both ways; a film that shows something else
// is not trusted, and does no harm.
TEST_F(Film, IsNotTrustedWhereItShowsSomethingElse) {
    const auto path = film(0.0);
    Piece other = *transcribe(path, {}, {});
    for (std::size_t n = 0; n < other.notes.size(); ++n) // another tune, high on the neck
        other.notes[n].pitch.value = 78.0 + static_cast<double>(5 * n % 7);
    const auto seen = watchFilm(path, {marksAt(3.0), 0.0}, 0.0, other, {});
    ASSERT_TRUE(seen.ok());
    EXPECT_GT(seen->followed, 0.9);
    EXPECT_LT(seen->trust, 0.1);
}

TEST_F(Film, NamesWhatIsWrongWithTheMarks) {
    const auto path = film(0.0);
    Piece piece = played();
    NeckMarks line = marksAt(0.0);
    for (NeckMark& mark : line.marks)
        mark.at.y = 2.0 * mark.at.x;
    const auto refused = watchFilm(path, {line, 0.0}, 0.0, piece, {});
    ASSERT_FALSE(refused.ok());
    EXPECT_NE(refused.error().message.find("no neck"), std::string::npos);
    NeckMarks aside = marksAt(0.0);
    for (NeckMark& mark : aside.marks)
        mark.at = {mark.at.x / 20.0, mark.at.y / 20.0}; // a corner of the picture
    EXPECT_FALSE(watchFilm(path, {aside, 0.0}, 0.0, piece, {}).ok());
    NeckMarks late = marksAt(0.0);
    late.time_s = 99.0;
    EXPECT_FALSE(watchFilm(path, {late, 0.0}, 0.0, piece, {}).ok()) << "after the end";
    // The sound goes on alone where somebody is told, and the work ends where nobody is.
    TranscribeOptions options;
    options.film = FilmOptions{line, 0.0};
    EXPECT_FALSE(transcribe(path, options, {}).ok());
    bool told = false;
    options.film_seen = [&told](const Result<FilmFacts>& seen) { told = !seen.ok(); };
    EXPECT_TRUE(transcribe(path, options, {}).ok());
    EXPECT_TRUE(told);
    const std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    const auto stopped = watchFilm(path, {marksAt(0.0), 0.0}, 0.0, piece, job);
    ASSERT_FALSE(stopped.ok());
    EXPECT_EQ(stopped.error().kind, ErrorKind::Cancelled);
}

// Invented: a hand that moves most a moment after each attack.
TEST(OffsetByMotion, IsWhereThePictureMovesMost) {
    std::vector<double> times_s;
    std::vector<double> moved;
    std::vector<double> onsets_s;
    for (int k = 0; k < 20; ++k)
        onsets_s.push_back(1.0 + 0.37 * k + 0.05 * (k % 3));
    for (int k = 0; k < 300; ++k) {
        times_s.push_back(k / 30.0);
        double sum = 0.5;
        for (const double onset_s : onsets_s)
            sum += std::exp(-0.5 * std::pow((times_s.back() - onset_s - 0.08) / 0.03, 2));
        moved.push_back(sum);
    }
    const auto offset = offsetByMotion(times_s, moved, onsets_s);
    ASSERT_TRUE(offset);
    EXPECT_NEAR(*offset, 0.08, 0.01);
    EXPECT_FALSE(offsetByMotion(times_s, std::vector<double>(300, 0.5), onsets_s)) << "it is still";
    EXPECT_FALSE(offsetByMotion(times_s, moved, {1.0, 2.0})) << "too few notes";
}

} // namespace
} // namespace wirenote
