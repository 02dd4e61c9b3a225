// The flow map by mouse, thumb and keyboard: a sentence for each contact, stepping through and
// playing, and dragging a step to another place. Everything here also works as plain links.

const root = () => document.getElementById("flow");
const svg = () => root().querySelector(".fl-svg");
const rings = () => [...svg().querySelectorAll(".fl-ring")];
const heads = () => [...svg().querySelectorAll(".fl-head")];
let at = null;
let playing = null;
let picked = null;

function say(text) {
  root().querySelector("#fl-say").textContent = text;
}

function tell(ring, focus) {
  for (const other of rings()) other.classList.toggle("is-told", other === ring);
  if (focus) {
    for (const other of rings()) other.setAttribute("tabindex", other === ring ? "0" : "-1");
    ring.focus();
  }
  say(ring.getAttribute("aria-label"));
}

// The nearest contact in the direction of an arrow key: along the lane, or along the step.
function next(ring, key) {
  const x = Number(ring.dataset.x);
  const y = Number(ring.dataset.y);
  const along = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1]
  } [key];
  let best = null;
  let least = Infinity;
  for (const other of rings()) {
    const dx = Number(other.dataset.x) - x;
    const dy = Number(other.dataset.y) - y;
    const ahead = dx * along[0] + dy * along[1];
    if (ahead <= 1) continue;
    const aside = Math.abs(dx * along[1]) + Math.abs(dy * along[0]);
    const far = ahead + 4 * aside;
    if (far < least)[best, least] = [other, far];
  }
  return best;
}

// --- stepping and playing ---

function stepTo(step) {
  const last = heads().length - 1;
  at = step === null ? null : Math.max(0, Math.min(last, step));
  const column = Number(root().dataset.column);
  const past = svg().querySelector("#fl-past-rect");
  past.setAttribute("width", at === null ? String(svg().viewBox.baseVal.width + 8) : String((at + 0.5) * column + 8));
  for (const part of svg().querySelectorAll(".fl-at, .fl-head"))
    part.classList.toggle("is-later", at !== null && Number(part.dataset.step) > at);
  svg().querySelector(".fl-path").classList.toggle("is-later", at !== null);
  for (const stop of svg().querySelectorAll(".fl-stop")) stop.classList.toggle("is-later", at !== null);
  if (at === null) return say("All steps.");
  const here = rings().filter((ring) => Number(ring.dataset.step) === at && ring.querySelector("circle"));
  const raw = here.find((ring) => / comes onto it here/.test(ring.getAttribute("aria-label"))) ?? here[0];
  say(raw ? raw.getAttribute("aria-label") : heads()[at].dataset.title);
  return heads()[at].scrollIntoView({
    block: "nearest",
    inline: "center"
  });
}

function play(button) {
  if (playing) return stop(button);
  if (at === null || at >= heads().length - 1) stepTo(0);
  button.textContent = "Stop";
  playing = setInterval(() => {
    if (at >= heads().length - 1) return stop(button);
    return stepTo(at + 1);
  }, 1400);
  return undefined;
}

function stop(button) {
  clearInterval(playing);
  playing = null;
  if (button) button.textContent = "Play";
}

function go(event) {
  const button = event.target.closest("[data-go]");
  if (!button) return;
  event.preventDefault();
  const what = button.dataset.go;
  if (what === "play") return void play(button);
  stop(root().querySelector('[data-go="play"]'));
  if (what === "all") stepTo(null);
  if (what === "on") stepTo(at === null ? 0 : at + 1);
  if (what === "back") stepTo(at === null ? heads().length - 1 : at - 1);
}

// --- a long look for a better order ---

function look(event) {
  const button = event.target.closest?.("[data-look]");
  const box = button?.closest(".fl-look");
  if (!box) return;
  const [begin, wait, said] = [box.querySelector('[data-look="begin"]'), box.querySelector(".fl-wait"), box
    .querySelector('[data-look="said"]')
  ];
  const end = () => {
    box.stream?.close();
    box.stream = null;
    clearInterval(box.clock);
    wait.hidden = true;
    begin.hidden = false;
  };
  if (button.dataset.look === "stop") return void end();
  if (button.dataset.look !== "begin") return;
  begin.hidden = true;
  wait.hidden = false;
  let bound = 0;
  const from = Date.now();
  const tell = () => (said.textContent =
    `Looking for ${Math.round((Date.now() - from) / 1000)} s. At least ${bound} washes are proven.`);
  tell();
  box.clock = setInterval(tell, 1000);
  box.stream = new EventSource(box.dataset.live);
  box.stream.addEventListener("bound", (news) => {
    bound = Number(news.data);
    tell();
  });
  box.stream.addEventListener("found", (news) => {
    end();
    box.innerHTML = JSON.parse(news.data);
  });
  box.stream.addEventListener("error", () => {
    end();
    say("The search was cut off: the network went away, or this order cannot be read. Look again.");
  });
}

// --- another order ---

function pick(head) {
  picked = head.dataset.id;
  for (const other of heads()) other.classList.toggle("is-chosen", other === head);
  for (const button of root().querySelectorAll("[data-move]")) button.disabled = false;
  say(`${head.dataset.title}. Alt and an arrow key, or Earlier and Later, move it.`);
}

// The order asked for and not yet answered: the next move starts from it, and only its answer counts.
let wanted = null;

function gaveUp(text) {
  wanted = null;
  root().removeAttribute("aria-busy");
  return say(text);
}

async function tryOrder(ids, keep) {
  wanted = ids;
  const query = new URLSearchParams({
    order: ids.join(",")
  });
  say("Working this order out.");
  root().setAttribute("aria-busy", "true");
  let answer;
  let text;
  try {
    answer = await fetch(`${root().dataset.url}?${query}`, {
      headers: {
        "HX-Request": "true",
        "HX-Target": "flow"
      }
    });
    text = await answer.text();
  } catch {
    return wanted === ids ? gaveUp("The network is away. Nothing was changed.") : undefined;
  }
  if (wanted !== ids) return undefined;
  if (!answer.ok) return gaveUp("That did not work. Reload the page and try again.");
  wanted = null;
  const page = new DOMParser().parseFromString(text, "text/html");
  const scrolled = root().querySelector(".fl-scroll").scrollLeft;
  root().replaceWith(page.getElementById("flow"));
  window.htmx?.process(root());
  history.replaceState(null, "", `?${query}`);
  listen();
  root().querySelector(".fl-scroll").scrollLeft = scrolled;
  const head = heads().find((other) => other.dataset.id === keep);
  if (head) {
    pick(head);
    head.focus();
  }
  const refused = root().querySelector(".fl-main > .is-error");
  const count = root().querySelectorAll(".fl-others li").length || root().querySelectorAll(".fl-finding").length;
  return say(refused ? refused.textContent : `In this order: ${count || "no"} finding${count === 1 ? "" : "s"}.`);
}

const order = () => wanted ?? heads().map((head) => head.dataset.id);

function move(id, to) {
  const ids = [...order()];
  const from = ids.indexOf(id);
  const place = Math.max(0, Math.min(ids.length - 1, to));
  if (from < 0 || from === place) return;
  ids.splice(place, 0, ids.splice(from, 1)[0]);
  tryOrder(ids, id);
}

const moveBy = (id, by) => move(id, order().indexOf(id) + by);

function drag(event) {
  const head = event.target.closest(".fl-head");
  if (!head || event.button) return;
  const box = svg().getBoundingClientRect();
  const column = Number(root().dataset.column);
  const start = event.clientX;
  let to = null;
  const line = document.createElementNS("http://www.w3.org/2000/svg", "path");
  const over = (now) => {
    if (Math.abs(now.clientX - start) < 8) return;
    head.classList.add("is-dragged");
    to = Math.max(0, Math.min(heads().length, Math.round((now.clientX - box.left - 4) / column)));
    line.setAttribute("class", "fl-drop");
    line.setAttribute("d", `M${to * column + 4} 4V${svg().viewBox.baseVal.height}`);
    svg().append(line);
  };
  const drop = () => {
    window.removeEventListener("pointermove", over);
    window.removeEventListener("pointerup", drop);
    window.removeEventListener("pointercancel", drop);
    line.remove();
    head.classList.remove("is-dragged");
    if (to === null) return pick(head);
    const from = Number(head.dataset.step);
    return move(head.dataset.id, to > from ? to - 1 : to);
  };
  window.addEventListener("pointermove", over);
  window.addEventListener("pointerup", drop);
  window.addEventListener("pointercancel", drop);
}

function key(event) {
  const ring = event.target.closest?.(".fl-ring");
  const head = event.target.closest?.(".fl-head");
  if (ring && event.key.startsWith("Arrow")) {
    event.preventDefault();
    const other = next(ring, event.key);
    if (other) tell(other, true);
  } else if (ring && (event.key === "Enter" || event.key === " ")) {
    event.preventDefault();
    tell(ring, true);
  } else if (head && (event.key === "ArrowLeft" || event.key === "ArrowRight")) {
    event.preventDefault();
    const by = event.key === "ArrowRight" ? 1 : -1;
    if (event.altKey) return moveBy(head.dataset.id, by);
    const other = heads()[Number(head.dataset.step) + by];
    if (other) {
      head.setAttribute("tabindex", "-1");
      other.setAttribute("tabindex", "0");
      other.focus();
    }
  } else if (head && (event.key === "Enter" || event.key === " ")) {
    event.preventDefault();
    pick(head);
  }
  return undefined;
}

function listen() {
  at = null;
  stop();
  svg().addEventListener("pointerover", (event) => {
    const ring = event.target.closest(".fl-ring");
    if (ring) tell(ring, false);
    const head = event.target.closest(".fl-head");
    if (head) say(`${head.dataset.title}.`);
  });
  svg().addEventListener("click", (event) => {
    const ring = event.target.closest(".fl-ring");
    if (ring) tell(ring, true);
  });
  svg().addEventListener("keydown", key);
  svg().addEventListener("pointerdown", drag);
  root().querySelector(".fl-play").addEventListener("click", go);
  root().querySelector('[data-go="play"]').hidden = false;
  for (const button of root().querySelectorAll(".fl-plain")) button.hidden = true;
  for (const button of root().querySelectorAll("[data-move]")) {
    button.hidden = false;
    button.addEventListener("click", () => picked && moveBy(picked, Number(button.dataset.move)));
  }
}

if (root()) {
  listen();
  document.addEventListener("click", look);
  document.body.addEventListener("htmx:load", () => {
    for (const button of document.querySelectorAll('[data-look="begin"]')) button.hidden = false;
  });
  document.body.addEventListener("htmx:afterSwap", (event) => {
    if (event.detail.target.id === "flow" || document.getElementById("flow") === event.detail.elt) listen();
  });
}
