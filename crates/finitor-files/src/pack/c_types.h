#ifndef FINITOR_PACK_TYPES
#define FINITOR_PACK_TYPES
typedef NUMBER finitor_number;
typedef struct { finitor_number x, y; } finitor_point;
/* A stretch of a table of the pack. */
typedef struct { uint32_t first, count; } finitor_span;
typedef finitor_span finitor_ring; /* of points */
enum { FINITOR_BODY, FINITOR_HURT, FINITOR_HIT, FINITOR_SENSOR };
enum { FINITOR_BOX, FINITOR_CIRCLE, FINITOR_CAPSULE, FINITOR_POLYGON };
enum { FINITOR_HAZARD, FINITOR_GOAL, FINITOR_EVENT, FINITOR_WARP };
/* An anchor that stands for a part; the words of parts and groups may be 0. */
typedef struct { const char *anchor, *part, *group; double factor; int is_vital; } finitor_part_anchor;
/* What a shape is and means on all frames; of the words only its name is never 0. */
typedef struct {
  const char *name; int role; uint32_t layer, mask; const char *part, *group;
  double factor; int is_vital; double damage; uint32_t again_after, blocked_by;
  const char *blocked_from, *settle; finitor_span part_anchors;
} finitor_meaning;
/* A shape on a frame. exact: x, y, width, height; x, y, radius; x1, y1, x2, y2, radius. Spans are of rings. */
typedef struct {
  uint32_t meaning; int kind; finitor_number exact[5]; finitor_span outline, holes, pieces;
} finitor_shape;
typedef struct { const char *name; finitor_point at; } finitor_anchor;
/* A frame in a facing, 1 right or -1 left. rect and pivot are px of the picture, y down. */
typedef struct {
  int facing, flipped; const char *image; uint32_t image_number, rect[4]; double pivot[2];
  finitor_span anchors, shapes;
} finitor_side;
typedef struct { uint32_t animation, frame, ticks; finitor_span sides; } finitor_frame;
/* stands_for: the animation that this one is shown for when it faces this way, or -1. */
typedef struct { const char *name; int faces; int32_t stands_for; finitor_span frames; } finitor_animation;
typedef struct { uint32_t animation, meaning, startup, active, pauses, recovery; } finitor_attack;
typedef struct { const char *name; finitor_span meanings, animations, attacks; } finitor_actor;
/* Something on a stage. outline is one ring; spans are of rings. */
typedef struct { const char *name; uint32_t layer, mask, outline; finitor_span holes, pieces; } finitor_thing;
typedef struct { uint32_t thing; finitor_point passes; } finitor_one_way;
/* to: the zone that a warp leads to, or -1; landing_facing: 0 where it stays. */
typedef struct {
  uint32_t thing; int effect; uint32_t cooldown; int once; int32_t to; finitor_point landing;
  int landing_facing, turns_velocity;
} finitor_zone;
typedef struct { const char *actor; finitor_point at; int facing; } finitor_spawn;
typedef struct { const char *name; finitor_point at; } finitor_spot;
/* solids are a span of things; the others of their own tables. */
typedef struct {
  const char *name; finitor_point size; finitor_span solids, one_ways, zones, spawns, spots;
} finitor_stage;
typedef struct { const char *name; uint32_t bit, mask; } finitor_layer;
typedef struct { const char *name; uint32_t layers; } finitor_alias;
/* What a state does to shapes on a layer (its bit): masks gain add, then lose drop; layers gain join, then lose leave. */
typedef struct { uint32_t layer, add, drop, join, leave; } finitor_change;
typedef struct { const char *name; finitor_span changes; } finitor_state;
/* contact: either or both, whose mask decides whether two bodies stop each other. */
typedef struct {
  const char *project; double tick_rate; const char *contact;
  uint32_t layer_count, alias_count, state_count, actor_count, stage_count;
  const finitor_point *points; const finitor_ring *rings; const finitor_shape *shapes;
  const finitor_anchor *anchors; const finitor_side *sides; const finitor_frame *frames;
  const finitor_animation *animations; const finitor_meaning *meanings; const finitor_attack *attacks;
  const finitor_thing *things; const finitor_one_way *one_ways; const finitor_zone *zones;
  const finitor_spawn *spawns; const finitor_spot *spots; const finitor_part_anchor *part_anchors;
  const finitor_layer *layers; const finitor_alias *aliases; const finitor_change *changes; const finitor_state *states;
  const finitor_actor *actors; const finitor_stage *stages;
} finitor_pack;
#endif
