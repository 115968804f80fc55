#include "app/parts/translated.hpp"

#include <QCoreApplication>
#include <QDir>
#include <QLocale>

#include "base/error.hpp"

namespace vic::app {

QString translated(const Text& text) {
    return QString::fromStdString(text.in([](const Text& t) {
        const QString plain = QString::fromStdString(t.pattern());
        QString said = QCoreApplication::translate("core", t.pattern().c_str(), nullptr, static_cast<int>(t.count()));
        // Without a translation the plural is ours to choose.
        if (t.count() == 1 && said == QString(plain).replace("%n", "1")) return t.pattern_for_one();
        if (t.count() >= 1000) said.replace(QString::number(t.count()), QLocale().toString(qlonglong(t.count())));
        return said.toStdString();
    }));
}

QString translated(const std::exception& trouble) { return translated(as_input_error(trouble).text()); }

QString placeName(const QString& path) {
    const QString home = QDir::homePath();
    if (path == home || path.startsWith(home + "/")) return "~" + path.mid(home.size());
    return path;
}

} // namespace vic::app
