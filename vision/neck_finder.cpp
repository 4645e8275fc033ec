#include "vision/neck_finder.h"

#include "vision/neck_lines.h"
#include "vision/neck_strip.h"
#include "vision/wire_ridges.h"

#include <algorithm>
#include <cmath>
#include <opencv2/calib3d.hpp>

namespace wirenote {
namespace {

constexpr std::size_t kLookedInto = 12; // rows, the best ones
constexpr int kAcross = 140;            // pixels that a wire is followed
constexpr int kGap = 6;                 // … over a string
constexpr double kEdge = 4.0;           // pixels beside the line through the wires' ends
constexpr double kSteepest = 0.15;
constexpr std::size_t kFewest = 5;
constexpr double kLeastNeck = 6.0;
constexpr int kCorrections = 4;
constexpr double kAtRest = 0.3; // pixels: another correction changes nothing

struct WireEnds {
    int n = 0;
    cv::Point2d low, high; // up and down the turned picture
};

// Follows a wire from a point of it until it is lost.
cv::Point2d followed(const cv::Mat& fine, cv::Point2d at, int way, float least) {
    cv::Point2d last = at;
    int gap = 0;
    for (int step = 1; step < kAcross && gap <= kGap; ++step) {
        const auto y = static_cast<int>(at.y) + way * step;
        const auto x = static_cast<int>(std::lround(at.x));
        if (y < 2 || y >= fine.rows - 2 || x < 4 || x >= fine.cols - 4)
            break;
        int best = x;
        for (int k = x - 2; k <= x + 2; ++k)
            best = fine.at<float>(y, k) > fine.at<float>(y, best) ? k : best;
        if (fine.at<float>(y, best) < least) {
            ++gap;
            continue;
        }
        gap = 0;
        at.x = 0.7 * at.x + 0.3 * best;
        last = {at.x, static_cast<double>(y)};
    }
    return last;
}

std::vector<WireEnds> wireEnds(const vision::Direction& direction, const vision::Line& line) {
    constexpr int kAbout = 8;
    constexpr double kOfMiddle = 0.35;
    constexpr double kShortest = 12.0;
    std::vector<WireEnds> ends;
    const cv::Mat& fine = direction.fine;
    for (int n = line.row.first; n <= line.row.last; ++n) {
        const auto x = static_cast<int>(std::lround(line.row.at(n)));
        const auto y = static_cast<int>(std::lround(line.yAt(line.row.at(n))));
        if (x < 6 || x >= fine.cols - 6 || y < kAbout + 4 || y >= fine.rows - kAbout - 4)
            continue;
        std::vector<float> along;
        cv::Vec<float, 7> columns;
        for (int dy = -kAbout; dy <= kAbout; ++dy) {
            float most = 0.0F;
            for (int dx = -3; dx <= 3; ++dx) {
                const float value = fine.at<float>(y + dy, x + dx);
                most = std::max(most, value);
                columns[dx + 3] += value;
            }
            along.push_back(most);
        }
        int best = 0;
        for (int k = 1; k < 7; ++k)
            best = columns[k] > columns[best] ? k : best;
        std::ranges::nth_element(along, along.begin() + kAbout);
        const float least = std::max(1.0F, static_cast<float>(kOfMiddle) * along[kAbout]);
        const cv::Point2d start(x + best - 3, y);
        const WireEnds wire{n, followed(fine, start, -1, least), followed(fine, start, 1, least)};
        if (wire.high.y - wire.low.y >= kShortest)
            ends.push_back(wire);
    }
    return ends;
}

// y = at + slope·x
struct Edge {
    double at = 0.0;
    double slope = 0.0;
    std::vector<bool> agrees;

    double yOf(double x) const { return at + slope * x; }
};

// The line on which most ends lie (RANSAC over all pairs, Fischler and Bolles 1981).
std::optional<Edge> edgeThrough(const std::vector<cv::Point2d>& ends) {
    constexpr double kFarEnough = 60.0;
    Edge best;
    std::ptrdiff_t most = 0;
    for (std::size_t i = 0; i < ends.size(); ++i)
        for (std::size_t j = i + 1; j < ends.size(); ++j) {
            const cv::Point2d step = ends[j] - ends[i];
            if (std::abs(step.x) < kFarEnough || std::abs(step.y) > kSteepest * std::abs(step.x))
                continue;
            Edge edge{ends[i].y - step.y / step.x * ends[i].x, step.y / step.x, {}};
            for (const cv::Point2d& end : ends)
                edge.agrees.push_back(std::abs(edge.yOf(end.x) - end.y) < kEdge);
            if (const auto count = std::ranges::count(edge.agrees, true); count > most) {
                most = count;
                best = edge;
            }
        }
    if (most < static_cast<std::ptrdiff_t>(kFewest))
        return std::nullopt;
    double x = 0.0;
    double y = 0.0;
    double xx = 0.0;
    double xy = 0.0;
    for (std::size_t i = 0; i < ends.size(); ++i)
        if (best.agrees[i]) {
            x += ends[i].x;
            y += ends[i].y;
            xx += ends[i].x * ends[i].x;
            xy += ends[i].x * ends[i].y;
        }
    const auto count = static_cast<double>(most);
    best.slope = (count * xy - x * y) / (count * xx - x * x);
    best.at = (y - best.slope * x) / count;
    return best;
}

// How a row of wires lies in the picture when its wire `nut` is the nut.
class Board {
  public:
    static std::optional<Board> of(const vision::Direction& direction, const vision::Line& line) {
        Board board;
        board.m_direction = &direction;
        board.m_wires = wireEnds(direction, line);
        std::vector<cv::Point2d> low;
        std::vector<cv::Point2d> high;
        for (const WireEnds& wire : board.m_wires) {
            low.push_back(wire.low);
            high.push_back(wire.high);
        }
        auto low_edge = edgeThrough(low);
        auto high_edge = edgeThrough(high);
        if (!low_edge || !high_edge)
            return std::nullopt;
        board.m_low = std::move(*low_edge);
        board.m_high = std::move(*high_edge);
        return board;
    }

    std::optional<Homography> neck(const NeckPlane& plane, int nut) const {
        std::vector<cv::Point2d> from;
        std::vector<cv::Point2d> to;
        for (std::size_t i = 0; i < m_wires.size(); ++i) {
            if (!m_low.agrees[i] || !m_high.agrees[i])
                continue;
            const WireEnds& wire = m_wires[i];
            for (const bool high : {false, true}) {
                const PlanePoint edge = plane.edge(wire.n - nut, high == thinIsHigh());
                from.emplace_back(edge.along_mm, edge.across_mm);
                const double x = high ? wire.high.x : wire.low.x;
                to.push_back(m_direction->turned.backAt({x, high ? m_high.yOf(x) : m_low.yOf(x)}));
            }
        }
        constexpr double kAgrees = 3.0;
        if (from.size() < 2 * kFewest)
            return std::nullopt;
        const cv::Mat map = cv::findHomography(from, to, cv::RANSAC, kAgrees);
        if (map.empty())
            return std::nullopt;
        return vision::homographyOf(cv::Matx33d(map.ptr<double>()));
    }

    vision::BoardEdges edges() const {
        const auto ends = [this](const Edge& edge) {
            std::array<PicturePoint, 2> points;
            points[0] = pointOf(edge, m_wires.front().low.x);
            points[1] = pointOf(edge, m_wires.back().low.x);
            return points;
        };
        return thinIsHigh() ? vision::BoardEdges{ends(m_low), ends(m_high)}
                            : vision::BoardEdges{ends(m_high), ends(m_low)};
    }

  private:
    PicturePoint pointOf(const Edge& edge, double x) const {
        const cv::Point2d at = m_direction->turned.backAt({x, edge.yOf(x)});
        return {at.x, at.y};
    }
    // Of a right-handed player the thin strings lie to the left of the way from nut to bridge, as
    // the picture is seen: y grows downwards.
    bool thinIsHigh() const { return m_wires.back().low.x < m_wires.front().low.x; }

    const vision::Direction* m_direction = nullptr;
    std::vector<WireEnds> m_wires;
    Edge m_low, m_high;
};

// The most that a corner of the fingerboard lies elsewhere, in pixels.
double apart(const NeckPlane& plane, const Homography& one, const Homography& other) {
    double most = 0.0;
    for (const double fret : {0.0, 12.0})
        for (const bool thin : {false, true}) {
            const PlanePoint corner = plane.edge(fret, thin);
            const PicturePoint a = project(one, corner);
            const PicturePoint b = project(other, corner);
            most = std::max(most, std::hypot(a.x - b.x, a.y - b.y));
        }
    return most;
}

std::optional<FoundNeck>
judged(const NeckPlane& plane, const cv::Mat& grey, const Board& board, int nut) {
    constexpr int kRounds = 3; // of numbering: the strip shows more when it is laid right
    std::optional<FoundNeck> found;
    for (int round = 0; round < kRounds; ++round) {
        auto neck = board.neck(plane, nut);
        for (int k = 0; neck && k < kCorrections; ++k) {
            const auto better = vision::NeckStrip(plane, grey, *neck).corrected(board.edges());
            if (!better)
                break;
            const double moved = apart(plane, *neck, *better);
            neck = better;
            if (moved < kAtRest)
                break;
        }
        if (!neck)
            return std::nullopt;
        const auto numbering = vision::numberFrets(vision::NeckStrip(plane, grey, *neck).looks());
        found = FoundNeck{*neck, numbering.score, numbering.margin};
        if (numbering.shift == 0)
            return found;
        nut += numbering.shift;
    }
    return std::nullopt; // it does not come to rest
}

} // namespace

std::optional<FoundNeck> findNeck(const NeckPlane& plane, const PictureView& picture) {
    constexpr int kLeastSide = 64;
    if (std::min(picture.width, picture.height) < kLeastSide)
        return std::nullopt;
    double scale = 1.0;
    const cv::Mat grey = vision::greyToLookAt(picture, scale);
    const vision::NeckLines rows = vision::neckLines(grey, kLookedInto);
    std::optional<FoundNeck> best;
    for (const vision::Line& line : rows.lines) {
        const auto board = Board::of(rows.directions[line.direction], line);
        const auto found = board ? judged(plane, grey, *board, line.row.first) : std::nullopt;
        if (found && found->score >= kLeastNeck && (!best || found->score > best->score))
            best = found;
    }
    if (best)
        for (std::size_t i = 0; i < 6; ++i)
            best->neck[i] *= scale;
    return best;
}

std::optional<double>
neckOff_mm(const NeckPlane& plane, const PictureView& picture, const Homography& neck) {
    double scale = 1.0; // pixels of the picture for each that is looked at
    const cv::Mat grey = vision::greyToLookAt(picture, scale);
    Homography looked_at = neck;
    for (std::size_t i = 0; i < 6; ++i)
        looked_at[i] /= scale;
    return vision::NeckStrip(plane, grey, looked_at).off_mm();
}

} // namespace wirenote
