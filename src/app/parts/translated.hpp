// What the core says, in the language of the window.
#pragma once

#include <QString>
#include <exception>

#include "base/text.hpp"

namespace vic::app {

// Every sentence of the core passes through here, in the translation context "core".
QString translated(const Text& text);
// An InputError by its sentences, anything else by its what().
QString translated(const std::exception& trouble);

} // namespace vic::app
