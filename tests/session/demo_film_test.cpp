// SIMULATED: the film of the demo's second take, and what is seen in it.
#include "camera/filmed_performance.h"
#include "demo/heron.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "seeing/neck_way.h"
#include "seeing/stroke_source.h"
#include "seeing/tip_evidence.h"
#include "session/files.h"
#include "session/watch_film.h"
#include "support/demo_files.h"
#include "vision/arm_motion.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

using standin::FilmedPerformance;

class DemoFilm : public ::testing::Test {
  protected:
    Piece tab = standin::heronShownSlowly();
    FilmedPerformance filmed{tab};
    NeckPlane plane{tab.instrument};

    void expectStrokes(const Piece& piece) const {
        // The strokes, and where they are made: .16 of the scale from the bridge.
        int strokes = 0;
        int seen_rightly = 0;
        for (const Note& note : piece.notes)
            if (const NoteFacts* facts = note.factsOf(1); facts && facts->seen.down)
                for (std::size_t n = 0; n < tab.notes.size(); ++n)
                    if (const Stroke stroke = tab.asPlayed().plans[n].stroke.value;
                        (stroke == Stroke::Down || stroke == Stroke::Up) &&
                        std::abs(tab.notes[n].onset_s() - facts->span.start_s) < 0.04) {
                        ++strokes;
                        seen_rightly +=
                            (*facts->seen.down > 0.5) == (stroke == Stroke::Down) ? 1 : 0;
                        ASSERT_TRUE(facts->seen.plucked_mm);
                        EXPECT_NEAR(*facts->seen.plucked_mm, 0.16 * plane.scale_mm(), 40.0);
                        break;
                    }
        EXPECT_GT(strokes, 60);
        EXPECT_GT(seen_rightly, 0.85 * strokes) << "of " << strokes;
    }

    // The simulated arm moves as one, in a sleeve that shows little of it.
    static void expectSources(const Piece& piece) {
        const auto strokes = sourcedStrokes(piece, 1);
        const auto arm = std::ranges::count(strokes, StrokeSource::Arm, &SourcedStroke::source);
        EXPECT_GT(arm, 15) << "of " << strokes.size();
        EXPECT_GT(2 * arm, static_cast<std::ptrdiff_t>(strokes.size()));
    }

    void expectPlaces(const Piece& piece) const {
        // Of the places where the tab says that a finger presses, the film alone.
        int right = 0;
        int all = 0;
        for (const Note& note : piece.notes) {
            const NoteFacts* facts = note.factsOf(1);
            if (!facts || facts->seen.tips.empty())
                continue;
            for (std::size_t n = 0; n < tab.notes.size(); ++n) {
                const Position place = tab.asPlayed().plans[n].position.value;
                if (place.fret == 0 ||
                    std::abs(tab.notes[n].onset_s() - facts->span.start_s) > 0.1 ||
                    tab.notes[n].midi() + 2 != note.midi())
                    continue;
                const double here = tipCost(plane, facts->seen.tips, place);
                bool best = true;
                for (int string = 1; string <= plane.strings(); ++string) {
                    const int fret = piece.instrument.fretFor(string, note.midi());
                    if (string != place.string && fret > 0)
                        best = best && tipCost(plane, facts->seen.tips, {string, fret}) >= here;
                }
                ++all;
                right += best ? 1 : 0;
            }
        }
        EXPECT_GT(all, 30);
        EXPECT_GT(right, 0.9 * all) << "of " << all;
    }
};

TEST_F(DemoFilm, FingersPressWhereTheTabSaysAndWaitElsewhere) {
    int pressed = 0;
    int waiting = 0;
    for (std::size_t n = 0; n < tab.notes.size(); ++n) {
        const Position place = tab.asPlayed().plans[n].position.value;
        const auto tips = filmed.tipsAt(tab.notes[n].onset_s() + 0.01);
        for (const auto& tip : tips)
            ++(tip.pressed ? pressed : waiting);
        if (place.fret == 0)
            continue;
        const auto finger = static_cast<std::size_t>(tab.asPlayed().plans[n].finger.value) -
                            static_cast<std::size_t>(Finger::Index);
        const auto& tip = tips.at(finger);
        EXPECT_TRUE(tip.pressed) << "note " << n;
        EXPECT_NEAR(plane.fretAt(tip.at.along_mm), place.fret - 0.3, 0.01) << "note " << n;
    }
    EXPECT_GT(pressed, 50);
    EXPECT_GT(waiting, 50);
}

TEST_F(DemoFilm, ThePickCrossesTheStringTheWayOfItsStroke) {
    int strokes = 0;
    for (std::size_t n = 0; n < tab.notes.size(); ++n) {
        const Stroke stroke = tab.asPlayed().plans[n].stroke.value;
        const bool alone = n == 0 || tab.notes[n].onset_s() > tab.notes[n - 1].onset_s() + 0.1;
        if (!alone || (stroke != Stroke::Down && stroke != Stroke::Up))
            continue;
        const double time_s = tab.notes[n].onset_s();
        const double way_mm =
            filmed.pluckedAcross_mm(time_s + 0.03) - filmed.pluckedAcross_mm(time_s - 0.03);
        EXPECT_EQ(way_mm > 0.0, stroke == Stroke::Down) << "note " << n;
        EXPECT_GT(std::abs(way_mm), 10.0) << "note " << n;
        ++strokes;
    }
    EXPECT_GT(strokes, 50);
}

TEST_F(DemoFilm, TheArmIsSeenToGoWithThePick) {
    int looked_at = 0;
    for (std::size_t n = 1; n + 1 < tab.notes.size() && looked_at < 12; n += 3) {
        const Stroke stroke = tab.asPlayed().plans[n].stroke.value;
        const double time_s = tab.notes[n].onset_s();
        if ((stroke != Stroke::Down && stroke != Stroke::Up) ||
            tab.notes[n - 1].onset_s() > time_s - 0.1 || FilmedPerformance::outOfFocus(time_s))
            continue;
        ++looked_at;
        constexpr double kPicture_s = 1.0 / 30.0;
        const auto shown = [&](double at_s) {
            return filmed.picture(at_s + FilmedPerformance::kLate_s);
        };
        const auto before = shown(time_s - kPicture_s);
        const auto after = shown(time_s + kPicture_s);
        const auto view = [](const std::vector<std::uint8_t>& rgb) {
            return PictureView{FilmedPerformance::kWidth, FilmedPerformance::kHeight, rgb};
        };
        const ArmMotion arm = armMotion(plane,
                                        0.16 * plane.scale_mm(),
                                        view(before),
                                        filmed.neckAt(time_s - kPicture_s),
                                        view(after),
                                        filmed.neckAt(time_s + kPicture_s));
        ASSERT_TRUE(arm.forearm_mm) << "note " << n;
        const double truth_mm = std::abs(filmed.pluckedAcross_mm(time_s + kPicture_s) -
                                         filmed.pluckedAcross_mm(time_s - kPicture_s));
        // A sleeve of one colour shows its movement at its edges only.
        EXPECT_GT(*arm.forearm_mm, 0.25 * truth_mm) << "note " << n;
        EXPECT_LT(*arm.forearm_mm, 1.25 * truth_mm) << "note " << n;
    }
    EXPECT_GT(looked_at, 8);
}

TEST_F(DemoFilm, EveryPictureSaysThatItIsSimulated) {
    // The first letter's upper bar, which is lighter than anything behind it.
    const auto rgb = filmed.picture(3.0);
    ASSERT_EQ(rgb.size(), std::size_t{3} * FilmedPerformance::kWidth * FilmedPerformance::kHeight);
    const auto at = 3 * static_cast<std::size_t>(
                            (FilmedPerformance::kHeight - 26) * FilmedPerformance::kWidth + 16);
    EXPECT_EQ(rgb[at], 240);
    EXPECT_EQ(rgb[at + 1], 240);
    EXPECT_EQ(rgb[at + 2], 240);
}

TEST_F(DemoFilm, LiesInTheDemoWithItsTruth) {
    const DemoFiles& demo = test::demoFiles();
    const auto info = readMediaInfo(demo.slow);
    ASSERT_TRUE(info.ok()) << info.error().sentence();
    EXPECT_EQ(info->picture.width, FilmedPerformance::kWidth);
    EXPECT_NEAR(info->length_s, tab.lead()->length_s, 1.0);
    const auto piece = readAny(demo.piece);
    ASSERT_TRUE(piece.ok());
    EXPECT_TRUE(piece->takes[1].has_picture);
    EXPECT_FALSE(piece->takes[1].film.told()) << "looking at it is left to who opens the demo";
    auto reader = PictureReader::open(demo.slow);
    ASSERT_TRUE(reader.ok());
    const auto picture = (*reader)->at(3.0);
    ASSERT_TRUE(picture);
    const auto painted = filmed.picture(picture->time_s);
    double off = 0.0;
    for (std::size_t i = 0; i < painted.size(); ++i)
        off += std::abs(static_cast<double>(painted[i]) - picture->bytes[i]);
    EXPECT_LT(off / static_cast<double>(painted.size()), 8.0) << "of 255, after its coding";
}

// The leading take has no picture; the film of the other take tells its places.
TEST_F(DemoFilm, ShowsTheNeckTheHandsAndHowLateItIs) {
    const DemoFiles& demo = test::demoFiles();
    auto piece = readAny(demo.piece);
    ASSERT_TRUE(piece.ok());
    const auto seen = watchTake(1, demo.slow, {}, *piece, {});
    ASSERT_TRUE(seen.ok()) << seen.error().sentence();
    EXPECT_GT(seen->followed, 0.95);
    EXPECT_GT(seen->trust, 0.8);
    EXPECT_NEAR(seen->offset_s, FilmedPerformance::kLate_s, 0.012);
    EXPECT_EQ(seen->offset, Basis::Seen);
    for (const double time_s : {2.0, 20.0, 40.0}) {
        const auto neck = neckAt(plane, *seen, time_s);
        ASSERT_TRUE(neck) << time_s;
        for (const double fret : {0.0, 12.0}) {
            const PicturePoint here = project(*neck, plane.edge(fret, true));
            const PicturePoint truth =
                project(filmed.neckAt(time_s - FilmedPerformance::kLate_s), plane.edge(fret, true));
            EXPECT_LT(std::hypot(here.x - truth.x, here.y - truth.y), 6.0)
                << "pixels, at " << time_s;
        }
    }
    expectStrokes(*piece);
    expectPlaces(*piece);
    expectSources(*piece);
}

} // namespace
} // namespace wirenote
