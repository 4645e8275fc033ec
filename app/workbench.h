#pragma once

namespace wirenote::app {

class Document;
class Selection;
class TimeView;
class Transport;
class EditCommands;
class TakeCommands;
class TakeSounds;
class PulseCommands;
class ScoreFacts;

// What every view shares. Owned by whoever makes the window; outlives all views.
struct Workbench {
    Document& document;
    Selection& selection;
    TimeView& time;
    Transport& transport;
    EditCommands& commands;
    TakeCommands& takes;
    TakeSounds& sounds;
    ScoreFacts& facts;
    PulseCommands& pulse;
};

} // namespace wirenote::app
