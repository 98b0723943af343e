// Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
import { openSync, writeSync } from "node:fs";

class Recorder {
  constructor(path) {
    this.file = openSync(path, "w");
    this.json = path.endsWith(".jsonl");
    this.rows = this.json ? [] : ["tick,actor,x,y,facing,animation,frame\n"];
    process.on("exit", () => this.flush());
  }

  row(tick, actor, x, y, facing, animation, frame) {
    const [a, b] = [Math.round(x * 1e4), Math.round(y * 1e4)]; // in 1/10000 px: whole numbers are written faster than fractions
    this.rows.push(this.json ? `{"tick":${tick},"actor":"${actor}","x":${a}e-4,"y":${b}e-4,"facing":"${facing}","animation":"${animation}","frame":${frame}}\n`
                             : `${tick},${actor},${a}e-4,${b}e-4,${facing},${animation},${frame}\n`);
    if (this.rows.length > 999) this.flush(); // written in blocks, the last one on exit
  }

  flush() {
    writeSync(this.file, this.rows.join(""));
    this.rows = [];
  }
}

// A walk, in place of a game: argument 1 is the file, 2 the ground's y.
const [path, ground] = process.argv.slice(2);
const recorder = new Recorder(path);
for (let tick = 0; tick < 200; tick++) {
  recorder.row(tick, "hand", 64 + 1.5 * tick, Number(ground), "right", "walk", Math.floor(tick / 6) % 4);
}
