#pragma once

#include "piece/note.h"

#include <QKeySequence>
#include <array>
#include <utility>

namespace wirenote::app {

// The strokes with the keys that set them: on the Strokes bench all, elsewhere those whose letters
// mean nothing else there.
inline const std::array<std::pair<Stroke, QKeySequence>, 9>& strokeKeys() {
    static const std::array<std::pair<Stroke, QKeySequence>, 9> kKeys = {
        {{Stroke::Down, Qt::Key_D},
         {Stroke::Up, Qt::Key_U},
         {Stroke::P, Qt::Key_P},
         {Stroke::I, Qt::Key_I},
         {Stroke::M, Qt::Key_M},
         {Stroke::A, Qt::Key_A},
         {Stroke::C, Qt::Key_C},
         {Stroke::None, Qt::Key_0},
         {Stroke::Ghost, Qt::Key_G}}};
    return kKeys;
}

} // namespace wirenote::app
