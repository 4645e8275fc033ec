#pragma once

#include <QTabWidget>

namespace wirenote::app {

class Document;
class LessonBook;
class LessonCommands;
class Selection;
class Transport;

// The pages of the Lesson bench under the strip. The lesson is worked out while they are seen.
QTabWidget* lessonPages(Document& document,
                        LessonBook& book,
                        LessonCommands& commands,
                        Selection& selection,
                        Transport& transport);

} // namespace wirenote::app
