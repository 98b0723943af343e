/* Prints every shape and thing of a pack, a line each. */
#include "pier.h"
#include <stdio.h>

static void ring(const finitor_pack *p, uint32_t index) {
  finitor_ring of = p->rings[index];
  for (uint32_t i = of.first; i < of.first + of.count; i++)
    printf(" %.17g %.17g", (double)p->points[i].x, (double)p->points[i].y);
  printf(" |");
}

static void rings(const finitor_pack *p, finitor_span of) {
  for (uint32_t i = of.first; i < of.first + of.count; i++) ring(p, i);
}

static void thing(const finitor_pack *p, const char *stage, uint32_t index) {
  const finitor_thing *t = &p->things[index];
  printf("%s %s %u %u:", stage, t->name, t->layer, t->mask);
  ring(p, t->outline);
  rings(p, t->holes);
  rings(p, t->pieces);
  puts("");
}

int main(void) {
  const finitor_pack *p = &pier_pack;
  static const int exact[] = {4, 3, 5, 0};
  for (uint32_t a = 0; a < p->actor_count; a++) {
    const finitor_actor *actor = &p->actors[a];
    for (uint32_t n = actor->animations.first; n < actor->animations.first + actor->animations.count; n++) {
      const finitor_animation *animation = &p->animations[n];
      for (uint32_t f = animation->frames.first; f < animation->frames.first + animation->frames.count; f++) {
        const finitor_frame *frame = &p->frames[f];
        for (uint32_t s = frame->sides.first; s < frame->sides.first + frame->sides.count; s++) {
          const finitor_side *side = &p->sides[s];
          for (uint32_t i = side->shapes.first; i < side->shapes.first + side->shapes.count; i++) {
            const finitor_shape *shape = &p->shapes[i];
            const finitor_meaning *of = &p->meanings[shape->meaning];
            printf("%s %s %u %u %s %s %u %u:", actor->name, animation->name, frame->frame, frame->ticks,
                   side->facing > 0 ? "right" : "left", of->name, of->layer, of->mask);
            for (int k = 0; k < exact[shape->kind]; k++) printf(" %.17g", (double)shape->exact[k]);
            printf(" |");
            rings(p, shape->outline);
            rings(p, shape->holes);
            rings(p, shape->pieces);
            puts("");
          }
        }
      }
    }
  }
  for (uint32_t a = 0; a < p->actor_count; a++)
    for (uint32_t m = 0; m < p->actors[a].meanings.count; m++) {
      const finitor_meaning *of = &p->meanings[p->actors[a].meanings.first + m];
      printf("%s %s %s %s", p->actors[a].name, of->name, of->settle ? of->settle : "-", of->blocked_from ? of->blocked_from : "-");
      for (uint32_t k = 0; k < of->part_anchors.count; k++)
        printf(" %s", p->part_anchors[of->part_anchors.first + k].anchor);
      printf(": %u %u\n", of->again_after, of->blocked_by);
    }
  for (uint32_t i = 0; i < p->alias_count; i++) printf("%s %s: %u\n", p->contact, p->aliases[i].name, p->aliases[i].layers);
  for (uint32_t i = 0; i < p->state_count; i++)
    for (uint32_t k = p->states[i].changes.first; k < p->states[i].changes.first + p->states[i].changes.count; k++) {
      const finitor_change *of = &p->changes[k];
      printf("%s: %u %u %u %u %u\n", p->states[i].name, of->layer, of->add, of->drop, of->join, of->leave);
    }
  for (uint32_t s = 0; s < p->stage_count; s++) {
    const finitor_stage *stage = &p->stages[s];
    for (uint32_t i = 0; i < stage->solids.count; i++) thing(p, stage->name, stage->solids.first + i);
    for (uint32_t i = 0; i < stage->one_ways.count; i++)
      thing(p, stage->name, p->one_ways[stage->one_ways.first + i].thing);
    for (uint32_t i = 0; i < stage->zones.count; i++) thing(p, stage->name, p->zones[stage->zones.first + i].thing);
  }
  return 0;
}
