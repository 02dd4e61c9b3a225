// Entries on their way to the log. Kept in order in this browser until the server has them, with
// the times at which they happened; sent again as often as it takes, since the same id twice is
// one entry.

const uuid = () => crypto.randomUUID?.() ?? "10000000-1000-4000-8000-100000000000".replace(/[018]/g, (c) =>
  (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16));

export class Outbox {
  constructor({
    url,
    key,
    onChange,
    onRecorded,
    onQuestion,
    onRefused
  }) {
    Object.assign(this, {
      url,
      key,
      onChange,
      onRecorded,
      onQuestion,
      onRefused
    });
    this.sending = false;
    this.asking = false;
    this.stopped = false; // the server will take nothing more; what waits is kept
    this.version = 0; // moves with every entry made and every entry gone
    try {
      this.rows = JSON.parse(localStorage.getItem(key)) ?? [];
    } catch {
      this.rows = [];
    }
    addEventListener("online", () => {
      this.stopped = false;
      this.send();
    });
    setInterval(() => this.rows.length && this.send(), 3000);
    onChange(this.rows.length, false);
  }

  keep() {
    this.version += 1;
    try {
      localStorage.setItem(this.key, JSON.stringify(this.rows));
    } catch {
      /* full: they stay in memory */
    }
  }

  add(kind, data, id) {
    if (id && this.rows.some((row) => row.id === id)) return;
    this.rows.push({
      id: id || uuid(),
      kind,
      data,
      happened_at: Date.now()
    });
    this.keep();
    this.send();
  }

  // An entry the server could not read is out of the way of the others, and not thrown away.
  setAside(row) {
    try {
      const key = `${this.key}-refused`;
      localStorage.setItem(key, JSON.stringify([...(JSON.parse(localStorage.getItem(key)) ?? []), row]));
    } catch {
      /* full */
    }
    this.drop(row);
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
      while (this.rows.length && !this.asking) {
        const row = this.rows[0];
        const answer = await this.post(row);
        if (!answer) {
          this.onChange(this.rows.length, true);
          break;
        }
        if (answer.status === 200) {
          this.drop(row);
          recorded += 1;
        } else if (answer.body.code === "question") {
          this.asking = true;
          this.onQuestion(row, answer.body);
        } else if (answer.status === 422) {
          this.setAside(row);
          this.onRefused(row, answer.body);
        } else {
          this.stopped = true;
          this.onRefused(row, answer.body);
          break;
        }
        this.onChange(this.rows.length, false);
      }
    } finally {
      this.sending = false;
    }
    if (recorded) this.onRecorded();
  }

  async post(row) {
    const token = document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1] ?? "";
    const stop = new AbortController();
    const late = setTimeout(() => stop.abort(), 8000);
    try {
      const response = await fetch(this.url, {
        method: "POST",
        signal: stop.signal,
        credentials: "same-origin",
        headers: {
          "Content-Type": "application/json",
          "X-CSRFToken": token
        },
        body: JSON.stringify({
          ...row,
          sent_at: Date.now()
        }),
      });
      // A proxy or a server on its way down: as good as no network.
      if (response.status >= 500 || response.status === 429) return null;
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
