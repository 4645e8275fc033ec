#pragma once

#include "piece/sheet_style.h"

#include <QComboBox>
#include <QMenu>
#include <QToolButton>
#include <QWidget>

class QSettings;

namespace wirenote::app {

// Styles of sheets by name: what is usual for some purposes, and those a person has kept.
class StyleChoice : public QWidget {
    Q_OBJECT
  public:
    explicit StyleChoice(QSettings& settings, QWidget* parent = nullptr);
    void show(const SheetStyle& style); // as the piece has it

  signals:
    void chosen(const SheetStyle& style);

  private:
    void fill();
    void keep(); // asks for a name
    void forget();

    QSettings& m_settings;
    SheetStyle m_now;
    QComboBox* m_styles;
    QAction* m_forget;
};

} // namespace wirenote::app
