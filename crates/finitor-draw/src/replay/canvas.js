// The stage: one canvas for what stays, one over it for what moves; each is drawn again only when what it shows changed.

const under = byId("under");
const over = byId("over");
const stale = { under: true, over: true, isAsked: false };
// How long frames took to draw, for who measures it.
const drawn = { times: [] };

function ask(which) {
  stale[which] = true;
  if (which === "under") stale.over = true;
  if (stale.isAsked) return;
  stale.isAsked = true;
  requestAnimationFrame(paint);
}

function fitCanvases() {
  const box = byId("view").getBoundingClientRect();
  const ratio = window.devicePixelRatio || 1;
  camera.width = Math.max(1, box.width);
  camera.height = Math.max(1, box.height);
  for (const canvas of [under, over]) {
    canvas.width = Math.round(camera.width * ratio);
    canvas.height = Math.round(camera.height * ratio);
  }
  ask("under");
}

// Sets a context to the world as a camera sees it, and says which part that is.
function worldOf(ctx, of) {
  const ratio = window.devicePixelRatio || 1;
  const scale = of.zoom * ratio;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.clearRect(0, 0, ctx.canvas.width, ctx.canvas.height);
  ctx.setTransform(scale, 0, 0, scale, (of.width / 2) * ratio - of.x * scale, (of.height / 2) * ratio - of.y * scale);
  const [halfX, halfY] = [of.width / 2 / of.zoom, of.height / 2 / of.zoom];
  return [of.x - halfX, of.y - halfY, of.x + halfX, of.y + halfY];
}

function paint() {
  stale.isAsked = false;
  const begin = performance.now();
  if (stale.under) {
    const ctx = under.getContext("2d");
    const box = worldOf(ctx, camera);
    paintStage(ctx, box, camera.zoom);
    paintNames(ctx, box, camera.zoom);
    stale.under = false;
  }
  if (stale.over) {
    const ctx = over.getContext("2d");
    worldOf(ctx, camera);
    if (view.take.length > 0) paintMoving(ctx);
    stale.over = false;
  }
  drawn.times.push(performance.now() - begin);
  if (drawn.times.length > 1000) drawn.times.shift();
}

function paintMoving(ctx) {
  const { zoom } = camera;
  if (view.onion > 0) paintOnion(ctx, view.index, zoom);
  paintActors(ctx, view.index, zoom);
  const tick = tickNow();
  const now = view.take.findingsAt(tick).filter((finding) => isListed(finding) && finding !== view.finding);
  for (const finding of now) paintFinding(ctx, finding, zoom);
  if (view.finding && view.finding.ticks[0] - 60 <= tick && tick <= view.finding.ticks[1] + 60) paintFinding(ctx, view.finding, zoom);
  for (const hit of view.take.check.hits) {
    if (hit.tick <= tick && tick < hit.tick + 8) paintHit(ctx, hit, zoom);
  }
  if (view.mark) paintMark(ctx, view.mark, zoom);
  paintMeasured(ctx, zoom);
}

function paintHit(ctx, hit, zoom) {
  ctx.strokeStyle = colours.hit;
  ctx.lineWidth = 2 / zoom;
  ctx.beginPath();
  for (let i = 0; i < 8; i += 1) {
    const angle = (i * Math.PI) / 4;
    ctx.moveTo(hit.at[0] + (5 / zoom) * Math.cos(angle), hit.at[1] + (5 / zoom) * Math.sin(angle));
    ctx.lineTo(hit.at[0] + (11 / zoom) * Math.cos(angle), hit.at[1] + (11 / zoom) * Math.sin(angle));
  }
  ctx.stroke();
}

function paintMark(ctx, mark, zoom) {
  ctx.strokeStyle = colours.mark;
  ctx.lineWidth = 2.5 / zoom;
  const [x, y, width, height] = mark;
  const least = 12 / zoom;
  ctx.strokeRect(x - Math.max(0, least - width) / 2, y - Math.max(0, least - height) / 2, Math.max(width, least), Math.max(height, least));
}

function measuredWords() {
  const [[x0, y0], [x1, y1]] = view.measured.map(told);
  return `${px(Math.hypot(x1 - x0, y1 - y0))} (x ${(x1 - x0).toFixed(2)}, y ${(y1 - y0).toFixed(2)})`;
}

function paintMeasured(ctx, zoom) {
  if (view.measured.length === 0) return;
  ctx.strokeStyle = ctx.fillStyle = colours.mark;
  ctx.lineWidth = 2 / zoom;
  for (const [x, y] of view.measured) ctx.fillRect(x - 2 / zoom, y - 2 / zoom, 4 / zoom, 4 / zoom);
  if (view.measured.length < 2) return;
  const [from, to] = view.measured;
  ctx.beginPath();
  ctx.moveTo(...from);
  ctx.lineTo(...to);
  ctx.stroke();
  words(ctx, measuredWords(), [(from[0] + to[0]) / 2, Math.min(from[1], to[1]) - 8 / zoom], zoom, { colour: colours.mark });
}

// What lies under a point of the world, the topmost first: shapes, then things of the stage.
function thingsUnder(x, y) {
  const ctx = over.getContext("2d");
  const holds = (path, atX, atY) => {
    ctx.save();
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    const is = ctx.isPointInPath(path, atX, atY, "evenodd");
    ctx.restore();
    return is;
  };
  const found = [];
  for (const seen of view.take.seenAt(view.index).reverse()) {
    const actor = data.actors[seen.actor];
    for (const shape of [...poseOf(seen).shapes].reverse()) {
      if (!isShapeShown(seen.actor, shape, seen.states)) continue;
      if (holds(ready(shape, shape.rings), x - seen.x, y - seen.y)) {
        found.push({ name: `${actor.name}.${actor.shapes[shape.shape].name}`, states: seen.states });
      }
    }
  }
  for (const thing of [...data.stage.things].reverse()) {
    if (isThingShown(thing) && thing.path && holds(thing.path, x, y)) found.push({ name: `${data.stage.name}/${thing.name}`, states: 0 });
  }
  return found;
}

function note(text) {
  byId("note").textContent = text;
  byId("note").hidden = text === "";
}

function clickAt(x, y) {
  const at = toWorld(x, y);
  if (view.measures) {
    view.measured = view.measured.length === 1 ? [view.measured[0], at] : [at];
    note(view.measured.length === 2 ? measuredWords() : `From x ${told(at)[0].toFixed(2)}, y ${told(at)[1].toFixed(2)}: click where to.`);
    ask("over");
    return;
  }
  const [top] = thingsUnder(...at);
  if (!top) return;
  // The first click begins a pair, the next one ends it.
  view.pair = view.pair[0] && !view.pair[1] && view.pair[0].name !== top.name ? [view.pair[0], top] : [top, null];
  note(view.pair[1] ? pairWords(...view.pair) : `${top.name}. Click another shape or thing to see what they do to each other.`);
  tell("pair");
}

// Pointers: one pans or clicks, two pinch.
const pointers = new Map();
let gesture = null;

function placeIn(event) {
  const box = over.getBoundingClientRect();
  return [event.clientX - box.left, event.clientY - box.top];
}

function pinch() {
  const [a, b] = [...pointers.values()];
  return { apart: Math.hypot(a[0] - b[0], a[1] - b[1]), middle: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] };
}

over.addEventListener("pointerdown", (event) => {
  over.setPointerCapture(event.pointerId);
  pointers.set(event.pointerId, placeIn(event));
  gesture = { from: placeIn(event), moved: pointers.size > 1, pinch: pointers.size === 2 ? pinch() : null };
});

over.addEventListener("pointermove", (event) => {
  const before = pointers.get(event.pointerId);
  if (!before) return;
  const now = placeIn(event);
  pointers.set(event.pointerId, now);
  if (pointers.size === 2 && gesture.pinch) {
    const { apart, middle } = pinch();
    zoomAt(...middle, apart / Math.max(1, gesture.pinch.apart));
    panBy(middle[0] - gesture.pinch.middle[0], middle[1] - gesture.pinch.middle[1]);
    gesture.pinch = { apart, middle };
    return;
  }
  gesture.moved ||= Math.hypot(now[0] - gesture.from[0], now[1] - gesture.from[1]) > 4;
  if (gesture.moved) panBy(now[0] - before[0], now[1] - before[1]);
});

for (const kind of ["pointerup", "pointercancel"]) {
  over.addEventListener(kind, (event) => {
    const isClick = kind === "pointerup" && pointers.size === 1 && gesture && !gesture.moved;
    pointers.delete(event.pointerId);
    if (isClick) clickAt(...placeIn(event));
  });
}

over.addEventListener("wheel", (event) => {
  event.preventDefault();
  zoomAt(...placeIn(event), Math.exp(-event.deltaY * 0.0015));
}, { passive: false });

on("camera theme", () => ask("under"));
on("switches", () => ask("under"));
on("tick finding pair", () => ask("over"));
on("art", () => ask("under"));
on("take", () => { note(""); ask("under"); });
