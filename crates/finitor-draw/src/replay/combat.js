// Hits and zones in time; moves and reach; room.

function jump(tick, at) {
  return make("button", { type: "button", onclick: () => { pause(); view.mark = at ? [at[0] - 8, at[1] - 8, 16, 16] : null; goToTick(tick); ask("over"); } }, String(tick));
}

function buildEvents(panel) {
  panel.append(make("div", { id: "events" }));
  on("take", () => {
    const { hits, events, zones } = view.take.check;
    const rows = hits.map((hit) => {
      const part = hit.part ? ` (${hit.part})` : "";
      return [jump(hit.tick, hit.at), `${hit.by}.${hit.shape}`, `${hit.on}.${hit.hurt}${part}`, hit.damage === null || hit.damage === undefined ? "–" : String(hit.damage), hit.factor === 1 ? "–" : `× ${hit.factor}`];
    });
    const boxes = [make("h2", {}, "Hits")];
    boxes.push(rows.length > 0 ? table(count(rows.length, "first contact"), ["tick", "strikes", "struck", "damage", "factor"], rows) : make("p", {}, "No hit in this take."));
    boxes.push(make("h2", {}, "Zones"));
    boxes.push(events.length > 0
      ? table(count(events.length, "event"), ["tick", "zone", "who", "what"], events.map((event) => [jump(event.tick), event.zone, event.actor, event.kind]))
      : make("p", {}, "No zone was entered in this take."));
    if (zones.length > 0) {
      boxes.push(table("In zones", ["zone", "effect", "who", "entered", "ticks"], zones.map((zone) => [zone.zone, zone.effect, zone.actor, String(zone.entered), `${zone.ticks} (${zone.first_tick} to ${zone.last_tick})`])));
    }
    byId("events").replaceChildren(...boxes);
  });
}

function buildMoves(panel) {
  if (data.moves.length === 0) return false;
  for (const { actor, moves } of data.moves) {
    panel.append(make("h2", {}, `Attacks of ${actor}`));
    const rows = moves.map((of) => [
      `${of.animation} ${of.shape}${of.facing === "both" ? "" : `, facing ${of.facing}`}`,
      String(of.startup_ticks), `${of.active_ticks}${of.pause_ticks > 0 ? ` + ${of.pause_ticks} between` : ""}`, String(of.recovery_ticks),
      of.damage === null || of.damage === undefined ? "–" : String(of.damage),
    ]);
    panel.append(table("Ticks", ["attack", "startup", "active", "recovery", "damage"], rows));
    const struck = moves.flatMap((of) => of.targets.map((target) => make("li", {}, `${of.animation} ${of.shape} strikes ${target.actor} (${target.parts.join(", ")}), safe from ${px(target.safe_from_px)} on`)));
    panel.append(struck.length > 0 ? make("ul", {}, ...struck) : make("p", {}, "Strikes nobody on level ground."));
  }
  for (const reach of data.reach) panel.append(...reachChart(reach));
  return true;
}

// Bars of distances, from pivot to pivot ahead of the attacker.
function reachChart(reach) {
  const bands = reach.attacks.flatMap((of) => of.parts.flatMap((part) => part.reach_px));
  const least = Math.min(0, ...bands.map(([from]) => from));
  const most = Math.max(1, ...bands.map(([, to]) => to));
  const across = (distance) => `${((distance - least) / (most - least)) * 100}%`;
  const bar = ([from, to], name) => {
    const band = make("span", { class: "band", title: `${name}: ${px(from)} to ${px(to)}` });
    band.style.left = across(from);
    band.style.width = `calc(${across(to)} - ${across(from)})`;
    return band;
  };
  const rows = reach.attacks.flatMap((of) => of.parts.map((part) => {
    const title = `${of.animation} ${of.shape}${of.target_looks === "either" ? "" : `, target looks ${of.target_looks}`}`;
    const words = part.reach_px.map(([from, to]) => `${from.toFixed(1)} to ${to.toFixed(1)}`).join(", ");
    const line = make("div", { class: "bands" }, ...part.reach_px.map((band) => bar(band, part.part)));
    if (of.bodies_apart_px !== null && of.bodies_apart_px !== undefined) {
      const apart = make("span", { class: "apart", title: `bodies are apart from ${px(of.bodies_apart_px)} on` });
      apart.style.left = across(Math.max(least, of.bodies_apart_px));
      line.append(apart);
    }
    return [title, part.part, make("td", { class: "chart" }, line), words];
  }));
  return [
    make("h2", {}, `${reach.attacker} against ${reach.target}`),
    make("p", {}, `Distances at which what is struck, px from pivot to pivot, ${least.toFixed(0)} to ${most.toFixed(0)}; ${reach.target} stands in ${reach.animation} ${reach.frame}. The upright line: the bodies are apart from there on.`),
    table("Reach", ["attack", "strikes", "from, to", "px"], rows),
  ];
}

function buildRoom(panel) {
  if (!data.clearance) return false;
  const { passages, low, pockets } = data.clearance;
  const look = (words, box) => make("button", { type: "button", onclick: () => { view.follow = ""; lookAt(box[0] + box[2] / 2, box[1] + box[3] / 2); view.mark = box; ask("over"); } }, words);
  const room = (of) => `${of.body}: ${of.spare_px === null ? (of.fits ? "fits" : "longer than the passage") : of.spare_px < 0 ? `${px(-of.spare_px)} short (${of.frame})` : `${px(of.spare_px)} to spare`}`;
  panel.append(make("h2", {}, `Room for bodies on ${data.stage.name}`));
  panel.append(passages.length === 0 ? make("p", {}, "No tight passage.") : table("Tight passages", ["where", "clear", "who gets through"], passages.map((of) => [
    look(`${of.between.join(" – ")}`, [of.at[0] - 8, of.at[1] - of.clear_px / 2, 16, of.clear_px]),
    `${px(of.clear_px)} ${of.kind === "level" ? "high" : "wide"}`, make("ul", {}, ...of.rooms.map((one) => make("li", {}, room(one))))])));
  if (low.length > 0) {
    panel.append(table("Where bodies must stay low", ["where", "low", "as", "would overlap"], low.map((of) => [
      look(`x ${of.x[0].toFixed(0)} to ${of.x[1].toFixed(0)}`, [of.x[0], Math.min(...of.y) - 32, of.x[1] - of.x[0], 32]), of.body, of.as, `${of.in} by ${px(of.depth_px)}`])));
  }
  if (pockets.length > 0) {
    panel.append(table("Pockets that are not left again", ["where", "who", "a jump that leads out"], pockets.map((of) => [
      look(`x ${of.box[0].toFixed(0)} to ${(of.box[0] + of.box[2]).toFixed(0)}`, of.box), of.body, of.needs_px === null ? "none" : px(of.needs_px)])));
  }
  return true;
}
