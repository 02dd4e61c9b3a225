// The step editor's keyboard. Every edit is also a plain button of a plain form; this only saves
// the trip, keeps the place and makes it quick.

const root = () => document.getElementById("steps");
const rows = () => [...root().querySelectorAll(".rc-step")];
const summary = (row) => row?.querySelector("summary");
const current = () => document.activeElement?.closest?.(".rc-step");

async function edit(what, step, extra = {}) {
  const body = new URLSearchParams({
    what,
    step: step ?? "",
    ...extra
  });
  await send(body, step);
}

async function send(body, step) {
  const at = rows().findIndex((row) => row.dataset.step === step);
  const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
  let answer;
  try {
    answer = await fetch(root().dataset.edit, {
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
  const row = rows().find((r) => r.dataset.step === step) ?? rows()[Math.min(Math.max(at, 0), rows().length - 1)];
  summary(row)?.focus();
}

function say(text) {
  let note = root().querySelector(":scope > .bw-note.is-error[role=alert]");
  if (!note) {
    note = document.createElement("p");
    note.className = "bw-note is-error";
    note.setAttribute("role", "alert");
    root().prepend(note);
  }
  note.textContent = text;
  note.scrollIntoView({
    block: "nearest"
  });
}

const keys = {
  s: "split",
  m: "merge",
  a: "add",
  Delete: "remove"
};

function key(event) {
  const typing = /^(INPUT|SELECT|TEXTAREA)$/.test(event.target.tagName);
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !typing) {
    event.preventDefault();
    return edit("undo", current()?.dataset.step);
  }
  const row = event.target.closest?.(".rc-step");
  if (!row || event.target.tagName !== "SUMMARY") return undefined;
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

function submit(event) {
  const form = event.target.closest(".rc-edit");
  if (!form) return;
  event.preventDefault();
  const body = new URLSearchParams(new FormData(form));
  body.set("what", event.submitter?.value ?? "change");
  send(body, body.get("step"));
}

function listen() {
  root().addEventListener("keydown", key);
  root().addEventListener("submit", submit);
  root().querySelector('[data-what="undo"]')?.addEventListener("click", () => edit("undo", current()?.dataset.step));
}

if (root()) {
  listen();
  document.addEventListener("keydown", (event) => {
    if (event.target === document.body) key(event);
  });
}
