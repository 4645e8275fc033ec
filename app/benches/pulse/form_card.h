#pragma once

#include "app/card.h"

#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;
class PulseCommands;
class Transport;

// The form: each part with its bars, and how a repeat differs from the first time, in words.
class FormCard : public Card {
    Q_OBJECT
  public:
    FormCard(Document& document,
             Transport& transport,
             Derived& derived,
             PulseCommands& pulse,
             QWidget* parent = nullptr);

  private:
    void rebuild();
    void addParts();
    void addTwelveBars();
    void addSections();

    Document& m_document;
    Transport& m_transport;
    Derived& m_derived;
    PulseCommands& m_pulse;
    QWidget* m_content = nullptr;
    QVBoxLayout* m_rows = nullptr;
    QTimer m_soon;
};

} // namespace wirenote::app
