#pragma once

#include "app/document/job_runner.h"
#include "media/picture_reader.h"

#include <QImage>
#include <QWidget>
#include <memory>
#include <optional>

namespace wirenote::app {

class Document;
class Transport;

// The film of the take that is heard, or of another take at the same place of the music. Follows
// the playhead; decodes off the interface thread, the latest wish only.
class PictureView : public QWidget {
    Q_OBJECT
  public:
    // The film of what is heard, or the next best of the others beside it.
    enum class Of { Heard, Other };
    PictureView(Document& document,
                Transport& transport,
                Of of = Of::Heard,
                QWidget* parent = nullptr);
    QSize sizeHint() const override { return {420, m_low ? kLow : 240}; }
    void setLow(bool low); // where two share the room of one

    bool hasPicture() const { return m_take.has_value(); }
    const QImage& image() const { return m_image; }
    double shown_s() const { return m_shown_s; } // of the take; for tests
    void step(int pictures);                     // to the next or the one before, exactly
    std::optional<std::size_t> take() const { return m_take; }
    // Where the picture is in the widget, and how large the film itself is; empty: nothing shown.
    QRectF pictureRect() const;
    QSizeF filmSize() const;

  signals:
    void shown();
    void chosen(); // another take's film, or none

  protected:
    void paintEvent(QPaintEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    static constexpr int kLow = 112; // pixels
    enum class Move { To, Next, Previous };
    struct Wish {
        QString path;
        double time_s = 0.0;
        Move move = Move::To;
    };
    void choose();         // which take's film
    double late_s() const; // by how much it is late against its sound
    void follow();
    void wish(double time_s, Move move);
    void decodeNext();
    // What the film shows at the wish; an empty picture: nothing there.
    struct Found {
        std::shared_ptr<const Picture> picture;
        QString problem;
    };
    struct Film; // the open file; touched by the worker only
    static Found decoded(Film& film, const Wish& wish);
    void arrived(const QString& path, std::shared_ptr<const Picture> picture, Move move);

    Document& m_document;
    Transport& m_transport;
    Of m_of;
    bool m_low = false;
    std::optional<std::size_t> m_take;
    QImage m_image;
    double m_shown_s = -1.0;
    QString m_problem;

    std::shared_ptr<Film> m_film;
    std::optional<Wish> m_wish; // the latest; what was wished before it is forgotten
    JobRunner m_decoding;
};

} // namespace wirenote::app
