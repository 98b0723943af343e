/* Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl. */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static FILE *take;
static int take_is_json;

static void record_close(void) { if (take) fclose(take); take = NULL; }

static int record_open(const char *path) {
    const char *ending = strrchr(path, '.');
    take = fopen(path, "w");
    if (!take) return 0;
    setvbuf(take, NULL, _IOFBF, 1 << 16);  /* written in blocks, the last one on exit */
    atexit(record_close);
    take_is_json = ending && strcmp(ending, ".jsonl") == 0;
    if (!take_is_json) fputs("tick,actor,x,y,facing,animation,frame\n", take);
    return 1;
}

/* A place in 1/10000 px: whole numbers are written three times faster than fractions. */
#define PLACE(v) (long long)((v) * 1e4 + ((v) < 0 ? -0.5 : 0.5))

static void record(long tick, const char *actor, double x, double y, int right, const char *animation, int frame) {
    fprintf(take, take_is_json ? "{\"tick\":%ld,\"actor\":\"%s\",\"x\":%llde-4,\"y\":%llde-4,\"facing\":\"%s\",\"animation\":\"%s\",\"frame\":%d}\n"
                               : "%ld,%s,%llde-4,%llde-4,%s,%s,%d\n", tick, actor, PLACE(x), PLACE(y), right ? "right" : "left", animation, frame);
}

/* A walk, in place of a game: argument 1 is the file, 2 the ground's y. */
int main(int count, char **arguments) {
    if (count < 3 || !record_open(arguments[1])) return 1;
    for (long tick = 0; tick < 200; tick++)
        record(tick, "hand", 64.0 + 1.5 * tick, atof(arguments[2]), 1, "walk", (int)(tick / 6 % 4));
    return 0;
}
