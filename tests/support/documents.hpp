// Steps that tests of documents take.
#pragma once

#include <cstddef>
#include <string>
#include <utility>

#include "edit/document.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"

namespace make {

// One step: the level with this place among the project's has another name.
inline void rename_level(vic::edit::Document& document, std::size_t which, const std::string& name) {
    vic::level::Project next = document.project();
    vic::level::Level changed = *next.levels[which];
    changed.name = name;
    next.put(std::move(changed));
    document.apply("Rename", std::move(next));
}

// One step: the first material has another name.
inline void rename_material(vic::edit::Document& document, const std::string& name) {
    vic::level::Project next = document.project();
    vic::level::Material changed = *next.materials[0];
    changed.name = name;
    next.put(std::move(changed));
    document.apply("Rename", std::move(next));
}

} // namespace make
