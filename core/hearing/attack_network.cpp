#include "hearing/attack_network.h"

#include "hearing/attack_network_data.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>
#include <span>

namespace wirenote {
namespace {

// Rows from a pitch's own to those of its harmonics: a third, a half, two thirds, … ten, 12, 14 and
// 16 times it.
constexpr std::array kHarmonicRows = {
    -57, -36, -21, 0, 21, 36, 57, 72, 84, 93, 101, 108, 114, 120, 129, 137, 144};
// Semitones to the pitches that are looked at beside each: its own harmonics, those whose harmonic
// it is, and the intervals of chords.
constexpr std::array kAround = {-28, -24, -19, -16, -15, -12, -9, -8, -7, -5, -4, -3, -2, -1, 0,
                                1,   2,   3,   4,   5,   7,   8,  9,  12, 15, 16, 19, 24, 28};
constexpr std::size_t kSeen = kPictureSpectra * kHarmonicRows.size() + kPictureFacts + 1;
constexpr std::size_t kFirst = 64;
constexpr std::size_t kSecond = 32;
constexpr std::size_t kThird = 40;
constexpr std::size_t kFourth = 24;
constexpr std::size_t kLast = 32;
constexpr std::size_t kSaid = 3;

// The numbers of the data file, one after the other.
class Numbers {
  public:
    float next() {
        const auto word = std::uint32_t{kAttackNetworkData[m_at]} |
                          std::uint32_t{kAttackNetworkData[m_at + 1]} << 8U |
                          std::uint32_t{kAttackNetworkData[m_at + 2]} << 16U |
                          std::uint32_t{kAttackNetworkData[m_at + 3]} << 24U;
        m_at += 4;
        return std::bit_cast<float>(word);
    }

  private:
    std::size_t m_at = 0;
};

template <std::size_t In, std::size_t Out> struct Layer {
    std::array<std::array<float, Out>, In>
        weights; // by input, so that a silent input costs nothing
    std::array<float, Out> bias;

    explicit Layer(Numbers& numbers) {
        for (std::size_t o = 0; o < Out; ++o)
            for (std::size_t i = 0; i < In; ++i)
                weights[i][o] = numbers.next();
        for (float& b : bias)
            b = numbers.next();
    }

    // Adds what `in` says, the first of its values being input number `first`.
    void add(std::span<const float> in, std::size_t first, std::array<float, Out>& out) const {
        for (std::size_t i = 0; i < in.size(); ++i) {
            const float v = in[i];
            if (v == 0.0F)
                continue;
            const auto& row = weights[first + i];
            for (std::size_t o = 0; o < Out; ++o)
                out[o] += v * row[o];
        }
    }
};

template <std::size_t N> using OverPitch = std::array<std::array<float, N>, kNetworkPitches>;

template <std::size_t N> void rectify(std::array<float, N>& values) {
    for (float& v : values)
        v = std::max(v, 0.0F);
}

// What the pitches around `pitch` say.
template <std::size_t In, std::size_t Out, std::size_t N>
void addAround(const Layer<In, Out>& layer,
               const OverPitch<N>& seen,
               int pitch,
               std::array<float, Out>& out) {
    for (std::size_t a = 0; a < kAround.size(); ++a) {
        const int at = pitch + kAround[a];
        if (at >= 0 && at < kNetworkPitches)
            layer.add(seen[static_cast<std::size_t>(at)], a * N, out);
    }
}

struct Network {
    Layer<kSeen, kFirst> first;
    Layer<kFirst, kSecond> second;
    Layer<kAround.size() * kSecond + kSecond, kThird> third; // those around, then the mean of all
    Layer<kThird, kFourth> fourth;
    Layer<kAround.size() * kFourth + kThird, kLast> fifth; // those around, then its own third
    Layer<kLast, kSaid> sixth;

    explicit Network(Numbers numbers)
        : first(numbers), second(numbers), third(numbers), fourth(numbers), fifth(numbers),
          sixth(numbers) {
        static_assert(sizeof(Network) == sizeof(kAttackNetworkData));
    }
};

const Network& network() {
    static const Network weights{Numbers{}};
    return weights;
}

// Of each row the strongest of it and its neighbours: what is a little out of tune.
AttackPicture widened(const AttackPicture& picture) {
    AttackPicture wide = picture;
    for (std::size_t s = 0; s < picture.levels.size(); ++s)
        for (std::size_t r = 0; r < kPictureRows; ++r) {
            const auto& row = picture.levels[s];
            wide.levels[s][r] = std::max(
                {r > 0 ? row[r - 1] : row[r], row[r], r + 1 < kPictureRows ? row[r + 1] : row[r]});
        }
    return wide;
}

std::array<float, kSeen> seenAt(const AttackPicture& wide, int midi) {
    std::array<float, kSeen> seen{};
    auto value = seen.begin();
    const int own = (midi - kPictureLowestMidi) * kRowsPerSemitone + 1;
    for (const auto& spectrum : wide.levels)
        for (const int rows : kHarmonicRows) {
            const int row = own + rows;
            *value++ =
                row >= 0 && row < kPictureRows ? spectrum[static_cast<std::size_t>(row)] : 0.0F;
        }
    value = std::ranges::copy(wide.facts, value).out;
    *value = static_cast<float>(midi - 58) / 12.0F;
    return seen;
}

double probability(float odds) {
    return 1.0 / (1.0 + std::exp(-static_cast<double>(odds)));
}

} // namespace

std::array<PitchBelief, kNetworkPitches> believe(const AttackPicture& picture) {
    const Network& n = network();
    const AttackPicture wide = widened(picture);
    OverPitch<kSecond> harmonics{};
    std::array<float, kSecond> everywhere{};
    for (std::size_t p = 0; p < harmonics.size(); ++p) {
        auto h = n.first.bias;
        n.first.add(seenAt(wide, kNetworkLowestMidi + static_cast<int>(p)), 0, h);
        rectify(h);
        harmonics[p] = n.second.bias;
        n.second.add(h, 0, harmonics[p]);
        rectify(harmonics[p]);
        for (std::size_t i = 0; i < kSecond; ++i)
            everywhere[i] += harmonics[p][i] / static_cast<float>(kNetworkPitches);
    }
    OverPitch<kThird> among{};
    OverPitch<kFourth> narrow{};
    for (int p = 0; p < kNetworkPitches; ++p) {
        auto& h = among[static_cast<std::size_t>(p)];
        h = n.third.bias;
        addAround(n.third, harmonics, p, h);
        n.third.add(everywhere, kAround.size() * kSecond, h);
        rectify(h);
        auto& said = narrow[static_cast<std::size_t>(p)];
        said = n.fourth.bias;
        n.fourth.add(h, 0, said);
        rectify(said);
    }
    std::array<PitchBelief, kNetworkPitches> beliefs{};
    for (int p = 0; p < kNetworkPitches; ++p) {
        auto h = n.fifth.bias;
        addAround(n.fifth, narrow, p, h);
        n.fifth.add(among[static_cast<std::size_t>(p)], kAround.size() * kFourth, h);
        rectify(h);
        auto odds = n.sixth.bias;
        n.sixth.add(h, 0, odds);
        beliefs[static_cast<std::size_t>(p)] = {
            probability(odds[0]), probability(odds[1]), probability(odds[2])};
    }
    return beliefs;
}

} // namespace wirenote
