// Colours and type: warm paper and ink for what will be printed, calm grey-green for the bench, one
// copper accent for the playhead and the selection.
#pragma once

#include <QColor>
#include <QFont>

class QApplication;

namespace wirenote::app {

struct Theme {
    QColor bench;  // behind everything
    QColor paper;  // cards and lanes
    QColor ink;    // what matters
    QColor quiet;  // what explains
    QColor line;   // separators
    QColor accent; // playhead, selection, the next step
    QColor panel;  // fills on paper
    QColor wood;   // the fretboard
    QColor wire;   // strings and frets
};

const Theme& theme();
enum class Colours { Desktop, Light, Dark }; // Desktop: as everything else there

// Loads the shipped typeface and sets palette and style. Call once, after the application is made.
void applyTheme(QApplication& application, Colours colours);
QFont uiFont(double points, bool strong = false);

} // namespace wirenote::app
