// The sign of how much a finding matters.
#pragma once

#include <QPixmap>

#include "findings/finding.hpp"

namespace vic::app {

struct Tokens;

QPixmap findingSign(findings::Severity severity, const Tokens& tokens);

} // namespace vic::app
