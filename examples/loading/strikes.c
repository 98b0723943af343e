/* Does this hit strike that part? cc strikes.c beside pier.h, which `finitor export -o pier.h` writes.
   strikes ACTOR ANIMATION FRAME FACING X Y  ACTOR ANIMATION FRAME FACING X Y  prints the first part that is struck, or -. */
#include "pier.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct { const finitor_side *side; double x, y; } placed;

static placed find(char **arg) {
  const finitor_pack *p = &pier_pack;
  for (uint32_t a = 0; a < p->actor_count; a++)
    for (uint32_t n = 0; !strcmp(p->actors[a].name, arg[0]) && n < p->actors[a].animations.count; n++) {
      const finitor_animation *animation = &p->animations[p->actors[a].animations.first + n];
      const finitor_frame *frame = &p->frames[animation->frames.first + atoi(arg[2])];
      for (uint32_t s = 0; !strcmp(animation->name, arg[1]) && s < frame->sides.count; s++) {
        placed at = {&p->sides[frame->sides.first + s], atof(arg[4]), atof(arg[5])};
        if ((at.side->facing > 0) == !strcmp(arg[3], "right")) return at;
      }
    }
  exit(fprintf(stderr, "no %s %s %s\n", arg[0], arg[1], arg[2]));
}

/* Whether a side of the first piece has all of the other piece beyond it; corners run clockwise as seen, y down. */
static int parted(finitor_ring a, placed at, finitor_ring b, placed bt) {
  const finitor_point *p = pier_pack.points + a.first, *q = pier_pack.points + b.first;
  for (uint32_t i = 0; i < a.count; i++) {
    finitor_point from = p[i], to = p[(i + 1) % a.count];
    uint32_t k = 0;
    while (k < b.count && (to.x - from.x) * (q[k].y + bt.y - from.y - at.y) <= (to.y - from.y) * (q[k].x + bt.x - from.x - at.x)) k++;
    if (k == b.count) return 1;
  }
  return 0;
}

int main(int argc, char **argv) {
  const finitor_pack *p = &pier_pack;
  if (argc != 13) return puts("strikes: six words of the attacker, six of the target"), 2;
  placed own = find(argv + 1), other = find(argv + 7);
  for (uint32_t u = 0; u < other.side->shapes.count; u++)
    for (uint32_t h = 0; h < own.side->shapes.count; h++) {
      const finitor_shape *hit = &p->shapes[own.side->shapes.first + h], *hurt = &p->shapes[other.side->shapes.first + u];
      const finitor_meaning *a = &p->meanings[hit->meaning], *b = &p->meanings[hurt->meaning];
      for (uint32_t i = 0; a->role == FINITOR_HIT && b->role == FINITOR_HURT && (a->mask & b->layer) && i < hit->pieces.count; i++)
        for (uint32_t k = 0; k < hurt->pieces.count; k++) {
          finitor_ring one = p->rings[hit->pieces.first + i], two = p->rings[hurt->pieces.first + k];
          if (!parted(one, own, two, other) && !parted(two, other, one, own)) return puts(b->part ? b->part : b->name), 0;
        }
    }
  return puts("-"), 0;
}
