// Which kind of join set a sheet was drawn for.
#pragma once

#include <vector>

#include "join/read_joins.hpp"

namespace vic::join {

struct KindReading {
    level::JoinKind kind = level::JoinKind::full;
    JoinReading reading;
    double fit = 0; // 1: every case once and no doubt; less for cases without a tile, several tiles a case, doubts
};

// The sheet's joins read as the kind, which must not be plain. Throws Stopped, as all that takes a Stop.
KindReading kind_reading(const std::vector<Image>& tiles, level::JoinKind kind, const Stop& stop = {});

// The sheet's joins read as each kind but plain, the best fit first.
std::vector<KindReading> read_kinds(const std::vector<Image>& tiles, const Stop& stop = {});

// The kind to propose: the best fit, but edges + corners where nothing fits well or there are more tiles than any set
// has.
level::JoinKind proposed_kind(const std::vector<Image>& tiles, const Stop& stop = {});

} // namespace vic::join
