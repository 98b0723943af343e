// Elements; texts are set as text, so what users name stays text.

function byId(id) {
  return document.getElementById(id);
}

function make(tag, values, ...children) {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(values ?? {})) {
    if (name === "class") element.className = value;
    else if (name.startsWith("on")) element.addEventListener(name.slice(2), value);
    else if (name in element && name !== "list") element[name] = value;
    else element.setAttribute(name, value);
  }
  element.append(...children.filter((child) => child !== null && child !== undefined));
  return element;
}

function table(caption, head, rows) {
  const row = (cells) => make("tr", {}, ...cells.map((cell) => (cell instanceof Node && cell.tagName === "TD" ? cell : make("td", {}, cell))));
  return make("div", { class: "scroll", tabIndex: 0, role: "region", "aria-label": caption }, make("table", {},
    make("caption", {}, caption),
    make("thead", {}, make("tr", {}, ...head.map((words) => make("th", { scope: "col" }, words)))),
    make("tbody", {}, ...rows.map(row))));
}

function options(select, list) {
  select.replaceChildren(...list.map(([value, words]) => make("option", { value }, words)));
}

// Two decimals, as tables have them.
function px(number) {
  return `${number.toFixed(2)} px`;
}

const UNITS = { px2: "px²", degrees: "°" };

function figure(finding) {
  const { unit } = finding;
  const decimals = { px: 2, px2: 0, degrees: 1 }[unit] ?? 0;
  const words = finding.figure.toFixed(decimals);
  return unit === "degrees" ? `${words}°` : `${words} ${UNITS[unit] ?? unit}`;
}

function seconds(tick) {
  return `${(tick / data.tick_rate).toFixed(2)} s`;
}

function count(number, word) {
  return `${number} ${word}${number === 1 ? "" : "s"}`;
}
