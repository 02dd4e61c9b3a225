// Keeps the bench's page and the wall in this browser, as they were last seen, so that both open without a network
// from a cold start. With a network it changes nothing: the server is asked first, always. Entries are the outbox's.

const KEPT = "bulwark-kept-1";
const WAIT_MS = 5000;
const WALL = /^\/lessons\/\d+\/wall\/$/;

const isPage = (path) => ["/b/", "/pad/", "/shelf/count/"].includes(path) || WALL.test(path);
// The page of which a path is what moves; null for any other path.
const pageOf = (path) => [path.replace(/^\/(b|pad)\/screen\/$/, "/$1/"), path.replace(/\/wall\/fragment\/$/, "/wall/")]
  .find((page) => page !== path && isPage(page)) ?? null;
// How often something was thrown out: what was asked for before that is not kept after it.
let thrownOut = 0;
// What is drawn anew on each page, in its own element.
const MOVING = /<main id="(screen|wall)"[\s\S]*<\/main>/;

addEventListener("install", () => skipWaiting());
addEventListener("activate", (event) => event.waitUntil(clients.claim()));
// The page that brought this here was loaded without it: it says what belongs to it.
addEventListener("message", (event) => event.data.keep && event.waitUntil(keepAll(event.data.keep, event.data.page)));

addEventListener("fetch", (event) => {
  const {
    request
  } = event;
  const url = new URL(request.url);
  if (url.origin !== location.origin) return;
  // Whoever signs out or leaves the bench leaves nothing of it here.
  if (request.method === "POST" && /^\/(sign-out|b\/leave)\/$/.test(url.pathname)) {
    thrownOut += 1;
    event.waitUntil(caches.delete(KEPT));
  }
  if (request.method !== "GET") return;
  if (url.pathname.startsWith("/static/")) event.respondWith(fixed(request));
  else if (request.mode === "navigate" && isPage(url.pathname)) event.respondWith(page(event, url.pathname));
  else if (pageOf(url.pathname)) event.respondWith(moving(request, pageOf(url.pathname)));
});

async function keepAll(urls, path) {
  const cache = await caches.open(KEPT);
  await Promise.allSettled(urls.map((url) => cache.add(url)));
  const asked = thrownOut;
  const response = await fetch(path, {
    credentials: "same-origin"
  });
  await keep(cache, path, response, asked);
  for (const client of await clients.matchAll()) client.postMessage({
    kept: path
  });
}

// A file whose name changes with what is in it never changes; any other may be newer on the server than here.
const NEVER_CHANGES = /\.[0-9a-f]{12}\.\w+$/;

async function fixed(request) {
  const cache = await caches.open(KEPT);
  const found = await cache.match(request);
  if (found && NEVER_CHANGES.test(new URL(request.url).pathname)) return found;
  try {
    const response = await fetch(request);
    if (response.ok) cache.put(request, response.clone());
    return response;
  } catch (error) {
    if (!found) throw error;
    return found;
  }
}

const drawn = (text) => new Response(text, {
  headers: {
    "Content-Type": "text/html; charset=utf-8",
    "X-Drawn": String(Date.now())
  }
});

async function keep(cache, path, response, asked) {
  if (response.ok && !response.redirected) {
    const text = await response.clone().text();
    if (asked === thrownOut) await cache.put(path, drawn(text));
  } else if (response.redirected || [401, 403, 404, 410].includes(response.status)) {
    // Sent away, over, signed out: nothing of it stays.
    thrownOut += 1;
    await cache.delete(path);
  }
}

async function fromServer(request, path) {
  const asked = thrownOut;
  const response = await fetch(request);
  if ([502, 503, 504].includes(response.status)) throw new Error("no server");
  if (response.type !== "opaqueredirect") await keep(await caches.open(KEPT), path, response, asked);
  return response;
}

// A server that is slow is not waited for where something is kept; what it says at last is heard all the same.
async function page(event, path) {
  const cache = await caches.open(KEPT);
  const answer = fromServer(event.request, path);
  event.waitUntil(answer.catch(() => null));
  const late = new Promise((_, refuse) => setTimeout(refuse, WAIT_MS, new Error("late")));
  try {
    return await Promise.race([answer, late]);
  } catch {
    const kept = await cache.match(path);
    if (!kept) return answer;
    // It says of itself when it was drawn: what is counted on it goes on from then.
    const text = (await kept.text()).replace(/id="(bench|pad|wall)"/,
      `id="$1" data-drawn="${kept.headers.get("X-Drawn")}"`);
    return new Response(text, {
      headers: {
        "Content-Type": "text/html; charset=utf-8"
      }
    });
  }
}

// The newest of what moves takes its place in the page that is kept.
async function moving(request, path) {
  const asked = thrownOut;
  const response = await fetch(request);
  if (response.status !== 200) return response;
  const text = await response.clone().text();
  const cache = await caches.open(KEPT);
  const kept = await cache.match(path);
  const part = text.match(MOVING);
  const drawnBefore = await kept?.text();
  if (kept && part && asked === thrownOut) await cache.put(path, drawn(drawnBefore.replace(MOVING, () => part[0])));
  return response;
}
