// The words of the Lesson bench.
#pragma once

#include "lesson/claims.h"
#include "piece/lesson_plan.h"

#include <QString>

namespace wirenote::app {

QString stepKindText(StepKind kind);
QString stumbleKindText(StumbleKind kind);
QString verdictText(Verdict verdict);
QString claimFieldText(ClaimField field);
// "said string 3; it is string 2".
QString claimText(const CheckedClaim& claim);

} // namespace wirenote::app
