// Making elements without ever parsing foreign text as HTML.

/** el makes an element with properties, data-* and aria-* attributes, and children. */
export function el(name, props = {}, ...children) {
  const node = document.createElement(name);
  for (const [key, value] of Object.entries(props)) {
    if (value === undefined || value === null || value === false) continue;
    if (key.startsWith("on")) node.addEventListener(key.slice(2), value);
    else if (key.includes("-") || key === "for" || key === "role") node.setAttribute(key, value);
    else node[key] = value;
  }
  node.append(...children.flat(2).filter((c) => c !== undefined && c !== null && c !== false));
  return node;
}

/** svg reads a drawing the server made. */
export function svg(text) {
  const drawing = new DOMParser().parseFromString(text.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" '), "image/svg+xml").documentElement;
  return document.importNode(drawing, true);
}

/** newID makes a permanent id for something that happened here; works without https. */
export function newID() {
  return [...crypto.getRandomValues(new Uint8Array(10))].map((b) => b.toString(16).padStart(2, "0")).join("");
}
