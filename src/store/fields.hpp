// Reading JSON with exact complaints: every value is asked for with its type and limits, and what does not fit is
// refused with the file and the place in it.
#pragma once

#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"

namespace vic::store {

inline constexpr int kFar = 1 << 24; // no coordinate of a project is further from 0

using Json = nlohmann::ordered_json;

// Parses `bytes`. Throws InputError for what is no JSON (with the line), is nested deeper than 64, or holds numbers
// that are not finite.
Json parse_json(const std::string& bytes, const std::string& file);

// The text of a value, one thing a line: what has no lists of objects in it and is short stays on one line.
std::string json_lines(const Json& value);

class Field {
  public:
    Field(const Json& value, const std::string& file, std::string path)
        : value_(&value), file_(&file), path_(std::move(path)) {}

    [[nodiscard]] bool has(const char* key) const;
    // All of these throw InputError where the value is missing, of another type, or outside the limits.
    Field operator[](const char* key) const;
    [[nodiscard]] std::vector<std::pair<std::string, Field>> entries() const; // of an object
    [[nodiscard]] std::vector<Field> list(std::size_t most = 1U << 24) const;
    [[nodiscard]] std::int64_t integer(std::int64_t least, std::int64_t most) const;
    [[nodiscard]] int number(int least, int most) const { return static_cast<int>(integer(least, most)); }
    [[nodiscard]] double real(double least, double most) const;
    [[nodiscard]] std::string text(std::size_t most = 4096) const;
    [[nodiscard]] bool yes() const;
    [[nodiscard]] Point point(int least, int most) const; // [x, y]
    [[nodiscard]] Size size(int least, int most) const;   // [w, h]
    [[nodiscard]] Box box(int least, int most) const;     // [x, y, w, h]; w and h at least 0
    [[nodiscard]] Rgba colour() const;                    // "#rrggbb" or "#rrggbbaa"
    // The index of the text in `words`.
    [[nodiscard]] int word(const std::vector<std::string>& words) const;

    [[noreturn]] void refuse(const Text& what,
                             const Text& remedy = "Correct the file or restore it from version control") const;
    [[nodiscard]] const Json& json() const { return *value_; }
    [[nodiscard]] const std::string& path() const { return path_; }
    [[nodiscard]] const std::string& file() const { return *file_; }

  private:
    const Json* value_;
    const std::string* file_;
    std::string path_;
};

Json to_json(Point p);
Json to_json(Size s);
Json to_json(const Box& b);
Json to_json(Rgba c);

// Checks "format" and "version": another format, or a newer version than `version`, is refused. Returns the version
// found.
int check_format(const Field& root, const std::string& format, int version);

} // namespace vic::store
