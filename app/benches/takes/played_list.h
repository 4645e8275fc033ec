#pragma once

#include "app/card.h"

#include <QTimer>
#include <QTreeWidget>
#include <functional>
#include <vector>

namespace wirenote::app {

class Derived;
class Document;
class Playings;
class Transport;

// One of five lists: what each stretch of playing shows, how the form of another take differs, how
// places were played otherwise and how often, what each bar rests on, and what films do not show.
// Enter or a double click hears what a row tells of.
class PlayedList : public Card {
    Q_OBJECT
  public:
    enum class Of { Stretches, Forms, Variants, Bars, Shots };
    PlayedList(Of what,
               Document& document,
               Derived& derived,
               Transport& transport,
               Playings& playings,
               QWidget* parent = nullptr);
    static QString nameOf(Of what);

  private:
    void rebuild();
    void fillPlayed();
    void fillForms();
    void fillOtherwise();
    void fillBars();
    void fillShots();
    void add(const QStringList& cells, std::function<void()> hear, bool strong = false);
    void say(const QString& nothing_yet);
    void hear(QTreeWidgetItem* item);

    Of m_what;
    Document& m_document;
    Derived& m_derived;
    Transport& m_transport;
    Playings& m_playings;
    QTreeWidget* m_rows;
    QLabel* m_nothing;
    std::vector<std::function<void()>> m_hear; // by row
    QTimer m_soon;
};

} // namespace wirenote::app
