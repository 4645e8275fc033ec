#pragma once

#include <filesystem>
#include <gtest/gtest.h>
#include <string>
#include <unistd.h>

namespace wirenote::test {

// A folder of its own for each test, gone afterwards.
class Scratch {
  public:
    // `more`: where a test has several.
    explicit Scratch(const std::string& more = {}) {
        const auto* info = ::testing::UnitTest::GetInstance()->current_test_info();
        m_path = std::filesystem::temp_directory_path() /
                 ("wirenote-" + std::string(info->test_suite_name()) + "-" + info->name() + "-" +
                  std::to_string(::getpid()) + more);
        std::filesystem::create_directories(m_path);
    }
    ~Scratch() {
        std::error_code code;
        std::filesystem::remove_all(m_path, code);
    }
    Scratch(const Scratch&) = delete;
    Scratch& operator=(const Scratch&) = delete;
    std::filesystem::path operator/(const std::string& name) const { return m_path / name; }
    const std::filesystem::path& path() const { return m_path; }

  private:
    std::filesystem::path m_path;
};

} // namespace wirenote::test
