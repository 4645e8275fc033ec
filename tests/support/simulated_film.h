// SIMULATED: a film from the simulated camera with the sound of the simulated instrument.
#pragma once

#include "camera/filmed_neck.h"
#include "formats/neck_json.h"
#include "media/sound_file.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <cmath>
#include <fstream>
#include <gtest/gtest.h>

namespace wirenote::test {

// A line of notes, each on a string that is not the usual one for it: the hand changes position all
// the time, so that the sound hardly tells the place.
class SimulatedFilm {
  public:
    Piece truth = played();
    NeckPlane plane{truth.instrument};

    // Made once for the whole program; `filter` as ffmpeg wants it: "hflip" …
    std::filesystem::path path(const std::string& filter = "null") const {
        static Scratch scratch("-film");
        const auto film = scratch / (filter + ".mp4");
        if (std::filesystem::exists(film))
            return film;
        writeSound(scratch / "sound.wav");
        writePictures(scratch / "film.rgb");
        const auto made = shell(
            "ffmpeg -v error -y -f rawvideo -pix_fmt rgb24 -s 960x540 -r 12 -i " +
            (scratch / "film.rgb").string() + " -i " + (scratch / "sound.wav").string() + " -vf " +
            filter + " -pix_fmt yuv420p -c:v mpeg4 -q:v 3 -shortest " + film.string());
        EXPECT_EQ(made.status, 0) << made.output;
        return film;
    }

    Homography cameraAt(double time_s) const {
        return standin::cameraOn(plane,
                                 1.5 * std::sin(time_s),
                                 1.5,
                                 {250.0 + 3.0 * std::sin(2.0 * time_s), 105.0 + time_s});
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

  private:
    static constexpr double kRate = 12.0; // pictures a second
    static constexpr double kLength_s = 7.0;

    static Piece played() {
        static constexpr int kHand[] = {7, 2, 9, 5, 3, 8, 4, 10, 6, 2, 7, 5};
        std::vector<Row> rows;
        const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
        for (int k = 0; k < 12; ++k) {
            const Position place{2 + k % 4, kHand[k] + k % 3};
            rows.push_back({0.5 + 0.5 * k, 0.95 + 0.5 * k, guitar.midiAt(place), place});
        }
        return pieceOf(rows);
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

    void writeSound(const std::filesystem::path& file) const {
        if (std::filesystem::exists(file))
            return;
        RenderOptions render;
        render.noise_db = -70.0;
        const auto sound = renderPiece(truth, render, {});
        EXPECT_TRUE(sound.ok());
        EXPECT_TRUE(writeWav(file, sound->view()).ok());
    }

    void writePictures(const std::filesystem::path& file) const {
        if (std::filesystem::exists(file))
            return;
        std::ofstream raw(file, std::ios::binary);
        for (int k = 0; k < static_cast<int>(kLength_s * kRate); ++k) {
            standin::FilmedView view;
            view.neck = cameraAt(k / kRate);
            view.width = 960;
            view.height = 540;
            view.fine = false;
            view.grain = static_cast<std::uint32_t>(k + 1);
            const auto rgb = standin::filmNeck(plane, view, handAt(k / kRate));
            raw.write(reinterpret_cast<const char*>(rgb.data()),
                      static_cast<std::streamsize>(rgb.size()));
        }
    }
};

} // namespace wirenote::test
