// A tap before the bench's modules have come is kept until they can take it: the browser itself
// would send the form as a page, and the entry would be lost on it; a button would do nothing.
window.earlyEntries = [];
window.earlyTaps = [];
addEventListener("submit", (event) => {
  if (!window.earlyEntries || !event.target.closest("form[data-entry]")) return;
  event.preventDefault();
  window.earlyEntries.push([event.target, event.submitter]);
}, true);
addEventListener("click", (event) => {
  const button = event.target.closest("button");
  if (window.earlyTaps && button && (!button.form || button.type === "button")) window.earlyTaps.push(button);
}, true);
