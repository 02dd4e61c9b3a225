// The wall at the front of the room: a brick that slides into place once, a breach said by the screen reader, what it
// says when it hears nothing, and the keys.
import {
  announce
} from "./app.js";
import {
  at,
  drawnAt,
  keepPage
} from "./kept.js";

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
// By the address: the element that asked may have been replaced by its answer.
const isOfWall = (event) => event.detail.pathInfo?.requestPath.includes("/wall/fragment/");
for (const kind of ["htmx:sendError", "htmx:timeout", "htmx:responseError"])
  document.body.addEventListener(kind, (event) => isOfWall(event) && cut(true));
document.body.addEventListener("htmx:afterRequest", (event) => {
  if (!isOfWall(event) || !event.detail.successful) return;
  heard = Date.now();
  cut(false);
});
document.body.addEventListener("htmx:afterSwap", () => look());

function look() {
  const wall = document.getElementById("wall");
  bricks(wall);
  speak(wall);
}

// --- by keyboard, from the front of the room ---

const ways = {
  l: "large",
  q: "quiet",
  s: "spoken"
};
const way = (name) => localStorage.getItem(`bulwark-wall-${name}`) === "on";

function set(name, on) {
  localStorage.setItem(`bulwark-wall-${name}`, on ? "on" : "off");
  document.body.classList.toggle(`is-${name}`, on);
  const button = document.querySelector(`[data-way=${name}]`);
  button?.setAttribute("aria-pressed", String(on));
  if (name === "spoken" && !on) speechSynthesis?.cancel();
}
const turn = (name) => set(name, !way(name));
const keys = () => document.getElementById("keys");

addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target.closest("input, textarea, select")) return;
  const key = event.key.toLowerCase();
  const bench = /^[1-9]$/.test(key) && document.querySelectorAll("#wall .found")[Number(key) - 1];
  const pause = document.querySelector(".bw-pause");
  if (bench) bench.click();
  else if (key === "?") keys().open ? keys().close() : keys().showModal();
  else if (key in ways) turn(ways[key]);
  else if (key === "p" && pause) {
    pause.open = !pause.open;
    if (pause.open) pause.querySelector("form button").focus();
  } else if (key === "f") document.fullscreenElement ? document.exitFullscreen() : document.documentElement
    .requestFullscreen?.();
  else return;
  event.preventDefault();
});
document.addEventListener("click", (event) => {
  const button = event.target.closest("[data-way], [data-keys]");
  if (button?.dataset.way) turn(button.dataset.way);
  else if (button) keys().open ? keys().close() : keys().showModal();
});

// A call is said aloud once, in the browser's own voice, where that is switched on; its text is always there.
let said = null;

function speak(wall) {
  const calls = [...wall.querySelectorAll(".call[data-call]")].map((el) => [".at", "b", ".because"].map((part) => el
    .querySelector(part)?.textContent.trim()).filter(Boolean).join(". "));
  const fresh = calls.filter((text) => said && !said.has(text));
  said = new Set(calls);
  if (!way("spoken") || !window.speechSynthesis) return;
  for (const text of fresh) {
    const words = new SpeechSynthesisUtterance(text);
    words.lang = document.documentElement.lang;
    speechSynthesis.speak(words);
  }
}

for (const name of Object.values(ways)) set(name, way(name));
look();
cut(drawnAt !== null);
keepPage();

// What was refused is said on the wall too, until somebody has read it.
document.addEventListener("click", (event) => event.target.closest("[data-said]")?.parentElement.remove());
