// What readings that wait on this tablet make of a stop that lacked them, or of the panel where they are taken. What they
// show is no proof before the log has it.
import {
  readingsHere
} from "./cooked.js";
import {
  askForPiece
} from "./keypad.js";

function found(el, outbox) {
  if (!el.dataset.owed || !outbox.rows.some((row) => row.kind === "core_read")) return null;
  const words = document.getElementById("own-proof").content.querySelector("[data-text]").dataset;
  return readingsHere(JSON.parse(el.dataset.owed), outbox.rows, outbox.clock.now(), words);
}

// Says it in a panel, and asks for the piece that comes next; ``el`` is its stop, or the panel itself, where it is offered
// to go on. True where it lifts the stop.
export function sayReadings(panel, el, outbox) {
  const read = found(el, outbox);
  if (!read) return false;
  const note = document.getElementById("own-proof").content.cloneNode(true);
  note.querySelector("[data-text]").textContent = read.text;
  note.querySelector("[data-typed]").textContent = read.typed;
  note.querySelector("[data-own-proof]").classList.toggle("is-open", !read.lifted);
  panel.querySelector("[data-own-proof]")?.remove();
  panel.querySelector(".pieces, .acts").before(note);
  if (read.next) askForPiece(read.food, read.next);
  for (const act of panel === el ? panel.querySelectorAll(".acts > .main-act") : [])
    act.hidden = ("ownGo" in act.dataset) !== read.mayGoOn;
  return read.lifted;
}

// A hold and a rest end by the clock: what is said of them goes on. True once the stop may go.
export function goesOn(panel, outbox) {
  const note = panel?.querySelector("[data-own-proof].is-open");
  const el = note && [panel, ...panel.querySelectorAll("[data-owed]")].find((one) => one.dataset.owed && !one.hidden);
  const read = el && found(el, outbox);
  if (!read) return false;
  note.querySelector("[data-text]").textContent = read.text;
  return read.lifted;
}
