// Telling the alternatives of a std::variant apart, so that the compiler asks for each of them.
#pragma once

#include <utility>
#include <variant>

namespace vic {

template <class... Cases>
struct Overloaded : Cases... {
    using Cases::operator()...;
};
template <class... Cases>
Overloaded(Cases...) -> Overloaded<Cases...>;

// match(variant, [](const A&) { … }, [](const B&) { … }): calls the case of what the variant holds. A case that is
// missing does not compile; a case that takes `const auto&` stands for all that are not named.
template <class Variant, class... Cases>
decltype(auto) match(Variant&& variant, Cases&&... cases) {
    return std::visit(Overloaded{std::forward<Cases>(cases)...}, std::forward<Variant>(variant));
}

} // namespace vic
