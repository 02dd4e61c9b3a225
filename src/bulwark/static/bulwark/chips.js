// A field of words parted by commas as chips: two letters offer what fits, Enter or a tap takes it,
// Backspace takes the last one away. The field itself stays and is what is sent.

let count = 0;

export function chipField(field, choices) {
  if (field.dataset.chips) return;
  field.dataset.chips = "on";
  const box = document.createElement("span");
  box.className = "rd-field";
  const typed = document.createElement("input");
  const list = document.createElement("span");
  list.id = `offers-${(count += 1)}`;
  list.setAttribute("role", "listbox");
  list.className = "rd-offers";
  list.hidden = true;
  typed.setAttribute("role", "combobox");
  typed.setAttribute("aria-expanded", "false");
  typed.setAttribute("aria-controls", list.id);
  typed.setAttribute("aria-label", field.closest("label").firstChild.textContent.trim());
  typed.autocomplete = "off";
  box.append(typed, list);
  field.after(box);
  field.hidden = true;

  const words = () => field.value.split(",").map((word) => word.trim()).filter(Boolean);

  function set(next) {
    field.value = [...new Set(next)].join(", ");
    draw();
  }

  function draw() {
    box.querySelectorAll(".rd-chip").forEach((chip) => chip.remove());
    for (const word of words()) {
      const chip = document.createElement("button");
      chip.type = "button";
      chip.className = "rd-chip";
      chip.textContent = `${word} ×`;
      chip.setAttribute("aria-label", `take out ${word}`);
      chip.addEventListener("click", () => {
        set(words().filter((other) => other !== word));
        typed.focus();
      });
      box.insertBefore(chip, typed);
    }
  }

  function offer() {
    const start = typed.value.trim().toLowerCase();
    const have = new Set(words());
    const fits = start.length < 2 ? [] : choices.filter((name) => name.toLowerCase().includes(start) && !have.has(
      name));
    list.replaceChildren(...fits.slice(0, 6).map((name) => {
      const row = document.createElement("button");
      row.type = "button";
      row.setAttribute("role", "option");
      row.setAttribute("aria-selected", "false");
      row.textContent = name;
      row.addEventListener("click", () => take(name));
      return row;
    }));
    list.hidden = !fits.length;
    typed.setAttribute("aria-expanded", String(!list.hidden));
  }

  function take(name) {
    if (name) set([...words(), name]);
    typed.value = "";
    offer();
    typed.focus();
  }

  typed.addEventListener("input", offer);
  typed.addEventListener("blur", () => {
    // A word left standing is meant; a tap on an offer takes the offer instead.
    setTimeout(() => {
      if (typed.value.trim() && !box.contains(document.activeElement)) set([...words(), typed.value.trim()]);
      if (!box.contains(document.activeElement)) {
        typed.value = "";
        offer();
      }
    }, 0);
  });
  typed.addEventListener("keydown", (event) => {
    if (event.key === "Enter" || event.key === ",") {
      if (!typed.value.trim()) return;
      event.preventDefault();
      take(list.firstElementChild?.textContent ?? typed.value.trim());
    } else if (event.key === "ArrowDown") {
      event.preventDefault();
      list.firstElementChild?.focus();
    } else if (event.key === "Backspace" && !typed.value) {
      set(words().slice(0, -1));
    } else if (event.key === "Escape") {
      typed.value = "";
      offer();
    }
  });
  draw();
}
