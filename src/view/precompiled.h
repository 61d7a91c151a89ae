// Headers that most of the view includes, precompiled.
#include <QCoreApplication>
#include <QOpenGLExtraFunctions>
#include <QPainter>
#include <QPolygonF>
#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "view/body_picture.h"
