#pragma once

#include "app/benches/film/neck_overlay.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QSpinBox;

namespace wirenote {
struct Take;
}

namespace wirenote::app {

class Document;
class FilmCommands;
class PictureView;
class Selection;
class Transport;

// The film beside the notes: the picture with the neck over it, the neck laid straight, and what a
// person does with them.
class FilmPane : public QWidget {
    Q_OBJECT
  public:
    FilmPane(Document& document,
             Selection& selection,
             Transport& transport,
             FilmCommands& commands);

    bool hasPicture() const;
    std::size_t shownTake() const; // whose film it is
    void step(int pictures);
    NeckOverlay& overlay() { return *m_overlay; }
    void giveOrUse();  // begins to give the neck, or takes it as the points lie
    void showPlaces(); // begins or ends to show places by clicks
    bool wantsRoom() const;

  signals:
    void roomWanted(bool wanted); // of the cards and the neck below

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    QWidget* buildGiving();
    QWidget* buildLooking();
    QWidget* buildCounting();
    void refresh();
    void goToNote();
    void place(double film_s, PicturePoint at);
    const Take* take() const; // whose film is shown; null: none
    void say();
    QString stateText() const;
    QString noteText() const; // what the film shows of the chosen note

    Document& m_document;
    Selection& m_selection;
    Transport& m_transport;
    FilmCommands& m_commands;
    PictureView* m_picture;
    NeckOverlay* m_overlay;
    QWidget* m_straight;
    QWidget* m_giving = nullptr;
    QWidget* m_looking = nullptr;
    QWidget* m_counting = nullptr; // while it is in doubt which fret is which
    QLabel* m_state;
    QPushButton* m_show = nullptr;
    QPushButton* m_large = nullptr;
    bool m_had_room = false;
    QComboBox* m_finger = nullptr;
    QSpinBox* m_late = nullptr;
};

} // namespace wirenote::app
