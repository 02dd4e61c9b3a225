// The bench's tablet: sends entries through the outbox, shows the next panel at once, and fetches
// the screen again when the log has moved. Works on through a gap in the Wi-Fi.
import {
  announce,
  left
} from "./app.js";
import {
  Outbox,
  uuid
} from "./outbox.js";
import {
  keypad
} from "./keypad.js";
import {
  heard,
  inTheWay,
  took
} from "./foreseen.js";
import {
  goesOn,
  sayReadings
} from "./readings.js";
import {
  chime
} from "./chime.js";
import {
  at,
  drawnAt,
  keepPage
} from "./kept.js";
import {
  startWash,
  washUnderWay
} from "./wash.js";

const root = document.getElementById("bench");
const outboxNote = document.getElementById("outbox");
const trouble = document.getElementById("trouble");
let wanted = null; // the panel the bench chose itself, until it is done

const screen = () => document.getElementById("screen");
const panels = () => [...document.querySelectorAll("[data-panel]")];
const shown = () => panels().find((panel) => !panel.hidden);

function say(text) {
  trouble.querySelector("p").textContent = text;
  trouble.hidden = false;
}

// A page that this tablet has kept shows the bench as it was, until the server has been heard.
let kept = drawnAt !== null;
let cut = false; // the last entry found no network: it is said until it is sent

function noteNetwork(count) {
  const waits = `${count} ${count === 1 ? "entry waits" : "entries wait"} on this tablet. Go on.`;
  const said = [];
  if (kept) said.push(`This is the bench as it was at ${at(drawnAt)}.`);
  if (count && cut) said.push(waits,
    "Raw hands, kit, readings and time out are watched here; other limits are not known.");
  if (outbox?.fleeting) said.push("There is no room to keep them: leave this page open.");
  outboxNote.textContent = ["No network.", ...said].join(" ");
  outboxNote.hidden = said.length === 0;
}

export let outbox = null;
outbox = new Outbox({
  url: root.dataset.entries,
  here: root.dataset.here,
  now: drawnAt === null ? Number(root.dataset.now) : null,
  key: `bulwark-outbox-${root.dataset.bench}`,
  onChange(count, isCut) {
    cut = isCut || !navigator.onLine;
    noteNetwork(count);
  },
  onAside(rows) {
    const box = document.getElementById("aside");
    box.hidden = rows.length === 0;
    box.querySelector("b").textContent =
      `${rows.length} ${rows.length === 1 ? "entry was" : "entries were"} not taken. Show the educator.`;
    box.querySelector("pre").textContent = rows.map((row) =>
        `${new Date(row.happened_at).toLocaleTimeString()}  ${row.kind}  ${JSON.stringify(row.data)}  ${row.why}`)
      .join("\n");
  },
  onRecorded: () => refresh(),
  onQuestion: (row, question) => keypad.ask(row, question, outbox),
  onRefused: (row, body) => say([body.title, body.text ?? body.message].filter(Boolean).join(". ") ||
    "Not taken. Call the educator."),
});

// A screen that changes under a finger takes the tap away with the button: it waits for the finger.
// A finger that was lifted where nobody saw it holds nothing up for long.
const HELD_MS = 3000;
let heldSince = null;
const underFinger = () => heldSince !== null && Date.now() - heldSince < HELD_MS;
addEventListener("pointerdown", () => (heldSince = Date.now()), true);
for (const kind of ["pointerup", "pointercancel"])
  addEventListener(kind, () => setTimeout(() => { // the click comes after
    heldSince = null;
    if (!again || fetching) return;
    again = false;
    refresh();
  }, 50), true);

let fetching = false;
let again = false;
export async function refresh() {
  if (fetching) {
    again = true;
    return;
  }
  fetching = true;
  try {
    const query = wanted ? `?panel=${encodeURIComponent(wanted)}` : "";
    const {
      version
    } = outbox;
    const response = await fetch(root.dataset.fragment + query, {
      credentials: "same-origin"
    });
    if (response.ok) {
      const html = await response.text();
      kept = false;
      noteNetwork(outbox.rows.length);
      // A screen drawn before the last entry reached the log would take the bench a step back.
      if (version === outbox.version && !outbox.rows.length) swap(html);
      else again = !outbox.rows.length;
    } else if (response.status === 410 || response.status === 403 || response.status === 409) {
      const body = await response.json().catch(() => ({}));
      say([body.title, body.text].filter(Boolean).join(". "));
    }
  } catch {
    /* no network: the screen stays as it is */
  }
  fetching = false;
  if (again && !underFinger()) {
    again = false;
    refresh();
  }
}

function swap(html) {
  if (document.querySelector("#screen dialog[open]")) return;
  if (underFinger()) {
    again = true;
    return;
  }
  const before = new Set([...document.querySelectorAll(".bw-alarm b")].map((el) => el.textContent));
  const ticked = new Map([...document.querySelectorAll(".ready-form")].map((form) => [form.dataset.readyFor, [...form
    .querySelectorAll(":checked")
  ].map((el) => el.value)]));
  const doer = shown()?.querySelector("[data-doer]:checked");
  const kept = doer && {
    panel: shown().dataset.panel,
    value: doer.value
  };
  const active = document.activeElement?.closest?.("#screen") ? document.activeElement.textContent.trim() : null;
  heard();
  const box = document.createElement("template");
  box.innerHTML = html;
  screen().replaceWith(box.content);
  for (const form of document.querySelectorAll(".ready-form"))
    for (const value of ticked.get(form.dataset.readyFor) ?? []) {
      const input = form.querySelector(`[value="${value}"]`);
      if (input) input.checked = true;
    }
  if (kept && shown()?.dataset.panel === kept.panel) choose(shown(), kept.value);
  settle();
  if (active)[...screen().querySelectorAll("button")].find((el) => el.textContent.trim() === active && el.offsetParent)
    ?.focus({
      preventScroll: true
    });
  for (const el of document.querySelectorAll(".bw-alarm b"))
    if (!before.has(el.textContent)) {
      announce(el.textContent);
      chime(2);
    }
}

// With an interlock for the chosen hands, going on is a choice of its own, in other words.
function settle() {
  for (const panel of panels()) {
    const chosen = panel.querySelector("[data-doer]:checked")?.value;
    if (chosen === undefined) continue;
    let stop = false;
    panel.querySelector("[data-own-proof]")?.remove();
    ownProof(panel, panel);
    for (const lock of panel.querySelectorAll("[data-interlock]")) {
      lock.hidden = lock.dataset.interlock !== chosen || ownProof(panel, lock);
      stop ||= !lock.hidden;
    }
    stop = ownLock(panel, chosen) || stop;
    for (const el of panel.querySelectorAll("[data-hands-of]")) el.hidden = el.dataset.handsOf !== chosen;
    for (const el of panel.querySelectorAll("[data-by]")) el.value = chosen;
    const go = panel.querySelector("[data-go]");
    if (go) {
      go.classList.toggle("is-primary", !stop);
      go.querySelector("[data-go-text]").textContent = stop ? "Go on anyway" : "Done";
    }
  }
}

const ownProof = (panel, el) => sayReadings(panel, el, outbox);
setInterval(() => goesOn(shown(), outbox) && settle(), 1000);

// What this tablet knows by itself stands in the way like what the server says.
function ownLock(panel, who) {
  panel.querySelector("[data-own-lock]")?.remove();
  const found = inTheWay(panel, who, outbox.clock.now());
  if (!found) return false;
  const lock = document.getElementById("own-lock").content.cloneNode(true);
  const title = lock.querySelector("h2");
  title.textContent = found.late.length ? title.dataset.late.replace("WHAT", found.late.join(", ")) : found.who ?
    title.dataset.hands.replace("WHO", found.who) : title.dataset.kit.replace("WHAT", found.tools.join(", "));
  const wash = lock.querySelector("[data-own-wash]");
  wash.hidden = !found.who;
  wash.dataset.wash = found.who;
  const text = wash.querySelector("[data-text]");
  text.textContent = text.dataset.text.replace("WHO", found.who);
  for (const button of lock.querySelectorAll("[data-own-clean]")) {
    button.hidden = found.tools.length === 0;
    button.dataset.tools = JSON.stringify(found.tools);
  }
  panel.querySelector(".acts").before(lock);
  return true;
}

function choose(panel, value) {
  for (const input of panel.querySelectorAll("[data-doer]")) input.checked = input.value === value;
  settle();
}

function show(id) {
  for (const panel of panels()) panel.hidden = panel.dataset.panel !== id;
  settle();
}

// The next panel's button lies where this one's was: the second half of a double tap must not
// finish a step that nobody has begun.
const SETTLE_MS = 800;
let quietUntil = 0;

// The next panel at once, from what was sent along; the server's own comes when it can.
function next(panel) {
  quietUntil = Date.now() + SETTLE_MS;
  panel.dataset.done = "";
  const rows = panels();
  const after = rows.slice(rows.indexOf(panel) + 1).find((row) => !("done" in row.dataset));
  if (after) show(after.dataset.panel);
  wanted = null;
}

function send(form, submitter) {
  const data = {};
  for (const [key, value] of new FormData(form)) {
    if (["csrfmiddlewaretoken", "kind", "id"].includes(key) || key.startsWith("doer-")) continue;
    if (["checks", "tools", "foods", "by"].includes(key))(data[key] ??= []).push(value);
    else data[key] = value;
  }
  let kind = form.querySelector("[name=kind]").value;
  if (submitter?.name === "kind_override") {
    kind = submitter.value;
    delete data.checks;
  }
  if (submitter?.name && submitter.name !== "kind_override") data[submitter.name] = submitter.value;
  if (kind === "step_done") data.by = (data.by ?? []).filter(Boolean);
  const panel = form.closest("[data-panel]");
  // An open dialog keeps the screen as it is.
  form.closest("dialog")?.close();
  const done = panel && "next" in form.dataset ? panel.dataset.panel : undefined;
  outbox.add(kind, data, form.querySelector("[name=id]").value, done);
  took(kind, data, panel);
  if ("again" in form.dataset) renewed(form, data);
  else if (panel && "next" in form.dataset) next(panel);
  else if ("readyFor" in form.dataset) nextLearner(form);
  else
    for (const button of form.querySelectorAll("button")) button.disabled = true;
}

// A form that is used several times from one screen, with or without a network: each time is an entry of its own.
function renewed(form, data) {
  for (const name of ["id", "timer"]) form.querySelector(`[name=${name}]`).value = uuid();
  const row = document.createElement("li");
  row.dataset.timer = data.timer;
  const of = document.createElement("span");
  of.className = "of";
  of.textContent = data.name;
  const time = document.createElement("b");
  time.className = "bw-num";
  Object.assign(time.dataset, {
    down: 60 * Number(data.minutes),
    ring: ""
  });
  row.append(of, time);
  document.getElementById("timers").append(row);
}

function nextLearner(form) {
  form.dataset.sent = "";
  const after = [...document.querySelectorAll(".ready-form")].find((other) => !("sent" in other.dataset) && other
    .querySelector(":not(:checked)[type=checkbox]"));
  if (after) pickLearner(after.dataset.readyFor);
}

function pickLearner(name) {
  for (const form of document.querySelectorAll(".ready-form")) form.hidden = form.dataset.readyFor !== name;
  for (const button of document.querySelectorAll("[data-ready-who]")) button.setAttribute("aria-pressed", String(button
    .dataset.readyWho === name));
}

root.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-entry]");
  if (!form) return;
  event.preventDefault();
  if ("next" in form.dataset && Date.now() < quietUntil) return;
  send(form, event.submitter);
});

root.addEventListener("change", (event) => {
  if (event.target.matches("[data-doer]")) settle();
});

root.addEventListener("click", (event) => {
  const el = event.target.closest("button");
  if (!el) return;
  if (el.dataset.wash) wash(el.dataset.wash);
  else if (el.dataset.ownClean) {
    const data = {
      tools: JSON.parse(el.dataset.tools),
      how: "clean"
    };
    if (el.dataset.ownClean === "swapped") delete data.how;
    outbox.add(el.dataset.ownClean, data);
    took(el.dataset.ownClean, data);
    settle();
  } else if (el.dataset.readyWho) pickLearner(el.dataset.readyWho);
  else if (el.dataset.open) {
    el.closest("dialog")?.close();
    const dialog = document.getElementById(el.dataset.open);
    dialog.showModal();
    const named = [...dialog.querySelectorAll("[name=food]")].find((input) => input.value === el.dataset.name);
    named?.form.querySelector("[name=name]").select();
  } else if ("close" in el.dataset) el.closest("dialog").close();
  else if ("sound" in el.dataset) chime(3);
  else if (el.dataset.show) {
    document.getElementById("steps").close();
    wanted = el.dataset.show;
    quietUntil = 0; // sought out in a list: no double tap reaches it
    show(el.dataset.show);
    refresh();
  } else if ("goOn" in el.dataset) {
    next(el.closest("[data-panel]"));
    // Put off, not done: it comes back after the step that is shown now.
    if ("later" in el.dataset) wanted = shown()?.dataset.panel;
    refresh();
  } else if ("keypad" in el.dataset) {
    // What a reading shows is the answer: it stays in view until the bench goes on.
    const panel = el.closest("[data-lingers]");
    if (panel) wanted = panel.dataset.panel;
    el.closest("dialog")?.close();
    keypad.open(el.dataset, root.dataset, outbox);
  }
});
document.querySelector("#aside button").addEventListener("click", () => outbox.handedOver());
trouble.querySelector("button").addEventListener("click", () => {
  trouble.hidden = true;
});

function wash(learner, from) {
  if (!from) outbox.add("wash_started", {
    learner
  });
  stayAwake();
  startWash(learner, {
    from,
    onStage: (name) => {
      chime(1);
      announce(name);
    },
    onEnd: (scrub_s) => {
      const data = {
        learner,
        scrub_s
      };
      outbox.add("hands_washed", data);
      took("hands_washed", data);
      settle();
    },
  });
}

// A timer that was set rings until somebody answers it; the time of a step is called out once.
const RING_EVERY_MS = 5000;
let rang = 0;

function ring() {
  let waits = false;
  for (const el of document.querySelectorAll("#screen [data-ring]")) {
    if (left(el) > 0) continue;
    const timer = el.closest("[data-timer]");
    if (!timer && el.closest("[hidden]")) continue; // a step that has not begun
    waits ||= timer !== null;
    if ("rang" in el.dataset) continue;
    el.dataset.rang = "";
    el.closest("[data-timer], [data-clock], .bw-timer").classList.add("is-ringing");
    if (timer) announce(`${timer.querySelector(".of").textContent}: time is up`);
    else chime(3);
  }
  if (!waits || Date.now() - rang < RING_EVERY_MS) return;
  rang = Date.now();
  chime(3);
  navigator.vibrate?.([300, 150, 300]);
}
setInterval(ring, 1000);

let lock = null;
async function stayAwake() {
  try {
    if (!lock || lock.released) lock = await navigator.wakeLock?.request("screen");
  } catch {
    /* not offered here */
  }
}
document.addEventListener("visibilitychange", () => {
  if (!document.hidden) {
    stayAwake();
    refresh();
  }
});
document.addEventListener("pointerdown", stayAwake, {
  once: true
});

// Notices from the log, and polling for when they do not come.
let source = null;

function listen() {
  source?.close();
  source = new EventSource(root.dataset.live);
  source.addEventListener("changed", () => refresh());
}
listen();
// What was just typed may be what a stop lacked.
document.getElementById("keypad").addEventListener("close", () => settle());
addEventListener("online", () => {
  listen();
  refresh();
});
addEventListener("offline", () => outbox.onChange(outbox.rows.length, true));
setInterval(() => refresh(), 10000);
addEventListener("pageshow", () => refresh());
settle();
// What was done here and still waits is done, though the page that was kept does not know it.
for (const row of outbox.rows) {
  const panel = panels().find((one) => one.dataset.panel === row.panel);
  took(row.kind, row.data, panel);
  if (!panel) continue;
  panel.dataset.done = "";
  if (panel === shown()) next(panel);
}
quietUntil = 0;
settle();
keepPage();
const early = window.earlyEntries;
const taps = new Set(window.earlyTaps); // twice on one button was meant once
window.earlyEntries = window.earlyTaps = null;
for (const [form, submitter] of early) form.requestSubmit(submitter);
for (const button of taps) button.click();
const underWay = washUnderWay();
if (underWay) wash(underWay.learner, underWay.from);
root.dataset.works = ""; // from here on a tap is kept, with or without a network
