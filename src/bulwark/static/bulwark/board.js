// The plan board by mouse and keyboard: a brick is dragged along its row, or moved by Alt and an arrow key a
// minute at a time. Where it is put is kept with the lesson, and can be taken back. The rest works as links.

const LEFT = 112;
const RIGHT = 1164;
const svg = () => document.querySelector(".pb-board");
const minute = (x) => Math.max(0, Math.round(((x - LEFT) / (RIGHT - LEFT)) * Number(svg().dataset.minutes)));

function put(brick, at) {
  const form = document.createElement("form");
  form.method = "post";
  form.action = svg().dataset.change;
  const said = {
    csrfmiddlewaretoken: document.querySelector("[name=csrfmiddlewaretoken]").value,
    do: "put",
    of: brick.dataset.brick,
    value: at,
    pick: brick.dataset.brick,
    seen: svg().dataset.seen,
  };
  for (const [name, value] of Object.entries(said)) {
    const input = document.createElement("input");
    input.type = "hidden";
    Object.assign(input, {
      name,
      value
    });
    form.append(input);
  }
  document.body.append(form);
  form.submit();
}

let held = null;
addEventListener("pointerdown", (event) => {
  const brick = event.target.closest?.("[data-brick]");
  if (brick && event.button === 0) held = {
    brick,
    from: event.clientX,
    moved: 0
  };
});
addEventListener("pointermove", (event) => {
  if (!held) return;
  held.moved = ((event.clientX - held.from) / svg().getBoundingClientRect().width) * 1240;
  if (Math.abs(held.moved) > 4) held.brick.setAttribute("transform", `translate(${held.moved} 0)`);
});
addEventListener("pointerup", () => {
  if (held && Math.abs(held.moved) > 4) {
    const {
      brick,
      moved
    } = held;
    // The click that follows the drag is not a choice.
    brick.addEventListener("click", (event) => event.preventDefault(), {
      once: true
    });
    put(brick, minute(Number(brick.dataset.x) + moved));
  }
  held = null;
});
addEventListener("dragstart", (event) => {
  if (event.target.closest?.("[data-brick]")) event.preventDefault();
});
addEventListener("keydown", (event) => {
  const brick = event.target.closest?.("[data-brick]");
  const way = {
    ArrowLeft: -1,
    ArrowRight: 1
  } [event.key];
  if (!brick || !way || !event.altKey) return;
  event.preventDefault();
  put(brick, Math.max(0, minute(Number(brick.dataset.x)) + way));
});
// What was put keeps the keyboard.
document.querySelector(".pb-brick.is-picked")?.focus({
  preventScroll: true
});

// --- a long look for a shorter plan ---

const box = document.querySelector(".pb-look");
let stream = null;

function look(busy, text) {
  box.querySelector("[data-look=begin]").hidden = busy;
  box.querySelector("[data-look=stop]").hidden = !busy;
  box.querySelector("[role=status]").textContent = text;
}

function end(text) {
  stream?.close();
  stream = null;
  look(false, text);
}
box?.addEventListener("click", (event) => {
  const what = event.target.closest("[data-look]")?.dataset.look;
  if (what === "stop") return void end("Stopped.");
  if (what !== "begin") return;
  look(true, "Looking, for twenty seconds at the most.");
  stream = new EventSource(box.dataset.live);
  stream.addEventListener("bound", (news) => look(true,
    `Looking. No plan can be shorter than ${news.data} minutes.`));
  stream.addEventListener("found", (news) => {
    const page = new DOMParser().parseFromString(JSON.parse(news.data), "text/html");
    for (const part of [".pb-says", ".pb-board"]) {
      const fresh = page.querySelector(part);
      if (fresh) document.querySelector(part).replaceWith(fresh);
    }
    end("This is the best that was found.");
  });
  stream.addEventListener("error", () => end("The look was cut off: the network went away. Look again."));
});
