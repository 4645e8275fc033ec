#include "app/text/form_wording.h"

#include "app/text/wording.h"
#include "score/count.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}

// Short parts after the occurrences of one phrase are its endings: which one this is, or 0.
int endingNumber(const std::vector<FormPart>& parts, std::size_t part) {
    const auto follows = [&parts](std::size_t i) {
        return i > 0 && parts[i].label.empty() && parts[i].bars <= 2 && !parts[i - 1].label.empty();
    };
    if (!follows(part))
        return 0;
    const std::size_t phrase = parts[part - 1].phrase;
    int number = 0;
    int all = 0;
    for (std::size_t i = 1; i < parts.size(); ++i)
        if (follows(i) && parts[i - 1].phrase == phrase) {
            ++all;
            number += i <= part ? 1 : 0;
        }
    return all > 1 ? number : 0;
}

QString placeText(const BarContent& bar, Rational at) {
    const Rational beat = bar.metre.beatLength();
    const auto whole = (at / beat).floor();
    const Rational part = (at - Rational(whole) * beat) / beat;
    const QString first = QString::fromStdString(
        syllable(CountSchool::Numbers, bar.metre, static_cast<int>(whole), 0));
    const QString said = QString::fromStdString(
        syllable(CountSchool::Numbers, bar.metre, static_cast<int>(whole), part));
    return part == Rational(0) ? first
           : said.isEmpty()    ? tr("after %1").arg(first)
                               : QString("%1 %2").arg(first, said);
}

// Which notes of the bar: "the last two notes", "the note on 2 &".
QString whichText(const BarContent& bar, const std::vector<Difference>& some) {
    const auto count = some.size();
    const auto isRun = [&](std::size_t from) {
        for (std::size_t k = 0; k < count; ++k)
            if (bar.events[from + k].at != some[k].at)
                return false;
        return true;
    };
    if (count > 1 && count < bar.events.size()) {
        if (isRun(bar.events.size() - count))
            return tr("the last %1 notes").arg(count);
        if (isRun(0))
            return tr("the first %1 notes").arg(count);
    }
    if (count > 1 && count == bar.events.size())
        return tr("all notes");
    QStringList places;
    for (const Difference& d : some)
        places << placeText(bar, d.at);
    return count == 1 ? tr("the note on %1").arg(places.front())
                      : tr("the notes on %1").arg(places.join(", "));
}

QString movedText(Rational later) {
    const bool early = later < Rational(0);
    const double beats = std::abs(later.toDouble());
    const QString by = beats == 1.0    ? tr("a beat")
                       : beats == 0.5  ? tr("half a beat")
                       : beats == 0.25 ? tr("a quarter of a beat")
                                       : tr("%1 beats").arg(beats, 0, 'g', 2);
    return early ? tr("%1 earlier").arg(by) : tr("%1 later").arg(by);
}

QString barText(const BarContent& bar, const std::vector<Difference>& differences) {
    QStringList words;
    std::vector<Difference> rest = differences;
    while (!rest.empty()) {
        // What differs in the same way is said together.
        const Difference first = rest.front();
        std::vector<Difference> alike;
        for (const Difference& d : rest)
            if (d.kind == first.kind && d.semitones == first.semitones && d.later == first.later)
                alike.push_back(d);
        std::erase_if(rest, [&](const Difference& d) {
            return d.kind == first.kind && d.semitones == first.semitones && d.later == first.later;
        });
        switch (first.kind) {
        case DifferenceKind::Pitch:
            words << (alike.size() == 1 ? tr("%1 is %2") : tr("%1 are %2"))
                         .arg(whichText(bar, alike), intervalText(first.semitones));
            break;
        case DifferenceKind::Moved:
            words << (alike.size() == 1 ? tr("%1 comes %2") : tr("%1 come %2"))
                         .arg(whichText(bar, alike), movedText(first.later));
            break;
        case DifferenceKind::Missing:
            words << tr("without %1").arg(whichText(bar, alike));
            break;
        case DifferenceKind::Added: {
            QStringList places;
            for (const Difference& d : alike)
                places << placeText(bar, d.at);
            words << tr("one more on %1").arg(places.join(", "));
            break;
        }
        }
    }
    return words.join(", ");
}

} // namespace

QString intervalText(int semitones) {
    const int size = std::abs(semitones);
    const QString by = size == 12   ? tr("an octave")
                       : size == 24 ? tr("two octaves")
                                    : countText(size,
                                                QT_TRANSLATE_NOOP("wording", "%1 semitone"),
                                                QT_TRANSLATE_NOOP("wording", "%1 semitones"));
    return semitones > 0 ? tr("%1 higher").arg(by) : tr("%1 lower").arg(by);
}

QString partText(const std::vector<FormPart>& parts, std::size_t part) {
    if (!parts[part].label.empty())
        return QString::fromStdString(parts[part].label);
    if (const int ending = endingNumber(parts, part); ending > 0)
        return tr("ending %1").arg(ending);
    if (part == 0)
        return parts.size() == 1 ? tr("all") : tr("intro");
    if (part + 1 == parts.size())
        return tr("ending");
    return parts[part].bars <= 2 ? tr("fill") : tr("bridge");
}

QString barsText(int first, int last) {
    if (last < 1)
        return tr("pick-up");
    if (first < 1)
        return tr("pick-up to bar %1").arg(last);
    return first == last ? tr("bar %1").arg(first) : tr("bars %1–%2").arg(first).arg(last);
}

QStringList
differenceText(const std::vector<BarContent>& bars, const Phrase& phrase, std::size_t occurrence) {
    QStringList sentences;
    if (bars.empty() || occurrence == 0 || occurrence >= phrase.occurrences.size())
        return sentences;
    const Occurrence& here = phrase.occurrences[occurrence];
    const int model = phrase.occurrences.front().first_bar;
    for (std::size_t k = 0; k < here.differences.size(); ++k) {
        const int number = model + static_cast<int>(k);
        if (here.other[k])
            sentences << tr("bar %1 is another than bar %2")
                             .arg(here.first_bar + static_cast<int>(k))
                             .arg(number);
        if (here.differences[k].empty())
            continue;
        const BarContent& bar = bars[static_cast<std::size_t>(number - bars.front().number)];
        sentences << tr("bar %1 as bar %2: %3")
                         .arg(here.first_bar + static_cast<int>(k))
                         .arg(number)
                         .arg(barText(bar, here.differences[k]));
    }
    return sentences;
}

} // namespace wirenote::app
