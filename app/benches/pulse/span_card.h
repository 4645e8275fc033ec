#pragma once

#include "app/card.h"
#include "app/workbench.h"
#include "session/part_source.h"

#include <QPushButton>
#include <QTimer>
#include <array>

namespace wirenote::app {

// What sounds in the loop, or in the whole piece: key, scale, notes outside it, balance; and which
// part of the recording is heard.
class SpanCard : public Card {
    Q_OBJECT
  public:
    explicit SpanCard(Workbench bench, QWidget* parent = nullptr);

  private:
    void refresh();
    void nextOutside();
    QPushButton* partButton(const QString& text, SoundPart part);

    Workbench m_bench;
    QLabel* m_title;
    QLabel* m_key;
    QLabel* m_balance;
    QPushButton* m_outside;
    std::array<QPushButton*, 3> m_parts{};
    std::vector<NoteId> m_outside_notes;
    QTimer m_soon;
};

} // namespace wirenote::app
