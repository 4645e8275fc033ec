#pragma once

#include "app/card.h"

#include <QPushButton>
#include <QTimer>

namespace wirenote::app {

class Document;
class Questions;

// One question about the whole piece: its choices, to be heard and taken. Or the offer to hear the
// take again with other strings.
class QuestionCard : public Card {
    Q_OBJECT
  public:
    QuestionCard(Document& document, Questions& questions, QWidget* parent = nullptr);

  private:
    void rebuild();
    void showQuestion();
    void showHearAgain();
    QPushButton* button(const QString& text, const QString& name, bool primary);

    Document& m_document;
    Questions& m_questions;
    QWidget* m_content = nullptr;
    QVBoxLayout* m_rows = nullptr;
    QTimer m_soon;
};

} // namespace wirenote::app
