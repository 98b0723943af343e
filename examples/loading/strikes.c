/* Does this hit strike that part? cc strikes.c beside pier.h, which `finitor export -o pier.h` writes.
   strikes ACTOR ANIMATION FRAME FACING X Y  ACTOR ANIMATION FRAME FACING X Y  prints the first part that is struck, or -. */
#include "pier.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#define EACH(i, range) (uint32_t i = (range).first; i < (range).first + (range).count; i++)
static const finitor_pack *const p = &pier_pack;

static const finitor_side *find(char **of) {
  for (const finitor_actor *a = p->actors; a < p->actors + p->actor_count; a++)
    for EACH(n, a->animations)
      if (!strcmp(a->name, of[0]) && !strcmp(p->animations[n].name, of[1]))
        for EACH(s, p->frames[p->animations[n].frames.first + atoi(of[2])].sides)
          if ((p->sides[s].facing > 0) == !strcmp(of[3], "right")) return &p->sides[s];
  exit(fprintf(stderr, "no %s %s %s %s\n", of[0], of[1], of[2], of[3]));
}

/* Whether a side of the first piece has all of the other, dx, dy away, beyond it; corners run clockwise as seen, y down. */
static int parted(finitor_ring one, finitor_ring other, double dx, double dy) {
  for EACH(i, one) {
    finitor_point a = p->points[i], b = p->points[i + 1 < one.first + one.count ? i + 1 : one.first];
    uint32_t beyond = 0;
    for EACH(k, other) beyond += (b.x - a.x) * (p->points[k].y + dy - a.y) <= (b.y - a.y) * (p->points[k].x + dx - a.x);
    if (beyond == other.count) return 1;
  }
  return 0;
}

int main(int argc, char **arg) {
  if (argc != 13) return puts("strikes: six words of the attacker, six of the target"), 2;
  const finitor_side *own = find(arg + 1), *other = find(arg + 7);
  double dx = atof(arg[11]) - atof(arg[5]), dy = atof(arg[12]) - atof(arg[6]);
  for EACH(u, other->shapes)
    for EACH(h, own->shapes) {
      const finitor_meaning *hit = &p->meanings[p->shapes[h].meaning], *hurt = &p->meanings[p->shapes[u].meaning];
      if (hit->role != FINITOR_HIT || hurt->role != FINITOR_HURT || !(hit->mask & hurt->layer)) continue;
      for EACH(i, p->shapes[h].pieces)
        for EACH(k, p->shapes[u].pieces)
          if (!parted(p->rings[i], p->rings[k], dx, dy) && !parted(p->rings[k], p->rings[i], -dx, -dy))
            return puts(hurt->part ? hurt->part : hurt->name), 0;
    }
  return puts("-"), 0;
}
