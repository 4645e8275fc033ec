#include "camera/filmed_performance.h"

#include "camera/filmed_neck.h"
#include "seeing/neck_way.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <string_view>

namespace wirenote::standin {
namespace {

constexpr double kTogether_s = 0.05; // notes of one stroke
constexpr double kReady_s = 0.02;    // before a stroke its fingers are down
constexpr double kMoves_s = 0.08;    // and this long on their way
constexpr double kLifts_s = 0.05;
constexpr double kStroke_s = 0.035; // from the middle of a stroke to either end
constexpr double kBeyond_mm = 10.0; // a stroke goes on beyond its last string
constexpr double kBehindWire = 0.3; // of a fret
constexpr double kWaits_mm = 3.0;   // short of the edge

// The painted board.
constexpr double kFrom_mm = -170.0;
constexpr double kTo_mm = 800.0;
constexpr double kHalf_mm = 180.0;
constexpr double kPerMm = 2.0;
constexpr int kColumns = static_cast<int>((kTo_mm - kFrom_mm) * kPerMm);
constexpr int kRows = static_cast<int>(2.0 * kHalf_mm * kPerMm);

constexpr double kPlucks = 0.84; // of the scale
constexpr Colour kSleeve = {92, 108, 88};
constexpr Colour kPick = {150, 40, 44};
constexpr Colour kStand = {30, 30, 34};

double smooth(double share) {
    const double s = std::clamp(share, 0.0, 1.0);
    return s * s * (3.0 - 2.0 * s);
}

double mix(double a, double b, double share) {
    return a + (b - a) * share;
}

PlanePoint mix(PlanePoint a, PlanePoint b, double share) {
    return {mix(a.along_mm, b.along_mm, share), mix(a.across_mm, b.across_mm, share)};
}

// How far a point is from a stretch of line.
double farFrom(PlanePoint a, PlanePoint b, PlanePoint at) {
    const double x = b.along_mm - a.along_mm;
    const double y = b.across_mm - a.across_mm;
    const double share =
        std::clamp(((at.along_mm - a.along_mm) * x + (at.across_mm - a.across_mm) * y) /
                       (x * x + y * y + 1e-9),
                   0.0,
                   1.0);
    return std::hypot(at.along_mm - a.along_mm - share * x, at.across_mm - a.across_mm - share * y);
}

// "SIMULATED", five dots wide and seven high each.
constexpr std::array<std::array<std::string_view, 7>, 9> kLetters = {{
    {" ### ", "#   #", "#    ", " ### ", "    #", "#   #", " ### "},
    {" ### ", "  #  ", "  #  ", "  #  ", "  #  ", "  #  ", " ### "},
    {"#   #", "## ##", "# # #", "#   #", "#   #", "#   #", "#   #"},
    {"#   #", "#   #", "#   #", "#   #", "#   #", "#   #", " ### "},
    {"#    ", "#    ", "#    ", "#    ", "#    ", "#    ", "#####"},
    {" ### ", "#   #", "#   #", "#####", "#   #", "#   #", "#   #"},
    {"#####", "  #  ", "  #  ", "  #  ", "  #  ", "  #  ", "  #  "},
    {"#####", "#    ", "#    ", "#### ", "#    ", "#    ", "#####"},
    {"#### ", "#   #", "#   #", "#   #", "#   #", "#   #", "#### "},
}};

void label(std::vector<std::uint8_t>& rgb) {
    constexpr int kDot = 2; // pixels
    constexpr int kLeft = 12;
    constexpr int kTop = FilmedPerformance::kHeight - 26;
    for (int letter = 0; letter < static_cast<int>(kLetters.size()); ++letter)
        for (int row = 0; row < 7 * kDot; ++row)
            for (int column = 0; column < 5 * kDot; ++column) {
                const auto& dots = kLetters[static_cast<std::size_t>(letter)];
                if (dots[static_cast<std::size_t>(row / kDot)]
                        [static_cast<std::size_t>(column / kDot)] != '#')
                    continue;
                const int x = kLeft + letter * 6 * kDot + column;
                const auto at =
                    3 * static_cast<std::size_t>((kTop + row) * FilmedPerformance::kWidth + x);
                std::fill_n(rgb.begin() + static_cast<std::ptrdiff_t>(at), 3, std::uint8_t{240});
            }
}

// The mean of three by three pixels.
std::vector<std::uint8_t> blurred(const std::vector<std::uint8_t>& rgb) {
    constexpr int kWidth = FilmedPerformance::kWidth;
    std::vector<std::uint8_t> out = rgb;
    for (int y = 1; y + 1 < FilmedPerformance::kHeight; ++y)
        for (int i = 3; i < 3 * (kWidth - 1); ++i) {
            int sum = 0;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -3; dx <= 3; dx += 3)
                    sum += rgb[static_cast<std::size_t>((y + dy) * 3 * kWidth + i + dx)];
            out[static_cast<std::size_t>(y * 3 * kWidth + i)] = static_cast<std::uint8_t>(sum / 9);
        }
    return out;
}

// As unproject(), for every pixel of every picture.
inline PlanePoint fast(const Homography& back, double x, double y) {
    const double deep = 1.0 / (back[6] * x + back[7] * y + back[8]);
    return {(back[0] * x + back[1] * y + back[2]) * deep,
            (back[3] * x + back[4] * y + back[5]) * deep};
}

// The grain of the film, -3 to 3.
double grain(std::uint32_t& state) {
    state = state * 1664525U + 1013904223U;
    return static_cast<double>(state >> 16U) / 65535.0 * 6.0 - 3.0;
}

} // namespace

FilmedPerformance::FilmedPerformance(const Piece& tab) : m_tab(tab), m_plane(tab.instrument) {
    const auto& notes = m_tab.notes;
    for (std::size_t first = 0; first < notes.size();) {
        std::size_t end = first + 1;
        while (end < notes.size() && notes[end].onset_s() < notes[first].onset_s() + kTogether_s)
            ++end;
        addMoment(first, end);
        first = end;
    }
    m_behind.reserve(std::size_t{3} * kWidth * kHeight);
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
            const Colour colour = behindColour(x + 0.5, y + 0.5);
            for (const double channel : {colour.r, colour.g, colour.b})
                m_behind.push_back(static_cast<float>(channel));
        }
    m_board.resize(4 * static_cast<std::size_t>(kColumns) * kRows);
    std::size_t k = 0;
    for (int row = 0; row < kRows; ++row)
        for (int column = 0; column < kColumns; ++column, k += 4) {
            constexpr int kEach = 2; // points a pixel either way
            for (int point = 0; point < kEach * kEach; ++point) {
                const int right = point % kEach;
                const int below = point / kEach;
                const PlanePoint at{kFrom_mm + (column + (right + 0.5) / kEach) / kPerMm,
                                    -kHalf_mm + (row + (below + 0.5) / kEach) / kPerMm};
                const auto colour = neckColour(m_plane, at);
                if (!colour)
                    continue;
                constexpr float kShare = 1.0F / (kEach * kEach);
                m_board[k] += kShare * static_cast<float>(colour->r);
                m_board[k + 1] += kShare * static_cast<float>(colour->g);
                m_board[k + 2] += kShare * static_cast<float>(colour->b);
                m_board[k + 3] += kShare;
            }
        }
}

void FilmedPerformance::addMoment(std::size_t first, std::size_t end) {
    const Reading& played = m_tab.asPlayed();
    Moment moment;
    moment.time_s = m_tab.notes[first].onset_s();
    moment.hand_fret = played.plans[first].hand_fret;
    const auto across_mm = [&](std::size_t n) {
        return m_plane.string_mm(played.plans[n].position.value.string,
                                 kPlucks * m_plane.scale_mm());
    };
    const Stroke stroke = played.plans[first].stroke.value;
    const double way = stroke == Stroke::Down ? 1.0 : stroke == Stroke::Up ? -1.0 : 0.0;
    if (way == 0.0)
        moment.from_mm = moment.to_mm =
            m_moments.empty() ? across_mm(first) : m_moments.back().to_mm;
    else {
        moment.from_mm = across_mm(first) - way * kBeyond_mm;
        moment.to_mm = across_mm(end - 1) + way * kBeyond_mm;
    }
    // What sounds then is held, by the finger that the tab says.
    for (std::size_t n = 0; n < end; ++n) {
        const Note& note = m_tab.notes[n];
        const int finger =
            static_cast<int>(played.plans[n].finger.value) - static_cast<int>(Finger::Index);
        if (note.offset_s() <= moment.time_s || finger < 0 || finger > 3 ||
            played.plans[n].position.value.fret <= 0)
            continue;
        Moment::Press& press = moment.fingers[static_cast<std::size_t>(finger)];
        press = {played.plans[n].position.value, std::max(press.until_s, note.offset_s())};
    }
    m_moments.push_back(moment);
}

PlanePoint FilmedPerformance::waiting(const Moment& moment, int finger) const {
    const double along_mm = m_plane.wire_mm(moment.hand_fret + finger - kBehindWire);
    return {along_mm, m_plane.halfWidth_mm(along_mm) - kFlesh_mm - kWaits_mm};
}

FilmedPerformance::Tip
FilmedPerformance::tipOf(const Moment& moment, int finger, double time_s) const {
    const Moment::Press& press = moment.fingers[static_cast<std::size_t>(finger)];
    const PlanePoint waits = waiting(moment, finger);
    if (press.place.string == 0)
        return {waits, false};
    const double along_mm = m_plane.wire_mm(press.place.fret - kBehindWire);
    const PlanePoint pressed{along_mm, m_plane.string_mm(press.place.string, along_mm)};
    const double lifted = smooth((time_s - press.until_s) / kLifts_s);
    return {mix(pressed, waits, lifted), lifted == 0.0};
}

std::array<FilmedPerformance::Tip, 4> FilmedPerformance::tipsAt(double time_s) const {
    std::array<Tip, 4> tips{};
    if (m_moments.empty())
        return tips;
    const auto after = std::ranges::upper_bound(m_moments, time_s + kReady_s, {}, &Moment::time_s);
    const Moment& now = after == m_moments.begin() ? *after : *std::prev(after);
    for (int finger = 0; finger < 4; ++finger) {
        Tip tip = tipOf(now, finger, time_s);
        if (after != m_moments.end() && after != m_moments.begin()) { // on its way to the next
            const double share =
                smooth((time_s - (after->time_s - kReady_s - kMoves_s)) / kMoves_s);
            const Tip next = tipOf(*after, finger, time_s);
            tip = {mix(tip.at, next.at, share), share < 0.5 ? tip.pressed : next.pressed};
        }
        tips[static_cast<std::size_t>(finger)] = tip;
    }
    return tips;
}

double FilmedPerformance::pluckedAcross_mm(double time_s) const {
    if (m_moments.empty())
        return 0.0;
    const auto after = std::ranges::upper_bound(m_moments, time_s + kStroke_s, {}, &Moment::time_s);
    if (after == m_moments.begin())
        return after->from_mm;
    const Moment& now = *std::prev(after);
    const double into = (time_s - (now.time_s - kStroke_s)) / (2.0 * kStroke_s);
    const double there_mm = mix(now.from_mm, now.to_mm, smooth(into));
    if (after == m_moments.end())
        return there_mm;
    const double from_s = now.time_s + kStroke_s;
    const double to_s = after->time_s - kStroke_s;
    return to_s <= from_s
               ? there_mm
               : mix(there_mm, after->from_mm, smooth((time_s - from_s) / (to_s - from_s)));
}

Homography FilmedPerformance::neckAt(double time_s) const {
    constexpr double kZoom = 1.17;
    return cameraOn(m_plane,
                    1.2 * std::sin(0.7 * time_s),
                    kZoom,
                    {92.0 + 3.0 * std::sin(1.9 * time_s) + 0.8 * std::sin(13.0 * time_s),
                     -30.0 + 4.0 * std::sin(1.1 * time_s) + 0.8 * std::cos(11.0 * time_s)});
}

bool FilmedPerformance::outOfFocus(double time_s) {
    return time_s > 21.0 && time_s < 24.0;
}

bool FilmedPerformance::partlyHidden(double time_s) {
    return time_s > 9.0 && time_s < 12.0;
}

// As it was painted once, over what lies behind it.
Colour FilmedPerformance::boardAt(PlanePoint at, const float* behind) const {
    const auto x = static_cast<float>((at.along_mm - kFrom_mm) * kPerMm - 0.5);
    const auto y = static_cast<float>((at.across_mm + kHalf_mm) * kPerMm - 0.5);
    if (!(x >= 0.0F && y >= 0.0F && x < kColumns - 1 && y < kRows - 1))
        return {behind[0], behind[1], behind[2]};
    const auto column = static_cast<int>(x);
    const auto row = static_cast<int>(y);
    const float right = x - static_cast<float>(column);
    const float below = y - static_cast<float>(row);
    const float* upper =
        &m_board[4 * (static_cast<std::size_t>(row) * kColumns + static_cast<std::size_t>(column))];
    const float* lower = upper + 4 * kColumns;
    std::array<float, 4> is{};
    for (std::size_t c = 0; c < is.size(); ++c) {
        const float above = upper[c] + (upper[c + 4] - upper[c]) * right;
        const float under = lower[c] + (lower[c + 4] - lower[c]) * right;
        is[c] = above + (under - above) * below;
    }
    const float bare = 1.0F - is[3];
    return {is[0] + bare * behind[0], is[1] + bare * behind[1], is[2] + bare * behind[2]};
}

// Arm, hand and pick come from the side of the thick strings.
Colour FilmedPerformance::handColour(PlanePoint at, double pick_mm, Colour under) const {
    const double scale_mm = m_plane.scale_mm();
    const PlanePoint pick{kPlucks * scale_mm, pick_mm};
    const PlanePoint palm{0.89 * scale_mm, pick_mm - 42.0};
    constexpr double kWide_mm = 240.0;
    if (std::abs(at.across_mm - pick_mm) > kWide_mm)
        return under;
    if (farFrom(pick, pick, at) < 4.0)
        return kPick;
    if (farFrom(pick, {0.87 * scale_mm, pick_mm - 20.0}, at) < 8.0)
        return kSkin * 0.95;
    const double off =
        std::hypot((at.along_mm - palm.along_mm) / 36.0, (at.across_mm - palm.across_mm) / 30.0);
    if (off < 1.0)
        return kSkin * (0.8 + 0.2 * std::cos(0.5 * std::numbers::pi * off));
    if (farFrom(palm, {1.12 * scale_mm, pick_mm - 190.0}, at) < 27.0)
        return kSleeve;
    return under;
}

std::vector<std::uint8_t> FilmedPerformance::picture(double film_s) const {
    constexpr double kStandAt = 545.0; // of what passes before the first frets
    constexpr double kStandHalf = 25.0;
    const double time_s = film_s - kLate_s;
    const auto back = inverse(neckAt(time_s));
    const auto tips = tipsAt(time_s);
    const double pick_mm = pluckedAcross_mm(time_s);
    const double hand_mm = 0.8 * m_plane.scale_mm();
    const bool hidden = partlyHidden(time_s);
    std::vector<std::uint8_t> rgb(std::size_t{3} * kWidth * kHeight);
    auto state = static_cast<std::uint32_t>(std::llround(1000.0 * film_s));
    std::size_t k = 0;
    for (int y = 0; y < kHeight && back; ++y)
        for (int x = 0; x < kWidth; ++x) {
            const PlanePoint at = fast(*back, x + 0.5, y + 0.5);
            Colour colour = boardAt(at, &m_behind[k]);
            if (at.along_mm > hand_mm)
                colour = handColour(at, pick_mm, colour);
            else
                colour = fingersOver(tips, at, colour);
            if (hidden && std::abs(x - kStandAt) < kStandHalf)
                colour = kStand;
            const double light = 0.78 + 0.3 * x / kWidth; // a window to the right
            const double dust = grain(state);
            for (const double channel : {colour.r, colour.g, colour.b})
                rgb[k++] =
                    static_cast<std::uint8_t>(std::clamp(channel * light + dust, 0.0, 255.0));
        }
    if (outOfFocus(time_s))
        rgb = blurred(rgb);
    label(rgb);
    return rgb;
}

Colour FilmedPerformance::fingersOver(const std::array<Tip, 4>& tips, PlanePoint at, Colour under) {
    constexpr double kBeside_mm = 12.0; // neither a finger nor its shadow
    bool shadow = false;
    for (const Tip& tip : tips)
        if (std::abs(tip.at.along_mm - at.along_mm) < kBeside_mm)
            if (const double bright = fingerAt(tip.at, at, shadow); bright > 0.0)
                return kSkin * bright;
    return under * (shadow ? 0.75 : 1.0);
}

Piece FilmedPerformance::truth() const {
    constexpr double kEvery_s = 0.1;
    Piece seen = m_tab;
    FilmFacts& film = seen.takes.front().film;
    film = {};
    film.neck = Basis::Set;
    film.offset_s = kLate_s;
    film.offset = Basis::Set;
    film.followed = film.trust = 1.0;
    const double end_s = seen.takes.front().length_s;
    for (int k = 0; k * kEvery_s < end_s; ++k)
        film.frames.push_back(neckFrame(m_plane, neckAt(k * kEvery_s - kLate_s), k * kEvery_s));
    for (std::size_t n = 0; n < seen.notes.size(); ++n) {
        Note& note = seen.notes[n];
        note.ownSound();
        SeenFacts& facts = note.facts.front().seen;
        facts = {};
        facts.trust = 1.0;
        int finger = 0;
        for (const Tip& tip : tipsAt(note.onset_s()))
            facts.tips.push_back({++finger,
                                  m_plane.fretAt(tip.at.along_mm),
                                  m_plane.stringAt(tip.at),
                                  tip.pressed ? 1.0 : 0.0});
        const Stroke stroke = m_tab.asPlayed().plans[n].stroke.value;
        if (stroke == Stroke::Down || stroke == Stroke::Up)
            facts.down = stroke == Stroke::Down ? 1.0 : 0.0;
    }
    return seen;
}

} // namespace wirenote::standin
