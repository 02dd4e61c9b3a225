// Going through the shelves: one tap a part, at once on this phone, in the log when there is a network.
import {
  announce
} from "./app.js";
import {
  drawnAt,
  keepPage
} from "./kept.js";
import {
  Outbox
} from "./outbox.js";

const root = document.getElementById("count");
const net = document.getElementById("sc-net");
const title = net.textContent;
const KEY = `bulwark-count-${root.dataset.who}`;

const outbox = new Outbox({
  url: root.dataset.entries,
  here: root.dataset.here,
  now: drawnAt === null ? Number(root.dataset.now) : null,
  key: KEY,
  onChange(count, isCut) {
    net.textContent = isCut || !navigator.onLine ? `No signal. Kept on this phone until sent: ${count}` : title;
  },
  onAside(rows) {
    const note = document.getElementById("sc-aside");
    note.hidden = rows.length === 0;
    note.textContent = `${rows.length} not taken: ` + rows.map((row) => `${row.data.key}, ${row.why}`).join("; ");
  },
  onRecorded() {},
  onSent: (row) => mark(row.data.key, row.kind, true),
  onQuestion() {},
  onRefused: (row, body) => announce([body.title, body.message].filter(Boolean).join(". ")),
});

function mark(key, kind, sent) {
  const line = document.querySelector(`[data-key="${CSS.escape(key)}"]`);
  if (!line) return;
  for (const button of line.querySelectorAll("[data-tap]")) {
    button.setAttribute("aria-pressed", String(button.dataset.tap === kind));
    if (sent) button.disabled = true;
  }
  line.dataset.tapped = kind;
}

function draw() {
  for (const row of outbox.rows) mark(row.data.key, row.kind, false);
}

root.addEventListener("click", (event) => {
  const button = event.target.closest("[data-tap]");
  if (!button || button.disabled) return;
  const key = button.closest("[data-key]").dataset.key;
  if (outbox.rows.some((row) => row.data.key === key)) return;
  mark(key, button.dataset.tap, false);
  outbox.add(button.dataset.tap, {
    key
  });
});
draw();
keepPage();
