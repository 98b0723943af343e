// Which part of the world the stage shows.

const camera = { x: 0, y: 0, zoom: 1, width: 1, height: 1 };
const ZOOMS = { least: 0.05, most: 32 };
const NEAR = 2.5;

function zoomed(zoom) {
  return Math.max(ZOOMS.least, Math.min(ZOOMS.most, zoom));
}

function showWhole() {
  const [width, height] = data.stage.size;
  camera.zoom = zoomed(Math.min(camera.width / (width + 16), camera.height / (height + 16)));
  camera.x = width / 2;
  camera.y = height / 2;
  tell("camera");
}

// A stage that does not fit is shown from near, at who moves.
function showAtFirst() {
  showWhole();
  const first = view.take.tracks[0];
  view.follow = camera.zoom < 0.75 && first ? first.label : "";
  if (view.follow) {
    camera.zoom = 2;
    keepUp();
  }
}

// Moves with whom it follows; says whether it moved.
function keepUp() {
  const seen = view.follow ? instanceOf(view.follow)?.at(view.index) : null;
  if (!seen || (camera.x === seen.x && camera.y === seen.y)) return false;
  camera.x = seen.x;
  camera.y = seen.y;
  tell("camera");
  return true;
}

function toWorld(x, y) {
  return [camera.x + (x - camera.width / 2) / camera.zoom, camera.y + (y - camera.height / 2) / camera.zoom];
}

// A place as the project counts it: y up where its takes count so.
function told([x, y]) {
  return [x, data.up_from === undefined ? y : data.up_from - y];
}

function zoomAt(x, y, factor) {
  const [worldX, worldY] = toWorld(x, y);
  const zoom = zoomed(camera.zoom * factor);
  camera.x = worldX - (x - camera.width / 2) / zoom;
  camera.y = worldY - (y - camera.height / 2) / zoom;
  camera.zoom = zoom;
  if (view.follow) keepUp();
  tell("camera");
}

function panBy(x, y) {
  camera.x -= x / camera.zoom;
  camera.y -= y / camera.zoom;
  view.follow = "";
  tell("camera");
}

// From near enough to tell pixels apart.
function lookAt(x, y) {
  camera.x = x;
  camera.y = y;
  camera.zoom = Math.max(camera.zoom, NEAR);
  tell("camera");
}
