#pragma once

#include "app/card.h"

namespace wirenote::app {

// What stands in the window while no piece is open, and the next step.
class Welcome : public Card {
    Q_OBJECT
  public:
    explicit Welcome(QWidget* parent = nullptr);

  signals:
    void openWanted();
    void demoWanted();
};

} // namespace wirenote::app
