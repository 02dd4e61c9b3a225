// What readings show of a food that is to be cooked through, on this tablet alone: the same as the server's rule
// (foodsafety/cooking/verdict.py), held against it case by case by a test. It goes by what the server has sent along:
// of each food that lacks a proof ({food}) the temperatures that will do with their holds ({holds}), the rest and
// standing time after them ({then_s}), how many pieces ({pieces}, at most {most}), the error of a thermometer above
// which it is taken off ({over_c}), the longest gap between two readings of one hold ({gap_s}), and the readings that
// are in the log ({readings}), with when it came off the heat ({off}), steps that put it on the heat ({heats}), those of
// them that void what was read before ({again}), and what no food is hotter than ({hottest_c}): it was typed in another
// unit, and the server will ask. Moments are in milliseconds.

const celsius = ({
  value,
  unit
}) => (unit === "F" ? (Number(value) - 32) * 5 / 9 : Number(value));

// What else may be said of a food without its readings meaning anything else.
const HARMLESS = new Set(["core_read", "off_heat", "counted", "named", "observed", "timer_set"]);

const about = (row, food) => row.data.food === food || (row.data.foods ?? []).includes(food);

function goingOn(run, at, hold, gap_s) {
  if (!run) return {
    shown: at,
    since: at,
    proved: at,
    last: at,
    held: hold ? null : at
  };
  const unseen = run.held === null && at - run.proved > 1000 * gap_s;
  const since = unseen ? at : run.since;
  return {
    shown: run.shown,
    since,
    proved: at,
    last: at,
    held: run.held === null && at - since >= 1000 * hold ? at : run.held
  };
}

function lowestOf(latest) {
  let found = null;
  for (const [piece, core_c] of latest)
    if (found === null || core_c < latest.get(found)) found = piece;
  return found;
}

function firstUnread(latest) {
  let n = 1;
  while (latest.has(String(n))) n += 1;
  return String(n);
}

// One more reading, in time; the run at each temperature goes on, begins or breaks.
function after(shown, {
  at,
  piece,
  core_c
}, row) {
  const by = lowestOf(shown.latest) ?? piece;
  shown.latest.set(piece, core_c);
  row.holds.forEach(([least_c, hold_s], i) => {
    if (core_c < least_c) {
      shown.below[i].add(piece);
      shown.runs[i] = null;
      return;
    }
    shown.below[i].delete(piece);
    if (shown.below[i].size || shown.latest.size < row.pieces) shown.runs[i] = null;
    else if (shown.runs[i] && piece !== by) shown.runs[i] = {
      ...shown.runs[i],
      last: at
    };
    else shown.runs[i] = goingOn(shown.runs[i], at, hold_s, row.gap_s);
  });
}

// Where a run stands at a moment: {status, left_s}.
function standing(run, hold_s, row, off, now) {
  const end = run.since + 1000 * hold_s;
  if (run.held === null) return now < end ? {
    status: "hold",
    left_s: (end - now) / 1000
  } : {
    status: "confirm",
    left_s: 0
  };
  if (!row.then_s) return {
    status: "reached",
    left_s: 0
  };
  const over = (off === null ? run.last : Math.max(off, end, run.shown)) + 1000 * row.then_s;
  return now < over && run.proved < over ? {
    status: "rest",
    left_s: (over - Math.max(now, run.last)) / 1000
  } : {
    status: "reached",
    left_s: 0
  };
}

const RANK = ["reached", "confirm", "rest", "hold"];

// The verdict on one food at a moment, with the entries that wait here: {status, left_s, lowest, pieces, needed, next,
// typed}; ``next`` is the piece to probe next, ``typed`` what was typed here last of each piece. "unknown" where something
// waits that only the server can weigh.
export function verdict(row, waiting, now) {
  const rows = waiting.filter((one) => about(one, row.food));
  const read = rows.filter((one) => one.kind === "core_read");
  const heated = waiting.filter((one) => ["on_heat", "step_done"].includes(one.kind) && row.heats.includes(one.data
    .step));
  if (rows.some((one) => !HARMLESS.has(one.kind)) || waiting.some((one) => one.kind === "voided") ||
    read.some((one) => !(celsius(one.data) <= row.hottest_c)) || heated.some((one) => row.again.includes(one.data
      .step))) return {
    status: "unknown"
  };
  const counted = rows.findLast((one) => one.kind === "counted");
  const judged = counted ? {
    ...row,
    pieces: Math.min(row.most, Number(counted.data.pieces))
  } : row;
  const said_off = rows.findLast((one) => one.kind === "off_heat")?.happened_at ?? row.off;
  // On the heat again since: whether what was said still counts is the server's to say, and the later moment is taken.
  const again = said_off !== null && heated.some((one) => one.happened_at > said_off);
  const readings = [...row.readings.map(([at, piece, core_c, error_c]) => ({
    at,
    piece,
    core_c,
    error_c
  })), ...read.map((one) => ({
    at: one.happened_at,
    piece: String(one.data.piece ?? "1"),
    core_c: celsius(one.data),
    error_c: Math.abs(one.data.error_c ?? 0),
    typed: one.data
  }))].sort((a, b) => a.at - b.at || b.core_c - a.core_c);
  const shown = {
    latest: new Map(),
    below: row.holds.map(() => new Set()),
    runs: row.holds.map(() => null)
  };
  for (const one of readings)
    after(shown, {
      ...one,
      core_c: one.core_c - (one.error_c > row.over_c ? one.error_c : 0)
    }, judged);
  const last = lowestOf(shown.latest);
  const all = shown.latest.size >= judged.pieces;
  const said = {
    lowest: readings.findLast((one) => one.piece === last)?.typed ?? null,
    pieces: shown.latest.size,
    needed: judged.pieces,
    next: all ? last : firstUnread(shown.latest),
    typed: [...new Map(readings.flatMap((one) => (one.typed ? [
      [one.piece, one.typed]
    ] : []))).entries()]
  };
  if (!shown.latest.size) return {
    status: "not_measured",
    ...said
  };
  const answers = judged.holds.flatMap(([, hold_s], i) => (shown.runs[i] ? [standing(shown.runs[i], hold_s, judged,
    again ?
    Math.max(said_off, shown.runs[i].last) : said_off, now)] : []));
  answers.sort((a, b) => RANK.indexOf(a.status) - RANK.indexOf(b.status) || a.left_s - b.left_s);
  return {
    ...(answers[0] ?? {
      status: shown.below.some((pieces) => !pieces.size) ? "too_few" : "below",
      left_s: 0
    }),
    ...said
  };
}

const degrees = ({
  value,
  unit
}) => `${value} °${unit}`;

// Time to wait, never rounded down.
function clockFace(left_s) {
  const s = Math.ceil(left_s ?? 0);
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

// Whether what waits here lifts a stop that lacked these readings, what is said of it, in ``words`` by how it stands,
// what was typed, and which piece of which food comes next: {lifted, mayGoOn, text, typed, food, next}, or null where there
// is nothing to say. What rests towards its proof is no reason to stand still.
export function readingsHere(owed, waiting, now, words) {
  const rows = owed.map((row) => ({
    food: row.food,
    ...verdict(row, waiting, now)
  }));
  const open = rows.find((row) => row.status !== "reached");
  const row = open ?? rows.find((one) => one.lowest) ?? rows[0];
  if (!words[row.status]) return null;
  const text = words[row.status].replace("FOOD", row.food).replace("COUNT", row.pieces).replace("NEEDED", row.needed)
    .replace("LOWEST", row.lowest ? degrees(row.lowest) : "–").replace("LEFT", clockFace(row.left_s));
  return {
    lifted: !open,
    mayGoOn: rows.every((one) => ["reached", "rest"].includes(one.status)),
    text,
    typed: row.typed.map(([piece, data]) => `${piece}: ${degrees(data)}`).join(" · "),
    food: row.food,
    next: row.next
  };
}
