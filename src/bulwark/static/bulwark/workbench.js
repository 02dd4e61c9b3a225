// What the server cannot do at the workbench: go to another tool on choosing it, and mark the
// fields that the last answer found wrong.
// Answers come as one types; the button is for who has no script.
document.documentElement.classList.add("js");

document.getElementById("wb-tools")?.addEventListener("change", (event) => {
  window.location.href = event.target.value;
});

document.body.addEventListener("htmx:afterSwap", () => {
  const wrong = new Set([...document.querySelectorAll("#wb-result .wb-fix")].map((el) => el.getAttribute("href")
    .slice(1)));
  for (const field of document.querySelectorAll(".wb-field")) {
    const input = field.querySelector("input, select, textarea");
    const bad = wrong.has(input?.id);
    field.classList.toggle("is-wrong", bad);
    if (bad) input.setAttribute("aria-invalid", "true");
    else input?.removeAttribute("aria-invalid");
  }
});

// A long log: sent as a file, its answer streamed back with how far it is.
const file = document.getElementById("wb-file");
file?.addEventListener("change", async () => {
  const says = file.querySelector(".wb-progress");
  const form = document.getElementById("wb-form");
  const body = new FormData(file);
  for (const name of ["kind", "code"]) body.set(name, form.elements[name].value);
  const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
  says.textContent = "Sending the file.";
  try {
    const answer = await fetch(file.dataset.live, {
      method: "POST",
      body,
      headers: {
        "X-CSRFToken": token
      }
    });
    if (!answer.ok) throw new Error(answer.status);
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    let rest = "";
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      rest += part.value;
      const blocks = rest.split("\n\n");
      rest = blocks.pop();
      for (const block of blocks) told(block, says);
    }
  } catch {
    says.textContent = "That did not arrive. The file is still chosen: choose it again to send it anew.";
  }
});

function told(block, says) {
  const kind = /^event: (\w+)/m.exec(block)?.[1];
  const data = /^data: (.*)$/m.exec(block)?.[1];
  if (kind === "bound") says.textContent = `${Number(data).toLocaleString("en")} rows read.`;
  if (kind !== "found") return;
  const page = new DOMParser().parseFromString(JSON.parse(data), "text/html");
  document.getElementById("wb-result").replaceWith(page.getElementById("wb-result"));
  says.textContent = "Read to its end.";
}
