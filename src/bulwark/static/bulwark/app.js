// What the server cannot do on a page at the desk: clocks that tick, a brick that slides into
// place once, a breach said aloud by the screen reader.

import {
  at,
  drawnAt,
  keepPage
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

let laid = null;
let breaches = new Set();

function bricks(root) {
  const now = new Set([...root.querySelectorAll(".bw-brick.is-laid, .bw-brick.is-mended")].map((el) => el.id));
  if (laid)
    for (const id of now)
      if (!laid.has(id)) document.getElementById(id)?.classList.add("is-new");
  laid = now;
  const broken = new Set();
  for (const el of root.querySelectorAll(".call.is-breach")) {
    const text = el.textContent.replace(/\s+/g, " ").trim();
    broken.add(text);
    if (!breaches.has(text)) announce(text);
  }
  breaches = broken;
}

// A wall that hears nothing says so, and since when: what stands on it may be long past.
let heard = drawnAt ?? Date.now();

function cut(is) {
  const note = document.getElementById("cut");
  if (!note) return;
  note.hidden = !is;
  if (is) note.textContent = note.dataset.says.replace("TIME", at(heard));
}
for (const kind of ["htmx:sendError", "htmx:timeout", "htmx:responseError"])
  document.body.addEventListener(kind, (event) => event.target.id === "wall" && cut(true));
document.body.addEventListener("htmx:afterRequest", (event) => {
  if (event.target.id !== "wall" || !event.detail.successful) return;
  heard = Date.now();
  cut(false);
});
document.addEventListener("DOMContentLoaded", () => {
  const wall = document.getElementById("wall");
  if (!wall) return;
  bricks(wall);
  cut(drawnAt !== null);
  keepPage();
});
document.body.addEventListener("htmx:afterSwap", () => {
  const wall = document.getElementById("wall");
  if (wall) bricks(wall);
  // A paper that somebody has waited for is taken at once; it is a download, so the page stays.
  document.querySelector("a[data-take]")?.click();
});
