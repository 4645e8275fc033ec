#pragma once

#include <QString>
#include <vector>

class QSettings;
class QWidget;

namespace wirenote::app {

// What a person keeps under a name of their own in the settings: a school, a style of sheets.
struct KeptEntry {
    QString name;
    QString words; // what it stands for
};

// What was kept in this list, at most fifty; entries without a name are passed over.
std::vector<KeptEntry> keptEntries(QSettings& settings, const QString& list);
// One more; what has its name or stands for the same goes.
void keepEntry(QSettings& settings, const QString& list, const KeptEntry& entry);
// Without what stands for these words.
void forgetEntry(QSettings& settings, const QString& list, const QString& words);

// Asks for a name to keep something under. Empty: it is not to be kept.
QString askForName(QWidget* parent, const QString& title, const QString& usual);

} // namespace wirenote::app
