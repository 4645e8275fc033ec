#pragma once

#include "app/theme.h"

class QSettings;

namespace wirenote::app {

// What the person chose; the desktop's, while nobody has.
Colours chosenColours(const QSettings& settings);
void keepColours(QSettings& settings, Colours colours);

// Whether the desktop is dark, as its settings portal says (org.freedesktop.appearance,
// color-scheme, of the freedesktop.org portal specification); false where nobody answers.
bool desktopIsDark();

} // namespace wirenote::app
