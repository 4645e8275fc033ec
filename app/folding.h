#pragma once

#include <QScrollArea>

namespace wirenote::app {

// A card at the side: as wide as its column, scrolled where it is higher.
QScrollArea* scrolled(QWidget* card);

// A card below the work: as high as it likes where there is room, scrolled where there is not.
QScrollArea* folded(QWidget* card);

} // namespace wirenote::app
