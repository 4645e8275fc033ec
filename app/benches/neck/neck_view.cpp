#include "app/benches/neck/neck_view.h"

#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/harmony_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "form/span_summary.h"
#include "music/degrees.h"
#include "piece/one_stroke.h"
#include "session/hand_report.h"

#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <span>

namespace wirenote::app {
namespace {
constexpr double kWordsWidth = 190.0;
constexpr int kUsualHeight = 170;
constexpr int kMostRinging = 3;

QString fretsText(int frets) {
    return countText(
        frets, QT_TRANSLATE_NOOP("wording", "%1 fret"), QT_TRANSLATE_NOOP("wording", "%1 frets"));
}

} // namespace

struct NeckView::Moment {
    const NotePlan* now = nullptr;
    const Note* note = nullptr;
    const NotePlan* next = nullptr;
    std::vector<const NotePlan*> together; // struck in the same stroke
    std::vector<const NotePlan*> ringing;
};

NeckView::NeckView(Document& document,
                   Selection& selection,
                   Transport& transport,
                   Derived& derived,
                   QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection), m_transport(transport),
      m_derived(derived) {
    setObjectName("neck");
    setMinimumHeight(112);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    setAccessibleName(tr("Neck: where the hand is"));
    const auto redraw = [this] { update(); };
    connect(&document, &Document::opened, this, redraw);
    connect(&document, &Document::changed, this, [redraw](const Changes& what) {
        if (what.notes || what.plans || what.instrument)
            redraw();
    });
    connect(&selection, &Selection::changed, this, redraw);
    connect(&transport, &Transport::moved, this, redraw);
    connect(&transport, &Transport::changed, this, redraw);
    connect(&derived, &Derived::changed, this, &NeckView::askScale);
    connect(&transport, &Transport::changed, this, &NeckView::askScale); // another loop
    const auto other_chord = [this] {
        if (m_harmony == NeckHarmony::ChordNotes || m_harmony == NeckHarmony::ChordDegrees)
            layHarmony();
    };
    connect(&selection, &Selection::changed, this, other_chord);
    connect(&transport, &Transport::moved, this, other_chord);
}

QRectF NeckView::board() const {
    const double words = std::min(kWordsWidth, 0.3 * width());
    const double above = height() < kUsualHeight ? 26.0 : 34.0;
    const double below = height() < kUsualHeight ? 22.0 : 32.0;
    return QRectF(50, above, width() - 50 - words, height() - above - below);
}

double NeckView::fretX(int fret) const {
    const Instrument& instrument = m_document.piece().instrument;
    const QRectF b = board();
    const double along = b.width() * fretPlace_mm(instrument.scale_mm, fret) /
                         fretPlace_mm(instrument.scale_mm, instrument.frets);
    return instrument.left_handed ? b.right() - along : b.left() + along;
}

double NeckView::dotX(Position position) const {
    const int fret = m_document.piece().instrument.capo + position.fret;
    if (position.fret == 0)
        return fretX(m_document.piece().instrument.capo) +
               (m_document.piece().instrument.left_handed ? 13 : -13);
    return fretX(fret) - 0.42 * (fretX(fret) - fretX(fret - 1));
}

double NeckView::stringY(int string) const {
    const QRectF b = board();
    const int strings = m_document.piece().instrument.stringCount();
    return b.top() + b.height() * (string - 0.5) / strings;
}

NeckView::Moment NeckView::momentNow() const {
    Moment moment;
    const Piece& piece = m_document.piece();
    // While it plays the hand follows the sound; at rest it shows the chosen note.
    const bool follow = m_transport.playing() || m_selection.note() == 0;
    const Note* chosen = piece.note(m_selection.note());
    const double t = follow || !chosen ? m_transport.playhead_s() : chosen->onset_s();
    std::vector<std::size_t> sounding;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        if (!piece.asPlayed().plans[i].placed())
            continue;
        if (note.onset_s() > t + kStrokeApart_s) {
            moment.next = &piece.asPlayed().plans[i];
            break;
        }
        if (note.offset_s() > t)
            sounding.push_back(i);
    }
    if (sounding.empty())
        return moment;
    // The chosen note where there is one, or else the last that began.
    std::size_t now = sounding.back();
    for (const std::size_t i : sounding)
        if (!follow && chosen && piece.notes[i].id == chosen->id)
            now = i;
    moment.now = &piece.asPlayed().plans[now];
    moment.note = &piece.notes[now];
    for (const std::size_t i : sounding) {
        const bool same = beginTogether(piece.notes[i].onset_s(), moment.note->onset_s());
        if (i != now)
            (same ? moment.together : moment.ringing).push_back(&piece.asPlayed().plans[i]);
    }
    return moment;
}

void NeckView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().paper);
    if (!m_document.isOpen())
        return;
    const Moment moment = momentNow();
    paintBoard(painter);
    paintHarmony(painter, moment);
    paintHand(painter, moment);
    paintWords(painter, moment);
}

void NeckView::paintBoard(QPainter& painter) const {
    const Instrument& instrument = m_document.piece().instrument;
    const QRectF b = board();
    painter.fillRect(b, theme().wood);
    painter.setPen(QPen(theme().wire, 1.4));
    for (int fret = 1; fret <= instrument.frets; ++fret)
        painter.drawLine(QPointF(fretX(fret), b.top()), QPointF(fretX(fret), b.bottom()));
    painter.setPen(QPen(theme().ink, 4.0, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(QPointF(fretX(0), b.top() - 2), QPointF(fretX(0), b.bottom() + 2));
    if (instrument.capo > 0) {
        painter.setPen(QPen(theme().ink, 7.0, Qt::SolidLine, Qt::RoundCap));
        const double x = fretX(instrument.capo) + (instrument.left_handed ? 6 : -6);
        painter.drawLine(QPointF(x, b.top()), QPointF(x, b.bottom()));
    }
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        painter.setPen(
            QPen(theme().wire, std::clamp(instrument.string(s).gauge_mm * 1.6, 0.8, 4.0)));
        painter.drawLine(QPointF(b.left() - 14, stringY(s)), QPointF(b.right() + 6, stringY(s)));
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(7.5));
        painter.drawText(QRectF(2, stringY(s) - 8, 14, 16), Qt::AlignCenter, QString::number(s));
    }
    painter.setPen(theme().quiet);
    painter.setFont(uiFont(8.0));
    static constexpr std::array<int, 10> kNumbered = {
        1, 3, 5, 7, 9, 12, 15, 17, 19, 21}; // where necks carry inlays
    for (const int fret : kNumbered)
        if (const int absolute = instrument.capo + fret; absolute <= instrument.frets) {
            const double x = (fretX(absolute) + fretX(absolute - 1)) / 2.0;
            painter.drawText(
                QRectF(x - 14, b.bottom() + 5, 28, 16), Qt::AlignCenter, QString::number(fret));
        }
}

void NeckView::showHarmony(NeckHarmony what) {
    m_harmony = what;
    layHarmony();
    askScale();
}

QString NeckView::harmonyText() const {
    return m_harmony_text;
}

// The scale takes a look at all notes: it is worked out beside the window.
void NeckView::askScale() {
    if (m_harmony == NeckHarmony::None || !m_document.isOpen())
        return;
    struct Scales {
        SpanSummary of_loop;
        std::optional<KeyGuess> key;
    };
    m_derived.ask(
        [loop = m_transport.loop().value_or(TimeRange{})](const Piece& piece) {
            return Scales{summarise(piece, loop), summarise(piece, {}).key};
        },
        [this](const Scales& said) {
            m_scale = said.of_loop.key ? std::optional(said.of_loop.scale) : std::nullopt;
            m_key = said.key;
            layHarmony();
        });
}

void NeckView::layHarmony() {
    m_marks.clear();
    m_harmony_text.clear();
    update();
    if (m_harmony == NeckHarmony::None || !m_document.isOpen())
        return;
    if (m_harmony == NeckHarmony::ScaleNotes || m_harmony == NeckHarmony::ScaleDegrees)
        layScale();
    else
        layChord();
}

void NeckView::layScale() {
    if (!m_scale)
        return;
    const Piece& piece = m_document.piece();
    m_root = m_scale->tonic;
    m_marks = scalePlaces(piece.instrument, *m_scale);
    m_harmony_text =
        QString("%1 %2").arg(QString::fromStdString(pitchClassName(m_root, piece.key.spelling())),
                             scaleText(m_scale->kind));
}

void NeckView::layChord() {
    const Piece& piece = m_document.piece();
    const Spelling spelling = piece.key.spelling();
    const Note* chosen = piece.note(m_selection.note());
    const double at_s =
        m_transport.playing() || !chosen ? m_transport.playhead_s() : chosen->onset_s();
    const ChordSpan* sounding = nullptr; // a chord lasts in the ear until another comes
    for (const ChordSpan& chord : m_derived.chords())
        if (chord.span.start_s <= at_s + kStrokeApart_s)
            sounding = &chord;
    const std::string name = sounding ? chordText(*sounding, spelling) : std::string();
    const auto tones = parseChord(name);
    if (!tones) {
        m_harmony_text = tr("no chord yet");
        return;
    }
    m_root = tones->root;
    m_marks = scalePlaces(piece.instrument, *tones);
    const QString text = QString::fromStdString(name);
    m_harmony_text = m_key ? tr("over %1, %2 in %3")
                                 .arg(text,
                                      QString::fromStdString(functionName(name, *m_key)),
                                      keyText(*m_key, spelling))
                           : tr("over %1").arg(text);
}

// Faint where the hand does not reach; the tonic or the root with a ring of its own.
void NeckView::paintHarmony(QPainter& painter, const Moment& moment) const {
    constexpr double kFaint = 0.4;
    const bool degrees =
        m_harmony == NeckHarmony::ScaleDegrees || m_harmony == NeckHarmony::ChordDegrees;
    const int hand = moment.now ? moment.now->hand_fret : 0;
    const double radius = 0.86 * dotRadius();
    painter.setFont(uiFont(7.5));
    for (const ScalePlace& mark : m_marks) {
        const QPointF centre(dotX(mark.place), stringY(mark.place.string));
        painter.setOpacity(hand > 0 && !inBox(mark.place, hand) ? kFaint : 1.0);
        painter.setPen(QPen(mark.semitones == 0 ? theme().accent : theme().quiet,
                            mark.semitones == 0 ? 2.0 : 1.0));
        painter.setBrush(theme().paper);
        painter.drawEllipse(centre, radius, radius);
        painter.setPen(theme().ink);
        const QString text =
            QString::fromStdString(degrees ? degreeName(mark.semitones)
                                           : pitchClassName((m_root + mark.semitones) % 12,
                                                            m_document.piece().key.spelling()));
        painter.drawText(
            QRectF(centre.x() - 2 * radius, centre.y() - radius, 4 * radius, 2 * radius),
            Qt::AlignCenter,
            text);
    }
    painter.setOpacity(1.0);
}

double NeckView::dotRadius() const {
    return std::min(11.0, board().height() / m_document.piece().instrument.stringCount() * 0.46);
}

// A finger that holds several strings is one bar over all of them.
void NeckView::paintBarres(QPainter& painter, const Moment& moment) const {
    std::vector<const NotePlan*> down = moment.ringing;
    down.insert(down.end(), moment.together.begin(), moment.together.end());
    if (moment.now)
        down.push_back(moment.now);
    const double radius = dotRadius();
    for (const Finger finger : {Finger::Index, Finger::Middle, Finger::Ring, Finger::Little}) {
        const NotePlan* thin = nullptr;
        const NotePlan* thick = nullptr;
        for (const NotePlan* plan : down) {
            if (plan->finger.value != finger)
                continue;
            if (!thin || plan->position.value.string < thin->position.value.string)
                thin = plan;
            if (!thick || plan->position.value.string > thick->position.value.string)
                thick = plan;
        }
        if (!thin || thin == thick || thin->position.value.fret != thick->position.value.fret)
            continue;
        const double x = dotX(thin->position.value);
        const QRectF bar(QPointF(x - 0.62 * radius, stringY(thin->position.value.string)),
                         QPointF(x + 0.62 * radius, stringY(thick->position.value.string)));
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme().ink);
        painter.drawRoundedRect(bar.adjusted(0, -radius, 0, radius), radius, radius);
    }
}

void NeckView::paintDot(QPainter& painter, const NotePlan& plan, bool now, bool next) const {
    const QPointF centre(dotX(plan.position.value), stringY(plan.position.value.string));
    const double radius = dotRadius();
    painter.setPen(next ? QPen(theme().ink, 1.3, Qt::DashLine)
                        : QPen(now ? theme().paper : theme().ink, 1.3));
    painter.setBrush(now    ? QBrush(theme().accent)
                     : next ? QBrush(theme().wood)
                            : QBrush(theme().ink));
    painter.drawEllipse(centre, radius, radius);
    static constexpr std::array<const char*, 7> kDigits = {"", "0", "1", "2", "3", "4", "T"};
    painter.setPen(now || !next ? theme().paper : theme().ink);
    painter.setFont(uiFont(8.5, now));
    painter.drawText(QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius),
                     Qt::AlignCenter,
                     QString::fromLatin1(kDigits[static_cast<std::size_t>(plan.finger.value)]));
}

void NeckView::paintHand(QPainter& painter, const Moment& moment) const {
    if (moment.next && (!moment.now || moment.next->position.value != moment.now->position.value))
        paintDot(painter, *moment.next, false, true);
    paintBarres(painter, moment);
    for (const NotePlan* plan : moment.ringing)
        paintDot(painter, *plan, false, false);
    for (const NotePlan* plan : moment.together)
        paintDot(painter, *plan, true, false);
    if (moment.now)
        paintDot(painter, *moment.now, true, false);
    const int hand = moment.now ? moment.now->hand_fret : 0;
    if (hand <= 0)
        return;
    const Instrument& instrument = m_document.piece().instrument;
    const int first = instrument.capo + hand;
    const auto [x0, x1] =
        std::minmax({fretX(first - 1), fretX(std::min(instrument.frets, first + 3))});
    const double y = board().top() - 8;
    painter.setPen(QPen(theme().accent, 2.2));
    painter.drawPolyline(QPolygonF({{x0, y + 6}, {x0, y}, {x1, y}, {x1, y + 6}}));
    painter.setFont(uiFont(8.5, true));
    painter.drawText(
        QRectF(x0, y - 19, 240, 16), Qt::AlignLeft | Qt::AlignVCenter, positionText(hand));
    if (moment.next && moment.next->hand_fret > 0 && moment.next->hand_fret != hand) {
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(8.5));
        painter.drawText(QRectF(x0 + 130, y - 19, 260, 16),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         tr("next: %1").arg(positionText(moment.next->hand_fret)));
    }
}

// What the grip of this stroke has in common with the one before, and with those learned first.
QStringList NeckView::shapeTexts(const Moment& moment) const {
    QStringList texts;
    if (!moment.now || moment.together.empty())
        return texts;
    const GripShape shape = gripShape(m_document.piece(), moment.note->id);
    if (shape.moved)
        texts << (*shape.moved > 0 ? tr("the same shape, %1 up").arg(fretsText(*shape.moved))
                                   : tr("the same shape, %1 down").arg(fretsText(-*shape.moved)));
    if (shape.like)
        texts << tr("as open %1, %2 up")
                     .arg(QString::fromUtf8(shape.like->chord), fretsText(shape.like->frets_up));
    return texts;
}

void NeckView::paintWords(QPainter& painter, const Moment& moment) const {
    const Piece& piece = m_document.piece();
    const double x = board().right() + 22;
    double y = board().top() - 4;
    const auto line = [&](const QString& text, const QColor& colour, bool strong) {
        painter.setPen(colour);
        painter.setFont(uiFont(9.0, strong));
        painter.drawText(QRectF(x, y, width() - x - 4, 18), Qt::AlignLeft | Qt::AlignVCenter, text);
        y += 19;
    };
    const auto place = [&](const NotePlan& plan) {
        return plan.position.value.fret == 0 ? tr("string %1, open").arg(plan.position.value.string)
                                             : tr("string %1, fret %2")
                                                   .arg(plan.position.value.string)
                                                   .arg(plan.position.value.fret);
    };
    if (!m_harmony_text.isEmpty())
        line(m_harmony_text, theme().ink, true);
    if (!moment.now) {
        line(tr("nothing sounds here"), theme().quiet, false);
        return;
    }
    line(tr("now: %1").arg(pitchText(piece, moment.note->pitch.value)), theme().quiet, false);
    line(place(*moment.now), theme().ink, true);
    if (!moment.together.empty())
        line(moment.together.size() == 1
                 ? tr("and one more in this stroke")
                 : tr("and %1 more in this stroke").arg(moment.together.size()),
             theme().quiet,
             false);
    for (const QString& shape : shapeTexts(moment))
        line(shape, theme().quiet, false);
    if (!moment.ringing.empty()) {
        line(tr("still ringing:"), theme().quiet, false);
        for (std::size_t i = 0; i < moment.ringing.size() && i < kMostRinging; ++i)
            line(place(*moment.ringing[i]), theme().ink, false);
    }
    if (moment.next) {
        line(tr("next:"), theme().quiet, false);
        line(place(*moment.next), theme().ink, false);
    }
}

} // namespace wirenote::app
