// What the page shows now, and who wants to know when that changes.

const SEVERITIES = ["error", "warn", "note"];
const SEVERITY_WORDS = { error: "error", warn: "warning", note: "note" };
const SEVERITY_SIGNS = { error: "✖", warn: "▲", note: "●" };

const view = {
  take: null,
  index: 0,
  finding: null,
  isPlaying: false,
  speed: 1,
  loops: false,
  follow: "",
  onion: 0,
  measures: false,
  measured: [],
  pair: [null, null],
  mark: null,
  hidden: new Set(),
  tab: "findings",
};

const listeners = new Map();

// Kinds: take, tick, finding, switches, camera, pair, theme.
function on(kinds, listener) {
  for (const kind of kinds.split(" ")) listeners.set(kind, [...(listeners.get(kind) ?? []), listener]);
}

function tell(kind) {
  for (const listener of listeners.get(kind) ?? []) listener();
}

function tickNow() {
  return view.take.length === 0 ? 0 : view.take.ticks[view.index];
}

function openTake(number) {
  view.take = loadTake(number);
  view.index = 0;
  view.finding = null;
  view.loops = false;
  view.measured = [];
  view.mark = null;
  tell("take");
}

function goTo(index) {
  const wanted = Math.max(0, Math.min(view.take.length - 1, index));
  if (wanted === view.index) return;
  view.index = wanted;
  tell("tick");
}

function goToTick(tick) {
  goTo(view.take.indexOf(tick));
}

function choose(finding) {
  view.finding = finding;
  view.mark = null;
  if (finding) {
    goToTick(finding.worst.tick);
    if (!view.follow) lookAt(...finding.worst.at);
  } else {
    view.loops = false;
  }
  tell("finding");
}

function instanceOf(label) {
  return view.take.tracks.find((track) => track.label === label) ?? null;
}

function isShown(what) {
  return !view.hidden.has(what);
}

// Place in the page's address, so that a link leads to a moment.
function address() {
  const parts = [`take=${view.take.number}`, `tick=${tickNow()}`];
  if (view.finding) parts.push(`finding=${view.finding.number}`);
  return `#${parts.join("&")}`;
}

function readAddress() {
  const wanted = new URLSearchParams(location.hash.slice(1));
  const number = (name) => (/^\d+$/.test(wanted.get(name) ?? "") ? Number(wanted.get(name)) : null);
  return { take: number("take"), tick: number("tick"), finding: number("finding") };
}

function followAddress() {
  const { take, tick, finding } = readAddress();
  const wanted = Math.max(1, Math.min(takeBlocks.length, take ?? view.take?.number ?? 1));
  if (view.take?.number !== wanted) openTake(wanted);
  if (finding !== null) choose(view.take.findings[finding - 1] ?? null);
  if (tick !== null) goToTick(tick);
}
