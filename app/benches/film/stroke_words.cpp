#include "app/benches/film/stroke_words.h"

#include "seeing/stroke_source.h"

#include <QCoreApplication>
#include <cmath>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wirenote::app::StrokeWords", text);
}

QString kindWords(const StrokeHabit::Kind& kind) {
    const auto counted = [&kind](const QString& text) { return text.arg(kind.agree).arg(kind.of); };
    switch (kind.source) {
    case StrokeSource::Resting:
        return counted(tr("from a resting hand (%1 of %2)"));
    case StrokeSource::Wrist:
        return counted(tr("from the wrist (%1 of %2)"));
    case StrokeSource::Arm:
        return counted(tr("from the arm (%1 of %2)"));
    }
    return {};
}

} // namespace

QString sourceWords(const SeenFacts& seen) {
    const auto source = strokeSource(seen);
    if (!source)
        return {};
    switch (*source) {
    case StrokeSource::Resting:
        return tr("The heel of the hand rests: pick or fingers move alone.");
    case StrokeSource::Wrist:
        return tr("The hand turns from the wrist; the forearm stays.");
    case StrokeSource::Arm:
        return tr("The forearm goes along, by about %1 mm.")
            .arg(std::lround(seen.forearm_mm.value_or(0.0)));
    }
    return {};
}

QString habitWords(const Piece& piece, std::size_t take) {
    const auto habit = strokeHabit(sourcedStrokes(piece, take));
    if (!habit)
        return {};
    const QString first = kindWords(habit->first);
    switch (habit->by) {
    case StrokeHabit::By::All:
        return tr("Over this film strokes come %1.").arg(first);
    case StrokeHabit::By::Strums:
        return tr("Over this film single notes come %1, strums %2.")
            .arg(first, kindWords(habit->second));
    case StrokeHabit::By::Gap:
        return tr("Over this film strokes less than %1 s before the next come %2, slower ones %3.")
            .arg(QString::number(habit->gap_s, 'f', 2), first, kindWords(habit->second));
    }
    return {};
}

} // namespace wirenote::app
