#include "app/welcome.h"

#include <QPushButton>

namespace wirenote::app {

Welcome::Welcome(QWidget* parent) : Card(parent) {
    column()->addStretch(1);
    const auto add = [this](QWidget* widget) { column()->addWidget(widget, 0, Qt::AlignHCenter); };
    auto* title =
        label(tr("A recording of a guitar or a bass becomes a tab"), 17, true, theme().ink);
    title->setWordWrap(false);
    add(title);
    auto* text = label(tr("Drop a recording here, sound or film. Wirenote hears its notes, finds a "
                          "place for each, and asks only about what is in doubt."),
                       11,
                       false,
                       theme().quiet);
    text->setFixedWidth(560);
    text->setMinimumHeight(text->heightForWidth(560));
    text->setAlignment(Qt::AlignHCenter);
    add(text);
    auto* open = new QPushButton(tr("Open a recording or a piece…"));
    open->setObjectName("openFirst");
    open->setMinimumSize(300, 44);
    open->setFont(uiFont(11, true));
    connect(open, &QPushButton::clicked, this, &Welcome::openWanted);
    column()->addSpacing(10);
    add(open);
    auto* demo = new QPushButton(tr("Look at the demo piece first"));
    demo->setMinimumSize(300, 40);
    connect(demo, &QPushButton::clicked, this, &Welcome::demoWanted);
    add(demo);
    column()->addStretch(2);
}

} // namespace wirenote::app
