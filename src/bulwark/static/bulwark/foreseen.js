// What this tablet knows by itself, from what the server has sent along with each step: which raw soils a step gives,
// whether hands touch its food, its kit, which soils would reach a plate from it, and until when its food may be out (for
// what its readings show, see cooked.js). It is asked between a step and the server's next answer, which knows better and
// takes its place.

const soiled = new Map();

const row = (panel) => JSON.parse(panel.dataset.foreseen ?? "{}");

function soil(carrier, soils) {
  soiled.set(carrier, new Set([...(soiled.get(carrier) ?? []), ...soils]));
}

// An entry that was made here; ``panel`` is the step's, where it is one.
export function took(kind, data, panel) {
  if (kind === "hands_washed") soiled.delete(`hands ${data.learner}`);
  if (["cleaned", "swapped"].includes(kind))
    for (const tool of data.tools) soiled.delete(`kit ${tool}`);
  if (kind !== "step_done" || !panel) return;
  const {
    gives = [], hands, tools = []
  } = row(panel);
  if (!gives.length) return;
  if (hands)
    for (const who of data.by) soil(`hands ${who}`, gives);
  for (const tool of tools) soil(`kit ${tool}`, gives);
}

// The server's own answer.
export const heard = () => soiled.clear();

// What stands in the way of a step with these hands, at a moment [ms]: {who}, {tools} and what was out too long
// ({late}), or null.
export function inTheWay(panel, who, now) {
  const {
    harms = [], hands, tools = [], until = {}
  } = row(panel);
  const harmful = (carrier) => harms.some((name) => soiled.get(carrier)?.has(name));
  const found = {
    who: hands && harmful(`hands ${who}`) ? who : "",
    tools: tools.filter((tool) => harmful(`kit ${tool}`)),
    late: Object.keys(until).filter((food) => now >= until[food])
  };
  return found.who || found.tools.length || found.late.length ? found : null;
}
