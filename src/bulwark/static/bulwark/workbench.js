// What the server cannot do at the workbench: go to another tool on choosing it, and mark the
// fields that the last answer found wrong.
// Answers come as one types; the button is for who has no script.
document.documentElement.classList.add("js");

document.getElementById("wb-tools")?.addEventListener("change", (event) => {
  window.location.href = event.target.value;
});

document.body.addEventListener("htmx:afterSwap", () => {
  const wrong = new Set([...document.querySelectorAll("#wb-result .wb-fix")].map((el) => el.getAttribute("href").slice(1)));
  for (const field of document.querySelectorAll(".wb-field")) {
    const input = field.querySelector("input, select, textarea");
    const bad = wrong.has(input?.id);
    field.classList.toggle("is-wrong", bad);
    if (bad) input.setAttribute("aria-invalid", "true");
    else input?.removeAttribute("aria-invalid");
  }
});
