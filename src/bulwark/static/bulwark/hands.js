// Hand-wash practice: one scrubs to the beat, another taps where it is being scrubbed. Time is the clock's; at the end
// each place glows for what it is short of. No camera, and nothing is kept.

const box = document.getElementById("hands");
const needed = Number(box.dataset.needed);
const places = [...box.querySelectorAll("[data-place]")];
const share = needed / places.length;
const spent = new Map(places.map((el) => [el, 0]));
const clock = box.querySelector("[data-clock]");
const told = box.querySelector("[data-told]");
const start = box.querySelector("[data-start]");
// A step of 20 seconds at 96 a minute is 32 beats: two short verses of whatever they hum.
const BEAT_MS = 625;
let run = null;
// The beat can be heard, where somebody wants it: a soft knock of our own, every fourth a little higher.
const hear = box.querySelector("[data-hear]");
let sound = null;
let knocked = -1;

function knock(beat) {
  if (!sound) return;
  const tone = sound.createOscillator();
  const loud = sound.createGain();
  const now = sound.currentTime;
  tone.frequency.value = beat % 4 ? 196 : 262;
  loud.gain.setValueAtTime(0.25, now);
  loud.gain.exponentialRampToValueAtTime(0.001, now + 0.18);
  tone.connect(loud).connect(sound.destination);
  tone.start(now);
  tone.stop(now + 0.2);
}

hear.addEventListener("click", () => {
  const Sound = window.AudioContext;
  if (sound) sound.close();
  sound = sound || !Sound ? null : new Sound();
  hear.setAttribute("aria-pressed", String(sound !== null));
  knock(0);
});

function settle() {
  if (!run) return;
  const now = Date.now();
  if (run.at) spent.set(run.at, spent.get(run.at) + (now - run.since) / 1000);
  run.since = now;
}

// By how much [0 to 1] a place glows, in the list and on both hands.
function glow(el, much) {
  for (const lit of [el, ...box.querySelectorAll(`[data-glow="${places.indexOf(el)}"]`)])
    lit.style.setProperty("--glow", String(much));
}

function show(el) {
  for (const other of places) other.setAttribute("aria-pressed", String(other === el));
}

function begin() {
  for (const el of places) {
    spent.set(el, 0);
    glow(el, 0);
  }
  box.classList.remove("is-over");
  run = {
    from: Date.now(),
    since: Date.now(),
    at: null
  };
  told.textContent = "";
  start.hidden = true;
  box.classList.add("is-on");
}

function end() {
  settle();
  run = null;
  show(null);
  box.classList.remove("is-on");
  box.classList.add("is-over");
  const missed = [];
  for (const el of places) {
    // Cut down: nothing counts as washed before it was.
    const short = Math.max(0, share - Math.floor(spent.get(el) * 10) / 10);
    glow(el, Math.min(1, short / share));
    if (short > 0) missed.push(`${el.dataset.place} ${short.toFixed(1)} s`);
  }
  told.textContent = missed.length ? `${told.dataset.missed} ${missed.join(", ")}` : told.dataset.clean;
  start.hidden = false;
  start.textContent = start.dataset.again;
  start.focus();
}

setInterval(() => {
  if (!run) return;
  const gone = (Date.now() - run.from) / 1000;
  clock.textContent = String(Math.max(0, Math.ceil(needed - gone)));
  const beat = Math.floor((gone * 1000) / BEAT_MS);
  box.classList.toggle("is-beat", beat % 2 === 0);
  if (beat !== knocked) knock(beat);
  knocked = beat;
  if (gone >= needed) end();
}, 100);

start.addEventListener("click", begin);
for (const el of places)
  el.addEventListener("click", () => {
    if (!run) return;
    settle();
    run.at = el;
    show(el);
  });
