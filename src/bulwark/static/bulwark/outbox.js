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

// The server's time, from one reading of it and a clock that nobody sets.
export class Clock {
  constructor(now) {
    this.set(now);
  }

  set(now) {
    this.offset = now - performance.now();
    this.wall = Date.now();
    this.at = performance.now();
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

export class Outbox {
  constructor({
    url,
    here,
    now,
    key,
    onAside,
    onChange,
    onRecorded,
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
      onQuestion,
      onRefused
    });
    this.clock = new Clock(now);
    this.sending = false;
    this.asking = false;
    this.stopped = false; // the server will take nothing more; what waits is kept
    this.version = 0; // moves with every entry made and every entry gone
    this.rows = this.stored(key);
    this.aside = this.stored(`${key}-refused`);
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

  stored(key) {
    try {
      return JSON.parse(localStorage.getItem(key)) ?? [];
    } catch {
      return [];
    }
  }

  store(key, rows) {
    try {
      localStorage.setItem(key, JSON.stringify(rows));
    } catch {
      /* full: they stay in memory */
    }
  }

  keep() {
    this.version += 1;
    this.store(this.key, this.rows);
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
      if (this.stopped) {
        this.stopped = false;
        this.send();
      }
    }
    return answer !== null && answer.status < 500;
  }

  add(kind, data, id) {
    if (id && this.rows.some((row) => row.id === id)) return;
    this.rows.push({
      id: id || uuid(),
      kind,
      data,
      happened_at: this.clock.now()
    });
    this.keep();
    this.send();
  }

  // An entry the server can never take is out of the way of the others, and not thrown away.
  setAside(row, why) {
    this.aside = [...this.aside, {
      ...row,
      why
    }];
    this.store(`${this.key}-refused`, this.aside);
    this.drop(row);
    this.onAside(this.aside);
  }

  // The educator has what was put aside.
  handedOver() {
    this.aside = [];
    this.store(`${this.key}-refused`, []);
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
    const answer = await this.post(this.url, {
      ...row,
      sent_at: this.clock.now()
    });
    if (!answer || answer.status === 429) return this.cut();
    const {
      status,
      body
    } = answer;
    if (status === 200) {
      this.drop(row);
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
