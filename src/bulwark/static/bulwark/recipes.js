// The reading screen. Every edit is a plain form; this saves the trip, keeps the place, gives each
// answer a key and makes lists of foods and kit chips that are typed two letters at a time.

import {
  chipField
} from "./chips.js";

const root = () => document.getElementById("steps");
const rows = () => [...root().querySelectorAll(".rc-step")];
const summary = (row) => row?.querySelector("summary");
const current = () => document.activeElement?.closest?.(".rc-step");
const cards = () => [...root().querySelectorAll(".rd-q-card")];

async function edit(what, step, extra = {}) {
  const body = new URLSearchParams({
    what,
    step: step ?? "",
    ...extra
  });
  await send(root().dataset.edit, body, step);
}

// One answer at a time: a key that is held or struck twice must not answer the question that comes next.
let waiting = false;

async function send(address, body, step) {
  if (waiting) return;
  waiting = true;
  try {
    await sendOne(address, body, step);
  } finally {
    waiting = false;
  }
}

async function sendOne(address, body, step) {
  const at = rows().findIndex((row) => row.dataset.step === step);
  // What this page showed: what somebody else has changed since is told, and never undone unseen.
  body.set("seen", root().dataset.seen);
  const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
  let answer;
  try {
    answer = await fetch(address, {
      method: "POST",
      body,
      headers: {
        "X-CSRFToken": token,
        "HX-Request": "true"
      },
    });
  } catch {
    return say("The network is away. Nothing was changed; what you typed is still here.");
  }
  const text = await answer.text();
  if (!answer.ok && answer.status !== 422) return say("That did not work. Reload the page and try again.");
  // What was typed stays when it was refused: only the message is taken over.
  const page = new DOMParser().parseFromString(text, "text/html");
  if (answer.status === 422) return say(page.querySelector(".is-error")?.textContent ?? "That cannot be.");
  root().replaceWith(page.getElementById("steps"));
  listen();
  if (step === undefined) return cards()[0]?.querySelector("summary").focus({
    preventScroll: true
  });
  const row = rows().find((r) => r.dataset.step === step) ?? rows()[Math.min(Math.max(at, 0), rows().length - 1)];
  summary(row)?.focus();
}

function say(text) {
  let note = root().querySelector(":scope > .bw-note.is-error[role=alert]");
  if (!note) {
    note = document.createElement("p");
    note.className = "bw-note is-error rd-wide";
    note.setAttribute("role", "alert");
    root().prepend(note);
  }
  note.textContent = text;
  note.scrollIntoView({
    block: "nearest"
  });
}

const keys = {
  b: "split",
  g: "merge",
  a: "add",
  Delete: "remove"
};

function onStep(event, row) {
  const at = rows().indexOf(row);
  if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    event.preventDefault();
    const down = event.key === "ArrowDown";
    if (event.altKey) return edit(down ? "down" : "up", row.dataset.step);
    return summary(rows()[at + (down ? 1 : -1)])?.focus();
  }
  const what = keys[event.key] ?? keys[event.key.toLowerCase()];
  if (!what || event.ctrlKey || event.metaKey || event.altKey) return undefined;
  event.preventDefault();
  return edit(what, row.dataset.step);
}

// The next question opens, and its first answer has the focus.
function nextQuestion() {
  const all = cards();
  const next = all[(all.findIndex((card) => card.open) + 1) % all.length];
  if (!next) return;
  next.open = true;
  next.querySelector("summary").focus();
  next.scrollIntoView({
    block: "nearest"
  });
}

// The answer with this key: of the open question, else one that stands alone.
function answerButton(letter) {
  const wanted = `button[data-key="${letter}"]`;
  return root().querySelector(`.rd-q-card[open] ${wanted}`) ?? root().querySelector(`.rd-breaches ${wanted}`);
}

function key(event) {
  const typing = /^(INPUT|SELECT|TEXTAREA)$/.test(event.target.tagName);
  if (typing || event.repeat) return undefined;
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
    event.preventDefault();
    return edit("undo", current()?.dataset.step);
  }
  if (event.ctrlKey || event.metaKey) return undefined;
  const row = event.target.closest?.(".rc-step");
  if (row && event.target.tagName === "SUMMARY") return onStep(event, row);
  if (event.key === "Escape") return carry(null);
  if (event.altKey || event.key.length > 1) return undefined;
  if (event.key.toLowerCase() === "j") return nextQuestion();
  if (event.key.toLowerCase() === "t") return root().querySelector(".rd-pebble")?.focus();
  const button = answerButton(event.key.toUpperCase());
  if (button) button.closest("form").requestSubmit(button);
  return undefined;
}

function submit(event) {
  const form = event.target.closest("form");
  if (!form || form.dataset.plain !== undefined) return;
  event.preventDefault();
  const body = new URLSearchParams(new FormData(form));
  if (event.submitter?.name) body.set(event.submitter.name, event.submitter.value);
  send(form.action, body, body.get("step") ?? undefined);
}

// A food of the tray is carried to a step: tapped, then the step is tapped.
function carry(button) {
  const on = Boolean(button) && root().dataset.carry !== button.dataset.food;
  root().querySelectorAll(".rd-pebble").forEach((row) => row.setAttribute("aria-pressed", String(on && row ===
    button)));
  if (on) root().dataset.carry = button.dataset.food;
  else delete root().dataset.carry;
}

function dropped(event) {
  const pebble = event.target.closest(".rd-pebble");
  if (pebble) return carry(pebble);
  const row = event.target.closest(".rc-step summary") && event.target.closest(".rc-step");
  if (!row || !root().dataset.carry) return undefined;
  event.preventDefault();
  return edit("place", row.dataset.step, {
    food: root().dataset.carry,
    into: row.dataset.step
  });
}

// A link into the screen opens what it points to.
function follow(event) {
  const link = event.target.closest('a[href^="#"]');
  const target = link && document.getElementById(link.hash.slice(1));
  if (!target) return;
  event.preventDefault();
  const details = target.matches("details") ? target : target.querySelector("details");
  if (details && !target.matches(".rc-step")) details.open = true;
  target.scrollIntoView({
    block: "center"
  });
  (details ?? target).querySelector("summary")?.focus({
    preventScroll: true
  });
}

// The fields of a step become chips when it is opened: a recipe may have a hundred steps.
function openStep(event) {
  if (!event.target.open) return;
  const choices = JSON.parse(document.getElementById("choices").textContent);
  event.target.querySelectorAll("input[data-choices]").forEach((input) => chipField(input, choices[input.dataset
    .choices]));
}

function moreBelow() {
  const box = root().querySelector(".rd-asked");
  box.classList.toggle("has-more", box.scrollHeight - box.scrollTop - box.clientHeight > 24);
}

function listen() {
  const box = root().querySelector(".rd-asked");
  box.addEventListener("scroll", moreBelow, {
    passive: true
  });
  box.addEventListener("toggle", moreBelow, true);
  moreBelow();
  root().addEventListener("submit", submit);
  root().addEventListener("click", follow);
  root().addEventListener("click", dropped);
  root().addEventListener("toggle", openStep, true);
  root().querySelector('[data-what="undo"]')?.addEventListener("click", () => edit("undo", current()?.dataset.step));
}

if (root()) {
  listen();
  document.addEventListener("keydown", key);
}
