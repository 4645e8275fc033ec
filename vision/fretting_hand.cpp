#include "vision/fretting_hand.h"

#include "vision/neck_picture.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace wirenote {
namespace {

constexpr double kPixelsPer_mm = 1.5;
constexpr double kBefore_mm = 30.0;
constexpr double kTo = 0.70;       // of the scale
constexpr double kBeside_mm = 8.0; // to either side of the fingerboard
constexpr std::size_t kFewest = 8; // pictures
constexpr int kRounds = 2;
constexpr double kHand_mm = 90.0;    // along the neck, from index to little finger
constexpr double kAbout_mm = 15.0;   // to either side of it
constexpr double kLeastHand = 150.0; // mm of fingers over the neck, times their width
constexpr double kDeepest_mm = 25.0; // that count for it
constexpr double kLeastTip_mm = 4.0; // over the edge
constexpr double kTipsApart_mm = 8.0;
constexpr double kGap_mm = 9.0;          // within a finger: a string, a gleam
constexpr double kFromNut_mm = 3.0;      // nearer to the nut nobody frets
constexpr double kEdge_mm = 2.0;         // the edge itself is never still
constexpr double kFlesh_mm = 4.5;        // a finger goes on so far beyond where it presses
constexpr float kFirstThreshold = 28.0F; // of the difference, before its noise is known

// A neck as it looks without a hand, and what a pixel of it may be when it moves by two.
struct BareNeck {
    cv::Mat picture;
    cv::Mat least;
    cv::Mat most;
    cv::Mat soft;

    explicit BareNeck(const cv::Mat& neck) : picture(neck) {
        const cv::Mat five = cv::Mat::ones(5, 5, CV_8U);
        cv::erode(neck, least, five);
        cv::dilate(neck, most, five);
        cv::GaussianBlur(neck, soft, {5, 5}, 0);
    }
};

// What differs from a neck, pixel by pixel, whatever moves by two pixels and whatever is only
// shaded.
cv::Mat differenceFrom(const BareNeck& neck, const cv::Mat& strip) {
    cv::Mat now;
    cv::GaussianBlur(strip, now, {3, 3}, 0);
    cv::Mat out(strip.rows, strip.cols, CV_32F);
    for (int y = 0; y < strip.rows; ++y) {
        const auto* row_is = now.ptr<cv::Vec3b>(y);
        const auto* row_low = neck.least.ptr<cv::Vec3b>(y);
        const auto* row_high = neck.most.ptr<cv::Vec3b>(y);
        const auto* row_was = neck.soft.ptr<cv::Vec3b>(y);
        auto* differences = out.ptr<float>(y);
        for (int x = 0; x < strip.cols; ++x) {
            const auto& is = row_is[x];
            const auto& low = row_low[x];
            const auto& high = row_high[x];
            const auto& was = row_was[x];
            float up = 0.0F;
            float down = 0.0F;
            float both = 0.0F;
            float square = 1.0F;
            for (int c = 0; c < 3; ++c) {
                up += static_cast<float>(std::max(0, is[c] - high[c]));
                down += static_cast<float>(std::max(0, low[c] - is[c]));
                both += static_cast<float>(is[c] * was[c]);
                square += static_cast<float>(was[c] * was[c]);
            }
            const float shade = both / square;
            float differs = up + down;
            if (shade > 0.45F && shade < 1.0F && up < 6.0F) {
                float colour = 0.0F;
                for (int c = 0; c < 3; ++c)
                    colour +=
                        std::abs(static_cast<float>(is[c]) - shade * static_cast<float>(was[c]));
                differs = std::min(differs, 1.5F * colour);
            }
            differences[x] = differs;
        }
    }
    cv::GaussianBlur(out, out, {5, 5}, 0);
    return out;
}

// How deep fingers reach over the edge of the thin strings, in mm, for each column of the strip.
std::vector<double> depths(const cv::Mat& difference,
                           float threshold,
                           const NeckPlane& plane,
                           const vision::Strip& strip) {
    cv::Mat mask = difference > threshold;
    cv::morphologyEx(mask, mask, cv::MORPH_OPEN, cv::Mat::ones(3, 3, CV_8U));
    cv::morphologyEx(mask, mask, cv::MORPH_CLOSE, cv::Mat::ones(7, 7, CV_8U));
    std::vector<double> deep(static_cast<std::size_t>(strip.width()), 0.0);
    for (int x = static_cast<int>(strip.xOf(kFromNut_mm)); x < strip.width(); ++x) {
        const double half_mm = plane.halfWidth_mm(strip.alongAt(x));
        const int from =
            std::min(strip.height() - 1, static_cast<int>(strip.yOf(half_mm - kEdge_mm)));
        const int to = std::max(0, static_cast<int>(strip.yOf(-half_mm)));
        int reached = from;
        for (int y = from; y >= to && reached - y <= kGap_mm * kPixelsPer_mm; --y)
            if (mask.at<unsigned char>(y, x))
                reached = y - 1;
        deep[static_cast<std::size_t>(x)] = (from - reached) / kPixelsPer_mm;
    }
    return deep;
}

// The stretch of columns in which most of a hand lies; empty where there is no hand.
std::pair<int, int> handIn(const std::vector<double>& deep) {
    const auto width = static_cast<std::size_t>(kHand_mm * kPixelsPer_mm);
    double sum = 0.0;
    double most = 0.0;
    std::size_t at = 0;
    for (std::size_t x = 0; x < deep.size(); ++x) {
        sum += std::min(deep[x], kDeepest_mm);
        if (x >= width)
            sum -= std::min(deep[x - width], kDeepest_mm);
        if (x + 1 >= width && sum > most) {
            most = sum;
            at = x + 1 - width;
        }
    }
    if (most / kPixelsPer_mm < kLeastHand)
        return {0, 0};
    return {static_cast<int>(at), static_cast<int>(at + width)};
}

// Of one pixel in several pictures.
cv::Vec3b
middleOf(const std::vector<const cv::Vec3b*>& rows, const std::vector<std::size_t>& which, int x) {
    cv::Vec3b out;
    std::array<unsigned char, FrettingHand::kKept> channel{};
    const auto count = static_cast<std::ptrdiff_t>(which.size());
    const auto middle = channel.begin() + count / 2;
    for (int c = 0; c < 3; ++c) {
        for (std::size_t i = 0; i < which.size(); ++i)
            channel[i] = rows[which[i]][x][c];
        std::nth_element(channel.begin(), middle, channel.begin() + count);
        out[c] = *middle;
    }
    return out;
}

} // namespace

struct FrettingHand::State {
    NeckPlane plane;
    vision::Strip strip;
    std::vector<cv::Mat> pictures; // laid straight
    std::size_t every = 1;
    std::size_t met = 0;
    cv::Mat everywhere; // the middle of all pictures, where it is known
    std::optional<BareNeck> neck;
    float threshold = kFirstThreshold;

    // The middle of the pictures, column by column of those that count there.
    void putTogether(const std::vector<std::pair<int, int>>& hidden) {
        const cv::Mat& before = neck ? neck->picture : pictures.front();
        cv::Mat next = before.clone();
        std::vector<std::vector<std::size_t>> free(static_cast<std::size_t>(strip.width()));
        for (int x = 0; x < strip.width(); ++x)
            for (std::size_t i = 0; i < pictures.size(); ++i)
                if (x < hidden[i].first || x >= hidden[i].second)
                    free[static_cast<std::size_t>(x)].push_back(i);
        cv::parallel_for_({0, strip.height()}, [&](const cv::Range& range) {
            std::vector<const cv::Vec3b*> rows(pictures.size());
            for (int y = range.start; y < range.end; ++y) {
                for (std::size_t i = 0; i < pictures.size(); ++i)
                    rows[i] = pictures[i].ptr<cv::Vec3b>(y);
                for (int x = 0; x < strip.width(); ++x)
                    if (const auto& which = free[static_cast<std::size_t>(x)];
                        which.size() >= kFewest / 2) // otherwise it stays as it was
                        next.at<cv::Vec3b>(y, x) = middleOf(rows, which, x);
            }
        });
        neck.emplace(next);
    }

    void putAllTogether() {
        if (everywhere.empty()) {
            putTogether(std::vector<std::pair<int, int>>(pictures.size(), {0, 0}));
            everywhere = neck->picture;
        } else
            neck.emplace(everywhere);
    }

    // What is left over the strings where no hand is.
    void measureNoise() {
        std::vector<float> left;
        for (const cv::Mat& picture : pictures) {
            const cv::Mat difference = differenceFrom(*neck, picture);
            for (int y = static_cast<int>(strip.yOf(-15.0)); y < strip.yOf(15.0); y += 3)
                for (int x = static_cast<int>(strip.xOf(5.0)); x < strip.width(); x += 3)
                    left.push_back(difference.at<float>(y, x));
        }
        const auto middle = left.begin() + static_cast<std::ptrdiff_t>(left.size() / 2);
        std::ranges::nth_element(left, middle);
        threshold = std::clamp(8.0F + 3.0F * *middle, 14.0F, 30.0F);
    }
};

FrettingHand::FrettingHand(const NeckPlane& plane)
    : m(std::make_unique<State>(State{plane,
                                      {-kBefore_mm,
                                       kTo * plane.scale_mm(),
                                       plane.halfWidth_mm(kTo * plane.scale_mm()) + kBeside_mm,
                                       kPixelsPer_mm},
                                      {},
                                      1,
                                      0,
                                      {},
                                      {}})) {}
FrettingHand::~FrettingHand() = default;
FrettingHand::FrettingHand(FrettingHand&&) noexcept = default;
FrettingHand& FrettingHand::operator=(FrettingHand&&) noexcept = default;

bool FrettingHand::wantsNext() {
    return m->met++ % m->every == 0;
}

void FrettingHand::learn(const PictureView& picture, const Homography& neck) {
    m->everywhere.release();
    m->pictures.push_back(vision::straightened(vision::matOf(picture), m->strip, neck));
    if (m->pictures.size() < kKept)
        return;
    std::vector<cv::Mat> half;
    for (std::size_t i = 0; i < m->pictures.size(); i += 2)
        half.push_back(m->pictures[i]);
    m->pictures = std::move(half);
    m->every *= 2;
}

bool FrettingHand::settle() {
    if (m->pictures.size() < kFewest)
        return false;
    std::vector<std::pair<int, int>> hidden(m->pictures.size(), {0, 0});
    m->putAllTogether();
    const auto about = static_cast<int>(kAbout_mm * kPixelsPer_mm);
    for (int round = 0; round < kRounds; ++round) {
        cv::parallel_for_({0, static_cast<int>(hidden.size())}, [&](const cv::Range& range) {
            for (auto i = static_cast<std::size_t>(range.start);
                 i < static_cast<std::size_t>(range.end);
                 ++i) {
                const auto [from, to] = handIn(depths(
                    differenceFrom(*m->neck, m->pictures[i]), m->threshold, m->plane, m->strip));
                hidden[i] = to > from ? std::pair(from - about, to + about) : std::pair(0, 0);
            }
        });
        m->putTogether(hidden);
    }
    m->measureNoise();
    m->pictures.clear();
    return true;
}

bool FrettingHand::comesOverThick() {
    if (m->pictures.size() < kFewest)
        return false;
    m->putAllTogether();
    double thin = 0.0;
    double thick = 0.0;
    for (const cv::Mat& picture : m->pictures) {
        cv::Mat difference = differenceFrom(*m->neck, picture);
        for (double* side : {&thin, &thick}) {
            for (const double deep : depths(difference, m->threshold, m->plane, m->strip))
                *side += std::min(deep, kDeepest_mm);
            cv::flip(difference, difference, 0); // the strip is as wide to either side
        }
    }
    return thick > thin;
}

void FrettingHand::turnOver() {
    for (cv::Mat& picture : m->pictures)
        cv::flip(picture, picture, 0);
    if (!m->everywhere.empty())
        cv::flip(m->everywhere, m->everywhere, 0);
    m->neck.reset();
}

std::vector<PlanePoint> FrettingHand::tips(const PictureView& picture,
                                           const Homography& neck) const {
    std::vector<PlanePoint> tips;
    if (!m->neck)
        return tips;
    const cv::Mat strip = vision::straightened(vision::matOf(picture), m->strip, neck);
    const auto deep = depths(differenceFrom(*m->neck, strip), m->threshold, m->plane, m->strip);
    const auto [from, to] = handIn(deep);
    if (to <= from)
        return tips;
    const auto smooth = [&deep](int x) {
        double sum = 0.0;
        for (int d = -2; d <= 2; ++d)
            sum += deep[static_cast<std::size_t>(x + d)] / 5.0;
        return sum;
    };
    constexpr int kAround = 7; // pixels
    const auto about = static_cast<int>(12.0 * kPixelsPer_mm);
    int last = -1000;
    for (int x = std::max(kAround + 3, from - about);
         x < std::min(m->strip.width() - kAround - 3, to + about);
         ++x) {
        const double here = smooth(x);
        bool top = here > kLeastTip_mm && x - last > kTipsApart_mm * kPixelsPer_mm;
        for (int d = -kAround; top && d <= kAround; ++d)
            top = smooth(x + d) <= here;
        if (!top)
            continue;
        last = x;
        const double along_mm = m->strip.alongAt(x);
        tips.push_back({along_mm, m->plane.halfWidth_mm(along_mm) - kEdge_mm - here + kFlesh_mm});
    }
    return tips;
}

} // namespace wirenote
