// The fingerboard as a plane and what fingertips over it say.
#include "seeing/neck_plane.h"

#include "formats/neck_json.h"
#include "seeing/tip_evidence.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

const Instrument kGuitar = standardInstrument(InstrumentKind::Guitar);
const NeckPlane kPlane(kGuitar);

// Published fret places for a scale of 648 mm come from d_n = L·(1 − 2^(−n/12)): the octave lies in
// the middle, fret 5 a quarter of the string from the nut (common practice).
TEST(NeckPlane, WiresStandAsOnAGuitar) {
    EXPECT_NEAR(kPlane.wire_mm(12), kGuitar.scale_mm / 2.0, 1e-9);
    EXPECT_NEAR(kPlane.wire_mm(5) / kGuitar.scale_mm, 0.2508, 1e-4);
    EXPECT_EQ(kPlane.wire_mm(0), 0.0);
    for (const double fret : {0.0, 0.7, 3.0, 11.4, 22.0})
        EXPECT_NEAR(kPlane.fretAt(kPlane.wire_mm(fret)), fret, 1e-9);
    EXPECT_LE(kPlane.fretAt(2.0 * kGuitar.scale_mm), 40.0) << "beyond the bridge";
}

TEST(NeckPlane, StringsRunFromEdgeToEdge) {
    const double along_mm = kPlane.wire_mm(7);
    EXPECT_GT(kPlane.string_mm(1, along_mm), kPlane.string_mm(6, along_mm)) << "1 is the thin one";
    EXPECT_LT(kPlane.string_mm(1, along_mm), kPlane.halfWidth_mm(along_mm));
    EXPECT_NEAR(kPlane.stringAt({along_mm, kPlane.string_mm(4.5, along_mm)}), 4.5, 1e-9);
    EXPECT_GT(kPlane.halfWidth_mm(along_mm), kPlane.halfWidth_mm(0.0)) << "necks widen";
}

const std::vector<PlanePoint> kCorners = {
    kPlane.edge(0, false), kPlane.edge(0, true), kPlane.edge(12, false), kPlane.edge(12, true)};
const std::vector<PicturePoint> kSeen = {
    {140.4, 477.2}, {161.2, 424.2}, {744.3, 408.2}, {726.6, 351.2}};

TEST(Homography, TakesFourPointsWhereTheyAre) {
    const auto map = homographyBetween(kCorners, kSeen);
    ASSERT_TRUE(map);
    const auto back = inverse(*map);
    ASSERT_TRUE(back);
    for (std::size_t i = 0; i < kCorners.size(); ++i) {
        EXPECT_NEAR(project(*map, kCorners[i]).x, kSeen[i].x, 1e-6);
        EXPECT_NEAR(project(*map, kCorners[i]).y, kSeen[i].y, 1e-6);
        EXPECT_NEAR(unproject(*back, kSeen[i]).along_mm, kCorners[i].along_mm, 1e-6);
    }
    EXPECT_NEAR(between(*map, *map, 0.3)[0], (*map)[0], 1e-12);
}

TEST(Homography, IsRefusedWherePointsGiveNone) {
    const std::vector<PicturePoint> line = {{0, 0}, {1, 1}, {2, 2}, {3, 3}};
    EXPECT_FALSE(homographyBetween(kCorners, line)) << "all on one line";
    EXPECT_FALSE(homographyBetween(std::span(kCorners).first(3), std::span(kSeen).first(3)));
}

SeenTip tipOn(int finger, int string, int fret) {
    return {finger, fret - 0.3, static_cast<double>(string)};
}

TEST(TipEvidence, SpeaksForTheStringUnderTheTip) {
    // E4 (64) lies on string 1 open, 2 at fret 5, 3 at 9, 4 at 14.
    SeenFacts seen{{tipOn(1, 2, 5), tipOn(3, 4, 7)}, 1.0};
    const auto evidence = tipEvidence(kGuitar, kPlane, seen, 64);
    EXPECT_EQ(evidence.basis, Basis::Seen);
    EXPECT_NEAR(evidence.against(2), 0.0, 1e-9);
    EXPECT_NEAR(evidence.against(1), kOpenSeen, 1e-9) << "an open string needs no finger";
    EXPECT_NEAR(evidence.against(3), kFarthestTip, 1e-9);
    EXPECT_NEAR(evidence.against(6), kFarthestTip, 1e-9) << "the neck does not have it there";
    seen.trust = 0.0;
    EXPECT_NEAR(tipEvidence(kGuitar, kPlane, seen, 64).against(3), 0.0, 1e-9);
    EXPECT_TRUE(tipEvidence(kGuitar, kPlane, {}, 64).costs.empty()) << "nothing was seen";
    // A finger over the thick strings of a fret may be laid over the thin ones: less sure than its
    // tip, more than no finger at all. One that ends over a thinner string lies over no thicker.
    SeenFacts barre;
    barre.tips = {{1, 4.8, 6.0}};
    barre.trust = 1.0;
    const auto under = tipEvidence(kGuitar, kPlane, barre, 69); // string 1 at fret 5, 2 at 10 …
    EXPECT_LT(under.against(1), under.against(2));
    EXPECT_LT(under.against(1), under.against(3));
    SeenFacts thin;
    thin.tips = {{1, 4.8, 1.0}};
    thin.trust = 1.0;
    const auto thick = tipEvidence(kGuitar, kPlane, thin, 57); // string 4 at fret 7, 5 at 12
    EXPECT_NEAR(thick.against(4), thick.against(5), 1e-9) << "no finger at either";
}

TEST(TipEvidence, CountsWiresFromTheNutUnderACapo) {
    Instrument capo = kGuitar;
    capo.capo = 2;
    const SeenFacts seen{{tipOn(1, 2, 5)}, 1.0};
    EXPECT_NEAR(tipEvidence(capo, NeckPlane(capo), seen, 64).against(2), 0.0, 1e-9)
        << "three frets above the capo";
}

// Four tips are four fingers; of three each may be one of two.
TEST(FingerEvidence, GoesByTheNumberedTipsAlongTheNeck) {
    const Position places[] = {{5, 5}, {2, 6}, {3, 7}, {4, 8}};
    SeenFacts seen{{}, 1.0};
    for (int finger = 1; finger <= 4; ++finger)
        seen.tips.push_back(tipOn(finger, places[finger - 1].string, places[finger - 1].fret));
    const auto all = fingerEvidence(kGuitar, seen, 65); // F4: string 2, fret 6
    ASSERT_EQ(all.size(), 6U);
    EXPECT_GT(all[1][0], 0.5);
    EXPECT_LT(all[1][1], 0.1) << "the middle finger lies there";
    EXPECT_GT(all[1][3], 0.5);
    // A barre: the tip of the index finger is on string 5, the note on string 1.
    const auto barre = fingerEvidence(kGuitar, seen, 69); // A4: string 1, fret 5
    EXPECT_LT(barre[0][0], 0.1);
    for (SeenTip& tip : seen.tips)
        tip.finger = 0;
    EXPECT_TRUE(fingerEvidence(kGuitar, seen, 65).empty()) << "nobody knows which is which";
    EXPECT_TRUE(fingerEvidence(kGuitar, {}, 65).empty());
}

TEST(TipTrust, IsNothingForAFilmThatFitsNoBetterThanChance) {
    const std::vector<double> well(10, 0.2);
    const std::vector<double> badly(10, 3.0);
    EXPECT_EQ(tipTrust(badly, badly), 0.0);
    EXPECT_EQ(tipTrust(well, badly), 1.0);
    EXPECT_EQ(tipTrust(std::span(well).first(3), badly), 0.0) << "too few to say";
    EXPECT_EQ(tipTrust(badly, well), 0.0);
}

TEST(NeckJson, ReadsAndRefuses) {
    const std::string points =
        R"({"format":"wirenote-neck/1","t_s":1.5,"points":[
            {"fret":0,"edge":"low","x":140.4,"y":477.2},{"fret":0,"edge":"high","x":161.2,"y":424.2},
            {"fret":12,"edge":"low","x":744.3,"y":408.2},{"fret":12,"edge":"high","x":726.6,"y":351.2}]})";
    const auto neck = readNeckJson(points);
    ASSERT_TRUE(neck.ok());
    EXPECT_EQ(neck->time_s, 1.5);
    ASSERT_EQ(neck->marks.size(), 4U);
    EXPECT_TRUE(neck->marks[1].thin);
    const auto map = neckIn(kPlane, *neck);
    ASSERT_TRUE(map);
    EXPECT_NEAR(project(*map, kPlane.edge(12, true)).x, 726.6, 1e-6);
    for (const char* bad :
         {"",
          "[]",
          "{}",
          R"({"format":"wirenote-neck/1"})",
          R"({"format":"wirenote-neck/1","points":[{"fret":0,"edge":"low","x":1,"y":1}]})",
          R"({"format":"wirenote-neck/1","points":[{"fret":0,"edge":"top","x":1,"y":1}]})",
          R"({"format":"wirenote-neck/1","points":[{"fret":1e9,"edge":"low","x":1,"y":1}]})",
          R"({"format":"wirenote-neck/1","points":5})"})
        EXPECT_FALSE(readNeckJson(bad).ok()) << bad;
}

} // namespace
} // namespace wirenote
