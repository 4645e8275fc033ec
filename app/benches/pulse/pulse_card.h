#pragma once

#include "app/card.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QPushButton>
#include <QSpinBox>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class PulseCommands;

// Tempo, metre, swing, pick-up and where the one is: found from the sound, to be put right here.
class PulseCard : public Card {
    Q_OBJECT
  public:
    PulseCard(Document& document,
              EditCommands& commands,
              Derived& derived,
              PulseCommands& pulse,
              QWidget* parent = nullptr);

  private:
    QWidget* buildForm();
    QWidget* buildButtons();
    void refresh();
    void applyMetre();
    void showMetreOfBar();

    Document& m_document;
    EditCommands& m_commands;
    Derived& m_derived;
    PulseCommands& m_pulse;
    QLabel* m_note;
    QDoubleSpinBox* m_tempo;
    QComboBox* m_metre;
    QSpinBox* m_from_bar;
    QSpinBox* m_pickup;
    QDoubleSpinBox* m_swing;
    QComboBox* m_school;
    QPushButton* m_tap;
    QPushButton* m_slower;
    QPushButton* m_faster;
    bool m_refreshing = false;
};

} // namespace wirenote::app
