#pragma once

#include "app/card.h"
#include "app/workbench.h"

#include <QComboBox>
#include <QDoubleSpinBox>

namespace wirenote::app {

// Tempo, metre and where the one is: found from the sound, to be put right here.
class PulseCard : public Card {
    Q_OBJECT
  public:
    explicit PulseCard(Workbench bench, QWidget* parent = nullptr);

  private:
    void refresh();
    void apply();

    Workbench m_bench;
    QLabel* m_note;
    QDoubleSpinBox* m_tempo;
    QComboBox* m_metre;
    bool m_refreshing = false;
};

} // namespace wirenote::app
