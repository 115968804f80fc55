#include "join/read_kind.hpp"

#include <algorithm>

namespace vic::join {

KindReading kind_reading(const std::vector<Image>& tiles, level::JoinKind kind, const Stop& stop) {
    KindReading k{kind, read_joins(tiles, kind, {}, stop), 0};
    const double all = static_cast<double>(cases(kind).size());
    const double read = std::max<double>(1, static_cast<double>(k.reading.tiles.size()));
    double crowd = 0; // tiles beyond the first of their case; a few are variants, many another kind
    for (const auto& d : k.reading.doubled) crowd += static_cast<double>(d.indices.size()) - 1;
    k.fit = (all - static_cast<double>(k.reading.missing.size())) / all - 0.6 * crowd / read -
            static_cast<double>(k.reading.doubtful.size()) / read;
    return k;
}

std::vector<KindReading> read_kinds(const std::vector<Image>& tiles, const Stop& stop) {
    std::vector<KindReading> out;
    for (const level::JoinKind kind : {level::JoinKind::full, level::JoinKind::edges, level::JoinKind::corners})
        out.push_back(kind_reading(tiles, kind, stop));
    std::stable_sort(out.begin(), out.end(), [](const KindReading& a, const KindReading& b) { return a.fit > b.fit; });
    return out;
}

level::JoinKind proposed_kind(const std::vector<Image>& tiles, const Stop& stop) {
    constexpr std::size_t kMostRead = 256;
    constexpr double kLeastFit = 0.3;
    if (tiles.size() > kMostRead) return level::JoinKind::full;
    const KindReading best = read_kinds(tiles, stop).front();
    return best.fit > kLeastFit ? best.kind : level::JoinKind::full;
}

} // namespace vic::join
