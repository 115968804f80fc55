// How the walker is where he walks in three dimensions: his body and what he can, in centimetres.
#pragma once

#include <QWidget>

#include "app/parts/binding.hpp"

class QVBoxLayout;

namespace vic::app {

class Session;

class UprightFields : public QWidget {
    Q_OBJECT
  public:
    // The fields' object names begin with `prefix`: "uprightWide".
    UprightFields(Session& session, const char* prefix, QWidget* parent);
    void refresh();

  private:
    Session& session_;
    Bindings fields_;
};

// Walk's panel while one walks so.
class HeightPanel : public QWidget {
    Q_OBJECT
  public:
    HeightPanel(Session& session, QWidget* parent);
    void refresh() { fields_->refresh(); }

  signals:
    void againAsked(); // from the start

  private:
    UprightFields* fields_;
};

} // namespace vic::app
