#include "app/banner.h"

#include "app/theme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QPainter>
#include <algorithm>

namespace wirenote::app {

Banner::Banner(JobRunner& jobs, QWidget* parent)
    : QFrame(parent), m_text(new QLabel), m_progress(new QProgressBar),
      m_stop(new QPushButton(tr("Stop"))), m_close(new QPushButton(tr("Dismiss"))) {
    setObjectName("banner");
    m_text->setWordWrap(true);
    m_text->setObjectName("bannerText");
    m_progress->setFixedWidth(240);
    m_progress->setTextVisible(false);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 6, 10, 6);
    row->addWidget(m_text, 1);
    row->addWidget(m_progress);
    row->addWidget(m_stop);
    row->addWidget(m_close);
    m_close->setObjectName("dismiss");
    m_fade.setSingleShot(true);
    m_fade.setInterval(6000);
    m_show_progress.setSingleShot(true);
    m_show_progress.setInterval(300);
    connect(&m_fade, &QTimer::timeout, this, &Banner::dismiss);
    connect(m_close, &QPushButton::clicked, this, &Banner::dismiss);
    connect(m_stop, &QPushButton::clicked, &jobs, &JobRunner::cancel);
    connect(&jobs, &JobRunner::started, this, [this](const QString& title) {
        m_title = title;
        m_show_progress.start();
    });
    connect(&m_show_progress, &QTimer::timeout, this, [this] {
        m_fade.stop();
        m_text->setText(m_title);
        m_progress->setRange(0, 0);
        m_progress->show();
        m_stop->show();
        m_close->hide();
        show();
        place();
    });
    connect(&jobs, &JobRunner::progressed, this, [this](double done_s, double total_s) {
        if (!m_progress->isVisible() || total_s <= 0.0)
            return;
        m_progress->setRange(0, 1000);
        m_progress->setValue(static_cast<int>(1000.0 * std::clamp(done_s / total_s, 0.0, 1.0)));
        m_text->setText(tr("%1: %2 of %3 seconds")
                            .arg(m_title)
                            .arg(static_cast<int>(done_s))
                            .arg(static_cast<int>(total_s)));
    });
    connect(&jobs, &JobRunner::finished, this, [this] {
        m_show_progress.stop();
        if (m_stop->isVisible())
            dismiss();
    });
    dismiss();
}

void Banner::layOver(QWidget* work, QMargins free) {
    m_work = work;
    m_free = free;
    setParent(work);
    work->installEventFilter(this);
    hide();
}

bool Banner::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_work && event->type() == QEvent::Resize && isVisible())
        place();
    return false;
}

void Banner::place() {
    if (!m_work)
        return;
    constexpr int kLeast = 280;
    const int room = m_work->width() - m_free.left() - m_free.right();
    const int width = std::min(m_work->width(), std::max(kLeast, room));
    const int height = std::max(sizeHint().height(), layout()->totalHeightForWidth(width));
    setGeometry(std::min(m_free.left(), m_work->width() - width), m_free.top(), width, height);
    raise();
}

void Banner::showMessage(const QString& sentence) {
    m_text->setText(sentence);
    m_progress->hide();
    m_stop->hide();
    m_close->show();
    show();
    place();
}

void Banner::say(const QString& sentence) {
    m_fade.stop();
    showMessage(sentence);
}

void Banner::hint(const QString& sentence) {
    showMessage(sentence);
    m_fade.start();
}

void Banner::dismiss() {
    m_fade.stop();
    m_progress->hide();
    m_stop->hide();
    hide();
}

} // namespace wirenote::app
