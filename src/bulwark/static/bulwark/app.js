// What the server cannot do on a page: clocks that tick, a sentence for the screen reader.

import {
  drawnAt
} from "./kept.js";

const two = (n) => String(n).padStart(2, "0");
export function clock(seconds) {
  const whole = Math.max(0, Math.floor(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor(whole / 60) % 60;
  return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
}

// Elements carry the seconds they had when they were drawn; when that was is noted here: when they are first seen, or,
// on a page from this device's own keeping, when it was kept.
const seen = new WeakMap();
const parts = "[data-down], [data-up]";
if (drawnAt !== null)
  for (const el of document.querySelectorAll(parts)) seen.set(el, drawnAt);

function tick() {
  const now = Date.now();
  for (const el of document.querySelectorAll(parts)) {
    if (!seen.has(el)) seen.set(el, now);
    const pace = Number(el.dataset.pace ?? document.querySelector("[data-wall]")?.dataset.pace ?? 1);
    const gone = ((now - seen.get(el)) / 1000) * pace;
    el.textContent = clock("down" in el.dataset ? Number(el.dataset.down) - gone : Number(el.dataset.up) + gone);
  }
}
setInterval(tick, 500);

// What is left [s] of something that is counted down; below nought it rings.
export function left(el) {
  return Number(el.dataset.down) - (Date.now() - (seen.get(el) ?? Date.now())) / 1000;
}

export function announce(text) {
  const el = document.getElementById("announce");
  if (el && text) el.textContent = text;
}

// Work that takes its time says so where it was asked for; coming back to the page it is over.
const working = (form, on) => {
  for (const el of form.querySelectorAll("[data-working]")) el.hidden = !on;
};
document.addEventListener("submit", (event) => working(event.target, true));
addEventListener("pageshow", () => working(document, false));

document.body.addEventListener("htmx:afterSwap", () => {
  // A paper that somebody has waited for is taken at once; it is a download, so the page stays.
  document.querySelector("a[data-take]")?.click();
});
