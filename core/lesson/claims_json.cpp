#include "lesson/claims_json.h"

#include "base/json_fields.h"

namespace wirenote {

std::string writeClaimsJson(const std::vector<CheckedClaim>& claims) {
    using json_fields::Json;
    Json list = Json::array();
    for (const CheckedClaim& claim : claims) {
        Json one = {{"start_s", claim.start_s},
                    {"bar", claim.bar},
                    {"field", wordFor(claim.field)},
                    {"said", claim.said},
                    {"is", claim.is},
                    {"verdict", wordFor(claim.verdict)},
                    {"text", claim.text}};
        // What is played stands in no caption.
        if (claim.take)
            one["take"] = *claim.take;
        else
            one["cue"] = claim.cue + 1;
        if (claim.note != 0)
            one["hear_s"] = claim.hear_s;
        list.push_back(std::move(one));
    }
    return json_fields::written(list);
}

} // namespace wirenote
