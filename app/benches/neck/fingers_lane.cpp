#include "app/benches/neck/fingers_lane.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/theme.h"

#include <algorithm>
#include <array>
#include <vector>

namespace wirenote::app {
namespace {

QString roman(int fret) {
    static const std::array<const char*, 18> kNumbers = {"",
                                                         "I",
                                                         "II",
                                                         "III",
                                                         "IV",
                                                         "V",
                                                         "VI",
                                                         "VII",
                                                         "VIII",
                                                         "IX",
                                                         "X",
                                                         "XI",
                                                         "XII",
                                                         "XIII",
                                                         "XIV",
                                                         "XV",
                                                         "XVI",
                                                         "XVII"};
    return fret > 0 && fret < static_cast<int>(kNumbers.size())
               ? QString::fromLatin1(kNumbers[static_cast<std::size_t>(fret)])
               : QString::number(fret);
}

} // namespace

FingersLane::FingersLane(Document& document, Selection& selection)
    : m_document(document), m_selection(selection) {
    follow(selection, &Selection::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.notes || what.plans)
            emit stale(what.span);
    });
}

// Fingers of strokes that follow closely go to the row below; nothing is written over another.
struct FingersLane::Rows {
    std::array<double, 2> written_to_x{-1e9, -1e9};
    std::array<double, 4> held_to_x{-1e9, -1e9, -1e9, -1e9}; // of the lines of held fingers
    // The row in which a word has room, or −1.
    int take(double left, double right) {
        constexpr double kApart = 3.0;
        for (std::size_t row = 0; row < written_to_x.size(); ++row)
            if (left > written_to_x[row] + kApart) {
                written_to_x[row] = right;
                return static_cast<int>(row);
            }
        return -1;
    }
};

// The fingers of one stroke, from the thickest string to the thinnest, in one word.
void FingersLane::paintFingers(
    QPainter& painter, const LaneArea& area, IndexSpan stroke, double until_s, Rows& rows) const {
    static constexpr std::array<const char*, 7> kDigits = {"", "0", "1", "2", "3", "4", "T"};
    const Piece& piece = m_document.piece();
    std::vector<std::size_t> by_string;
    bool chosen = false;
    bool set = false;
    for (std::size_t i = stroke.first; i < stroke.end; ++i) {
        if (!piece.notes[i].has(Technique::GhostStroke)) // no finger presses there
            by_string.push_back(i);
        chosen = chosen || m_selection.isChosen(piece.notes[i].id);
        set = set || piece.asPlayed().plans[i].finger.isSet();
    }
    const auto& plans = piece.asPlayed().plans;
    std::ranges::stable_sort(by_string, std::ranges::greater{}, [&plans](std::size_t i) {
        return plans[i].position.value.string;
    });
    QString word;
    for (const std::size_t i : by_string)
        word += QString::fromLatin1(kDigits[static_cast<std::size_t>(plans[i].finger.value)]);
    // A finger that is only reasoned is written lightly; one that a person set stands out.
    painter.setFont(uiFont(word.size() > 2 ? 8.0 : 10.0, set || chosen));
    painter.setPen(chosen ? theme().accent : set ? theme().ink : theme().quiet);
    const double x = area.xOf(piece.notes[stroke.first].onset_s()) + 8;
    const double half = 0.5 * painter.fontMetrics().horizontalAdvance(word);
    const int row = rows.take(x - half, x + half);
    if (row >= 0)
        painter.drawText(QRectF(x - half - 2, area.rect.top() + 1 + 15 * row, 2 * half + 4, 16),
                         Qt::AlignCenter,
                         word);
    else
        painter.drawEllipse(QPointF(x, area.rect.top() + 30), 1.0, 1.0);
    paintHeld(painter, area, stroke, until_s, x, rows);
}

// A line for each finger that stays down when others begin, as long as its note sounds.
void FingersLane::paintHeld(QPainter& painter,
                            const LaneArea& area,
                            IndexSpan stroke,
                            double until_s,
                            double from_x,
                            Rows& rows) const {
    constexpr double kOverlap_s = 0.05; // shorter, and notes only touch
    const Piece& piece = m_document.piece();
    for (std::size_t i = stroke.first; i < stroke.end; ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        if (plan.position.value.fret == 0 || plan.finger.value < Finger::Index ||
            piece.notes[i].offset_s() < until_s + kOverlap_s)
            continue;
        const double to_x = area.xOf(piece.notes[i].offset_s());
        const auto free = std::ranges::find_if(
            rows.held_to_x, [from_x](double held_to) { return held_to < from_x; });
        if (free == rows.held_to_x.end())
            continue;
        *free = to_x;
        const double y =
            area.rect.top() + 33 + 4.0 * static_cast<double>(free - rows.held_to_x.begin());
        painter.drawLine(QPointF(from_x, y), QPointF(to_x, y));
        painter.drawLine(QPointF(to_x, y - 1.5), QPointF(to_x, y + 1.5));
    }
}

// Where the hand stays, from stroke to stroke.
std::vector<FingersLane::Band> FingersLane::bands() const {
    const Piece& piece = m_document.piece();
    std::vector<Band> found;
    for (const IndexSpan stroke : strokeSpans(piece.notes)) {
        const double onset_s = piece.notes[stroke.first].onset_s();
        int hand_fret = 0; // of a grip: where the index finger would be
        double to_s = onset_s;
        for (std::size_t i = stroke.first; i < stroke.end; ++i) {
            const NotePlan& plan = piece.asPlayed().plans[i];
            if (plan.hand_fret <= 0 || plan.position.value.fret == 0)
                continue;
            hand_fret = hand_fret > 0 ? std::min(hand_fret, plan.hand_fret) : plan.hand_fret;
            to_s = std::max(to_s, piece.notes[i].offset_s());
        }
        if (hand_fret == 0)
            continue;
        if (found.empty() || found.back().hand_fret != hand_fret) {
            if (!found.empty())
                found.back().to_s = std::min(found.back().to_s, onset_s);
            found.push_back({onset_s, 0.0, hand_fret});
        }
        found.back().to_s = std::max(found.back().to_s, to_s);
    }
    return found;
}

// Each with the fret of the index finger.
void FingersLane::paintBands(QPainter& painter, const LaneArea& area) const {
    constexpr double kRoom = 22.0; // for the number
    QColor tint = theme().quiet;
    tint.setAlpha(26);
    double written_to_x = -1e9;
    bool tinted = false;
    for (const Band& one : bands()) {
        tinted = !tinted;
        const double left = area.xOf(one.from_s);
        const double right = area.xOf(one.to_s);
        if (right < area.rect.left() || left > area.rect.right())
            continue;
        const QRectF band(left, area.rect.bottom() - 15, right - left, 13);
        if (tinted)
            painter.fillRect(band, tint);
        if (left < written_to_x + 2)
            continue;
        painter.setFont(uiFont(7.5, true));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(left + 3, band.top(), 60, band.height()),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         roman(one.hand_fret));
        written_to_x = left + kRoom;
    }
}

QString FingersLane::name() const {
    return QObject::tr("fingers");
}

void FingersLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    paintBands(painter, area);
    Rows rows;
    const auto strokes = strokeSpans(piece.notes);
    for (std::size_t s = 0; s < strokes.size(); ++s) {
        const double onset_s = piece.notes[strokes[s].first].onset_s();
        if (!area.sees(onset_s))
            continue;
        const double until_s =
            s + 1 < strokes.size() ? piece.notes[strokes[s + 1].first].onset_s() : 1e9;
        paintFingers(painter, area, strokes[s], until_s, rows);
    }
}

} // namespace wirenote::app
