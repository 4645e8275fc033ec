// Errors are values: what went wrong, in which file, where, and what the person can do.
#pragma once

#include <cassert>
#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace wirenote {

enum class ErrorKind {
    BadInput,  // the input cannot be used; the sentence says why (exit status 3)
    BadCall,   // the caller asked for something that does not exist (exit status 2)
    Cancelled, // the person stopped it; nothing was changed
    Conflict,  // somebody else changed what would be overwritten; the person chooses
    Internal,  // our fault (exit status 4)
};

// One clear sentence. `file` may be empty; `message` says what is wrong, where and what to do.
struct Error {
    ErrorKind kind = ErrorKind::Internal;
    std::string file;
    std::string message;

    std::string sentence() const { return file.empty() ? message : file + ": " + message; }
};

inline Error badInput(std::string file, std::string message) {
    return {ErrorKind::BadInput, std::move(file), std::move(message)};
}
inline Error badCall(std::string message) {
    return {ErrorKind::BadCall, {}, std::move(message)};
}
inline Error cancelled() {
    return {ErrorKind::Cancelled, {}, "stopped before the end"};
}

// A value or an Error. Reading the value of a failed Result is a programming error (asserts).
template <class T> class [[nodiscard]] Result {
  public:
    Result(T value) : m_state(std::move(value)) {}
    Result(Error error) : m_state(std::move(error)) {}

    bool ok() const { return std::holds_alternative<T>(m_state); }
    explicit operator bool() const { return ok(); }
    const T& value() const& {
        assert(ok());
        return std::get<T>(m_state);
    }
    T& value() & {
        assert(ok());
        return std::get<T>(m_state);
    }
    T&& value() && {
        assert(ok());
        return std::get<T>(std::move(m_state));
    }
    const T& operator*() const& { return value(); }
    T& operator*() & { return value(); }
    const T* operator->() const { return &value(); }
    T* operator->() { return &value(); }
    const Error& error() const {
        assert(!ok());
        return std::get<Error>(m_state);
    }

  private:
    std::variant<T, Error> m_state;
};

// Success or an Error.
class [[nodiscard]] Status {
  public:
    Status() = default;
    Status(Error error) : m_error(std::move(error)) {}
    bool ok() const { return !m_error; }
    explicit operator bool() const { return ok(); }
    const Error& error() const {
        assert(m_error);
        return *m_error;
    }

  private:
    std::optional<Error> m_error;
};

} // namespace wirenote
