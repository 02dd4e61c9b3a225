// The page in this browser's own keeping (worker.js), and how old it is when it comes from there.

const drawn = document.querySelector("[data-drawn]")?.dataset.drawn;
// When this page was drawn, by this device's clock, if it comes from its own keeping; null for one from the server.
export const drawnAt = drawn ? Number(drawn) : null;

export const at = (ms) => new Date(ms).toLocaleTimeString(document.documentElement.lang || [], {
  hour: "2-digit",
  minute: "2-digit",
  hour12: false
});

export async function keepPage() {
  const workers = navigator.serviceWorker; // only where the address can be trusted
  if (!workers || drawnAt !== null) return;
  try {
    await workers.register("/worker.js");
    const {
      active
    } = await workers.ready;
    const own = performance.getEntriesByType("resource").map((row) => row.name);
    const keep = own.filter((name) => new URL(name).pathname.startsWith("/static/"));
    active.postMessage({
      keep: [...new Set(keep)],
      page: location.pathname
    });
  } catch {
    /* a private window: it works on as long as it stays open */
  }
}
navigator.serviceWorker?.addEventListener("message", (event) => {
  if (event.data.kept) document.documentElement.dataset.kept = event.data.kept;
});
