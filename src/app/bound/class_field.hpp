// The collision class of what is chosen: one of those that the project knows, or a new one.
#pragma once

#include <QComboBox>
#include <QString>

namespace vic::app {

class Session;

class ClassField : public QComboBox {
    Q_OBJECT
  public:
    ClassField(Session& session, const QString& objectName, QWidget* parent);
    void show(const QString& name); // as it is now; the list is that of the project as it is
    void showMixed();               // what is chosen names different ones

  signals:
    void named(const QString& name); // "": that of its layer; trimmed

  private:
    void fill();
    Session& session_;
    QString shown_;
};

} // namespace vic::app
