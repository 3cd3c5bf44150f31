// Colours that a school chose stand in data-colour: the page's policy allows no style in HTML.

/** colours paints every mark with the colour it names. */
export function colours() {
  for (const dot of document.querySelectorAll("[data-colour]")) dot.style.backgroundColor = dot.dataset.colour;
}
