#include "app/benches/lesson/phrases_lane.h"

#include "app/commands/lesson_commands.h"
#include "app/document/lesson_book.h"
#include "app/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace wirenote::app {

PhrasesLane::PhrasesLane(LessonBook& book, LessonCommands& commands)
    : m_book(book), m_commands(commands) {
    follow(book, &LessonBook::changed);
    follow(book, &LessonBook::chosen);
}

QString PhrasesLane::name() const {
    return QObject::tr("phrases");
}

void PhrasesLane::paint(QPainter& painter, const LaneArea& area) const {
    const auto state = m_book.state();
    if (!state)
        return;
    std::vector<std::size_t> chosen;
    if (m_book.step() < state->breakdown.steps.size())
        chosen = state->breakdown.steps[m_book.step()].phrases;
    painter.setFont(uiFont(9, true));
    for (std::size_t p = 0; p < state->breakdown.phrases.size(); ++p) {
        const TeachPhrase& phrase = state->breakdown.phrases[p];
        const QRectF box(QPointF(area.xOf(phrase.span.start_s) + 1.0, area.rect.top() + 4.0),
                         QPointF(area.xOf(phrase.span.end_s) - 1.0, area.rect.bottom() - 4.0));
        if (box.right() < area.rect.left() || box.left() > area.rect.right())
            continue;
        const bool is_chosen = std::ranges::count(chosen, p) > 0;
        painter.setPen(QPen(is_chosen ? theme().accent : theme().line, is_chosen ? 2.0 : 1.0));
        painter.setBrush(phrase.left_out ? QBrush(theme().line, Qt::BDiagPattern)
                                         : QBrush(theme().paper));
        painter.drawRoundedRect(box, 4, 4);
        painter.setPen(phrase.taught() ? theme().ink : theme().quiet);
        QString text = QString::fromStdString(phrase.letter);
        if (phrase.same_as)
            text +=
                QString(phrase.differences.empty() ? " = %1" : " ≈ %1")
                    .arg(QString::fromStdString(state->breakdown.phrases[*phrase.same_as].letter));
        if (!phrase.title.empty())
            text += "  " + QString::fromStdString(phrase.title);
        painter.drawText(box.adjusted(6, 0, -4, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         painter.fontMetrics().elidedText(
                             text, Qt::ElideRight, static_cast<int>(box.width()) - 10));
    }
}

std::optional<std::size_t> PhrasesLane::under(QPointF at, const LaneArea& area) const {
    const auto state = m_book.state();
    if (!state || !area.rect.contains(at))
        return std::nullopt;
    for (std::size_t p = 0; p < state->breakdown.phrases.size(); ++p)
        if (state->breakdown.phrases[p].span.contains(area.timeAt(at.x())))
            return p;
    return std::nullopt;
}

std::optional<std::size_t> PhrasesLane::cutUnder(QPointF at, const LaneArea& area) const {
    constexpr double kReach = 5.0; // pixels
    const auto state = m_book.state();
    if (!state || !area.rect.contains(at))
        return std::nullopt;
    for (std::size_t p = 0; p < state->breakdown.phrases.size(); ++p)
        if (std::abs(area.xOf(state->breakdown.phrases[p].span.start_s) - at.x()) < kReach)
            return p;
    return std::nullopt;
}

QString PhrasesLane::tellAt(QPointF at, const LaneArea& area) const {
    const auto phrase = under(at, area);
    const auto state = m_book.state();
    return phrase ? QString::fromStdString(state->writer.phraseTitle(*phrase)) : QString();
}

Press PhrasesLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) {
    if (held != Qt::NoModifier)
        return {};
    if (const auto cut = cutUnder(at, area))
        return {
            true, [this, cut = *cut](double, double to_s) { m_commands.moveCut(cut, to_s); }, true};
    const auto phrase = under(at, area);
    const auto state = m_book.state();
    if (!phrase)
        return {};
    for (std::size_t s = 0; s < state->breakdown.steps.size(); ++s) {
        const auto& of = state->breakdown.steps[s].phrases;
        if (of.size() == 1 && of[0] == *phrase) {
            m_book.choose(s);
            break;
        }
    }
    return {true, {}, false};
}

Qt::CursorShape PhrasesLane::cursorAt(QPointF at, const LaneArea& area) const {
    if (cutUnder(at, area))
        return Qt::SplitHCursor;
    return under(at, area) ? Qt::PointingHandCursor : Qt::ArrowCursor;
}

} // namespace wirenote::app
