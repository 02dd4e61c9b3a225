// Typing a temperature with wet hands: a large keypad, the probe's own reading on one button, and
// the server's question when a number looks like the wrong unit.

const box = document.getElementById("keypad");
const typed = box.querySelector("[data-typed]");
const question = box.querySelector(".bw-question");
let entry = null;
let text = "";
let source = "keypad";

function draw() {
  typed.textContent = text || "–";
  box.querySelector("[data-enter]").disabled = !/\d/.test(text);
}

let following = 0; // the probe, as long as nobody types

function press(key) {
  following += 1;
  source = "keypad";
  if (key === "back") text = text.slice(0, -1);
  else if (key === "sign") text = text.startsWith("-") ? text.slice(1) : `-${text}`;
  else if (key === "." ? !text.includes(".") : text.replace(/\D/g, "").length < 4) text += key;
  draw();
}

// The probe is read again and again until it stands still: it lags behind the food.
async function fromProbe() {
  const button = box.querySelector("[data-take]");
  const mine = (following += 1);
  const began = Date.now();
  button.disabled = true;
  for (let n = 0; n < 40 && box.open && following === mine; n += 1) {
    const query = new URLSearchParams({
      food: entry.food,
      piece: entry.piece ?? "1",
      in: (Date.now() - began) / 1000
    });
    let body;
    try {
      const response = await fetch(`${entry.probe}?${query}`, {
        credentials: "same-origin"
      });
      body = await response.json();
      if (!response.ok) {
        tell(body.error?.message);
        break;
      }
    } catch {
      tell("The probe is out of reach: type what it shows.");
      break;
    }
    if (!box.open || following !== mine) break;
    text = (entry.unit === "F" ? body.celsius * 9 / 5 + 32 : body.celsius).toFixed(1);
    source = body.device;
    draw();
    if (!body.calibrated) tell("This probe is out by more than 1 °C. Use another one, or check it in ice.");
    else if (body.battery_percent < 15) tell(`Its battery is at ${Math.round(body.battery_percent)} %.`);
    else tell(body.settled ? "" : "Hold it still: it is not there yet.");
    if (body.settled) break;
    box.querySelector("[data-enter]").disabled = true;
    await new Promise((done) => {
      setTimeout(done, 500);
    });
  }
  button.disabled = false;
  draw();
}

function tell(words) {
  const says = box.querySelector(".bw-probe-says");
  says.textContent = words ?? "";
  says.hidden = !words;
}

function enter() {
  const data = {
    value: Number(text),
    unit: entry.unit,
    source
  };
  if (entry.food) data.food = entry.food;
  if (entry.piece) data.piece = entry.piece;
  entry.outbox.add(entry.kind, data);
  if (entry.piece) nextPiece(entry.food);
  box.close();
}

// The button asks for the next piece at once; without a network it would ask for the same one.
// (Looked up anew: the screen may have been drawn again while the keypad was open.)
function nextPiece(food) {
  for (const el of piecesOf(food)) askFor(el, String(Number(el.dataset.piece) + 1));
}

const piecesOf = (food) => [...document.querySelectorAll("[data-keypad][data-piece]")].filter((row) => row.dataset
  .food === food);

function askFor(el, piece) {
  const now = new RegExp(`${el.dataset.piece}\\s*$`);
  el.dataset.piece = piece;
  el.dataset.heading = el.dataset.heading.replace(now, piece);
  el.lastChild.textContent = el.lastChild.textContent.replace(now, piece);
}

// Which piece of a food is to be probed, where that is known here.
export function askForPiece(food, piece) {
  for (const el of piecesOf(food))
    if (el.dataset.piece !== piece) askFor(el, piece);
}

export const keypad = {
  open(button, root, outbox) {
    entry = {
      kind: button.kind,
      food: button.food,
      piece: button.piece,
      unit: button.unit ?? root.unit,
      probe: root.probe,
      outbox
    };
    text = "";
    source = "keypad";
    box.querySelector(".bw-keypad-value").hidden = false;
    question.hidden = true;
    box.querySelector("#keypad-title").textContent = button.heading;
    box.querySelector(".bw-keypad-limit").textContent = button.limit ?? "";
    const degrees = entry.unit === "C" || entry.unit === "F"; // else an amount: no degrees, and never below nothing
    box.querySelector("[data-unit]").textContent = degrees ? `°${entry.unit}` : ` ${entry.unit}`;
    box.querySelector("[data-key=sign]").hidden = !degrees;
    box.querySelector("[data-take]").hidden = !("probe" in button);
    tell("");
    draw();
    box.showModal();
  },

  // The server asks about an entry that waits: the answer goes back to its place in the outbox.
  ask(row, asked, outbox) {
    question.querySelector("b").textContent = asked.title;
    question.querySelector("p").textContent = asked.text;
    const acts = question.querySelector(".bw-acts");
    acts.replaceChildren();
    const add = (label, change, primary) => {
      const button = document.createElement("button");
      button.type = "button";
      button.className = `button${primary ? " is-primary" : ""}`;
      button.textContent = label;
      button.addEventListener("click", () => {
        box.close();
        question.hidden = true;
        box.classList.remove("is-asking");
        outbox.answer(row, change);
      });
      acts.append(button);
    };
    asked.answers.forEach(({
      label,
      ...change
    }, i) => add(label, change, i === 0));
    add(asked.again ?? "Type it again", null, asked.answers.length === 0);
    question.hidden = false;
    entry = null;
    text = asked.shown ?? String(row.data.value ?? "");
    box.querySelector("#keypad-title").textContent = "Look again";
    box.querySelector(".bw-keypad-limit").textContent = "";
    box.querySelector("[data-unit]").textContent = row.data.unit ? `°${row.data.unit}` : "";
    box.classList.add("is-asking");
    typed.textContent = text;
    box.querySelector(".bw-keypad-value").hidden = !text;
    if (!box.open) box.showModal();
  },
};

box.addEventListener("cancel", (event) => {
  if (!question.hidden) event.preventDefault();
});
box.addEventListener("click", (event) => {
  const el = event.target.closest("button");
  if (!el) return;
  if (el.dataset.key) press(el.dataset.key);
  else if ("take" in el.dataset) fromProbe();
  else if ("cancel" in el.dataset) box.close();
  else if ("enter" in el.dataset) enter();
});
box.addEventListener("keydown", (event) => {
  if (!entry) return;
  if (/^[0-9.]$/.test(event.key)) press(event.key);
  else if (event.key === "Backspace") press("back");
  else if (event.key === "-") press("sign");
  else if (event.key === "Enter" && /\d/.test(text)) {
    event.preventDefault();
    enter();
  }
});
