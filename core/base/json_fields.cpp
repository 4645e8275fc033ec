#include "base/json_fields.h"

namespace wirenote::json_fields {
namespace {

constexpr int kDeepest = 32; // no format of ours nests deeper
constexpr std::size_t kMostKey = 200;
// A value of ours takes eight bytes of text and more; in what holds denser ones the tree of values
// would be many times as large as the file.
constexpr std::size_t kBytesAValue = 8;
constexpr std::size_t kFreeValues = 2000000;

// Goes through the text before any of it is kept.
class Guard : public nlohmann::json_sax<Json> {
  public:
    explicit Guard(std::size_t bytes) : m_most(kFreeValues + bytes / kBytesAValue) {}

    bool null() override { return count(); }
    bool boolean(bool) override { return count(); }
    bool number_integer(number_integer_t) override { return count(); }
    bool number_unsigned(number_unsigned_t) override { return count(); }
    bool number_float(number_float_t, const string_t&) override { return count(); }
    bool string(string_t&) override { return count(); }
    bool binary(binary_t&) override { return count(); }
    bool start_object(std::size_t) override { return deeper(); }
    bool key(string_t& name) override {
        return name.size() <= kMostKey || refuse("has a name of more than 200 bytes in it");
    }
    bool end_object() override { return --m_depth >= 0; }
    bool start_array(std::size_t) override { return deeper(); }
    bool end_array() override { return --m_depth >= 0; }
    bool parse_error(std::size_t position,
                     const std::string&,
                     const nlohmann::detail::exception&) override {
        return refuse("is not JSON: it breaks off or goes wrong at byte " +
                      std::to_string(position));
    }
    const std::string& problem() const { return m_problem; }

  private:
    bool refuse(const std::string& why) {
        if (m_problem.empty())
            m_problem = why;
        return false;
    }
    bool count() {
        return ++m_values <= m_most || refuse("holds more values than a file of its size should");
    }
    bool deeper() {
        if (++m_depth > kDeepest)
            return refuse("is nested too deeply");
        return count();
    }

    std::size_t m_most;
    std::size_t m_values = 0;
    int m_depth = 0;
    std::string m_problem;
};

} // namespace

std::string written(const Json& json) {
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Json> parse(const std::string& text) {
    Guard guard(text.size());
    if (!Json::sax_parse(text, &guard))
        return badInput({}, guard.problem() + kMendJson);
    return Json::parse(text, nullptr, false);
}

} // namespace wirenote::json_fields
