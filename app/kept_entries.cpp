#include "app/kept_entries.h"

#include <QCoreApplication>
#include <QInputDialog>
#include <QSettings>
#include <algorithm>

namespace wirenote::app {
namespace {

constexpr int kMost = 50;
constexpr int kLongestName = 60;

void write(QSettings& settings, const QString& list, const std::vector<KeptEntry>& all) {
    settings.remove(list);
    settings.beginWriteArray(list, static_cast<int>(all.size()));
    for (std::size_t i = 0; i < all.size(); ++i) {
        settings.setArrayIndex(static_cast<int>(i));
        settings.setValue("name", all[i].name);
        settings.setValue("words", all[i].words);
    }
    settings.endArray();
}

} // namespace

std::vector<KeptEntry> keptEntries(QSettings& settings, const QString& list) {
    std::vector<KeptEntry> all;
    const int count = std::min(kMost, settings.beginReadArray(list));
    for (int i = 0; i < count; ++i) {
        settings.setArrayIndex(i);
        const QString name = settings.value("name").toString().simplified().left(kLongestName);
        if (!name.isEmpty())
            all.push_back({name, settings.value("words").toString()});
    }
    settings.endArray();
    return all;
}

void keepEntry(QSettings& settings, const QString& list, const KeptEntry& entry) {
    auto all = keptEntries(settings, list);
    std::erase_if(all, [&entry](const KeptEntry& kept) {
        return kept.name == entry.name || kept.words == entry.words;
    });
    all.push_back(entry);
    write(settings, list, all);
}

void forgetEntry(QSettings& settings, const QString& list, const QString& words) {
    auto all = keptEntries(settings, list);
    std::erase_if(all, [&words](const KeptEntry& kept) { return kept.words == words; });
    write(settings, list, all);
}

QString askForName(QWidget* parent, const QString& title, const QString& usual) {
    bool wanted = false;
    const QString name =
        QInputDialog::getText(parent,
                              title,
                              QCoreApplication::translate("kept", "What is it called?"),
                              QLineEdit::Normal,
                              usual,
                              &wanted)
            .simplified()
            .left(kLongestName);
    return wanted ? name : QString();
}

} // namespace wirenote::app
