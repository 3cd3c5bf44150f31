// The sentences of a page, for its scripts. They come with the page, so that they are there without network too.
const all = JSON.parse(document.body.dataset.words ?? "{}");

/** phrase is a sentence of the page, with what it leaves open filled in. One that is missing shows as its name. */
export function phrase(name, fill = {}) {
  return (all[name] ?? name).replace(/\{(\w+)\}/g, (_, hole) => fill[hole] ?? "");
}
