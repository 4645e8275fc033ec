#pragma once

#include "app/card.h"
#include "app/workbench.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QSpinBox>

namespace wirenote::app {

// The recording, its tuning reference, and the instrument: found, shown, and to be put right.
class TakeCard : public Card {
    Q_OBJECT
  public:
    explicit TakeCard(Workbench bench, QWidget* parent = nullptr);

  signals:
    void listenAgainWanted(); // hear the take anew as this instrument
    void recordingWanted();   // find the moved recording

  private:
    void refresh();
    void applyInstrument();

    Workbench m_bench;
    QLabel* m_facts;
    QLabel* m_cautions;
    QLabel* m_reference_note;
    QDoubleSpinBox* m_a4;
    QComboBox* m_kind;
    QLineEdit* m_tuning;
    QSpinBox* m_capo;
    bool m_refreshing = false;
};

} // namespace wirenote::app
