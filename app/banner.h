#pragma once

#include "app/document/job_runner.h"

#include <QFrame>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>

namespace wirenote::app {

// One sentence above the work: what went wrong and what to do, or how far a job is.
class Banner : public QFrame {
    Q_OBJECT
  public:
    explicit Banner(JobRunner& jobs, QWidget* parent = nullptr);
    void say(const QString& sentence);  // stays until dismissed
    void hint(const QString& sentence); // goes by itself
    QString text() const { return m_text->text(); }
    // Lies over this widget and leaves its margins free; it never pushes anything.
    void layOver(QWidget* work, QMargins free);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void showMessage(const QString& sentence);
    void place();
    void dismiss();

    QLabel* m_text;
    QProgressBar* m_progress;
    QPushButton* m_stop;
    QPushButton* m_close;
    QTimer m_fade;
    QTimer m_show_progress; // short jobs show nothing
    QString m_title;
    QWidget* m_work = nullptr;
    QMargins m_free;
};

} // namespace wirenote::app
