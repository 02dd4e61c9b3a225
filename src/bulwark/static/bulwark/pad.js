// The assistant's pad: one tap says what was seen of a learner, at once on this device, in the log when there is a
// network. It is taken back by a tap: out of the queue while it has never been sent, by an entry of its own once it may be
// in the log.
import {
  announce
} from "./app.js";
import {
  at,
  drawnAt,
  keepPage
} from "./kept.js";
import {
  Outbox
} from "./outbox.js";

const root = document.getElementById("pad");
const net = () => document.getElementById("pd-net");
const waits = document.getElementById("pd-waits");
const title = net().textContent;
let cut = false;

const outbox = new Outbox({
  url: root.dataset.entries,
  here: root.dataset.here,
  now: drawnAt === null ? Number(root.dataset.now) : null,
  key: `bulwark-pad-${root.dataset.assistant}`,
  onChange(count, isCut) {
    cut = isCut || !navigator.onLine;
    network(count);
  },
  onAside(rows) {
    const note = document.getElementById("pd-aside");
    note.hidden = rows.length === 0;
    note.textContent = `${rows.length} not taken. Show the educator: ` + rows.map((row) =>
        `${row.data.learner} ${row.data.what} ${(row.data.seen ?? "taken back").replace("_", " ")}, ${row.why}`)
      .join("; ");
  },
  onRecorded: () => refresh(),
  onSent: (row) => row.kind === "watched" && !isTakenBack(row) && keepSent([...sent(), row]),
  onQuestion() {},
  onRefused: (row, body) => announce([body.title, body.message].filter(Boolean).join(". ")),
});

function network(count) {
  net().textContent = cut ? `No signal, ${count} wait` : title;
  waits.textContent = count ? "kept here until sent" : "";
}

const box = (row) => document.querySelector(
  `[data-bench="${row.data.bench}"][data-what="${row.data.what}"] [data-who="${CSS.escape(row.data.learner)}"]`);

// What was tapped here and waits stands on the screen, whatever the server knew when it drew it.
function draw() {
  for (const row of outbox?.rows ?? []) {
    const one = box(row);
    if (one && row.kind === "watched") one.dataset.seen = row.data.seen;
    else if (one) delete one.dataset.seen;
  }
  for (const one of document.querySelectorAll(".pd-one"))
    for (const button of one.querySelectorAll("[data-see]"))
      button.setAttribute("aria-pressed", String(button.dataset.see === one.dataset.seen));
  for (const bench of document.querySelectorAll(".pd-bench")) {
    const wrong = [...bench.querySelectorAll("[data-seen=wrong]")].map((one) => one.dataset.who);
    const shout = bench.querySelector(".pd-shout");
    shout.hidden = wrong.length === 0;
    shout.textContent = `${wrong.join(", ")}: ${shout.dataset.shout}`;
  }
  taken();
}

// What was sent of late stands here for as long as somebody may notice that it was a slip of the thumb.
const SENT = `bulwark-pad-sent-${root.dataset.assistant}`;
const STANDS_MS = 10 * 60000;

function sent() {
  try {
    const rows = JSON.parse(localStorage.getItem(SENT)) ?? [];
    return rows.filter((row) => outbox.clock.now() - row.happened_at < STANDS_MS);
  } catch {
    return [];
  }
}

function keepSent(rows) {
  try {
    localStorage.setItem(SENT, JSON.stringify(rows.slice(-6)));
  } catch {
    // No room: what is in the log is voided by the educator.
  }
}

// Its own taking back waits behind it.
const isTakenBack = (row) => outbox.rows.some((one) => one.kind === "taken_back" && one.data.event === row.id);

function takeBack(row) {
  const waiting = outbox.rows.find((one) => one.id === row.id);
  if (waiting && !waiting.tried) outbox.drop(row);
  else {
    keepSent(sent().filter((one) => one.id !== row.id));
    outbox.add("taken_back", {
      bench: row.data.bench,
      event: row.id,
      what: row.data.what,
      learner: row.data.learner
    });
  }
  const one = box(row);
  if (one) delete one.dataset.seen;
  announce(`${row.data.learner}: taken back`);
  draw();
  network(outbox.rows.length);
}

// The last few, newest last: what waits here, and what was sent.
function taken() {
  const waiting = (outbox?.rows ?? []).filter((row) => row.kind === "watched" && !isTakenBack(row));
  const rows = [...(outbox ? sent() : []), ...waiting].slice(-3);
  document.querySelector(".pd-back").hidden = rows.length === 0;
  document.getElementById("pd-rows").replaceChildren(...rows.map((row) => {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = `${row.data.learner} ${row.data.seen.replace("_", " ")}, ${at(row.happened_at)}`;
    button.addEventListener("click", () => takeBack(row));
    return button;
  }));
}

root.addEventListener("click", (event) => {
  const button = event.target.closest("[data-see]");
  if (!button) return;
  const one = button.closest(".pd-one");
  const bench = button.closest(".pd-bench");
  one.dataset.seen = button.dataset.see;
  outbox.add("watched", {
    bench: bench.dataset.bench,
    what: bench.dataset.what,
    learner: one.dataset.who,
    seen: button.dataset.see
  });
  announce(`${one.dataset.who}: ${button.dataset.says}`);
  draw();
});

async function refresh() {
  try {
    const response = await fetch(root.dataset.screen, {
      credentials: "same-origin"
    });
    if (!response.ok) {
      if (response.status === 403) location.reload();
      return;
    }
    const made = document.createElement("template");
    made.innerHTML = await response.text();
    document.getElementById("screen").replaceWith(made.content);
    cut = false;
    network(outbox.rows.length);
    draw();
  } catch {
    cut = true;
    network(outbox.rows.length);
  }
}
setInterval(refresh, 8000);
addEventListener("online", refresh);
document.addEventListener("visibilitychange", () => document.hidden || refresh());
draw();
keepPage();
