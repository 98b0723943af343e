"""Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl."""
import sys


class Recorder:
    def __init__(self, path):
        self.file = open(path, "w", buffering=1 << 16, encoding="utf-8", newline="\n")  # written in blocks
        if path.endswith(".jsonl"):
            self.form = '{"tick":%d,"actor":"%s","x":%de-4,"y":%de-4,"facing":"%s","animation":"%s","frame":%d}\n'
        else:
            self.form = "%d,%s,%de-4,%de-4,%s,%s,%d\n"
            self.file.write("tick,actor,x,y,facing,animation,frame\n")

    def row(self, tick, actor, x, y, facing, animation, frame):  # places in 1/10000 px: whole numbers are written faster
        self.file.write(self.form % (tick, actor, round(x * 1e4), round(y * 1e4), facing, animation, frame))

    def __enter__(self):
        return self

    def __exit__(self, *_):
        self.file.close()


# A walk, in place of a game: argument 1 is the file, 2 the ground's y.
with Recorder(sys.argv[1]) as recorder:
    for tick in range(200):
        recorder.row(tick, "hand", 64 + 1.5 * tick, float(sys.argv[2]), "right", "walk", tick // 6 % 4)
