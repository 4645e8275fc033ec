#include "app/strip/hand_lanes.h"

#include "app/document.h"
#include "app/marks.h"
#include "app/selection.h"
#include "app/theme.h"

#include <algorithm>
#include <array>

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

bool inSight(const Note& note, const LaneArea& area) {
    return note.onset_s() > area.start_s - 0.3 && note.onset_s() < area.end_s() + 0.3;
}

} // namespace

QString FingersLane::name() const {
    return QObject::tr("fingers");
}

void FingersLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_bench.document.piece();
    int last_hand = 0;
    double last_label_x = -1e9;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.reading.plans[i];
        const bool new_hand =
            plan.hand_fret > 0 && plan.hand_fret != last_hand && plan.position.value.fret > 0;
        if (new_hand)
            last_hand = plan.hand_fret;
        if (!inSight(piece.notes[i], area))
            continue;
        const double x = area.xOf(piece.notes[i].onset_s()) + 8;
        static constexpr std::array<const char*, 7> kDigits = {"", "0", "1", "2", "3", "4", "T"};
        const bool chosen = piece.notes[i].id == m_bench.selection.note();
        // A finger that is only reasoned is written lightly; one that a person set stands out.
        painter.setFont(uiFont(10.0, plan.finger.isSet() || chosen));
        painter.setPen(chosen ? theme().accent : plan.finger.isSet() ? theme().ink : theme().quiet);
        painter.drawText(QRectF(x - 12, area.rect.top() + 2, 24, 22),
                         Qt::AlignCenter,
                         QString::fromLatin1(kDigits[static_cast<std::size_t>(plan.finger.value)]));
        if (!new_hand || x - last_label_x < 26)
            continue;
        last_label_x = x;
        painter.setFont(uiFont(7.5, true));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(x - 8, area.rect.top() + 23, 60, 16),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         roman(plan.hand_fret));
    }
}

QString StrokesLane::name() const {
    return QObject::tr("strokes");
}

void StrokesLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_bench.document.piece();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        if (!inSight(piece.notes[i], area))
            continue;
        const Decision<Stroke>& stroke = piece.reading.plans[i].stroke;
        const bool chosen = piece.notes[i].id == m_bench.selection.note();
        paintStrokeMark(painter,
                        stroke.value,
                        {area.xOf(piece.notes[i].onset_s()) + 8, area.rect.center().y()},
                        chosen           ? theme().accent
                        : stroke.isSet() ? theme().ink
                                         : theme().quiet);
    }
}

} // namespace wirenote::app
