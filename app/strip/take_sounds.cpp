#include "app/strip/take_sounds.h"

#include "app/document/document.h"
#include "app/theme.h"

#include <QTimer>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr std::size_t kMostTiles = 140; // of 228 KiB
constexpr std::size_t kMostWishes = 24; // older ones are forgotten: they have scrolled away
constexpr int kAnnounce_ms = 50;
constexpr int kFaintest = 70; // of 255: quieter than this is left as paper

// Ink on paper: the louder, the darker.
QRgb inkOf(int value) {
    const double share = std::clamp((value - kFaintest) / (225.0 - kFaintest), 0.0, 1.0);
    QColor ink = theme().ink;
    ink.setAlphaF(static_cast<float>(std::pow(share, 1.3)));
    return qPremultiply(ink.rgba());
}
} // namespace

TakeSounds::TakeSounds(Document& document, QObject* parent)
    : QObject(parent), m_document(document) {
    connect(&document, &Document::opened, this, [this] {
        m_overviews.clear();
        m_tiles.clear();
        m_tile_order.clear();
        m_wanted.clear();
        m_wishes.clear();
    });
}

PitchAxis TakeSounds::axis(double a4_hz) {
    PitchAxis axis;
    axis.a4_hz = a4_hz;
    return axis;
}

// One tile after the other, the newest wish first.
void TakeSounds::makeNext() {
    if (m_drawing.running() || m_wishes.empty())
        return;
    Wish wish = std::move(m_wishes.back());
    m_wishes.pop_back();
    m_drawing.run({}, [wish](const JobControl&) { return tileOf(wish); })
        .then([this, key = wish.key](QImage image) {
            tileArrived(key, std::move(image));
            makeNext();
        });
}

QImage TakeSounds::tileOf(const Wish& wish) {
    const double span_s = kTileColumns * kFinestHop_s * std::exp2(wish.key.level);
    const PitchAxis rows = axis(wish.a4_hz);
    const auto values = spectrogramOf(*wish.sound,
                                      rows,
                                      wish.channels,
                                      wish.key.index * span_s,
                                      span_s / kTileColumns,
                                      kTileColumns);
    QImage image(kTileColumns, rows.rows(), QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < rows.rows(); ++y) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(rows.rows() - 1 - y));
        for (int x = 0; x < kTileColumns; ++x)
            line[x] = inkOf(values[static_cast<std::size_t>(x * rows.rows() + y)]);
    }
    return image;
}

void TakeSounds::arrived() {
    if (m_announced)
        return;
    m_announced = true;
    QTimer::singleShot(kAnnounce_ms, this, [this] {
        m_announced = false;
        m_wanted.clear(); // what was forgotten may be wished again
        emit changed();
    });
}

const Overview* TakeSounds::overview(std::size_t take) {
    if (take >= m_document.piece().takes.size() || !m_document.media(take))
        return nullptr;
    const Take& wanted = m_document.piece().takes[take];
    const QString path = QString::fromStdString(wanted.path);
    const auto known = m_overviews.constFind(path);
    if (known != m_overviews.constEnd())
        return known->get();
    m_overviews.insert(path, nullptr);
    const auto show = [this, path](const Overview& so_far) {
        auto copy = std::make_shared<Overview>(so_far);
        QMetaObject::invokeMethod(this, [this, path, copy] {
            m_overviews[path] = copy;
            arrived();
        });
    };
    // A take that cannot be outlined cannot be opened either, and that is said there.
    m_outlining
        .enqueue({},
                 [path, stream = wanted.sound_stream, show](const JobControl& job) {
                     return outline(path.toStdString(), stream, job, show);
                 })
        .then([](const Status&) {});
    return nullptr;
}

const QImage* TakeSounds::tile(std::size_t take, int level, int index) {
    const TakeMedia* media =
        take < m_document.piece().takes.size() ? m_document.media(take) : nullptr;
    const double span_s = kTileColumns * kFinestHop_s * std::exp2(level);
    if (!media || index < 0 || index * span_s > m_document.piece().takes[take].length_s)
        return nullptr;
    const Take& wanted = m_document.piece().takes[take];
    const TileKey key{QString::fromStdString(wanted.path),
                      level,
                      index,
                      static_cast<int>(wanted.channels),
                      static_cast<int>(std::lround(wanted.reference.a4_hz * 100.0))};
    const auto known = m_tiles.constFind(key);
    if (known != m_tiles.constEnd())
        return &*known;
    if (m_wanted.contains(key))
        return nullptr;
    m_wanted.insert(key);
    m_wishes.push_back({key, media->drawing, wanted.reference.a4_hz, wanted.channels});
    if (m_wishes.size() > kMostWishes)
        m_wishes.pop_front();
    makeNext();
    return nullptr;
}

void TakeSounds::tileArrived(const TileKey& key, QImage image) {
    if (!m_tiles.contains(key))
        m_tile_order.push_back(key);
    m_tiles.insert(key, std::move(image));
    while (m_tile_order.size() > kMostTiles) {
        m_tiles.remove(m_tile_order.front());
        m_tile_order.pop_front();
    }
    arrived();
}

} // namespace wirenote::app
