// The staged hand-wash. Time is taken from the clock, not counted in ticks, so that a tablet that
// dozes or loses the network still knows how long the hands were scrubbed.

const box = document.getElementById("wash");
const wedges = [...box.querySelectorAll(".wedge")];
const stages = wedges.map((el) => ({
  el,
  s: Number(el.dataset.s),
  scrub: el.dataset.scrub === "1",
  name: el.dataset.name
}));
const total = stages.reduce((sum, stage) => sum + stage.s, 0);
const done = box.querySelector("[data-wash-done]");
let run = null;

// Whole seconds scrubbed by this moment, cut down: never more than was done.
function scrubbed(elapsed) {
  let at = 0;
  let seconds = 0;
  for (const stage of stages) {
    if (stage.scrub) seconds += Math.min(Math.max(elapsed - at, 0), stage.s);
    at += stage.s;
  }
  return Math.floor(seconds + 1e-6);
}

function draw() {
  if (!run) return;
  const elapsed = Math.min((Date.now() - run.from) / 1000, total);
  let at = 0;
  stages.forEach((stage, i) => {
    const now = elapsed >= at && elapsed < at + stage.s;
    stage.el.classList.toggle("is-done", elapsed >= at + stage.s);
    stage.el.classList.toggle("is-now", now);
    if (now && run.stage !== i) {
      run.stage = i;
      box.querySelector("#wash-now").textContent = stage.name;
      run.onStage(stage.name);
    }
    at += stage.s;
  });
  const left = Math.ceil(total - elapsed);
  box.querySelector("#wash-left").textContent = left;
  box.querySelector("#wash-dry").textContent = `0:${String(left).padStart(2, "0")}`;
  if (elapsed >= total && done.disabled) {
    done.disabled = false;
    done.classList.add("is-open");
    done.firstElementChild.textContent = "Hands are dry";
    box.querySelector("#wash-dry").textContent = "";
    box.querySelector("#wash-now").textContent = "Done";
    done.focus();
  }
}
setInterval(draw, 200);

// A tablet that reloads in the middle of a wash goes on where the clock says it is.
const KEY = "bulwark-wash";

function keep(value) {
  try {
    if (value) sessionStorage.setItem(KEY, JSON.stringify(value));
    else sessionStorage.removeItem(KEY);
  } catch {
    /* not kept */
  }
}
export function washUnderWay() {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEY));
    return kept && Date.now() - kept.from < (total + 60) * 1000 ? kept : null;
  } catch {
    return null;
  }
}

function end() {
  const elapsed = (Date.now() - run.from) / 1000;
  const {
    onEnd
  } = run;
  run = null;
  keep(null);
  box.close();
  onEnd(scrubbed(elapsed));
}

export function startWash(learner, {
  onStage,
  onEnd,
  from = Date.now()
}) {
  run = {
    from,
    stage: -1,
    onStage,
    onEnd
  };
  keep({
    learner,
    from
  });
  done.disabled = true;
  done.classList.remove("is-open");
  done.firstElementChild.textContent = "Hands dry in";
  box.querySelector("#wash-who").textContent = `${learner} washes`;
  box.showModal();
  draw();
}

done.addEventListener("click", () => run && end());
box.querySelector("[data-wash-stop]").addEventListener("click", () => run && end());
box.addEventListener("cancel", (event) => {
  event.preventDefault();
  if (run) end();
});
