#pragma once

#include <QAbstractButton>
#include <QButtonGroup>
#include <QWidget>

namespace wirenote::app {

class Derived;
class Document;

enum class BenchKind { Takes, Pulse, Notes, Neck, Strokes, Sheet, Readings, Lesson };
constexpr int kBenchCount = 8;

// The benches in the order of the work, each with how far it is.
class Rail : public QWidget {
    Q_OBJECT
  public:
    Rail(Document& document, Derived& derived, QWidget* parent = nullptr);
    void setCurrent(BenchKind kind);
    static QString nameOf(BenchKind kind);

  signals:
    void chosen(BenchKind kind);

  private:
    void refresh();
    Document& m_document;
    Derived& m_derived;
    QButtonGroup m_buttons;
};

} // namespace wirenote::app
