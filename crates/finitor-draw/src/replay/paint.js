// Drawing of stage, actors and findings in world px; the caller has set the context to the world.

const ROLES = ["body", "hurt", "hit", "sensor"];

// Roles differ by line and filling too, for those who do not tell all hues apart.
const LOOKS = {
  body: { width: 2, dash: [], tint: 0.18 },
  hurt: { width: 1.4, dash: [], pattern: "dots" },
  hit: { width: 1.8, dash: [], pattern: "cross" },
  sensor: { width: 1.2, dash: [4, 3], tint: 0.06 },
  solid: { width: 1.4, dash: [], pattern: "stripes" },
  one_way: { width: 1.6, dash: [], tint: 0.3 },
  zone: { width: 1.6, dash: [2, 3], pattern: "dots" },
};

let colours = {};
const patterns = new Map();

// Colours are the style sheet's.
function readColours() {
  const style = getComputedStyle(document.documentElement);
  const names = ["body", "hurt", "hit", "sensor", "solid", "one_way", "zone", "fault", "warn", "note", "ground", "ink", "quiet", "sky", "sheet", "mark"];
  colours = Object.fromEntries(names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]));
  patterns.clear();
}

function patternOf(ctx, look, zoom) {
  const { pattern } = LOOKS[look];
  let made = patterns.get(look);
  if (!made) {
    const tile = document.createElement("canvas");
    tile.width = tile.height = 8;
    const on = tile.getContext("2d");
    on.strokeStyle = on.fillStyle = colours[look];
    on.globalAlpha = 0.55;
    if (pattern === "dots") {
      on.beginPath();
      on.arc(2, 2, 1, 0, 7);
      on.arc(6, 6, 1, 0, 7);
      on.fill();
    } else {
      on.beginPath();
      for (const by of [-8, 0, 8]) {
        on.moveTo(by, 8);
        on.lineTo(by + 8, 0);
        if (pattern === "cross") {
          on.moveTo(by, 0);
          on.lineTo(by + 8, 8);
        }
      }
      on.stroke();
    }
    made = ctx.createPattern(tile, "repeat");
    patterns.set(look, made);
  }
  made.setTransform(new DOMMatrix().scale(1 / zoom));
  return made;
}

function ringPath(rings) {
  const path = new Path2D();
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      if (i === 0) path.moveTo(ring[0], ring[1]);
      else path.lineTo(ring[i], ring[i + 1]);
    }
    path.closePath();
  }
  return path;
}

function boundsOf(rings) {
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      box[0] = Math.min(box[0], ring[i]);
      box[1] = Math.min(box[1], ring[i + 1]);
      box[2] = Math.max(box[2], ring[i]);
      box[3] = Math.max(box[3], ring[i + 1]);
    }
  }
  return box;
}

function ready(of, rings) {
  if (!of.path) {
    of.path = ringPath([...rings, ...(of.holes ?? [])]);
    of.bounds = boundsOf(rings);
  }
  return of.path;
}

function paintRing(ctx, path, look, zoom) {
  const { width, dash, tint, pattern } = LOOKS[look];
  ctx.fillStyle = pattern ? patternOf(ctx, look, zoom) : colours[look];
  ctx.globalAlpha = pattern ? 1 : tint;
  ctx.fill(path, "evenodd");
  ctx.globalAlpha = 1;
  ctx.strokeStyle = colours[look];
  // Thin lines on figures that are seen from far: the art stays visible.
  ctx.lineWidth = (width * Math.min(1, Math.max(0.5, zoom / 2.5))) / zoom;
  ctx.setLineDash(dash.map((part) => part / zoom));
  ctx.stroke(path);
  ctx.setLineDash([]);
}

function words(ctx, text, at, zoom, look) {
  const size = 12 / zoom;
  ctx.font = `${size}px ui-monospace, monospace`;
  ctx.textAlign = look?.align ?? "center";
  ctx.textBaseline = "alphabetic";
  ctx.lineWidth = 4 / zoom;
  ctx.lineJoin = "round";
  ctx.strokeStyle = colours.sky;
  ctx.strokeText(text, at[0], at[1]);
  ctx.fillStyle = look?.colour ?? colours.ink;
  ctx.fillText(text, at[0], at[1]);
}

function arrow(ctx, from, to, zoom) {
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const head = Math.min(9 / zoom, Math.hypot(to[0] - from[0], to[1] - from[1]));
  ctx.beginPath();
  ctx.moveTo(...from);
  ctx.lineTo(...to);
  for (const by of [-0.5, 0.5]) {
    ctx.moveTo(...to);
    ctx.lineTo(to[0] - head * Math.cos(angle + by), to[1] - head * Math.sin(angle + by));
  }
  ctx.stroke();
}

function isIn(box, bounds) {
  return bounds[0] < box[2] && bounds[2] > box[0] && bounds[1] < box[3] && bounds[3] > box[1];
}

function isThingShown(thing) {
  if (!isShown(thing.kind === "zone" ? "zones" : "stage")) return false;
  const kind = kindOf(`${data.stage.name}/${thing.name}`, 0);
  const { on: layers } = data.layers.kinds[kind] ?? { on: [] };
  return layers.length === 0 || layers.some((layer) => isShown(`layer ${layer}`));
}

function paintStage(ctx, box, zoom) {
  ctx.fillStyle = colours.sky;
  ctx.fillRect(box[0], box[1], box[2] - box[0], box[3] - box[1]);
  const [width, height] = data.stage.size;
  ctx.strokeStyle = colours.quiet;
  ctx.lineWidth = 1 / zoom;
  ctx.strokeRect(0, 0, width, height);
  if (isShown("art")) paintTiles(ctx, box);
  for (const thing of data.stage.things) {
    const path = ready(thing, [thing.ring]);
    if (!isIn(box, thing.bounds) || !isThingShown(thing)) continue;
    paintRing(ctx, path, thing.kind, zoom);
    if (thing.passes) paintWay(ctx, thing, zoom);
    if (thing.lands && isShown("zones")) {
      const from = [(thing.bounds[0] + thing.bounds[2]) / 2, (thing.bounds[1] + thing.bounds[3]) / 2];
      ctx.strokeStyle = colours.zone;
      ctx.setLineDash([2 / zoom, 3 / zoom]);
      arrow(ctx, from, thing.lands, zoom);
      ctx.setLineDash([]);
    }
  }
}

// The tiles that are in view.
function paintTiles(ctx, box) {
  const { tiles } = data.stage;
  if (!tiles) return;
  tiles.numbers ??= runs(tiles.cells, tiles.columns * tiles.rows);
  const picture = pictureOf("tiles", tiles.sheet);
  if (!picture) return;
  const [width, height] = tiles.cell;
  const range = (from, to, at, side, most) => [Math.max(0, Math.floor((from - at) / side)), Math.min(most, Math.ceil((to - at) / side))];
  const [left, right] = range(box[0], box[2], tiles.at[0], width, tiles.columns);
  const [top, bottom] = range(box[1], box[3], tiles.at[1], height, tiles.rows);
  ctx.imageSmoothingEnabled = false;
  for (let row = top; row < bottom; row += 1) {
    for (let column = left; column < right; column += 1) {
      const number = tiles.numbers[row * tiles.columns + column] - 1;
      if (number < 0) continue;
      const [x, y] = [(number % tiles.per_row) * width, Math.floor(number / tiles.per_row) * height];
      if (y + height > picture.naturalHeight) continue;
      ctx.drawImage(picture, x, y, width, height, tiles.at[0] + column * width, tiles.at[1] + row * height, width, height);
    }
  }
}

// Chevrons that point the way it lets pass.
function paintWay(ctx, thing, zoom) {
  const [x0, y0, x1, y1] = thing.bounds;
  const [dx, dy] = thing.passes;
  const size = 4 / zoom;
  const [middleX, middleY] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const length = Math.abs(dx) > Math.abs(dy) ? y1 - y0 : x1 - x0;
  const step = Math.max(16 / zoom, length / 24);
  ctx.strokeStyle = colours.one_way;
  ctx.lineWidth = 1.5 / zoom;
  ctx.beginPath();
  for (let along = -length / 2 + step / 2; along <= length / 2; along += step) {
    const [x, y] = Math.abs(dx) > Math.abs(dy) ? [middleX, middleY + along] : [middleX + along, middleY];
    const tip = [x + dx * size, y + dy * size];
    ctx.moveTo(x - dy * size, y + dx * size);
    ctx.lineTo(...tip);
    ctx.lineTo(x + dy * size, y - dx * size);
  }
  ctx.stroke();
}

// Names go last, so that nothing lies over them; one that would lie over another is left out.
function paintNames(ctx, box, zoom) {
  if (!isShown("names")) return;
  const taken = [];
  const put = (text, wanted, y, colour) => {
    const half = (text.length * 7.4) / zoom / 2;
    const x = Math.max(box[0] + half, Math.min(box[2] - half, wanted));
    const own = [x - half, y - 12 / zoom, x + half, y + 4 / zoom];
    if (!isIn(box, own) || own[1] < box[1] || taken.some((other) => isIn(other, own))) return;
    taken.push(own);
    words(ctx, text, [x, y], zoom, { colour });
  };
  for (const thing of data.stage.things) {
    if (thing.name.startsWith("tiles_") || !thing.bounds || !isThingShown(thing)) continue;
    const [x0, y0, x1, y1] = [Math.max(thing.bounds[0], box[0]), thing.bounds[1], Math.min(thing.bounds[2], box[2]), thing.bounds[3]];
    if (x1 <= x0) continue;
    const fits = (y1 - y0) * zoom > 20;
    put(thing.name, (x0 + x1) / 2, fits ? Math.min((y0 + y1) / 2, box[3] - 8 / zoom) + 4 / zoom : y0 - 5 / zoom, colours[thing.kind]);
  }
  for (const spot of data.stage.spots) {
    ctx.fillStyle = colours.quiet;
    ctx.fillRect(spot.at[0] - 1.5 / zoom, spot.at[1] - 1.5 / zoom, 3 / zoom, 3 / zoom);
    put(spot.name, spot.at[0], spot.at[1] - 6 / zoom, colours.quiet);
  }
}

// Sheets are pictures within the page; what needs one is drawn again when it is there.
const sheets = new Map();

function pictureOf(key, source) {
  let picture = sheets.get(key);
  if (!picture) {
    picture = new Image();
    picture.addEventListener("load", () => tell("art"));
    picture.src = source;
    sheets.set(key, picture);
  }
  return picture.complete && picture.naturalWidth > 0 ? picture : null;
}

function sheetOf(actor, index) {
  return pictureOf(`${actor} ${index}`, data.actors[actor].sheets[index]);
}

function paintArt(ctx, actor, pose, at) {
  const [sheet, x, y, width, height, left, top] = data.actors[actor].art[pose.art];
  const picture = width > 0 ? sheetOf(actor, sheet) : null;
  if (!picture) return;
  ctx.save();
  ctx.imageSmoothingEnabled = false;
  ctx.translate(at[0] + (pose.drift ?? 0), at[1]);
  if (pose.flipped) ctx.scale(-1, 1);
  ctx.drawImage(picture, x, y, width, height, left, top, width, height);
  ctx.restore();
}

function isShapeShown(actor, shape, states) {
  const { name, role } = data.actors[actor].shapes[shape.shape];
  if (!isShown(role)) return false;
  const { on: layers } = data.layers.kinds[kindOf(`${data.actors[actor].name}.${name}`, states)] ?? { on: [] };
  return layers.length === 0 || layers.some((layer) => isShown(`layer ${layer}`));
}

function paintShapes(ctx, actor, pose, at, zoom, states) {
  ctx.save();
  ctx.translate(...at);
  for (const shape of pose.shapes) {
    if (!isShapeShown(actor, shape, states)) continue;
    paintRing(ctx, ready(shape, shape.rings), data.actors[actor].shapes[shape.shape].role, zoom);
  }
  ctx.restore();
}

function poseOf(seen) {
  return data.actors[seen.actor].poses[seen.pose];
}

function paintActors(ctx, index, zoom) {
  const all = view.take.seenAt(index);
  for (const seen of all) {
    if (isShown("art")) paintArt(ctx, seen.actor, poseOf(seen), [seen.x, seen.y]);
  }
  for (const seen of all) {
    paintShapes(ctx, seen.actor, poseOf(seen), [seen.x, seen.y], zoom, seen.states);
    if (!isShown("names")) continue;
    const pose = poseOf(seen);
    const top = Math.min(0, ...pose.shapes.map((shape) => (ready(shape, shape.rings), shape.bounds[1])));
    const states = data.layers.states[seen.states].join(" ");
    words(ctx, states ? `${seen.label} (${states})` : seen.label, [seen.x, seen.y + top - 6 / zoom], zoom);
  }
}

// The ticks before and after, faintly.
function paintOnion(ctx, index, zoom) {
  for (let by = view.onion; by > 0; by -= 1) {
    for (const at of [index - by, index + by]) {
      // Where the take has a gap the next row is far away in time.
      if (at < 0 || at >= view.take.length || Math.abs(view.take.ticks[at] - view.take.ticks[index]) > view.onion) continue;
      for (const seen of view.take.seenAt(at)) {
        const pose = poseOf(seen);
        ctx.globalAlpha = 0.35 * (1 - (by - 1) / view.onion);
        if (isShown("art")) paintArt(ctx, seen.actor, pose, [seen.x, seen.y]);
        ctx.save();
        ctx.translate(seen.x, seen.y);
        ctx.lineWidth = 1 / zoom;
        for (const shape of pose.shapes) {
          const { role } = data.actors[seen.actor].shapes[shape.shape];
          if (role !== "body" || !isShown(role)) continue;
          ctx.strokeStyle = at < index ? colours.body : colours.hurt;
          ctx.stroke(ready(shape, shape.rings));
        }
        ctx.restore();
      }
    }
  }
  ctx.globalAlpha = 1;
}

// Where it is worst: a ring, and the way out as long as it is deep.
function paintFinding(ctx, finding, zoom) {
  const { at, push } = finding.worst;
  ctx.strokeStyle = colours[{ error: "fault", warn: "warn", note: "note" }[finding.severity]];
  const colour = ctx.strokeStyle;
  // On a rim of the sky's colour it is seen over any art.
  const twice = (draw) => {
    for (const [width, look] of [[5.5, colours.sky], [2.5, colour]]) {
      ctx.lineWidth = width / zoom;
      ctx.strokeStyle = look;
      draw();
    }
  };
  twice(() => {
    ctx.beginPath();
    ctx.arc(at[0], at[1], 9 / zoom, 0, 7);
    ctx.stroke();
  });
  if (finding.unit === "px" && (push[0] !== 0 || push[1] !== 0)) {
    const to = [at[0] + push[0] * finding.figure, at[1] + push[1] * finding.figure];
    twice(() => arrow(ctx, at, to, zoom));
    words(ctx, figure(finding), [Math.max(at[0], to[0]) + 14 / zoom, (at[1] + to[1]) / 2 + 4 / zoom], zoom, { align: "left" });
  }
  if (finding.end_at) {
    const [x, y] = finding.end_at.at;
    ctx.strokeStyle = colours.mark;
    ctx.beginPath();
    ctx.moveTo(x - 6 / zoom, y);
    ctx.lineTo(x + 6 / zoom, y);
    ctx.moveTo(x, y - 6 / zoom);
    ctx.lineTo(x, y + 6 / zoom);
    ctx.stroke();
    words(ctx, "the step should end here", [x, y + 16 / zoom], zoom, { colour: colours.mark });
  }
}
