#pragma once

namespace wirenote::app {

class Document;
class Selection;
class TimeView;
class Transport;
class EditCommands;

// What every view shares. Owned by whoever makes the window; outlives all views.
struct Workbench {
    Document& document;
    Selection& selection;
    TimeView& time;
    Transport& transport;
    EditCommands& commands;
};

} // namespace wirenote::app
