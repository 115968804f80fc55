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

// A place on the disk as one tells it: places in the user's own folder begin with ~.
QString placeName(const QString& path);

} // namespace vic::app
