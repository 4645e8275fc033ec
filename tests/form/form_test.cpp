// Phrases that come again, and how they differ: three invented pieces of 32 bars with planted
// repeats and differences, and the twelve bars that belong to everyone.
#include "form/form.h"

#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

struct Beat {
    double at; // quarters within the bar
    double length;
    int midi;
};
using BarNotes = std::vector<Beat>;

// Bars that are unlike each other, the same for the same number.
BarNotes inventedBar(unsigned seed) {
    std::uint32_t state = 977U * (seed + 3U);
    const auto chance = [&state](unsigned below) {
        state = state * 1664525U + 1013904223U;
        return (state >> 16U) % below;
    };
    static constexpr int kScale[] = {52, 55, 57, 59, 62, 64, 67, 69, 71, 74};
    BarNotes notes;
    for (double at = 0.0; at < 4.0;) {
        const double length = chance(3) == 0 ? 1.0 : 0.5;
        notes.push_back({at, length, kScale[chance(10)]});
        at += length;
    }
    return notes;
}

std::vector<BarNotes> inventedPhrase(unsigned seed, int bars) {
    std::vector<BarNotes> phrase;
    for (int i = 0; i < bars; ++i)
        phrase.push_back(inventedBar(100U * seed + static_cast<unsigned>(i)));
    return phrase;
}

std::vector<BarNotes> raised(std::vector<BarNotes> bars, int semitones) {
    for (BarNotes& bar : bars)
        for (Beat& beat : bar)
            beat.midi += semitones;
    return bars;
}

// Played a little loosely: up to 12 ms off the score, the same every time.
Piece pieceFrom(const std::vector<BarNotes>& bars) {
    std::vector<test::Row> rows;
    int k = 0;
    for (std::size_t b = 0; b < bars.size(); ++b)
        for (const Beat& n : bars[b]) {
            const double at = 0.5 * (4.0 * static_cast<double>(b) + n.at);
            const double loose = 0.012 * std::sin(2.3 * ++k);
            rows.push_back({std::max(0.0, at + loose), at + 0.5 * n.length - 0.03, n.midi});
        }
    return test::pieceOf(rows);
}

void append(std::vector<BarNotes>& bars, const std::vector<BarNotes>& more) {
    bars.insert(bars.end(), more.begin(), more.end());
}

struct Built {
    std::vector<BarContent> bars;
    std::vector<Phrase> phrases;
    std::vector<FormPart> parts;
    std::vector<std::string> labels() const {
        std::vector<std::string> all;
        for (const FormPart& part : parts)
            all.push_back(part.label + std::to_string(part.bars));
        return all;
    }
};

Built built(const Piece& piece) {
    Built b;
    b.bars = contentsOf(piece, quantise(piece));
    b.phrases = phrasesOf(b.bars);
    b.parts = formOf(b.bars, b.phrases);
    return b;
}

std::size_t differencesIn(const Built& b) {
    std::size_t count = 0;
    for (const Phrase& phrase : b.phrases)
        for (const Occurrence& o : phrase.occurrences)
            for (const auto& bar : o.differences)
                count += bar.size();
    return count;
}

// Eight bars, again with the last two notes an octave lower, a middle part, and the first again
// without one high note.
TEST(Form, FourTimesEightBars) {
    const auto a = inventedPhrase(1, 8);
    auto second = a;
    BarNotes& lower = second[6];
    lower[lower.size() - 1].midi -= 12;
    lower[lower.size() - 2].midi -= 12;
    auto third = a;
    third[2].erase(third[2].begin() + 1);
    std::vector<BarNotes> bars;
    append(bars, a);
    append(bars, second);
    append(bars, inventedPhrase(2, 8));
    append(bars, third);
    const Built b = built(pieceFrom(bars));
    EXPECT_THAT(b.labels(), ElementsAre("A8", "A'8", "8", "A'8"));
    ASSERT_EQ(b.phrases.size(), 1U);
    ASSERT_EQ(b.phrases[0].occurrences.size(), 3U);
    EXPECT_EQ(differencesIn(b), 3U) << "none invented";
    const auto& octaves = b.phrases[0].occurrences[1].differences[6];
    ASSERT_EQ(octaves.size(), 2U);
    for (const Difference& d : octaves) {
        EXPECT_EQ(d.kind, DifferenceKind::Pitch);
        EXPECT_EQ(d.semitones, -12);
    }
    const auto& left_out = b.phrases[0].occurrences[2].differences[2];
    ASSERT_EQ(left_out.size(), 1U);
    EXPECT_EQ(left_out[0].kind, DifferenceKind::Missing);
    EXPECT_EQ(left_out[0].at, Rational(static_cast<int>(2.0 * a[2][1].at), 2));
}

// A four-bar phrase: as it is, a fourth higher, as it is, with a note more; two bars between; a
// second phrase twice, once with a note a beat later.
TEST(Form, TransposedAndVariedPhrases) {
    const auto a = inventedPhrase(5, 4);
    auto richer = a;
    richer[1] = {{0.0, 1.0, 60}, {1.0, 1.0, 64}, {2.0, 1.0, 67}, {3.0, 1.0, 64}};
    auto plain = a;
    plain[1] = richer[1];
    richer[1].insert(richer[1].begin() + 1, {0.5, 0.5, 62});
    const auto second = [] {
        auto phrase = inventedPhrase(9, 6);
        phrase[3] = {{0.0, 1.0, 64}, {1.0, 0.5, 59}, {3.0, 1.0, 62}};
        return phrase;
    }();
    auto moved = second;
    moved[3][1].at = 2.0;
    std::vector<BarNotes> bars;
    append(bars, plain);
    append(bars, raised(plain, 5));
    append(bars, plain);
    append(bars, richer);
    append(bars, inventedPhrase(7, 2));
    append(bars, second);
    append(bars, moved);
    append(bars, inventedPhrase(8, 2));
    ASSERT_EQ(bars.size(), 32U);
    const Built b = built(pieceFrom(bars));
    EXPECT_THAT(b.labels(), ElementsAre("A4", "A'4", "A4", "A'4", "2", "B6", "B'6", "2"));
    ASSERT_EQ(b.phrases.size(), 2U);
    EXPECT_EQ(b.phrases[0].occurrences[1].transposed, 5);
    EXPECT_TRUE(b.phrases[0].occurrences[1].same()) << "only higher";
    EXPECT_TRUE(b.phrases[0].occurrences[2].same());
    EXPECT_EQ(differencesIn(b), 2U) << "none invented";
    const auto& added = b.phrases[0].occurrences[3].differences[1];
    ASSERT_EQ(added.size(), 1U);
    EXPECT_EQ(added[0].kind, DifferenceKind::Added);
    EXPECT_EQ(added[0].at, Rational(1, 2));
    const auto& later = b.phrases[1].occurrences[1].differences[3];
    ASSERT_EQ(later.size(), 1U);
    EXPECT_EQ(later[0].kind, DifferenceKind::Moved);
    EXPECT_EQ(later[0].later, Rational(1));
}

// First and second endings: seven bars the same, the eighth another; then all of it again.
TEST(Form, EndingsStandBetween) {
    const auto body = inventedPhrase(20, 7);
    std::vector<BarNotes> bars;
    append(bars, body);
    append(bars, inventedPhrase(21, 1));
    append(bars, body);
    append(bars, inventedPhrase(22, 1));
    append(bars, inventedPhrase(23, 8));
    append(bars, body);
    append(bars, inventedPhrase(22, 1));
    ASSERT_EQ(bars.size(), 32U);
    const Built b = built(pieceFrom(bars));
    EXPECT_EQ(differencesIn(b), 0U);
    // The second ending comes again with the phrase before it; the first stands alone.
    std::vector<int> starts;
    for (const Phrase& phrase : b.phrases)
        for (const Occurrence& o : phrase.occurrences)
            starts.push_back(o.first_bar);
    for (const int start : {1, 9, 25})
        EXPECT_THAT(starts, ::testing::Contains(start));
    for (const FormPart& part : b.parts)
        EXPECT_FALSE(part.label.empty() && part.first_bar < 8 && part.first_bar + part.bars > 1)
            << "the body is a phrase";
}

TEST(Form, NothingComesAgainWhereNothingDoes) {
    std::vector<BarNotes> bars;
    for (unsigned i = 0; i < 32; ++i)
        bars.push_back(inventedBar(500 + 13 * i));
    EXPECT_TRUE(built(pieceFrom(bars)).phrases.empty());
    EXPECT_TRUE(phrasesOf({}).empty());
    EXPECT_TRUE(contentsOf(Piece{}, quantise(Piece{})).empty());
}

TEST(Form, ARiffOfOneBarIsOnePhrasePlayedOften) {
    std::vector<BarNotes> bars(8, inventedBar(3));
    const Built b = built(pieceFrom(bars));
    ASSERT_EQ(b.phrases.size(), 1U);
    EXPECT_EQ(b.phrases[0].bars, 1);
    EXPECT_EQ(b.phrases[0].occurrences.size(), 8U);
}

// The twelve bars as every primer prints them (common practice), in A: A A A A D D A A E D A E.
Piece twelveBars(const std::vector<int>& roots) {
    std::vector<BarNotes> bars;
    for (const int root : roots) {
        BarNotes bar;
        for (int beat = 0; beat < 4; ++beat)
            for (const int above : {0, 4, 7, 10})
                bar.push_back({static_cast<double>(beat), 1.0, root + above});
        bars.push_back(bar);
    }
    return pieceFrom(bars);
}

TEST(Form, TwelveBarsAreKnownWithTheirDepartures) {
    constexpr int kA = 45;
    constexpr int kD = 50;
    constexpr int kE = 52;
    constexpr int kF = 53;
    const Piece plain = twelveBars({kA, kA, kA, kA, kD, kD, kA, kA, kE, kD, kA, kE});
    auto forms = twelveBarForms(plain, contentsOf(plain, quantise(plain)));
    ASSERT_EQ(forms.size(), 1U);
    EXPECT_EQ(forms[0].first_bar, 1);
    EXPECT_EQ(forms[0].tonic, 9);
    EXPECT_TRUE(forms[0].departures.empty());
    const Piece other = twelveBars({kA, kD, kA, kA, kD, kD, kA, kA, kF, kE, kA, kA});
    forms = twelveBarForms(other, contentsOf(other, quantise(other)));
    ASSERT_EQ(forms.size(), 1U);
    EXPECT_THAT(forms[0].departures, ElementsAre(9)) << "bar 10 on the dominant is usual too";
    const Piece drone = twelveBars(std::vector<int>(12, kA));
    EXPECT_TRUE(twelveBarForms(drone, contentsOf(drone, quantise(drone))).empty());
}

} // namespace
} // namespace wirenote
