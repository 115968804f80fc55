// A value that follows from others, kept for as long as they are the same. The key owns what it points to, so an
// address that is used again cannot be taken for the old thing.
#pragma once

#include <optional>
#include <utility>

namespace vic::app {

template <class Key, class Value>
class Memo {
  public:
    // The value for the key: that which is kept, if it was made for an equal key, else what make() gives. Valid until
    // the next call.
    template <class Make>
    const Value& get(const Key& key, const Make& make) {
        if (!kept_ || !(kept_->first == key)) {
            Value value = make();
            kept_.emplace(key, std::move(value));
        }
        return kept_->second;
    }
    // Takes over a value that was made elsewhere.
    void put(Key key, Value value) { kept_.emplace(std::move(key), std::move(value)); }
    [[nodiscard]] bool has(const Key& key) const { return kept_ && kept_->first == key; }
    void forget() { kept_.reset(); }

  private:
    std::optional<std::pair<Key, Value>> kept_;
};

} // namespace vic::app
