// How well shapes fit, frame by frame, the worst first.

const THUMB = { width: 156, height: 120 };

function buildFits(panel) {
  const shown = data.actors.map((actor, index) => [index, actor]).filter(([, actor]) => actor && actor.fits.length > 0);
  const worst = ([, actor]) => Math.min(...actor.fits[0].shapes.map((shape) => shape.iou));
  shown.sort((a, b) => worst(a) - worst(b));
  if (shown.length === 0) return false;
  const select = make("select", { id: "fits-actor", onchange: () => showFits(Number(select.value)) });
  options(select, shown.map(([index, actor]) => [String(index), actor.name]));
  panel.append(
    make("h2", {}, "Fits, the worst first"),
    make("p", {}, "IoU: the area that shape and art share, over the area of both together; 1 is the same."),
    make("label", {}, "Actor ", select),
    make("div", { id: "fits-grid" }));
  const showFits = (index) => {
    const actor = data.actors[index];
    const grid = byId("fits-grid");
    const cells = actor.fits.map((fit) => {
      const pose = actor.poses[fit.pose];
      const canvas = make("canvas", { role: "img", "aria-label": `${actor.name}, ${actor.animations[pose.animation]} ${pose.frame}` });
      canvas.frame = { index, pose };
      const lines = fit.shapes.map((shape) => make("li", {}, `${shape.shape} ${shape.kind}: IoU ${shape.iou.toFixed(3)}, ${count(shape.points, "point")}, off by ${px(shape.deviation)}`));
      return make("figure", { class: "frame" }, canvas,
        make("figcaption", {}, make("strong", {}, `${actor.animations[pose.animation]} ${pose.frame}`), make("ul", {}, ...lines)));
    });
    const rest = actor.fits_left_out > 0 ? [make("p", {}, `and ${count(actor.fits_left_out, "frame")} that fit better`)] : [];
    grid.replaceChildren(...cells, ...rest);
    seen.disconnect();
    for (const canvas of grid.querySelectorAll("canvas")) seen.observe(canvas);
  };
  // Frames are drawn when they come into view.
  const seen = new IntersectionObserver((entries) => {
    for (const entry of entries) if (entry.isIntersecting) paintFrame(entry.target);
  }, { root: null, rootMargin: "200px" });
  on("take", () => showFits(Number(select.value)));
  on("art theme switches", () => {
    for (const canvas of byId("fits-grid").querySelectorAll("canvas")) if (canvas.width !== 300) paintFrame(canvas);
  });
  return true;
}

function paintFrame(canvas) {
  const { index, pose } = canvas.frame;
  const [, , , width, height, left, top] = data.actors[index].art[pose.art];
  const box = boundsOf([[left, top, left + width, top + height], ...pose.shapes.flatMap((shape) => shape.rings)]);
  const zoom = Math.min(4, THUMB.width / (box[2] - box[0] + 6), THUMB.height / (box[3] - box[1] + 6));
  const ratio = window.devicePixelRatio || 1;
  canvas.width = THUMB.width * ratio;
  canvas.height = THUMB.height * ratio;
  const ctx = canvas.getContext("2d");
  const of = { ...THUMB, x: (box[0] + box[2]) / 2, y: (box[1] + box[3]) / 2, zoom };
  const area = worldOf(ctx, of);
  ctx.fillStyle = colours.sheet;
  ctx.fillRect(area[0], area[1], area[2] - area[0], area[3] - area[1]);
  if (isShown("art")) paintArt(ctx, index, pose, [0, 0]);
  paintShapes(ctx, index, pose, [0, 0], zoom, 0);
  ctx.fillStyle = colours.ink;
  ctx.fillRect(-3 / zoom, -0.5 / zoom, 6 / zoom, 1 / zoom);
  ctx.fillRect(-0.5 / zoom, -3 / zoom, 1 / zoom, 6 / zoom);
}
