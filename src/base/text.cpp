#include "base/text.hpp"

namespace vic {

std::string Text::english() const {
    return in([](const Text& t) { return t.count() == 1 ? t.pattern_for_one() : t.pattern(); });
}

std::string Text::in(const Sentence& sentence) const {
    if (verbatim_ || pattern_.empty()) return pattern_;
    const std::string from = sentence(*this);
    std::string out;
    for (std::size_t i = 0; i < from.size(); ++i) {
        const bool place = from[i] == '%' && i + 1 < from.size();
        const char c = place ? from[i + 1] : '\0';
        if (place && c >= '1' && c <= '9') {
            const auto index = static_cast<std::size_t>(c - '1');
            if (index < values_.size()) out += values_[index].in(sentence);
            ++i;
        } else if (c == 'n' && count_ >= 0) {
            out += std::to_string(count_);
            ++i;
        } else {
            out += from[i];
        }
    }
    return out;
}

Text listed(const std::vector<Text>& items) {
    if (items.empty()) return {};
    Text out = items.front();
    for (std::size_t i = 1; i < items.size(); ++i)
        out = i + 1 == items.size() ? say("%1 and %2", out, items[i]) : say("%1, %2", out, items[i]);
    return out;
}

} // namespace vic
