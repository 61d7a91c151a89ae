// All types of field, for who handles steps of any kind.
#pragma once

#include "fields/bodies_field.h"
#include "fields/brought_field.h"
#include "fields/choice_field.h"
#include "fields/coordinates_field.h"
#include "fields/curves_field.h"
#include "fields/cutters_field.h"
#include "fields/edges_field.h"
#include "fields/face_field.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "fields/pieces_field.h"
#include "fields/plane_field.h"
#include "fields/points_field.h"
#include "fields/regions_field.h"
#include "fields/text_field.h"
