// The plan board by mouse and keyboard: a brick is dragged along its row, or moved by Alt and an arrow key a
// minute at a time. Where it is put stands in the address, so going back takes it back. The rest works as links.

const LEFT = 112;
const RIGHT = 1164;
const svg = document.querySelector(".pb-board");
const MINUTES = Number(svg?.dataset.minutes);
const minute = (x) => Math.max(0, Math.round(((x - LEFT) / (RIGHT - LEFT)) * MINUTES));

function put(brick, at) {
  const to = new URL(location.href);
  const id = brick.dataset.brick;
  const pins = to.searchParams.getAll("pin").filter((pin) => pin.slice(0, pin.lastIndexOf("@")) !== id);
  to.searchParams.delete("pin");
  for (const pin of [...pins, `${id}@${at}`]) to.searchParams.append("pin", pin);
  to.searchParams.set("pick", id);
  to.hash = "";
  location.assign(to);
}

let held = null;
svg?.addEventListener("pointerdown", (event) => {
  const brick = event.target.closest("[data-brick]");
  if (brick && event.button === 0) held = {
    brick,
    from: event.clientX,
    moved: 0
  };
});
svg?.addEventListener("pointermove", (event) => {
  if (!held) return;
  held.moved = ((event.clientX - held.from) / svg.getBoundingClientRect().width) * 1240;
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
svg?.addEventListener("dragstart", (event) => event.preventDefault());
svg?.addEventListener("keydown", (event) => {
  const brick = event.target.closest("[data-brick]");
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
