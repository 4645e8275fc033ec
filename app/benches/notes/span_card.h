#pragma once

#include "app/card.h"
#include "form/span_summary.h"
#include "session/part_source.h"

#include <QPushButton>
#include <QTimer>
#include <array>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class Selection;
class Transport;

// What sounds in the loop, or in the whole piece: key, scale, notes outside it, balance; and which
// part of the recording is heard.
class SpanCard : public Card {
    Q_OBJECT
  public:
    SpanCard(Document& document,
             Selection& selection,
             Derived& derived,
             Transport& transport,
             EditCommands& commands,
             QWidget* parent = nullptr);

  private:
    void summariseAnew();
    void refresh();
    void refreshSummary();
    void nextOutside();
    QPushButton* partButton(const QString& text, SoundPart part);

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    Transport& m_transport;
    EditCommands& m_commands;
    QLabel* m_title;
    QLabel* m_key;
    QLabel* m_balance;
    QPushButton* m_outside;
    std::array<QPushButton*, 3> m_parts{};
    SpanSummary m_summary;
    int m_asked = 0; // how many summaries were
    QTimer m_soon;
};

} // namespace wirenote::app
