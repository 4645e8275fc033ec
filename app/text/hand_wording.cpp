#include "app/text/hand_wording.h"

#include "app/text/wording.h"

#include <QCoreApplication>
#include <QStringList>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}

QString conditionText(Condition when) {
    switch (when) {
    case Condition::Slower:
        return tr("At half the tempo");
    case Condition::Faster:
        return tr("At twice the tempo");
    case Condition::SmallerHand:
        return tr("With a smaller hand");
    case Condition::LargerHand:
        return tr("With a larger hand");
    case Condition::NothingBefore:
        return tr("Were it the first note");
    case Condition::NothingAfter:
        return tr("Were it the last note");
    case Condition::NothingRings:
        return tr("If nothing rang on");
    }
    return {};
}

} // namespace

int fingerNumber(Finger finger) {
    return finger >= Finger::Index && finger <= Finger::Little
               ? static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1
               : 0;
}

QString bendText(const BendWay& way) {
    QStringList behind;
    for (const Finger finger : way.behind)
        behind << fingerText(finger);
    QString text =
        behind.isEmpty()
            ? tr("%1 alone").arg(fingerText(way.finger))
            : tr("%1, with %2 behind it").arg(fingerText(way.finger), behind.join(tr(" and ")));
    text += way.to_thicker ? tr("; pushed towards the thicker strings")
                           : tr("; pulled towards the thinner strings");
    if (way.against != 0)
        text += tr("; it meets string %1, which sounds").arg(way.against);
    return text;
}

QString conditionsText(const std::vector<OtherCondition>& conditions, Position now) {
    QStringList lines;
    for (const OtherCondition& one : conditions)
        lines << tr("%1: %2.").arg(conditionText(one.when),
                                   one.position == now ? fingerText(one.finger)
                                                       : placeText(one.position));
    return lines.join(' ');
}

} // namespace wirenote::app
