// The bar of time: a lane each for what matters, marks to click, and the head.

const bar = { from: 0, to: 1, lanes: [], left: 132 };
const laneCanvas = byId("lanes");
const LANE = 13;

// Whose lanes are shown: whom the view follows, whom the chosen finding is about, or who has the most findings or the
// longest way.
function who() {
  const { findings, tracks } = view.take;
  const counts = new Map(tracks.map((track) => [track.label, 0]));
  for (const { subject } of findings) if (counts.has(subject)) counts.set(subject, counts.get(subject) + 1);
  const walked = new Map(tracks.map((track) => [track.label, track.walked]));
  const [most] = [...counts].sort((a, b) => b[1] - a[1] || walked.get(b[0]) - walked.get(a[0]));
  return view.follow || view.finding?.subject || most?.[0] || "";
}

function laneList() {
  const { take } = view;
  const spans = (list, colour, name) => ({ name, colour, spans: list });
  const findings = (severity) => take.findings.filter((finding) => finding.severity === severity && isListed(finding));
  const lanes = SEVERITIES.map((severity) => ({
    name: { error: "errors", warn: "warnings", note: "notes" }[severity],
    colour: { error: "fault", warn: "warn", note: "note" }[severity],
    shape: severity,
    spans: findings(severity).map((finding) => ({ at: finding.ticks, finding, words: `${finding.rule}, ${finding.subject}, ${figure(finding)}` })),
  }));
  const track = instanceOf(who());
  if (track && track.grounded.length > 0) {
    const said = track.groundedIsSaid ? "grounded, as the take says" : "on the ground";
    lanes.push(spans(track.grounded.map((at) => ({ at, words: said })), "ground", `${track.label} grounded`));
  }
  const zones = zoneSpans();
  if (zones.length > 0) lanes.push(spans(zones, "zone", "zones"));
  const swings = take.swings.map((swing) => ({ at: swing.active, words: `${swing.by} ${swing.animation}: ${swing.struck.length > 0 ? `strikes ${swing.struck.join(", ")}` : "strikes nobody"}` }));
  if (swings.length > 0) lanes.push(spans(swings, "hit", "active hits"));
  const states = track ? stateSpans(track) : [];
  if (states.length > 0) lanes.push(spans(states, "sensor", `${track.label} states`));
  return lanes;
}

// From enter to exit, or to the take's end.
function zoneSpans() {
  const open = new Map();
  const found = [];
  for (const event of view.take.check.events) {
    const key = JSON.stringify([event.zone, event.actor]);
    if (event.kind === "enter") open.set(key, event);
    const begun = open.get(key);
    if (event.kind === "exit" && begun) {
      found.push({ at: [begun.tick, Math.max(begun.tick, event.tick - 1)], words: `${event.actor} in ${event.zone}` });
      open.delete(key);
    }
  }
  for (const event of open.values()) found.push({ at: [event.tick, view.take.ticks.at(-1)], words: `${event.actor} in ${event.zone}` });
  return found;
}

function stateSpans(track) {
  const found = [];
  for (const { first, count, before } of track.present) {
    for (let i = 0; i < count; ) {
      const set = track.states[before + i];
      let end = i;
      while (end + 1 < count && track.states[before + end + 1] === set) end += 1;
      if (set !== 0) found.push({ at: [view.take.ticks[first + i], view.take.ticks[first + end]], words: data.layers.states[set].join(" ") });
      i = end + 1;
    }
  }
  return found;
}

function barX(tick, width) {
  return bar.left + ((tick - bar.from) / Math.max(1, bar.to - bar.from)) * (width - bar.left - 8);
}

function tickAt(x, width) {
  return bar.from + ((x - bar.left) / (width - bar.left - 8)) * (bar.to - bar.from);
}

function paintLanes() {
  bar.lanes = laneList();
  const ratio = window.devicePixelRatio || 1;
  const width = byId("timebar").clientWidth;
  const height = bar.lanes.length * LANE + 18;
  laneCanvas.width = Math.round(width * ratio);
  laneCanvas.height = Math.round(height * ratio);
  laneCanvas.style.height = `${height}px`;
  const ctx = laneCanvas.getContext("2d");
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, width, height);
  ctx.font = "11px ui-monospace, monospace";
  ctx.textBaseline = "middle";
  bar.lanes.forEach((lane, row) => {
    const y = row * LANE;
    ctx.fillStyle = colours.quiet;
    ctx.textAlign = "right";
    const name = lane.name.length > 18 ? `${lane.name.slice(0, 17)}…` : lane.name;
    ctx.fillText(name, bar.left - 6, y + LANE / 2);
    ctx.fillStyle = colours.sheet;
    // Ticks that the take does not have stay empty.
    for (const { first, count } of view.take.stretches) {
      const [x0, x1] = [Math.max(bar.left, barX(first, width)), Math.min(width - 8, barX(first + count, width))];
      if (x1 > x0) ctx.fillRect(x0, y + 1, Math.max(1, x1 - x0), LANE - 2);
    }
    ctx.fillStyle = colours[lane.colour];
    let drawnTo = -1;
    for (const span of lane.spans) {
      const x0 = Math.max(bar.left, barX(span.at[0], width));
      const x1 = Math.min(width - 8, Math.max(barX(span.at[1] + 1, width), x0 + 3));
      // Of thousands that share a pixel one is enough.
      if (x1 <= Math.max(bar.left, drawnTo) || x0 >= width - 8) continue;
      drawnTo = x1;
      if (lane.shape === "warn") {
        ctx.beginPath();
        ctx.moveTo(x0 - 2, y + LANE - 2);
        ctx.lineTo((x0 + x1) / 2, y + 1);
        ctx.lineTo(x1 + 2, y + LANE - 2);
        ctx.fill();
      } else if (lane.shape === "note") {
        ctx.fillRect(x0, y + LANE / 2 - 2, x1 - x0, 4);
      } else {
        ctx.fillRect(x0, y + 2, x1 - x0, LANE - 4);
      }
    }
  });
  ctx.fillStyle = colours.quiet;
  const step = niceStep((bar.to - bar.from) / Math.max(2, (width - bar.left) / 90));
  for (let tick = Math.ceil(bar.from / step) * step; tick <= bar.to; tick += step) {
    const x = barX(tick, width);
    ctx.fillRect(x, height - 18, 1, 4);
    ctx.textAlign = x > width - 40 ? "right" : "center";
    ctx.fillText(String(tick), Math.min(x, width - 4), height - 7);
  }
  moveHead();
}

function niceStep(least) {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  return [1, 2, 5, 10].map((by) => by * power).find((step) => step >= least) ?? 10 * power;
}

function moveHead() {
  const width = byId("timebar").clientWidth;
  byId("head").style.transform = `translateX(${barX(tickNow(), width)}px)`;
}

function showAllTime() {
  const { take } = view;
  bar.from = take.length > 0 ? take.ticks[0] : 0;
  bar.to = take.length > 0 ? take.ticks.at(-1) + 1 : 1;
}

function laneAt(event) {
  const box = laneCanvas.getBoundingClientRect();
  const [x, y] = [event.clientX - box.left, event.clientY - box.top];
  const lane = bar.lanes[Math.floor(y / LANE)];
  const tick = tickAt(x, box.width);
  const near = (4 * (bar.to - bar.from)) / Math.max(1, box.width - bar.left);
  const span = lane?.spans.find(({ at }) => at[0] - near <= tick && tick <= at[1] + 1 + near);
  return { tick, span };
}

const timebar = byId("timebar");
timebar.addEventListener("pointerdown", (event) => {
  timebar.setPointerCapture(event.pointerId);
  pause();
  const { tick, span } = laneAt(event);
  if (span?.finding) choose(span.finding);
  else goToTick(Math.round(tick));
});
timebar.addEventListener("pointermove", (event) => {
  const { tick, span } = laneAt(event);
  byId("lane-note").textContent = span ? `${span.words}: ${span.at[0] === span.at[1] ? `tick ${span.at[0]}` : `ticks ${span.at[0]} to ${span.at[1]}`}` : "";
  if (event.buttons > 0 && !span?.finding) goToTick(Math.round(tick));
});
timebar.addEventListener("wheel", (event) => {
  event.preventDefault();
  const { take } = view;
  if (take.length === 0) return;
  const { tick } = laneAt(event);
  const factor = Math.exp(event.deltaY * 0.0015);
  bar.from = Math.max(take.ticks[0], tick - (tick - bar.from) * factor);
  bar.to = Math.min(take.ticks.at(-1) + 1, Math.max(bar.from + 10, tick + (bar.to - tick) * factor));
  paintLanes();
}, { passive: false });
timebar.addEventListener("dblclick", () => { showAllTime(); paintLanes(); });

on("take", () => { showAllTime(); paintLanes(); });
on("theme filter follow finding", paintLanes);
on("tick", () => {
  moveHead();
  timebar.setAttribute("aria-valuenow", tickNow());
  timebar.setAttribute("aria-valuetext", `tick ${tickNow()}, ${seconds(tickNow())}`);
});
