#pragma once

#include "app/card.h"
#include "piece/sheet_style.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <functional>
#include <utility>
#include <vector>

class QSettings;

namespace wirenote::app {

class Document;
class Selection;
class SheetCommands;
class StyleChoice;

// What stands on the sheet, and in which voice the chosen note is written.
class SheetCard : public Card {
    Q_OBJECT
  public:
    SheetCard(Document& document,
              Selection& selection,
              SheetCommands& commands,
              QSettings& settings,
              QWidget* parent = nullptr);

  private:
    void addChoices();
    void addTicks();
    void addChart();
    QComboBox* choice(const QString& name,
                      const QStringList& words,
                      std::function<int(const SheetStyle&)> get,
                      std::function<void(SheetStyle&, int)> set);
    void tick(const QString& name, bool SheetStyle::*what, const QString& tip);
    void refresh();
    void refreshVoice();

    Document& m_document;
    Selection& m_selection;
    SheetCommands& m_commands;
    std::vector<std::pair<QComboBox*, std::function<int(const SheetStyle&)>>> m_choices;
    std::vector<std::pair<QCheckBox*, bool SheetStyle::*>> m_ticks;
    StyleChoice* m_styles;
    QLineEdit* m_chart;
    QLabel* m_voice;
};

} // namespace wirenote::app
