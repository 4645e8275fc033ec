#include "base/json_fields.h"

namespace wirenote::json_fields {
namespace {

constexpr int kDeepest = 32; // no format of ours nests deeper

class DepthGuard : public nlohmann::json_sax<Json> {
  public:
    bool null() override { return true; }
    bool boolean(bool) override { return true; }
    bool number_integer(number_integer_t) override { return true; }
    bool number_unsigned(number_unsigned_t) override { return true; }
    bool number_float(number_float_t, const string_t&) override { return true; }
    bool string(string_t&) override { return true; }
    bool binary(binary_t&) override { return true; }
    bool start_object(std::size_t) override { return ++m_depth <= kDeepest; }
    bool key(string_t&) override { return true; }
    bool end_object() override { return --m_depth >= 0; }
    bool start_array(std::size_t) override { return ++m_depth <= kDeepest; }
    bool end_array() override { return --m_depth >= 0; }
    bool parse_error(std::size_t position,
                     const std::string&,
                     const nlohmann::detail::exception&) override {
        m_position = position;
        return false;
    }
    std::size_t position() const { return m_position; }

  private:
    int m_depth = 0;
    std::size_t m_position = 0;
};

} // namespace

Result<Json> parse(const std::string& text) {
    DepthGuard guard;
    if (!Json::sax_parse(text, &guard))
        return badInput({},
                        guard.position() > 0 ? "is not JSON: it breaks off or goes wrong at byte " +
                                                   std::to_string(guard.position())
                                             : std::string("is nested too deeply"));
    return Json::parse(text, nullptr, false);
}

} // namespace wirenote::json_fields
