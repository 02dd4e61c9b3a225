// Entries on their way to the log. Kept in order in this browser until the server has them, with
// the times at which they happened; sent again as often as it takes, since the same id twice is
// one entry. Times are the server's: this device's own clock may be wrong, and may be set while
// entries wait. What the server can never take is put aside, seen, and holds nothing up.

export const uuid = () => crypto.randomUUID?.() ?? "10000000-1000-4000-8000-100000000000".replace(/[018]/g, (c) =>
  (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16));

// The same refusal by a server that is there, so often, is no passing trouble.
const TRIES = 3;
// A reading of the server's clock is good for so long; a device that slept must ask again.
const CLOCK_GOOD_MS = 30000;

// The server's time, from one reading of it and a clock that nobody sets. A page that was opened without a network
// (``now`` is null) goes by this device's clock and how far that was off when the server was last heard: a guess.
const OFF = "bulwark-clock-off";

export class Clock {
  constructor(now) {
    this.known = now !== null;
    if (this.known) return this.set(now);
    this.offset = Date.now() + Number(stored(OFF) ?? 0) - performance.now();
    this.wall = 0;
    this.at = -Infinity;
  }

  set(now) {
    this.known = true;
    this.offset = now - performance.now();
    this.wall = Date.now();
    this.at = performance.now();
    store(OFF, now - Date.now());
  }

  now() {
    return Math.round(performance.now() + this.offset);
  }

  // False when the reading is old, or this device's two clocks disagree about how long ago it was.
  get sure() {
    const passed = performance.now() - this.at;
    return passed < CLOCK_GOOD_MS && Math.abs(Date.now() - this.wall - passed) < 1500;
  }
}

function stored(key) {
  try {
    return JSON.parse(localStorage.getItem(key));
  } catch {
    return null;
  }
}

// False where there is no room, or none is given: what is not kept lives as long as this page.
function store(key, value) {
  try {
    localStorage.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}

export class Outbox {
  constructor({
    url,
    here,
    now,
    key,
    onAside,
    onChange,
    onRecorded,
    onSent,
    onQuestion,
    onRefused
  }) {
    Object.assign(this, {
      url,
      here,
      key,
      onAside,
      onChange,
      onRecorded,
      onSent,
      onQuestion,
      onRefused
    });
    this.clock = new Clock(now);
    this.sending = false;
    this.asking = false;
    this.stopped = false; // the server will take nothing more; what waits is kept
    this.version = 0; // moves with every entry made and every entry gone
    this.rows = stored(key) ?? [];
    this.aside = stored(`${key}-refused`) ?? [];
    this.mine = new Set(this.rows.map((row) => row.id)); // another tab of this tablet has its own
    this.fleeting = false; // what waits is kept by this page alone
    addEventListener("online", () => {
      this.stopped = false;
      this.send();
    });
    setInterval(() => this.rows.length && this.send(), 3000);
    setInterval(() => this.say(), CLOCK_GOOD_MS);
    this.say();
    onChange(this.rows.length, false);
    onAside(this.aside);
  }

  keep() {
    this.version += 1;
    const others = (stored(this.key) ?? []).filter((row) => !this.mine.has(row.id));
    this.fleeting = !store(this.key, [...others, ...this.rows]) && this.rows.length > 0;
  }

  // Says that this tablet is there and how many entries wait on it; learns what time it is, and goes on where it
  // was stopped. False without a network: what the server refuses is for the entry itself to hear.
  async say() {
    const answer = await this.post(this.here, {
      data: {
        waiting: this.rows.length + this.aside.length
      }
    });
    if (answer?.body?.now) {
      this.clock.set(answer.body.now);
      this.restamp();
      if (this.stopped) {
        this.stopped = false;
        this.send();
      }
    }
    return answer !== null && answer.status < 500;
  }

  // ``panel`` is what it was done on, if that is done with it.
  add(kind, data, id, panel) {
    if (id && this.rows.some((row) => row.id === id)) return;
    const row = {
      id: id || uuid(),
      kind,
      data,
      panel,
      happened_at: this.clock.now()
    };
    if (!this.clock.known) row.guessed = {
      since: performance.timeOrigin,
      steady: performance.now(),
      wall: Date.now()
    };
    this.rows.push(row);
    this.mine.add(row.id);
    this.keep();
    this.send();
  }

  // What was stamped by a guess is stamped by the server's clock, now that it is known: by how long ago it was, on the
  // clock that nobody sets where this page was open all the while, else on this device's.
  restamp() {
    for (const row of this.rows.filter((one) => one.guessed)) {
      const {
        since,
        steady,
        wall
      } = row.guessed;
      const ago = since === performance.timeOrigin ? performance.now() - steady : Date.now() - wall;
      row.happened_at = Math.round(this.clock.now() - Math.max(0, ago));
      delete row.guessed;
    }
    this.keep();
  }

  // An entry the server can never take is out of the way of the others, and not thrown away.
  setAside(row, why) {
    this.aside = [...this.aside, {
      ...row,
      why
    }];
    store(`${this.key}-refused`, this.aside);
    this.drop(row);
    this.onAside(this.aside);
  }

  // The educator has what was put aside.
  handedOver() {
    this.aside = [];
    store(`${this.key}-refused`, []);
    this.onAside(this.aside);
    this.say();
  }

  drop(row) {
    this.rows = this.rows.filter((other) => other.id !== row.id);
    this.keep();
  }

  // The person's answer to a question about a number; the entry keeps its place and its time.
  answer(row, change) {
    this.asking = false;
    if (change) Object.assign(row.data, change);
    else {
      this.drop(row);
      this.onRecorded(); // what was shown at once is not so: the screen goes back
    }
    this.keep();
    this.send();
  }

  async send() {
    if (this.sending || this.asking || this.stopped) return;
    this.sending = true;
    let recorded = 0;
    try {
      while (this.rows.length && !this.asking && !this.stopped) {
        const taken = await this.sendFirst();
        if (taken === null) break;
        recorded += taken;
        this.onChange(this.rows.length, false);
      }
    } finally {
      this.sending = false;
    }
    if (recorded) this.onRecorded();
  }

  // The first entry that waits: 1 when it is in the log, 0 when it is out of the way, null to wait.
  async sendFirst() {
    const row = this.rows[0];
    if (!this.clock.sure && !(await this.say())) return this.cut();
    const {
      id,
      kind,
      data,
      happened_at
    } = row;
    if (!this.rows.includes(row)) return 0; // taken back while the server was asked for the time
    // Whatever becomes of the answer, it may be in the log from here on.
    if (navigator.onLine && !row.tried) {
      row.tried = true;
      this.keep();
    }
    const answer = await this.post(this.url, {
      id,
      kind,
      data,
      happened_at,
      sent_at: this.clock.now()
    });
    if (!answer || answer.status === 429) return this.cut();
    const {
      status,
      body
    } = answer;
    if (status === 200) {
      this.drop(row);
      this.onSent?.(row);
      return 1;
    }
    if (body.code === "question") {
      this.asking = true;
      this.onQuestion(row, body);
      return 0;
    }
    if (status >= 500) {
      row.tries = row.status === status ? row.tries + 1 : 1;
      row.status = status;
      this.keep();
      if (row.tries < TRIES) return this.cut();
      this.setAside(row, `${status}`);
      return 0;
    }
    if (status === 403 || status === 409) {
      this.stopped = true; // not at a bench that is open: tried again when it is heard that it is
      this.onRefused(row, body);
      return 0;
    }
    this.setAside(row, [body.title, body.text ?? body.message].filter(Boolean).join(". ") || `${status}`);
    this.onRefused(row, body);
    return 0;
  }

  cut() {
    this.onChange(this.rows.length, true);
    return null;
  }

  async post(url, content) {
    const token = document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1] ?? "";
    const stop = new AbortController();
    const late = setTimeout(() => stop.abort(), 8000);
    try {
      const response = await fetch(url, {
        method: "POST",
        signal: stop.signal,
        credentials: "same-origin",
        headers: {
          "Content-Type": "application/json",
          "X-CSRFToken": token
        },
        body: JSON.stringify(content),
      });
      // A proxy, or a server on its way down or up: as good as no network.
      if ([502, 503, 504].includes(response.status)) return null;
      const body = await response.json().catch(() => ({}));
      return {
        status: response.status,
        body
      };
    } catch {
      return null;
    } finally {
      clearTimeout(late);
    }
  }
}
