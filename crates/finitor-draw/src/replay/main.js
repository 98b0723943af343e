// Puts the parts together.

const TABS = [
  ["takes", "Takes", buildTakes],
  ["findings", "Findings", buildFindings],
  ["events", "Events", buildEvents],
  ["layers", "Layers", buildLayers],
  ["fits", "Fits", buildFits],
  ["moves", "Moves", buildMoves],
  ["room", "Room", buildRoom],
];

function buildTakes(panel) {
  const { takes, rules } = data.summary;
  if (takes.length < 2) return false;
  const open = (number, tick) => { pause(); openTake(number); showAtFirst(); if (tick !== undefined) goToTick(tick); showTab("findings"); };
  const rows = takes.map((take, index) => [
    make("button", { type: "button", onclick: () => open(index + 1) }, take.take),
    `${take.ticks} (${seconds(take.ticks)})`, String(take.errors), String(take.warnings), String(take.notes),
  ]);
  panel.append(
    make("h2", {}, count(takes.length, "take")),
    table("Findings by take", ["take", "ticks", "errors", "warnings", "notes"], rows),
    make("h2", {}, "Rules that were broken"),
    rules.length === 0 ? make("p", {}, "None.") : table("Findings by rule", ["rule", "findings", "takes", "worst"], rules.map((rule) => [
      rule.rule, String(rule.findings), String(rule.takes),
      make("td", {}, make("button", { type: "button", onclick: () => open(takes.findIndex((take) => take.take === rule.worst.take) + 1, rule.worst.tick) },
        figure({ ...rule.worst, unit: rule.unit })), ` ${rule.worst.take}, tick ${rule.worst.tick}`)])));
  return true;
}

function buildTabs() {
  for (const [id, words, build] of TABS) {
    const panel = make("div", { id, role: "tabpanel", tabIndex: -1, "aria-labelledby": `tab-${id}` });
    byId("panels").append(panel);
    if (build(panel) === false) {
      panel.remove();
      continue;
    }
    byId("tabs").append(make("button", {
      type: "button", id: `tab-${id}`, role: "tab", "aria-controls": id, onclick: () => showTab(id),
      onkeydown: (event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!by) return;
        const all = [...byId("tabs").children];
        const next = all[(all.indexOf(event.target) + by + all.length) % all.length];
        next.focus();
        next.click();
      },
    }, words));
  }
}

function showTab(wanted) {
  const all = [...byId("tabs").children].map((tab) => tab.getAttribute("aria-controls"));
  view.tab = all.includes(wanted) ? wanted : "findings";
  for (const id of all) {
    const is = id === view.tab;
    byId(id).hidden = !is;
    byId(`tab-${id}`).setAttribute("aria-selected", is);
    byId(`tab-${id}`).tabIndex = is ? 0 : -1;
  }
}

function showTake() {
  const { take } = view;
  const [first, last] = take.length > 0 ? [take.ticks[0], take.ticks.at(-1)] : [0, 0];
  byId("take").value = String(take.number);
  Object.assign(byId("tick"), { min: first, max: last });
  timebar.setAttribute("aria-valuemin", first);
  timebar.setAttribute("aria-valuemax", last);
  options(byId("follow"), [["", "nobody"], ...take.tracks.map((track) => [track.label, track.label])]);
  const roots = take.findings.filter((finding) => !finding.follows);
  const of = (severity) => count(roots.filter((finding) => finding.severity === severity).length, SEVERITY_WORDS[severity]);
  byId("counts").textContent = `${take.name}: ${SEVERITIES.map(of).join(", ")} in ${count(take.check.ticks, "tick")}`;
  tell("finding");
  showTick();
}

function showTick() {
  if (view.take.length === 0) return;
  const tick = tickNow();
  if (document.activeElement !== byId("tick")) byId("tick").value = tick;
  byId("time").textContent = seconds(tick);
  keepUp();
}

// Read out and written to the address only when it rests: not on every tick that is played.
let resting = null;

function settle() {
  clearTimeout(resting);
  resting = setTimeout(() => {
    if (view.isPlaying || view.take.length === 0) return;
    history.replaceState(null, "", address());
    const tick = tickNow();
    const now = view.take.findingsAt(tick).filter(isListed);
    const named = now.map((finding) => `${SEVERITY_WORDS[finding.severity]} ${finding.rule}, ${figure(finding)}, ${finding.subject}`);
    byId("live").textContent = `Tick ${tick}, ${seconds(tick)}: ${named.join("; ") || "nothing found"}.`;
  }, 150);
}

// A page that is served says when there is a newer one, and comes back to the same place.
const KEPT = "finitor-view";

function keepPlace() {
  const { x, y, zoom } = camera;
  const kept = { camera: { x, y, zoom }, follow: view.follow, tab: view.tab, hidden: [...view.hidden], onion: view.onion, theme: byId("theme").value, words: filter.words, isPlaying: view.isPlaying, speed: byId("speed").value };
  history.replaceState(null, "", address());
  sessionStorage.setItem(KEPT, JSON.stringify(kept));
}

function takePlace() {
  const text = sessionStorage.getItem(KEPT);
  if (!text) return;
  sessionStorage.removeItem(KEPT);
  const kept = JSON.parse(text);
  Object.assign(camera, kept.camera);
  view.follow = instanceOf(kept.follow) ? kept.follow : "";
  view.hidden = new Set(kept.hidden);
  for (const box of byId("switch-list").querySelectorAll("input")) box.checked = isShown(box.dataset.what);
  setOnion(kept.onion);
  setTheme(kept.theme);
  byId("speed").value = kept.speed;
  view.speed = Number(kept.speed);
  filter.words = byId("search").value = kept.words;
  showTab(kept.tab);
  for (const kind of ["filter", "follow", "switches", "camera"]) tell(kind);
  if (kept.isPlaying) play();
}

function renew() {
  if (document.body.dataset.renews !== "true") return;
  const events = new EventSource("/events");
  // Events carry the version of the page that there is now; the first one comes at once.
  events.addEventListener("page", (event) => {
    if (event.data === document.body.dataset.version) {
      note("");
      return;
    }
    keepPlace();
    location.reload();
  });
  events.addEventListener("trouble", (event) => { byId("live").textContent = event.data; note(event.data); });
}

applyTheme("system");
wireControls();
buildTabs();
on("take", showTake);
on("tick", showTick);
on("tick finding take playing", settle);
const wanted = readAddress();
openTake(Math.max(1, Math.min(takeBlocks.length, wanted.take ?? 1)));
showTab(takeBlocks.length > 1 && wanted.take === null ? "takes" : "findings");
fitCanvases();
showAtFirst();
tell("follow");
followAddress();
if (document.body.dataset.renews === "true") takePlace();
window.addEventListener("hashchange", followAddress);
systemIsLight.addEventListener("change", () => setTheme(byId("theme").value));
let width = 0;
new ResizeObserver(() => {
  fitCanvases();
  if (width !== byId("timebar").clientWidth) paintLanes();
  width = byId("timebar").clientWidth;
}).observe(byId("view"));
renew();
// For who measures how long it takes to draw.
window.finitor = { view, camera, drawn, goTo, toWorld };
