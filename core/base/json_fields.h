// Reading JSON from outside, field by field: what is missing gets a default, what is of the wrong
// kind or out of bounds is an error that names the place.
#pragma once

#include "base/result.h"
#include "base/text.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

namespace wirenote::json_fields {

using Json = nlohmann::json;

constexpr double kLongest_s = 86400.0; // a day, as in a piece
constexpr std::size_t kMostItems = 100000;

// What to do about a file that is not as it should be.
constexpr const char* kMendJson =
    "; correct it there, or write the file again with the program that made it";

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
                     std::size_t longest = kLongestName) {
        const Json* value = find(object, key);
        if (!value)
            return {};
        if (!value->is_string() || value->get_ref<const std::string&>().size() > longest) {
            fail(where + "." + key,
                 "is not a text of at most " + std::to_string(longest) + " bytes");
            return {};
        }
        return cleanText(value->get_ref<const std::string&>(), longest);
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
        if (!(x >= low && x <= high)) {
            fail(where, "is out of range");
            return low;
        }
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

// As the files of ours are written: one value a line, and never an exception for a text that is not
// UTF-8 (checkPiece refuses those before).
std::string written(const Json& json);

// Parsed JSON, or a sentence that says where it breaks off. It is gone through once before anything
// of it is kept: what nests deeper or holds more values than a file of ours of that size can is
// refused without the memory for it.
Result<Json> parse(const std::string& text);

} // namespace wirenote::json_fields
