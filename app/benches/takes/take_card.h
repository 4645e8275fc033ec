#pragma once

#include "app/card.h"
#include "piece/take.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QPushButton>
#include <functional>

namespace wirenote::app {

class Document;
class TakeCommands;
class Transport;

// The take that is heard: what it is, what can be trusted in it, its tuning reference, and what may
// be done with it.
class TakeCard : public Card {
    Q_OBJECT
  public:
    TakeCard(Document& document,
             Transport& transport,
             TakeCommands& takes,
             QWidget* parent = nullptr);

  signals:
    void addWanted();       // another recording of the same piece
    void recordingWanted(); // find the moved recording
    void filmLookWanted(std::size_t take);

  private:
    void refresh();
    void refreshTake(std::size_t index);
    void refreshReference(std::size_t index);
    QLayout* buildForm();
    void prepareFields();
    void connectTexts();
    void connectChoices();
    void connectReference();
    QLayout* buildButtons();
    void change(const QString& label, const std::function<void(Take&)>& change);

    Document& m_document;
    Transport& m_transport;
    TakeCommands& m_takes;
    QLabel* m_title;
    QLabel* m_facts;
    QLabel* m_advice;
    QLineEdit* m_name;
    QComboBox* m_kind;
    QComboBox* m_stream;
    QComboBox* m_channels;
    QDoubleSpinBox* m_gain;
    QDoubleSpinBox* m_a4;
    QLabel* m_reference_note;
    QLineEdit* m_origin;
    QComboBox* m_rights;
    QLineEdit* m_remark;
    QPushButton* m_hear;
    QPushButton* m_trim;
    QPushButton* m_line_up;
    QPushButton* m_look;
    QPushButton* m_remove;
    QPushButton* m_find;
    bool m_refreshing = false;
};

} // namespace wirenote::app
