// What the core decides, in the players' words.
#pragma once

#include "base/result.h"
#include "piece/doubts.h"
#include "piece/piece.h"
#include "piece/timeline_map.h"

#include <QString>
#include <QStringList>

namespace wirenote::app {

QString pitchText(const Piece& piece, double midi);
QString fingerText(Finger finger); // "first finger"
QString strokeText(Stroke stroke); // "down", "thumb", "not struck"
QString techniqueText(Technique technique);
QString techniqueText(const Note& note, Technique technique); // with what was measured of it
QString instrumentText(InstrumentKind kind);
QString toolText(PluckingTool tool);
QString placeText(Position place);   // "string 3, fret 5"
QString positionText(int hand_fret); // "fifth position"
// How a note begins, as it was heard or set.
QString beginningText(const Note& note);
QString reasonTitle(const Reason& reason);
QString doubtText(DoubtKind kind);
QString basisText(Basis basis);
QString cautionText(SoundCaution caution);
// As players say it: "bar 2, just before beat 3", "bar 2, the and of 3".
QString musicPlaceText(const TimelineMap& map, double time_s);
// What a beat is divided into: "triplets", "sixteenths".
QString divisionText(int parts, bool compound);
QString timeText(double time_s);     // 1:02.48
QString longTimeText(double time_s); // "2 h 3 min", "12 min", "48 s"
QString takeKindText(TakeKind kind);
QString rightsText(TakeRights rights);
QString channelsText(ChannelChoice channels);
QString tuningNameText(const std::string& name, int capo);
// Short advice on what can be trusted in a take, worst first; empty when nothing is amiss.
QStringList qualityAdvice(const Take& take);
QString centsText(double cents); // "6 cents flat"
QString sentence(const Error& error);
QString percentText(double probability);
// One or many, in the language of the window: countText(3, "%1 doubt", "%1 doubts").
QString countText(int count, const char* one, const char* many);

} // namespace wirenote::app
