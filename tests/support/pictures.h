// Pictures that a change must not alter unseen. The pictures that were accepted lie in
// tests/app/pictures; when one differs, or is not there, the new one is written beside it as
// NAME.new.png. Look at both; `tools/accept_pictures` then takes the new ones.
#pragma once

#include <QImage>
#include <QString>

namespace wirenote::test {

// The share of pixels that differ to the eye; 1 when the sizes differ.
inline double differingShare(const QImage& a, const QImage& b) {
    if (a.size() != b.size() || a.isNull())
        return 1.0;
    constexpr int kSeen = 40; // of 255, in any colour; less is smoothing of edges
    qint64 differ = 0;
    for (int y = 0; y < a.height(); ++y)
        for (int x = 0; x < a.width(); ++x) {
            const QRgb p = a.pixel(x, y);
            const QRgb q = b.pixel(x, y);
            if (std::abs(qRed(p) - qRed(q)) > kSeen || std::abs(qGreen(p) - qGreen(q)) > kSeen ||
                std::abs(qBlue(p) - qBlue(q)) > kSeen)
                ++differ;
        }
    return static_cast<double>(differ) / (static_cast<double>(a.width()) * a.height());
}

// Empty when the picture is the accepted one; otherwise what to do.
inline std::string differenceFromAccepted(const QImage& now, const char* name) {
    constexpr double kAllowed = 0.0004; // a fret number that moves by its width is more
    const QString at = QString(WIRENOTE_SOURCE_DIR "/tests/app/pictures/%1").arg(name);
    const double differ = differingShare(QImage(at + ".png").convertToFormat(QImage::Format_RGB32),
                                         now.convertToFormat(QImage::Format_RGB32));
    if (differ <= kAllowed)
        return {};
    now.save(at + ".new.png");
    return QString("%1.new.png differs in %2 of its pixels; look at it, then run "
                   "tools/accept_pictures")
        .arg(at)
        .arg(differ)
        .toStdString();
}

} // namespace wirenote::test
