#pragma once

#include "app/card.h"
#include "app/workbench.h"

#include <QTimer>

namespace wirenote::app {

// The form: each part with its bars, and how a repeat differs from the first time, in words.
class FormCard : public Card {
    Q_OBJECT
  public:
    explicit FormCard(Workbench bench, QWidget* parent = nullptr);

  private:
    void rebuild();
    void addParts();
    void addTwelveBars();
    void addSections();

    Workbench m_bench;
    QWidget* m_content = nullptr;
    QVBoxLayout* m_rows = nullptr;
    QTimer m_soon;
};

} // namespace wirenote::app
