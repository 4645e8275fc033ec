#pragma once

#include "app/document/job_runner.h"
#include "session/take_media.h"

#include <QHash>
#include <QImage>
#include <QObject>
#include <QSet>
#include <deque>
#include <memory>

namespace wirenote::app {

class Document;

// The pictures of the takes' sound: outlines, and spectrograms in tiles. Made off the interface
// thread when they are first wanted, kept within bounds, the newest wish first.
class TakeSounds : public QObject {
    Q_OBJECT
  public:
    explicit TakeSounds(Document& document, QObject* parent = nullptr);

    // What there is so far of a take's outline; null until there is something.
    const Overview* overview(std::size_t take);

    // A tile holds kTileColumns columns; at level 0 a column is kFinestHop_s, at each level after
    // it twice as long. Null when it is not there yet (it is being made, and `changed` follows).
    static constexpr int kTileColumns = 256;
    static constexpr double kFinestHop_s = 0.0058;
    static constexpr int kLevels = 10;
    static PitchAxis axis(double a4_hz);
    const QImage* tile(std::size_t take, int level, int index);

  signals:
    void changed(); // at most 20 times a second

  private:
    struct TileKey {
        QString path;
        int level = 0;
        int index = 0;
        int channels = 0;
        int a4_centihertz = 0;
        bool operator==(const TileKey&) const = default;
    };
    friend size_t qHash(const TileKey& key, size_t seed) {
        return qHashMulti(seed, key.path, key.level, key.index, key.channels, key.a4_centihertz);
    }
    struct Wish {
        TileKey key;
        std::shared_ptr<CachedSound> sound;
        double a4_hz = 0.0;
        ChannelChoice channels = ChannelChoice::Mix;
    };
    void makeNext();
    static QImage tileOf(const Wish& wish);
    void arrived();
    void tileArrived(const TileKey& key, QImage image);

    Document& m_document;
    QHash<QString, std::shared_ptr<Overview>> m_overviews;
    QHash<TileKey, QImage> m_tiles;
    std::deque<TileKey> m_tile_order; // oldest first
    QSet<TileKey> m_wanted;
    bool m_announced = false;
    std::deque<Wish> m_wishes; // newest at the back
    JobRunner m_outlining;     // one outline after the other
    JobRunner m_drawing;
};

} // namespace wirenote::app
