#include "app/theme.h"

#include "app/desktop_colours.h"
#include "painting/fonts.h"

#include <QApplication>
#include <QPalette>
#include <QStyleFactory>

namespace wirenote::app {
namespace {

const Theme kLight{"#d9ddd4",
                   "#fbf7ec",
                   "#23261f",
                   "#666c60",
                   "#b9bfb2",
                   "#a9561f",
                   "#efe8d4",
                   "#e8dcc0",
                   "#7d735a"};
const Theme kDark{"#262a25",
                  "#30352e",
                  "#efeadc",
                  "#a9b0a2",
                  "#4d544a",
                  "#e08a4c",
                  "#3a4037",
                  "#4a4232",
                  "#b3a98d"};
const Theme* g_theme = &kLight;

} // namespace

const Theme& theme() {
    return *g_theme;
}

void applyTheme(QApplication& application, Colours colours) {
    const bool dark = colours == Colours::Dark || (colours == Colours::Desktop && desktopIsDark());
    g_theme = dark ? &kDark : &kLight;
    loadFonts();
    application.setStyle(QStyleFactory::create("Fusion"));
    application.setFont(uiFont(10));
    const Theme& t = theme();
    QPalette p;
    p.setColor(QPalette::Window, t.bench);
    p.setColor(QPalette::WindowText, t.ink);
    p.setColor(QPalette::Base, t.paper);
    p.setColor(QPalette::AlternateBase, t.panel);
    p.setColor(QPalette::Text, t.ink);
    p.setColor(QPalette::Button, t.paper);
    p.setColor(QPalette::ButtonText, t.ink);
    p.setColor(QPalette::Mid, t.line);
    p.setColor(QPalette::Highlight, t.accent);
    p.setColor(QPalette::HighlightedText, t.paper);
    p.setColor(QPalette::PlaceholderText, t.quiet);
    p.setColor(QPalette::ToolTipBase, t.paper);
    p.setColor(QPalette::ToolTipText, t.ink);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, t.quiet);
    p.setColor(QPalette::Disabled, QPalette::WindowText, t.quiet);
    application.setPalette(p);
    application.setStyleSheet(
        QString("QPushButton { background: %1; color: %2; border: 1px solid %3; border-radius: "
                "7px; padding: 5px 12px; }"
                "QPushButton:hover { border-color: %2; }"
                "QPushButton:focus { border: 2px solid %4; }"
                "QPushButton:disabled { color: %5; }"
                "QPushButton:checked { background: %2; color: %1; border-color: %2; }"
                "QPushButton[primary=\"true\"] { background: %4; color: %1; border-color: %4; }"
                "QPushButton[primary=\"true\"]:focus { border: 2px solid %2; }"
                "QPushButton[pill=\"true\"] { color: %4; border-radius: 15px; }"
                "QPushButton[pill=\"true\"]:disabled { color: %5; }"
                "#banner { background: %6; border: 1px solid %3; border-radius: 6px; }")
            .arg(t.paper.name(),
                 t.ink.name(),
                 t.line.name(),
                 t.accent.name(),
                 t.quiet.name(),
                 t.panel.name()));
}

QFont uiFont(double points, bool strong) {
    QFont font("Inter");
    font.setPointSizeF(points);
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

} // namespace wirenote::app
