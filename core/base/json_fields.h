// Reading JSON from outside, field by field: what is missing gets a default, what is of the wrong
// kind or out of bounds is an error that names the place.
#pragma once

#include "base/result.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

namespace wirenote::json_fields {

using Json = nlohmann::json;

constexpr double kLongest_s = 360000.0; // 100 hours
constexpr std::size_t kMostItems = 100000;

// Collects the first error; after that every read returns its default.
class Fields {
  public:
    const std::optional<std::string>& problem() const { return m_problem; }
    bool ok() const { return !m_problem; }
    void fail(const std::string& where, const std::string& what) {
        if (!m_problem)
            m_problem = where + " " + what;
    }

    static const Json* find(const Json& object, const char* key) {
        if (!object.is_object())
            return nullptr;
        const auto at = object.find(key);
        return at == object.end() || at->is_null() ? nullptr : &*at;
    }

    double number(const Json& object,
                  const char* key,
                  double fallback,
                  double low,
                  double high,
                  const std::string& where) {
        const Json* value = find(object, key);
        if (!value)
            return fallback;
        if (!value->is_number()) {
            fail(where + "." + key, "is not a number");
            return fallback;
        }
        const double x = value->get<double>();
        if (!std::isfinite(x) || x < low || x > high) {
            fail(where + "." + key, "is out of range");
            return fallback;
        }
        return x;
    }

    int integer(const Json& object,
                const char* key,
                int fallback,
                int low,
                int high,
                const std::string& where) {
        const double x = number(object, key, fallback, low, high, where);
        if (x != std::floor(x))
            fail(where + "." + key, "is not a whole number");
        return static_cast<int>(x);
    }

    std::string text(const Json& object,
                     const char* key,
                     const std::string& where,
                     std::size_t longest = 1000) {
        const Json* value = find(object, key);
        if (!value)
            return {};
        if (!value->is_string() || value->get_ref<const std::string&>().size() > longest) {
            fail(where + "." + key, "is not a short text");
            return {};
        }
        return value->get<std::string>();
    }

    // An empty array when it is missing.
    const Json&
    array(const Json& object, const char* key, const std::string& where, std::size_t most) {
        static const Json kEmpty = Json::array();
        const Json* value = find(object, key);
        if (!value)
            return kEmpty;
        if (!value->is_array() || value->size() > most) {
            fail(where + "." + key, "is not a list of at most " + std::to_string(most));
            return kEmpty;
        }
        return *value;
    }

    // Number i of a list of numbers.
    double
    item(const Json& list, std::size_t i, double low, double high, const std::string& where) {
        if (!list.is_array() || i >= list.size() || !list[i].is_number()) {
            fail(where, "is not a list of numbers");
            return low;
        }
        const double x = list[i].get<double>();
        if (!(x >= low && x <= high))
            fail(where, "is out of range");
        return x;
    }

    static bool isTrue(const Json& object, const char* key) {
        const Json* value = find(object, key);
        return value && value->is_boolean() && value->get<bool>();
    }

    // The value of a word; the word must be known.
    template <class E>
    E known(const std::optional<E>& value, E fallback, const std::string& where) {
        if (!value)
            fail(where, "is a word this version does not know");
        return value.value_or(fallback);
    }

  private:
    std::optional<std::string> m_problem;
};

// Parsed JSON, or a sentence that says where it breaks off.
Result<Json> parse(const std::string& text);

} // namespace wirenote::json_fields
