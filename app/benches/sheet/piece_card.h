#pragma once

#include "app/card.h"

#include <QComboBox>
#include <QLineEdit>

namespace wirenote::app {

class Document;

// What stands over the music: title, who made, played and wrote it down, and its key.
class PieceCard : public Card {
    Q_OBJECT
  public:
    explicit PieceCard(Document& document, QWidget* parent = nullptr);

  private:
    void refresh();
    void apply();
    void keepTitle();
    void applyKey();

    Document& m_document;
    QLineEdit* m_title;
    QLineEdit* m_composer;
    QLineEdit* m_player;
    QLineEdit* m_transcriber;
    QLineEdit* m_subtitle;
    QLineEdit* m_source;
    QLineEdit* m_date;
    QLabel* m_guessed; // where the title is
    QComboBox* m_key;
};

} // namespace wirenote::app
