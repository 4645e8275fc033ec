#include "app/text/harmony_wording.h"

#include <QCoreApplication>
#include <array>

namespace wirenote::app {

QString keyText(const KeyGuess& key, Spelling spelling) {
    const QString tonic = QString::fromStdString(pitchClassName(key.tonic, spelling));
    return key.minor ? QObject::tr("%1 minor").arg(tonic) : QObject::tr("%1 major").arg(tonic);
}

QString scaleText(ScaleKind kind) {
    static const std::array<const char*, 10> kNames = {
        QT_TRANSLATE_NOOP("wording", "major scale"),
        QT_TRANSLATE_NOOP("wording", "natural minor scale"),
        QT_TRANSLATE_NOOP("wording", "harmonic minor scale"),
        QT_TRANSLATE_NOOP("wording", "Dorian"),
        QT_TRANSLATE_NOOP("wording", "Phrygian"),
        QT_TRANSLATE_NOOP("wording", "Lydian"),
        QT_TRANSLATE_NOOP("wording", "Mixolydian"),
        QT_TRANSLATE_NOOP("wording", "major pentatonic"),
        QT_TRANSLATE_NOOP("wording", "minor pentatonic"),
        QT_TRANSLATE_NOOP("wording", "blues scale")};
    return QCoreApplication::translate("wording", kNames[static_cast<std::size_t>(kind)]);
}

} // namespace wirenote::app
