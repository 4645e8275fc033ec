#include "app/benches/neck/fingers_lane.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/theme.h"

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

} // namespace

FingersLane::FingersLane(Document& document, Selection& selection)
    : m_document(document), m_selection(selection) {
    follow(selection, &Selection::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.notes || what.plans)
            emit stale(what.span);
    });
}

// The fingers of one stroke, from the thickest string to the thinnest, in one word.
void FingersLane::paintFingers(QPainter& painter, const LaneArea& area, IndexSpan stroke) const {
    static constexpr std::array<const char*, 7> kDigits = {"", "0", "1", "2", "3", "4", "T"};
    const Piece& piece = m_document.piece();
    QString word;
    bool chosen = false;
    bool set = false;
    for (std::size_t i = stroke.first; i < stroke.end; ++i) {
        if (!piece.notes[i].has(Technique::GhostStroke)) // no finger presses there
            word += QString::fromLatin1(
                kDigits[static_cast<std::size_t>(piece.asPlayed().plans[i].finger.value)]);
        chosen = chosen || m_selection.isChosen(piece.notes[i].id);
        set = set || piece.asPlayed().plans[i].finger.isSet();
    }
    // A finger that is only reasoned is written lightly; one that a person set stands out.
    painter.setFont(uiFont(word.size() > 2 ? 7.5 : 10.0, set || chosen));
    painter.setPen(chosen ? theme().accent : set ? theme().ink : theme().quiet);
    const double x = area.xOf(piece.notes[stroke.first].onset_s()) + 8;
    painter.drawText(QRectF(x - 24, area.rect.top() + 2, 48, 22), Qt::AlignCenter, word);
}

QString FingersLane::name() const {
    return QObject::tr("fingers");
}

void FingersLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    int last_hand = 0;
    double last_label_x = -1e9;
    for (const IndexSpan stroke : strokeSpans(piece.notes))
        if (area.sees(piece.notes[stroke.first].onset_s()))
            paintFingers(painter, area, stroke);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        const bool new_hand =
            plan.hand_fret > 0 && plan.hand_fret != last_hand && plan.position.value.fret > 0;
        if (new_hand)
            last_hand = plan.hand_fret;
        if (!area.sees(piece.notes[i].onset_s()))
            continue;
        const double x = area.xOf(piece.notes[i].onset_s()) + 8;
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

} // namespace wirenote::app
