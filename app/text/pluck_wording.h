// What the plucking hand does, in words.
#pragma once

#include "session/hand_picture.h"
#include "session/pluck_report.h"

#include <QString>

namespace wirenote::app {

QString schoolText(PluckingSchool school);    // "economy"; of Unknown: "as it is played"
QString schoolMeaning(PluckingSchool school); // in one sentence
QString strokeLetter(Stroke stroke);          // "p"; the pick's marks are drawn, not written
QString cellText(const Cell& cell);           // "p i m a m i, bars 1 to 4"
QString turnText(const HandTurn& turn);       // "an up-stroke that passes in silence"
QString slantText(Slant slant, bool flips);   // how the pick leaves the strings

// The lines of the card, each empty where there is nothing to say.
QString cellLine(const PluckReport& told);
QString loadLine(const PluckReport& told);
QString pathLine(const PluckReport& told);
QString thumbLine(const PluckReport& told);
QString joinLine(const PluckReport& told);
QString fitLine(const PluckReport& told);
QString levelLine(const PluckReport& told);
QString departureLine(const PluckReport& told, Stroke set);
QString strumLine(const PluckReport& told);
QString pickMoveLine(const PluckReport& told);
QString nextBestLine(const PluckReport& told);
QString roomLine(const PluckReport& told);
QString roundLine(const PluckReport& told);
QString scratchLine(const PluckReport& told);
QString balanceLine(const PluckReport& told);

} // namespace wirenote::app
