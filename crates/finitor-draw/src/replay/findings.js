// Findings: the list with its filters, and the chosen one in full.

const filter = { rule: "", actor: "", words: "", severities: new Set(SEVERITIES), all: false };
const MOST_ROWS = 300;

// A finding that follows from another is counted with that one, as in the tables.
function isListed(finding) {
  if (finding.follows && !filter.all) return false;
  if (!filter.severities.has(finding.severity)) return false;
  if (filter.rule && finding.rule !== filter.rule) return false;
  if (filter.actor && finding.subject !== filter.actor) return false;
  if (!filter.words) return true;
  const text = `${finding.rule} ${finding.subject}.${finding.shape} ${finding.with} ${finding.message} ${finding.fix} ${finding.cause}`;
  return filter.words.toLowerCase().split(/\s+/).every((word) => text.toLowerCase().includes(word));
}

function listed() {
  return view.take.findings.filter(isListed);
}

function ticksWords(finding) {
  const [first, last] = finding.ticks;
  return first === last ? `tick ${first}` : `ticks ${first} to ${last}`;
}

function buildFindings(panel) {
  const changed = () => tell("filter");
  const rule = make("select", { id: "filter-rule", onchange: (event) => { filter.rule = event.target.value; changed(); } });
  const actor = make("select", { id: "filter-actor", onchange: (event) => { filter.actor = event.target.value; changed(); } });
  const search = make("input", { id: "search", type: "search", placeholder: "Search", oninput: (event) => { filter.words = event.target.value.trim(); changed(); } });
  const boxes = SEVERITIES.map((severity) => make("label", {},
    make("input", {
      type: "checkbox", checked: true, id: `filter-${severity}`,
      onchange: (event) => { filter.severities[event.target.checked ? "add" : "delete"](severity); changed(); },
    }), ` ${SEVERITY_SIGNS[severity]} ${SEVERITY_WORDS[severity]}s`));
  const all = make("label", { title: "Findings that follow from another one" },
    make("input", { type: "checkbox", id: "filter-all", onchange: (event) => { filter.all = event.target.checked; changed(); } }), " and what follows");
  panel.append(
    make("div", { class: "filters" },
      make("label", {}, "Rule ", rule), make("label", {}, "Actor ", actor), make("label", {}, "Find ", search),
      make("div", { class: "boxes" }, ...boxes, all)),
    make("div", { id: "chosen" }),
    make("p", { id: "listed" }),
    make("ul", { id: "list", "aria-label": "Findings" }));
  on("take", () => {
    const unique = (of) => [...new Set(view.take.findings.map(of))].sort();
    filter.rule = "";
    filter.actor = "";
    options(rule, [["", "all rules"], ...unique((finding) => finding.rule).map((name) => [name, name])]);
    options(actor, [["", "all actors"], ...unique((finding) => finding.subject).map((name) => [name, name])]);
    showList();
    showChosen();
  });
  on("filter", () => { showList(); ask("over"); });
  on("finding", () => { showChosen(); markChosen(); });
  on("theme art", paintChosen);
}

function showList() {
  const found = listed();
  const total = view.take.findings.length;
  byId("listed").textContent = total === 0
    ? "Nothing was found in this take."
    : found.length === 0 ? "No finding is left by the filters." : `${count(found.length, "finding")} of ${total}; choose one to go there.`;
  const row = (finding) => make("li", {},
    make("button", { type: "button", class: `finding ${finding.severity}`, "data-number": finding.number, onclick: () => { pause(); choose(finding); } },
      make("span", { class: "sign", "aria-hidden": "true" }, SEVERITY_SIGNS[finding.severity]),
      make("span", { class: "what" }, `${SEVERITY_WORDS[finding.severity]} ${finding.rule}`),
      make("span", { class: "figure" }, figure(finding)),
      make("span", { class: "who" }, `${finding.subject}.${finding.shape}, ${ticksWords(finding)}`)));
  const rows = found.slice(0, MOST_ROWS).map(row);
  if (found.length > MOST_ROWS) rows.push(make("li", {}, `and ${found.length - MOST_ROWS} more: filter by rule, actor or words`));
  byId("list").replaceChildren(...rows);
  markChosen();
}

function markChosen() {
  for (const button of byId("list").querySelectorAll("button")) {
    const isIt = Number(button.dataset.number) === view.finding?.number;
    button.setAttribute("aria-current", isIt);
  }
}

// The next finding of the list in time, from the chosen one or from the tick.
function toFinding(by) {
  const found = listed();
  if (found.length === 0) return;
  pause();
  const at = found.indexOf(view.finding);
  if (at >= 0) {
    choose(found[(at + by + found.length) % found.length]);
    return;
  }
  const tick = tickNow();
  choose(by > 0 ? found.find((finding) => finding.worst.tick > tick) ?? found[0] : found.findLast((finding) => finding.worst.tick < tick) ?? found.at(-1));
}

const MINI = { width: 190, height: 130 };

function showChosen() {
  const { finding } = view;
  const box = byId("chosen");
  if (!finding) {
    box.replaceChildren();
    return;
  }
  const { tick } = finding.worst;
  const before = view.take.ticks[Math.max(0, view.take.indexOf(tick) - 1)];
  const root = finding.after && view.take.findings.find((of) => of.rule === finding.after.rule && of.subject === finding.after.subject && of.with === finding.after.with && of.ticks[0] === finding.after.first_tick);
  const mini = (id, at) => make("figure", {},
    make("canvas", { id, role: "img", "aria-label": `The place at tick ${at}` }),
    make("figcaption", {}, make("button", { type: "button", onclick: () => { pause(); goToTick(at); } }, at === tick ? `worst, tick ${at}` : `before, tick ${at}`)));
  const row = (name, ...value) => [make("dt", {}, name), make("dd", {}, ...value)];
  box.replaceChildren(
    make("h2", { class: finding.severity }, `${SEVERITY_SIGNS[finding.severity]} ${SEVERITY_WORDS[finding.severity]} ${finding.rule}: ${figure(finding)}`),
    make("p", { class: "message" }, finding.message),
    make("p", { class: "fix" }, make("strong", {}, "Fix: "), finding.fix),
    make("div", { class: "pair" }, mini("before", before), mini("after", tick)),
    make("dl", {},
      ...row("When", `${ticksWords(finding)} (${seconds(finding.ticks[0])}), worst at ${tick}`),
      ...row("Who", `${finding.subject}.${finding.shape} and ${finding.with}`),
      ...row("Cause", finding.cause),
      ...(finding.remains === undefined ? [] : row("With the fix", finding.remains === 0 ? "gone" : `${finding.remains} ${UNITS[finding.unit] ?? finding.unit} remain`)),
      ...(root ? row("Follows from", make("button", { type: "button", onclick: () => choose(root) }, `${root.rule}, tick ${root.ticks[0]}`)) : [])),
    make("div", { class: "steps" },
      make("button", { type: "button", onclick: () => toFinding(-1) }, "Previous"),
      make("button", { type: "button", onclick: () => toFinding(1) }, "Next"),
      make("button", { type: "button", onclick: () => { view.follow = ""; lookAt(...finding.worst.at); goToTick(tick); } }, "Show the place"),
      make("button", { type: "button", id: "copy-link", onclick: copyLink }, "Copy link"),
      make("button", { type: "button", onclick: () => choose(null) }, "Close")));
  paintChosen();
  byId("panels").scrollTop = 0;
}

function copyLink() {
  const link = `${location.href.split("#")[0]}${address()}`;
  const tellIt = (words) => { byId("live").textContent = words; };
  const written = navigator.clipboard?.writeText(link);
  if (written) written.then(() => tellIt("Link copied."), () => tellIt(link));
  else tellIt(link);
}

// The same place on the tick before and on the worst one.
function paintChosen() {
  const { finding } = view;
  if (!finding || !byId("before")) return;
  const worst = view.take.indexOf(finding.worst.tick);
  const ratio = window.devicePixelRatio || 1;
  for (const [id, index] of [["before", Math.max(0, worst - 1)], ["after", worst]]) {
    const canvas = byId(id);
    canvas.width = MINI.width * ratio;
    canvas.height = MINI.height * ratio;
    const depth = finding.unit === "px" ? finding.figure : 8;
    const zoom = Math.max(1, Math.min(4, MINI.height / (depth * 2 + 40)));
    const of = { ...MINI, x: finding.worst.at[0], y: finding.worst.at[1], zoom };
    const ctx = canvas.getContext("2d");
    const box = worldOf(ctx, of);
    paintStage(ctx, box, zoom);
    paintActors(ctx, index, zoom);
    if (id === "after") paintFinding(ctx, finding, zoom);
  }
}
