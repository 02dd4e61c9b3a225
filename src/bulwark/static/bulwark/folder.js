// A folder of recipes, file by file: each has its row as soon as it is read, and it can be stopped.

const form = document.querySelector("form[data-folder]");
const section = form.closest("section");
const said = section.querySelector("[data-said]");
const stop = section.querySelector("[data-stop]");
let stopped = false;

async function one(file) {
  const body = new FormData();
  body.set("locale", form.elements.locale.value);
  body.append("files", file);
  const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
  const headers = {
    "X-CSRFToken": token,
    "HX-Request": "true"
  };
  const answer = await fetch(form.action, {
    method: "POST",
    body,
    headers
  });
  if (!answer.ok) throw new Error(String(answer.status));
  return answer.text();
}

function table() {
  const found = section.querySelector("#waiting");
  if (found) return found.tBodies[0];
  section.append(section.querySelector("template").content.cloneNode(true));
  return section.querySelector("#waiting").tBodies[0];
}

form.addEventListener("submit", async (event) => {
  event.preventDefault();
  const files = [...form.elements.files.files];
  stopped = false;
  stop.hidden = false;
  let read = 0;
  for (const file of files) {
    if (stopped) break;
    said.textContent = `${read + 1} / ${files.length}: ${file.name}`;
    try {
      table().insertAdjacentHTML("beforeend", await one(file));
      read += 1;
    } catch {
      const row = table().insertRow();
      row.className = "is-lacking";
      row.insertCell().textContent = file.name;
      row.insertCell().textContent = "not read: the network is away or the file is too large";
    }
  }
  said.textContent = `${read} / ${files.length}`;
  stop.hidden = true;
});
stop.addEventListener("click", () => {
  stopped = true;
});
