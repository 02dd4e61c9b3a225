// Who is at which bench, on the lesson's form: the lines of the text field as seats that are dragged to another bench,
// with finger, mouse, or Alt and an arrow key. The field stays what is sent, and can be retyped at any time.

const seats = () => document.getElementById("bench-seats");
const field = () => document.getElementById("bench-lines");

function benches() {
  return (field()?.value ?? "").split("\n").filter((line) => line.includes(":")).map((line) => {
    const at = line.indexOf(":");
    const people = line.slice(at + 1).split(",").map((name) => name.trim()).filter(Boolean);
    return {
      name: line.slice(0, at).trim(),
      people
    };
  });
}

const say = (text, who, bench) => text.replace("WHO", who).replace("BENCH", bench);

function draw() {
  const rows = benches();
  seats().hidden = rows.length < 2;
  seats().replaceChildren(...rows.map((row, n) => {
    const box = document.createElement("section");
    box.className = "sp-bench";
    box.dataset.bench = n;
    const name = document.createElement("b");
    name.textContent = row.name;
    box.append(name);
    for (const who of row.people) {
      const chip = document.createElement("button");
      chip.type = "button";
      chip.className = "sp-seat";
      chip.textContent = who;
      chip.dataset.who = who;
      chip.setAttribute("aria-label", say(seats().dataset.seat, who, row.name));
      box.append(chip);
    }
    if (!row.people.length) {
      const none = document.createElement("span");
      none.className = "bw-soft";
      none.textContent = seats().dataset.nobody;
      box.append(none);
    }
    return box;
  }));
}

function move(who, from, to) {
  const rows = benches();
  if (from === to || !rows[to] || !rows[from]) return;
  rows[from].people = rows[from].people.filter((name) => name !== who);
  if (!rows[to].people.includes(who)) rows[to].people.push(who);
  field().value = rows.map((row) => `${row.name}: ${row.people.join(", ")}`).join("\n");
  draw();
  document.getElementById("bench-moved").textContent = say(seats().dataset.moved, who, rows[to].name);
  [...seats().querySelectorAll(`[data-bench="${to}"] .sp-seat`)].find((chip) => chip.dataset.who === who)?.focus();
  check();
}

const check = () => document.getElementById("bench-checked").dispatchEvent(new Event("seats"));
const benchOf = (element) => Number(element?.closest(".sp-bench")?.dataset.bench ?? -1);

let held = null;
addEventListener("pointerdown", (event) => {
  const chip = event.target.closest?.(".sp-seat");
  if (!chip || event.button !== 0) return;
  chip.setPointerCapture(event.pointerId);
  held = {
    chip,
    x: event.clientX,
    y: event.clientY
  };
});
addEventListener("pointermove", (event) => {
  if (!held) return;
  const [dx, dy] = [event.clientX - held.x, event.clientY - held.y];
  if (Math.hypot(dx, dy) < 5) return;
  held.chip.classList.add("is-held");
  held.chip.style.transform = `translate(${dx}px, ${dy}px)`;
  const over = under(event);
  document.querySelectorAll(".sp-bench").forEach((box) => box.classList.toggle("is-over", box === over));
});
addEventListener("pointerup", (event) => {
  if (held?.chip.classList.contains("is-held")) {
    const to = benchOf(under(event));
    const from = benchOf(held.chip);
    const who = held.chip.dataset.who;
    if (to >= 0 && to !== from) move(who, from, to);
    else draw();
  }
  held = null;
});
addEventListener("pointercancel", () => {
  if (held) draw();
  held = null;
});
// The seat itself is under the finger: what lies behind it counts.
const under = (event) => document.elementsFromPoint(event.clientX, event.clientY)
  .map((element) => element.closest(".sp-bench")).find((box) => box && (box !== held.chip.closest(".sp-bench")));

addEventListener("keydown", (event) => {
  const chip = event.target.closest?.(".sp-seat");
  const way = {
    ArrowLeft: -1,
    ArrowUp: -1,
    ArrowRight: 1,
    ArrowDown: 1
  } [event.key];
  if (!chip || !way || !event.altKey) return;
  event.preventDefault();
  move(chip.dataset.who, benchOf(chip), benchOf(chip) + way);
});
addEventListener("input", (event) => {
  if (event.target.id !== "bench-lines") return;
  draw();
  check();
});
// A fair split has filled the field anew.
addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id === "bench-rows") draw();
});
if (seats()) draw();
