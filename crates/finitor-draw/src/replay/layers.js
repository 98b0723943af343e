// Layers and masks, and why any two things affect each other or not.

const pairByKinds = new Map(data.layers.pairs.map((pair) => [pair.kinds.join(" "), pair]));

// What two things mean to each other: sentences with their names, or null where they never could.
function relationOf(one, other) {
  const [a, b] = [kindOf(one.name, one.states), kindOf(other.name, other.states)];
  if (a === null || b === null) return null;
  const pair = pairByKinds.get(`${a} ${b}`);
  if (!pair) return { hasEffect: false, follows: [`No effect, whatever the masks: a ${data.layers.kinds[a].role} and a ${data.layers.kinds[b].role} never act on each other.`], detects: [], fix: null };
  const names = { "{a}": one.name, "{b}": other.name };
  const named = (sentence) => data.layers.sentences[sentence].replaceAll(/\{[ab]\}/g, (name) => names[name]);
  return { hasEffect: pair.has_effect, follows: pair.follows.map(named), detects: pair.detects.map(named), fix: pair.fix === undefined ? null : named(pair.fix) };
}

function pairWords(one, other) {
  return relationOf(one, other)?.follows.join(" ") ?? "";
}

function buildLayers(panel) {
  const { layers, contact } = data.layers;
  const mark = (mask, name) => make("td", { class: mask.includes(name) ? "yes" : "no" }, mask.includes(name) ? "yes" : "–");
  const names = data.layers.parties.map((party) => [party.name, party.name]);
  const pick = (index) => make("select", { id: `pair-${index}`, onchange: (event) => { view.pair[index] = event.target.value ? { name: event.target.value, states: 0 } : null; tell("pair"); } });
  const picks = [pick(0), pick(1)];
  for (const select of picks) options(select, [["", "choose"], ...names]);
  panel.append(
    make("h2", {}, "Why do two things affect each other?"),
    make("p", {}, "Click a shape on the stage, then another shape or thing; or choose:"),
    make("div", { class: "filters" }, make("label", {}, "First ", picks[0]), make("label", {}, "Second ", picks[1])),
    make("div", { id: "why", "aria-live": "polite" }),
    make("h2", {}, "What layers detect unless a shape says otherwise"),
    make("p", {}, contact === "both" ? "Two bodies stop each other where both masks detect the other." : "Two bodies stop each other where one mask detects the other."),
    table("Rows detect columns", ["", ...layers.map((layer) => layer.name)],
      layers.map((row) => [make("td", {}, make("strong", {}, row.name)), ...layers.map((layer) => mark(row.detects, layer.name))])));
  on("pair", () => {
    const [one, other] = view.pair;
    picks.forEach((select, index) => { select.value = view.pair[index]?.name ?? ""; });
    const box = byId("why");
    if (!one || !other) {
      box.replaceChildren();
      return;
    }
    const found = relationOf(one, other);
    const states = [one, other].flatMap((of) => data.layers.states[of.states]);
    const kinds = [one, other].map((of) => {
      const kind = data.layers.kinds[kindOf(of.name, of.states)];
      return [of.name, kind.role, kind.on.join(", ") || "no layer", kind.detects.join(", ") || "nothing"];
    });
    box.replaceChildren(
      make("p", { class: found.hasEffect ? "effect" : "no-effect" }, found.follows.join(" ")),
      ...found.detects.map((sentence) => make("p", {}, sentence)),
      ...(found.fix ? [make("p", { class: "fix" }, make("strong", {}, "To change that: "), `${found.fix}.`)] : []),
      ...(states.length > 0 ? [make("p", {}, `While ${states.join(", ")}.`)] : []),
      table("The two", ["thing", "is a", "on", "detects"], kinds));
  });
}
