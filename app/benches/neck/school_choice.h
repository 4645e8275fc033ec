#pragma once

#include "piece/fretting_manner.h"

#include <QComboBox>
#include <QMenu>
#include <QToolButton>
#include <QWidget>

class QSettings;

namespace wirenote::app {

// The school of the fretting hand, those that a person has kept among them, and beside it what
// teachers argue about, to be answered this way or that.
class SchoolChoice : public QWidget {
    Q_OBJECT
  public:
    explicit SchoolChoice(QSettings& settings, QWidget* parent = nullptr);
    void show(const FrettingManner& manner); // as the piece has it

  signals:
    void chosen(const FrettingManner& manner);

  private:
    void fillSchools();
    void fillRules();
    void keep(); // asks for a name
    void forget();

    QSettings& m_settings;
    FrettingManner m_now;
    QComboBox* m_school;
    QToolButton* m_adjust;
    QMenu* m_rules;
};

} // namespace wirenote::app
