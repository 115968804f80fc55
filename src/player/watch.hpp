// Notices that a parcel was built anew.
#pragma once

#include <QObject>
#include <QString>
#include <QTimer>

namespace vic::player {

// Looks at the parcel's level.json four times a second: its folder is exchanged whole, so there is nothing lasting that
// a file watcher could hold on to.
class Watch : public QObject {
    Q_OBJECT
  public:
    explicit Watch(const QString& dir, QObject* parent = nullptr);

  signals:
    void rebuilt();

  private:
    [[nodiscard]] QString stamp() const;
    QString file_;
    QString last_;
    QTimer timer_;
};

} // namespace vic::player
