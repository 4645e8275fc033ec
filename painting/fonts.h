// The shipped fonts: Inter for texts, Bravura for musical signs (both SIL OFL).
#pragma once

#include <QFont>

namespace wirenote {

// Makes them known to the application. Needs a QGuiApplication; may be called again.
void loadFonts();

// A text of this em, in pixels.
QFont textFont(double em_px, bool strong);
// Musical signs where a staff space is so many pixels (SMuFL 1.4: the em is four spaces).
QFont musicFont(double space_px);

} // namespace wirenote
