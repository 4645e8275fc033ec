#pragma once

#include "app/benches/takes/strings_choice.h"
#include "app/card.h"
#include "music/instrument.h"
#include "piece/note.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>

namespace wirenote::app {

class Derived;
class Document;
class TakeCommands;

// The instrument, how it is tuned, and what the notes say about that. A change places the notes
// anew; they are not heard again.
class InstrumentCard : public Card {
    Q_OBJECT
  public:
    InstrumentCard(Document& document,
                   Derived& derived,
                   TakeCommands& takes,
                   QWidget* parent = nullptr);

  signals:
    void wantsNote(NoteId note); // to look at it

  private:
    void refresh();
    void refreshWish();
    QFormLayout* buildForm();
    void connectFields();
    void refreshTool();
    void refreshGuess();
    void apply();
    void applyNamed();
    void applySet(const StringSet& set);
    QWidget* buildCalibration();

    Document& m_document;
    Derived& m_derived;
    TakeCommands& m_takes;
    QComboBox* m_kind;
    QComboBox* m_named;
    QLineEdit* m_tuning;
    QSpinBox* m_capo;
    QSpinBox* m_frets;
    QDoubleSpinBox* m_scale;
    StringsChoice* m_set;
    QLineEdit* m_gauges;
    QCheckBox* m_left;
    QComboBox* m_tool;
    QLabel* m_guess;
    QLabel* m_calibration;
    QPushButton* m_forget;
    QLabel* m_wish;
    QPushButton* m_show_wish;
    QWidget* m_offer; // holds a button for each other likely tuning
    bool m_refreshing = false;
};

} // namespace wirenote::app
