// Playing, switches, keys.

let playedTo = 0;

function play() {
  if (view.isPlaying || view.take.length < 2) return;
  if (!view.loops && view.index === view.take.length - 1) goTo(0);
  view.isPlaying = true;
  playedTo = performance.now();
  requestAnimationFrame(playOn);
  tell("playing");
}

function pause() {
  if (!view.isPlaying) return;
  view.isPlaying = false;
  tell("playing");
}

// The places between which it plays.
function range() {
  if (!view.loops || !view.finding) return [0, view.take.length - 1];
  const [first, last] = view.finding.ticks;
  return [Math.max(0, view.take.indexOf(first) - 12), Math.min(view.take.length - 1, view.take.indexOf(last) + 12)];
}

function playOn(now) {
  if (!view.isPlaying) return;
  const step = 1000 / (data.tick_rate * view.speed);
  // A page that was not seen for a while does not race after it.
  const by = Math.min(Math.floor((now - playedTo) / step), 64);
  if (by > 0) {
    playedTo = by === 64 ? now : playedTo + by * step;
    const [first, last] = range();
    const wanted = view.index + by;
    if (wanted <= last) goTo(Math.max(first, wanted));
    else if (view.loops) goTo(first);
    else {
      goTo(last);
      pause();
      return;
    }
  }
  requestAnimationFrame(playOn);
}

function step(by) {
  pause();
  goTo(view.index + by);
}

function setLoop(loops) {
  view.loops = loops && view.finding !== null;
  byId("loop").setAttribute("aria-pressed", view.loops);
  if (view.loops) {
    goTo(range()[0]);
    play();
  }
}

function setMeasure(measures) {
  view.measures = measures;
  view.measured = [];
  byId("measure").setAttribute("aria-pressed", measures);
  note(measures ? "Click where to measure from." : "");
  ask("over");
}

const systemIsLight = matchMedia("(prefers-color-scheme: light)");

function applyTheme(theme) {
  const isLight = theme === "light" || (theme === "system" && systemIsLight.matches);
  document.documentElement.dataset.theme = isLight ? "light" : "dark";
  byId("theme").value = theme;
  readColours();
}

function setTheme(theme) {
  applyTheme(theme);
  tell("theme");
}

function nextTheme() {
  const all = ["system", "dark", "light"];
  setTheme(all[(all.indexOf(byId("theme").value) + 1) % all.length]);
}

const KEYS = [
  [" ", "space", "play or pause", () => (view.isPlaying ? pause() : play())],
  ["ArrowLeft", "left", "one tick back; with shift ten", (event) => step(event.shiftKey ? -10 : -1)],
  ["ArrowRight", "right", "one tick on; with shift ten", (event) => step(event.shiftKey ? 10 : 1)],
  ["Home", "home", "first tick", () => step(-view.take.length)],
  ["End", "end", "last tick", () => step(view.take.length)],
  ["n", "n", "next finding", () => toFinding(1)],
  ["p", "p", "previous finding", () => toFinding(-1)],
  ["l", "l", "loop over the chosen finding", () => setLoop(!view.loops)],
  ["+", "+", "zoom in", () => zoomAt(camera.width / 2, camera.height / 2, 1.25)],
  ["-", "-", "zoom out", () => zoomAt(camera.width / 2, camera.height / 2, 0.8)],
  ["0", "0", "whole stage", () => { view.follow = ""; showWhole(); tell("follow"); }],
  ["f", "f", "follow the next actor, or none", nextToFollow],
  ["m", "m", "measure", () => setMeasure(!view.measures)],
  ["o", "o", "onion skin", nextOnion],
  ["t", "t", "theme", nextTheme],
  ["/", "/", "search the findings", () => { showTab("findings"); byId("search").focus(); }],
  ["?", "?", "these keys", () => byId("help").showModal()],
  ["Escape", "escape", "close, or end measuring", () => (view.measures ? setMeasure(false) : choose(null))],
];

function nextToFollow() {
  const labels = ["", ...view.take.tracks.map((track) => track.label)];
  setFollow(labels[(labels.indexOf(view.follow) + 1) % labels.length]);
}

function setFollow(label) {
  view.follow = label;
  if (label && camera.zoom < 1) camera.zoom = 2;
  keepUp();
  tell("follow");
  tell("camera");
}

function nextOnion() {
  const all = [0, 2, 4, 8];
  setOnion(all[(all.indexOf(view.onion) + 1) % all.length]);
}

function setOnion(ticks) {
  view.onion = ticks;
  byId("onion").value = String(ticks);
  ask("over");
}

function isTyping(target) {
  return target.matches("input:not([type=checkbox]), select, textarea") || target.closest("dialog") !== null;
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  // A button's own keys stay its own; tabs move by arrows.
  const isButton = event.target.matches("button, summary, input");
  if (isButton && [" ", "Enter"].includes(event.key)) return;
  if (event.target.matches("[role=tab]") && event.key.startsWith("Arrow")) return;
  const found = KEYS.find(([key]) => key === event.key);
  if (!found) return;
  event.preventDefault();
  found[3](event);
});

function buildSwitches() {
  const one = (what, words) => make("label", {},
    make("input", { type: "checkbox", checked: true, "data-what": what, onchange: (event) => { view.hidden[event.target.checked ? "delete" : "add"](what); tell("switches"); } }), ` ${words}`);
  const swatch = (role) => make("span", { class: `swatch ${role}`, "aria-hidden": "true" });
  const group = (name, list) => make("fieldset", {}, make("legend", {}, name), ...list);
  const role = (name) => { const label = one(name, name); label.append(swatch(name)); return label; };
  byId("switch-list").append(
    group("Shapes", ROLES.map(role)),
    group("Stage", [one("stage", "solids and platforms"), one("zones", "zones")]),
    group("Besides", [one("art", "art"), one("names", "names")]),
    group("Layers", data.layers.layers.map((layer) => one(`layer ${layer.name}`, layer.name))));
}

function wireControls() {
  const click = (id, what) => byId(id).addEventListener("click", what);
  const change = (id, what) => byId(id).addEventListener("change", (event) => what(event.target.value));
  click("play", () => (view.isPlaying ? pause() : play()));
  click("back", () => step(-1));
  click("ahead", () => step(1));
  click("loop", () => setLoop(!view.loops));
  click("measure", () => setMeasure(!view.measures));
  click("zoom-in", () => zoomAt(camera.width / 2, camera.height / 2, 1.25));
  click("zoom-out", () => zoomAt(camera.width / 2, camera.height / 2, 0.8));
  click("zoom-fit", () => { view.follow = ""; showWhole(); tell("follow"); });
  click("help-open", () => byId("help").showModal());
  change("speed", (value) => { view.speed = Number(value); });
  change("onion", (value) => setOnion(Number(value)));
  change("follow", setFollow);
  change("theme", setTheme);
  change("take", (value) => { pause(); openTake(Number(value)); showAtFirst(); });
  change("tick", (value) => { pause(); goToTick(Number(value)); });
  byId("keys").append(...KEYS.flatMap(([, key, words]) => [make("dt", {}, make("kbd", {}, key)), make("dd", {}, words)]));
  options(byId("take"), data.summary.takes.map((take, index) => [String(index + 1), take.take]));
  byId("take").closest("label").hidden = takeBlocks.length < 2;
  buildSwitches();
  on("playing", () => { byId("play").textContent = view.isPlaying ? "Pause" : "Play"; });
  on("finding", () => {
    byId("loop").disabled = view.finding === null;
    byId("loop").setAttribute("aria-pressed", view.loops);
  });
  on("follow camera", () => { byId("follow").value = view.follow; });
}
