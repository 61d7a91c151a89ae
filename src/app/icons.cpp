#include "app/icons.h"

#include <QApplication>
#include <QHash>
#include <QIconEngine>
#include <QPainter>
#include <QPainterPath>

#include "app/look.h"

namespace kervo::app {

namespace {

/// Strokes: M x y (begin), L x y (line), Z (close), C x y r (circle), F (fill what follows).
const QHash<QString, QString>& drawings() {
  static const QHash<QString, QString> table{
      {"block", "M 2 6 L 8 3 L 14 6 L 8 9 Z M 2 6 L 2 11 L 8 14 L 14 11 L 14 6 M 8 9 L 8 14"},
      {"cylinder",
       "M 3 4 L 5 3 L 8 2.5 L 11 3 L 13 4 L 11 5 L 8 5.5 L 5 5 Z M 3 4 L 3 12 L 5 13 L 8 13.5 L 11 13 L 13 12 L 13 4"},
      {"cone", "M 8 2 L 3 12 M 8 2 L 13 12 M 3 12 L 5 13 L 8 13.5 L 11 13 L 13 12 L 11 11 L 8 10.5 L 5 11 Z"},
      {"sphere", "C 8 8 6 M 2 8 L 5 9.5 L 8 10 L 11 9.5 L 14 8"},
      {"torus", "C 8 8 6 C 8 8 2.2"},
      {"plane", "M 2 10 L 6 5 L 14 5 L 10 10 Z M 8 7.5 L 8 2"},
      {"axis", "M 3 13 L 6 10 M 7.5 8.5 L 8.5 7.5 M 10 6 L 13 3 M 2 8 L 8 14"},
      {"point", "M 8 2 L 8 14 M 2 8 L 14 8 C 8 8 2.5"},
      {"taken", "M 2 4 L 9 4 L 14 8 M 2 7 L 9 7 L 13 10 M 2 12 L 6 12"},
      {"offset", "M 4 4 L 12 4 L 12 12 L 4 12 Z M 1.5 1.5 L 14.5 1.5 L 14.5 14.5 L 1.5 14.5 Z"},
      {"row", "C 3 8 1.8 C 8 8 1.8 C 13 8 1.8"},
      {"ring", "C 8 3 1.6 C 12.5 6 1.6 C 12 11.5 1.6 C 4 11.5 1.6 C 3.5 6 1.6"},
      {"mirror", "M 8 1 L 8 15 M 6 4 L 1.5 8 L 6 12 Z M 10 4 L 14.5 8 L 10 12 Z"},
      {"drawing", "M 2 12 L 5 7 L 14 7 L 11 12 Z C 8 9.5 1.3 M 10 6 L 13.5 2 L 14.5 3 L 11 6.5"},
      {"cut", "M 2 8 L 8 6 L 14 8 L 8 10 Z M 2 8 L 2 11 L 8 13 L 14 11 L 14 8 M 6 2 L 6 7.8 M 10 2 L 10 7.8"},
      {"split",
       "M 3 3 L 13 3 L 13 6.5 L 3 6.5 Z M 3 9.5 L 13 9.5 L 13 13 L 3 13 Z M 1 8 L 4 8 M 6 8 L 10 8 M 12 8 L 15 8"},
      {"combine", "M 2 3 L 10 3 L 10 10 L 2 10 Z C 10.5 10 3.8"},
      {"round", "M 2 14 L 2 8 L 3 5 L 5 3 L 8 2 L 14 2 M 2 2 L 4 2 M 2 2 L 2 4"},
      {"chamfer", "M 2 14 L 2 7 L 7 2 L 14 2 M 2 2 L 4 2 M 2 2 L 2 4"},
      {"extrude",
       "M 2 11 L 6 8.5 L 14 8.5 L 10 11 Z M 2 11 L 2 13.5 L 10 13.5 L 14 11 L 14 8.5 M 10 11 L 10 13.5 M 8 7 L 8 1.5 M "
       "5.5 4 L 8 1.5 L 10.5 4"},
      {"revolve",
       "M 8 1 L 8 3 M 8 5 L 8 7 M 8 9 L 8 11 M 8 13 L 8 15 M 10.5 4 L 13.5 4 L 13.5 9 L 10.5 9 Z M 5.5 3.8 L 3.4 5 L "
       "2.5 "
       "6.8 L 3 9 L 5 10.8 M 2.8 11.2 L 5 10.8 L 4.9 8.6"},
      {"lift", "M 2 13 L 6 10 L 14 10 L 10 13 Z M 2 7 L 6 4 L 14 4 L 10 7 Z M 8 9 L 8 7.5"},
      {"curve", "M 2 13 L 4 8 L 8 6 L 12 8 L 14 3 M 6 11 L 6 14 M 4.5 12.5 L 7.5 12.5"},
      {"trim", "M 2 11 L 5 4 L 14 4 L 11 11 Z M 6 9 L 7.5 6 L 10.5 6 L 9 9 Z"},
      {"intersect", "M 2 12 L 5 3 L 10 3 L 7 12 Z M 4 7 L 14 5 L 14 10 L 4 13"},
      {"extend", "M 1.5 11 L 4 5 L 9 5 L 6.5 11 Z M 8 8 L 14 8 M 11.5 5.5 L 14 8 L 11.5 10.5"},
      {"loft", "M 2 13 L 6 11 L 14 11 L 10 13 Z M 5 5 L 7 4 L 11 4 L 9 5 Z M 2 13 L 5 5 M 14 11 L 11 4"},
      {"sweep", "M 2 13 L 2 9 L 6 9 L 6 13 Z M 4 9 L 5 6 L 8 4 L 12 3 M 6 13 L 8 10 L 13 7 M 12 3 L 14.5 5 L 13 7"},
      {"through_points", "M 2 12 L 4 8 L 7 6.5 L 9.5 8 L 12 7.5 L 14 3 C 2 12 1.2 C 7 6.5 1.2 C 14 3 1.2"},
      {"refit", "M 2 12 L 4 7 L 8 5.5 L 12 7 L 14 12 M 2 12 L 3 3.5 L 13 3.5 L 14 12 C 3 3.5 1 C 13 3.5 1"},
      {"build_size", "M 2 3 L 14 3 L 14 13 L 2 13 Z M 6 3 L 6 13 M 10 3 L 10 13 M 2 8 L 14 8"},
      {"mould",
       "M 2 2 L 14 2 L 14 7 L 11 7 C 11 3 5 3 5 7 L 2 7 Z M 2 9 L 5 9 C 5 13 11 13 11 9 L 14 9 L 14 14 L 2 14 Z"},
      {"key",
       "M 2 9 L 6 9 L 6 5 L 10 5 L 10 9 L 14 9 L 14 14 L 2 14 Z M 2 6.5 L 4 6.5 L 4 2.5 L 12 2.5 L 12 6.5 L 14 6.5"},
      {"inlay", "M 2 14 L 2 6 L 14 6 L 14 14 Z M 5 12 L 8 3 L 11 12 M 6 9 L 10 9"},
      {"hollow", "M 2 3 L 2 14 L 14 14 L 14 3 L 11 3 L 11 11 L 5 11 L 5 3 Z"},
      {"holes",
       "M 2 4 L 2 13 L 14 13 L 14 4 M 2 4 L 4 4 L 6 6.5 L 6 11 L 8 12.2 L 10 11 L 10 6.5 L 12 4 L 14 4 M 8 2 L 8 14"},
      {"wall", "M 2 13 L 2 5 L 5 3 L 14 3 L 14 6 L 5 6 L 5 13 Z M 5 6 L 2 8 M 14 6 L 14 9 L 5 9"},
      {"open_through",
       "M 1 4 L 5 4 M 11 4 L 15 4 M 1 7 L 5 7 M 11 7 L 15 7 M 1 11 L 15 11 M 1 14 L 15 14 M 5 4 L 5 7 "
       "M 11 4 L 11 7 M 8 1 L 8 9"},
      {"shift_opening",
       "M 1.5 3 L 14.5 3 L 14.5 13 L 1.5 13 Z M 4 6 L 7 6 L 7 10 L 4 10 Z M 8.5 8 L 12.5 8 M 11 6.3 L 12.5 8 L 11 9.7"},
      {"resize_opening",
       "M 1.5 3 L 14.5 3 L 14.5 13 L 1.5 13 Z M 6 7 L 10 7 L 10 10 L 6 10 Z M 4 8.5 L 2.5 8.5 M 12 8.5 L 13.5 8.5 M 8 "
       "6 L 8 4.3"},
      {"shift_faces", "M 2 5 L 6 3 L 6 11 L 2 13 Z M 9 5 L 13 3 L 13 11 L 9 13 Z M 6 7 L 8 7"},
      {"remove_faces", "M 2 13 L 2 5 L 6 3 L 14 3 L 14 10 L 10 13 Z M 5 8 L 10 12 M 10 8 L 5 12"},
      {"copy_opening",
       "M 1.5 3 L 14.5 3 L 14.5 13 L 1.5 13 Z M 3.5 6 L 6 6 L 6 10 L 3.5 10 Z M 10 6 L 12.5 6 L 12.5 10 L 10 10 Z M 7 "
       "8 L 9 8"},
      {"close_opening",
       "M 1.5 3 L 14.5 3 L 14.5 13 L 1.5 13 Z M 5.5 6 L 10.5 6 L 10.5 10 L 5.5 10 Z M 5.5 8.5 L 8 6 M 6.5 10 L 10.5 6 "
       "M 9 10 L 10.5 8.5"},
      {"recognise",
       "M 2 4 L 5 2.5 L 9 2.5 L 12 4 L 12 9 M 2 4 L 5 5.5 L 9 5.5 L 12 4 M 2 4 L 2 11 L 5 12.5 L 7 12.5 M 9 12 L 11 14 "
       "L 14.5 10"},
      {"blend", "M 2 13 L 5 13 L 6.5 11 L 7.5 8 L 8.5 5 L 10 3 L 14 3 M 2 10 L 4 10 M 12 6 L 14 6"},
      {"patch", "M 3 4 L 8 2.5 L 13 4 L 14 10 L 8 13.5 L 2 10 Z M 5 6 L 8 7 L 11 6 M 5 9.5 L 8 10.5 L 11 9.5"},
      {"offset_surface", "M 2 12 L 5 10 L 8 9.3 L 11 10 L 14 12 M 2 7 L 5 5 L 8 4.3 L 11 5 L 14 7"},
      {"thicken", "M 2 13 L 2 9 L 14 5 L 14 9 Z M 8 3 L 8 6 M 6.5 4.5 L 8 3 L 9.5 4.5"},
      {"sew",
       "M 2 3 L 7 3 L 7 13 L 2 13 M 14 3 L 9 3 L 9 13 L 14 13 M 5.5 5 L 10.5 5 M 5.5 8 L 10.5 8 M 5.5 11 L 10.5 11"},
      {"make_solid", "M 2 5 L 8 2 L 14 5 L 14 11 L 8 14 L 2 11 Z M 2 5 L 8 8 L 14 5 M 8 8 L 8 14"},
      {"unsew",
       "M 1.5 4 L 6 4 L 6 12 L 1.5 12 Z M 10 4 L 14.5 4 L 14.5 12 L 10 12 Z M 8 2 L 8 5 M 8 7 L 8 9 M 8 11 L 8 14"},
      {"flip_surface",
       "M 2 9 L 6 6 L 14 6 L 10 9 Z M 8 5 L 8 1.5 M 6.5 3 L 8 1.5 L 9.5 3 M 8 10.5 L 8 14.5 M 6.5 13 L 8 14.5 L 9.5 "
       "13"},
      {"folded", "M 6 4 L 10 8 L 6 12"},
      {"unfolded", "M 4 6 L 8 10 L 12 6"},
      {"make_mesh",
       "M 8 1.5 L 14 6 L 12 13.5 L 4 13.5 L 2 6 Z M 8 1.5 L 8 8 L 2 6 M 14 6 L 8 8 L 4 13.5 M 8 8 L 12 13.5"},
      {"reduce_mesh",
       "M 1.5 13 L 4.5 4 L 7 13 Z M 1.5 13 L 5.7 8.5 M 3 8.5 L 5.7 8.5 M 9 13 L 12 4 L 14.5 13 Z M 7.5 2 L 9 2"},
      {"refine_mesh",
       "M 1.5 13 L 4.5 4 L 7 13 Z M 9 13 L 12 4 L 14.5 13 Z M 10.5 8.5 L 13.2 8.5 M 10.5 8.5 L 11.7 13 L 13.2 8.5 M 7 "
       "2 "
       "L 9.5 2 M 8.25 0.8 L 8.25 3.3"},
      {"take_apart",
       "M 2 6 L 6 6 L 6 10 L 2 10 Z M 10 6 L 14 6 L 14 10 L 10 10 Z M 6.8 3.5 L 4.5 3.5 M 9.2 3.5 L 11.5 3.5 M 5.5 2.3 "
       "L "
       "4.3 3.5 L 5.5 4.7 M 10.5 2.3 L 11.7 3.5 L 10.5 4.7"},
      {"project",
       "M 3 3 L 6 1.5 L 10 1.5 L 13 3 M 3 5 L 3 9 M 13 5 L 13 9 M 8 4 L 8 9 M 2 13 L 5 11.3 L 8 10.7 L 11 11.3 L 14 "
       "13"},
      {"join", "M 1.5 11 L 4 6 L 7 5 M 9 5 L 12 6 L 14.5 11 C 8 5 1.2"},
      {"lengthen", "M 1.5 12 L 4 7 L 8 5 M 9.5 4.6 L 10.8 4.3 M 12 4 L 14.5 3.4 M 12.5 1.8 L 14.5 3.4 L 13.2 5.6"},
      {"control_point", "M 2 13 L 4.5 7 L 8 5.5 L 11.5 7 L 14 13 C 8 2.6 1.5 M 2 13 L 6.8 3.4 M 14 13 L 9.2 3.4"},
      {"repair",
       "M 2 13 L 2 4 L 6 4 L 8 7 L 7 9 L 9 13 Z M 14 13 L 14 4 L 10 4 M 14 13 L 12.5 13 M 10.5 9 L 13 9 M 11.75 7.7 L "
       "11.75 10.3"},
      {"freeze", "M 3 3 L 13 3 L 13 13 L 3 13 Z M 6 8 L 10 8 M 8 6 L 8 10 M 5.5 5.5 L 10.5 10.5 M 10.5 5.5 L 5.5 10.5"},
      {"place",
       "M 8 1.5 L 8 14.5 M 1.5 8 L 14.5 8 M 6 3.5 L 8 1.5 L 10 3.5 M 6 12.5 L 8 14.5 L 10 12.5 M 3.5 6 L 1.5 8 L 3.5 "
       "10 M 12.5 6 L 14.5 8 L 12.5 10"},
      {"pattern",
       "M 2 2 L 6 2 L 6 6 L 2 6 Z M 10 2 L 14 2 L 14 6 L 10 6 Z M 2 10 L 6 10 L 6 14 L 2 14 Z M 10 10 L 14 10 L 14 14 "
       "L 10 14 Z"},
      {"group",
       "M 1.5 1.5 L 5 1.5 M 1.5 1.5 L 1.5 5 M 14.5 1.5 L 11 1.5 M 14.5 1.5 L 14.5 5 M 1.5 14.5 L 5 14.5 M 1.5 14.5 L "
       "1.5 11 M 14.5 14.5 L 11 14.5 M 14.5 14.5 L 14.5 11 M 4 4 L 9 4 L 9 9 L 4 9 Z C 10 10 2.6"},
      {"hole-maker", "C 8 8 5.5 M 4.2 4.2 L 11.8 11.8 M 8 2.5 L 13.5 8 M 2.5 8 L 8 13.5"},
      {"slices", "M 2 5 L 6 2.5 L 14 2.5 L 10 5 Z M 2 9 L 6 6.5 L 14 6.5 L 10 9 Z M 2 13 L 6 10.5 L 14 10.5 L 10 13 Z"},
      {"score", "M 2 12 L 5 6 L 14 6 L 11 12 Z M 3.5 9 L 6 9.8 L 9 8 L 12.5 9"},
      {"bring-in", "M 8 2 L 8 9 M 5 6.5 L 8 9.5 L 11 6.5 M 2 9 L 2 13.5 L 14 13.5 L 14 9"},
      {"send-out", "M 8 9.5 L 8 2 M 5 5 L 8 2 L 11 5 M 2 9 L 2 13.5 L 14 13.5 L 14 9"},
      {"open", "M 2 13 L 2 3 L 6 3 L 8 5 L 13 5 L 13 7 M 2 13 L 4.5 7 L 15 7 L 12.5 13 Z"},
      {"save", "M 2 2 L 12 2 L 14 4 L 14 14 L 2 14 Z M 5 2 L 5 6 L 11 6 L 11 2 M 4 14 L 4 9.5 L 12 9.5 L 12 14"},
      {"working", "F 8 8 4 C 8 8 5.5"},
      {"not-working", "C 8 8 4.5"},
      {"eye", "M 1 8 L 4 5 L 8 4 L 12 5 L 15 8 L 12 11 L 8 12 L 4 11 Z C 8 8 2"},
      {"eye-closed", "M 1 8 L 4 10 L 8 11 L 12 10 L 15 8 M 4 10 L 3 12 M 8 11 L 8 13 M 12 10 L 13 12"},
      {"shield", "M 8 1.5 L 13.5 3.5 L 13.5 8 L 11.5 12 L 8 14.5 L 4.5 12 L 2.5 8 L 2.5 3.5 Z"},
      {"shield-on", "F M 8 1.5 L 13.5 3.5 L 13.5 8 L 11.5 12 L 8 14.5 L 4.5 12 L 2.5 8 L 2.5 3.5 Z"},
      {"circle", "C 8 8 5.5 M 8 7 L 8 9 M 7 8 L 9 8"},
      {"middle_rectangle", "M 2.5 4 L 13.5 4 L 13.5 12 L 2.5 12 Z M 8 7 L 8 9 M 7 8 L 9 8"},
      {"polygon", "M 14.0 8.0 L 11.0 13.2 L 5.0 13.2 L 2.0 8.0 L 5.0 2.8 L 11.0 2.8 Z"},
      {"slot",
       "M 5 5 L 11 5 L 12.8 5.9 L 13.8 8 L 12.8 10.1 L 11 11 L 5 11 L 3.2 10.1 L 2.2 8 L 3.2 5.9 Z M 5 7.3 L 5 8.7 M "
       "11 7.3 "
       "L 11 8.7"},
      {"ellipse",
       "M 14.0 8.0 L 13.5 9.3 L 12.2 10.5 L 10.3 11.2 L 8.0 11.5 L 5.7 11.2 L 3.8 10.5 L 2.5 9.3 L 2.0 8.0 L 2.5 6.7 L "
       "3.8 5.5 L 5.7 4.8 L 8.0 4.5 L 10.3 4.8 L 12.2 5.5 L 13.5 6.7 Z M 8 7.3 L 8 8.7 M 7.3 8 L 8.7 8"},
      {"chain", "M 2 12 L 6 4 L 10 11 L 14 5"},
      {"circle_through", "C 8 8 5.5 C 3 5.8 1.2 C 13 5.8 1.2 C 8 13.5 1.2"},
      {"tilted_rectangle", "M 2 9 L 9 2.5 L 14 7 L 7 13.5 Z"},
      {"spline", "M 2 11 L 3.5 7 L 5.5 5 L 7.5 6.5 L 9 9.5 L 11 10.5 L 13 8 L 14 4"},
      {"text", "M 3 3.5 L 13 3.5 M 8 3.5 L 8 13 M 6 13 L 10 13 M 3 3.5 L 3 5.5 M 13 3.5 L 13 5.5"},
      {"control_spline", "M 2 12 L 4.5 6.5 L 8 5 L 11.5 6.5 L 14 12 M 2 12 L 8 2 L 14 12"},
      {"rectangle", "M 2.5 4 L 13.5 4 L 13.5 12 L 2.5 12 Z"},
      {"line", "M 3 13 L 13 3"},
      {"arc", "M 3 13 L 4 8.5 L 6.5 5 L 9.5 3.4 L 13 3"},
      {"off", "C 8 8 5.5 M 4 12 L 12 4"},
      {"delete", "M 3 3 L 13 13 M 13 3 L 3 13"},
      {"up", "M 8 13 L 8 3 M 4 7 L 8 3 L 12 7"},
      {"down", "M 8 3 L 8 13 M 4 9 L 8 13 L 12 9"},
      {"edit", "M 2 14 L 3 10.5 L 11 2.5 L 13.5 5 L 5.5 13 Z"},
      {"rename", "M 2 4 L 14 4 L 14 12 L 2 12 Z M 5 6.5 L 5 9.5"},
      {"new", "M 3 2 L 10 2 L 13 5 L 13 14 L 3 14 Z M 10 2 L 10 5 L 13 5"},
      {"find", "C 7 7 4.5 M 10.3 10.3 L 14 14"},
      {"measure", "M 1.5 6 L 14.5 6 L 14.5 10.5 L 1.5 10.5 Z M 4 6 L 4 8 M 7 6 L 7 8 M 10 6 L 10 8 M 13 6 L 13 8"},
      {"pin", "M 5 2 L 11 2 M 6.5 2 L 6.5 7 L 4 9.5 L 12 9.5 L 9.5 7 L 9.5 2 M 8 9.5 L 8 14"},
      {"step", "M 3 4 L 13 4 M 3 8 L 13 8 M 3 12 L 9 12"},
      {"dimension", "M 2 3 L 2 13 M 14 3 L 14 13 M 2 8 L 14 8 M 5 6 L 2 8 L 5 10 M 11 6 L 14 8 L 11 10"},
      {"body", "M 2 6 L 8 3 L 14 6 L 14 11 L 8 14 L 2 11 Z"},
      {"view", "C 8 8 6 M 8 2 L 8 14 M 2 8 L 14 8"},
      {"undo", "M 6 3 L 3 6 L 6 9 M 3 6 L 10 6 L 13 8.5 L 13 11 L 10.5 13 L 7 13"},
      {"redo", "M 10 3 L 13 6 L 10 9 M 13 6 L 6 6 L 3 8.5 L 3 11 L 5.5 13 L 9 13"},
      {"warning", "M 8 2 L 14.5 13.5 L 1.5 13.5 Z M 8 6.5 L 8 10 M 8 11.5 L 8 12"},
  };
  return table;
}

void stroke(QPainter& painter, const QString& drawing, const QColor& color) {
  QPainterPath path;
  bool filled = false;
  const QStringList words = drawing.split(' ', Qt::SkipEmptyParts);
  for (qsizetype i = 0; i < words.size(); ++i) {
    const auto number = [&](qsizetype offset) { return words.value(i + offset).toDouble(); };
    const QChar verb = words[i][0];
    if (verb == 'M' || verb == 'L') {
      const QPointF point(number(1), number(2));
      verb == 'M' ? path.moveTo(point) : path.lineTo(point);
      i += 2;
    } else if (verb == 'C') {
      path.addEllipse(QPointF(number(1), number(2)), number(3), number(3));
      i += 3;
    } else if (verb == 'Z') {
      path.closeSubpath();
    } else if (verb == 'F') {
      filled = true;
    }
  }
  painter.setPen(QPen(color, 1.3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  painter.setBrush(filled ? QBrush(color) : QBrush(Qt::NoBrush));
  painter.drawPath(path);
}

/// Draws when and as large as it is needed.
class LinePicture : public QIconEngine {
 public:
  LinePicture(QString drawing, QColor color) : drawing_(std::move(drawing)), color_(color) {}

  void paint(QPainter* painter, const QRect& rect, QIcon::Mode mode, QIcon::State) override {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    const double size = std::min(rect.width(), rect.height());
    painter->translate(rect.center().x() + 0.5 - size / 2, rect.center().y() + 0.5 - size / 2);
    painter->scale(size / 16, size / 16);
    stroke(*painter, drawing_, mode == QIcon::Disabled ? look().dim : color_);
    painter->restore();
  }

  QPixmap pixmap(const QSize& size, QIcon::Mode mode, QIcon::State state) override {
    QPixmap result(size);
    result.fill(Qt::transparent);
    QPainter painter(&result);
    paint(&painter, QRect(QPoint(), size), mode, state);
    return result;
  }

  QIconEngine* clone() const override { return new LinePicture(drawing_, color_); }

 private:
  QString drawing_;
  QColor color_;
};

}  // namespace

QIcon icon(const QString& name) {
  return icon(name, look().text);
}

QIcon icon(const QString& name, const QColor& color) {
  return QIcon(new LinePicture(drawings().value(name, "M 3 3 L 13 3 L 13 13 L 3 13 Z"), color));
}

QIcon applicationIcon() {
  return QIcon(":/kervo.png");
}

}  // namespace kervo::app
