#pragma once

#include "music/string_table.h"

#include <QComboBox>
#include <QFileSystemWatcher>
#include <QWidget>

namespace wirenote::app {

// Which set of strings is on the instrument, out of the table that ships or the person's own copy
// of it, which is read again whenever it is saved.
class StringsChoice : public QWidget {
    Q_OBJECT
  public:
    explicit StringsChoice(QWidget* parent = nullptr);

    const StringTable& table() const { return m_table; }
    void show(const Instrument& instrument);
    // The person's own table, beside the kept calibrations; it need not be there.
    static QString ownTable();
    // Writes the shipped table there, unless there is one already.
    Status makeOwn();

  signals:
    void chosen(const wirenote::StringSet& set);
    void said(const QString& sentence);
    void warned(const QString& sentence);

  private:
    void readTable();
    void watch();
    void editOwn();

    StringTable m_table;
    Instrument m_shown;
    QComboBox* m_sets;
    QFileSystemWatcher m_watcher;
};

} // namespace wirenote::app
