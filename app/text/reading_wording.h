// What readings are, differ in and rest on, in the players' language.
#pragma once

#include "piece/exactness.h"
#include "readings/compare.h"
#include "readings/decisions.h"
#include "session/other_readings.h"

#include <QString>

namespace wirenote::app {

QString setWhyText(SetWhy why);      // "a matter of taste"; empty: nobody said
QString needText(const Need& need);  // "may be left out, at 96 and faster"
QString needLabel(const Need& need); // of the step to undo
QString exactnessText(Exactness exactness);
QString pointText(const ExactnessPoint& point);
QString againstList(const ExactnessStatement& statement); // in one sentence
QString differenceText(ReadingDifferenceKind kind);
QString changedWhatText(ChangedWhat what);
QString weighedText(const GainsAndLosses& weighed); // "no shift, more rings on; but: a barre"
QString madeText(const MadeReading& made);

} // namespace wirenote::app
