import { ApiFailure } from '../api/client.js';

/** Something typed or tapped that the server has not said yes to. */
export interface Entry {
  readonly id: string;
  /** entries of one queue are sent in their order; queues do not wait for each other */
  readonly queue: string;
  readonly kind: 'tap' | 'design';
  /** what it is, in words, for whoever looks it through */
  readonly what: string;
  /** the page it belongs to */
  readonly place: string;
  /** sorts entries of all tabs */
  readonly order: string;
  /** not sent before: what is still being typed is sent once it rests */
  readonly notBeforeMs: number;
  readonly request: { readonly method: 'POST' | 'PUT'; readonly path: string; readonly body: unknown };
  /** refused with these it needs no word: it had come too late to matter */
  readonly quietCodes: readonly string[];
  readonly refused: { readonly code: string; readonly reason: string } | null;
}

/** Where entries are kept on the device; all tabs of the browser see the same. */
export interface Shelf {
  all(): Promise<Entry[]>;
  put(entry: Entry): Promise<void>;
  remove(id: string): Promise<void>;
}
export interface Around {
  readonly shelf: Shelf;
  readonly send: (entry: Entry) => Promise<unknown>;
  /** runs `work` while no other tab sends */
  readonly alone: (work: () => Promise<void>) => Promise<void>;
  /** tells the other tabs that something changed */
  readonly tell: () => void;
  readonly nowMs: () => number;
  readonly newId: () => string;
}
export interface Heard {
  readonly sent?: (entry: Entry, answer: unknown) => void;
  readonly refused?: (entry: Entry, reason: string) => void;
  /** the server could not be asked; it is asked again */
  readonly away?: () => void;
}

const RETRY_MS = 2_000;

/** The server will never take it, however often it is sent; a device that has to be let in again, or a busy server, will. */
const isRefusedForGood = ({ status }: ApiFailure): boolean => status === 400 || status === 404 || status === 409 || status === 413 || status === 422;

/**
 * Everything that waits for the server, whichever place of the page it comes from: kept on the device before it is sent, sent in order by
 * one tab at a time, and let go only when the server has said yes. What it refuses is kept with the reason until somebody has looked.
 */
export class Outbox {
  private entries: readonly Entry[] = [];
  /** what this tab has put or removed and the shelf does not have yet */
  private readonly unsaved = new Map<string, Entry | null>();
  private readonly lookers = new Set<() => void>();
  private readonly hearers = new Set<{ readonly queue: string | null; readonly heard: Heard }>();
  private sending = false;
  private sendAgain = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly around: Around) {}

  /** What is kept, in its order; another list only where something changed. */
  readonly all = (): readonly Entry[] => this.entries;
  readonly subscribe = (look: () => void): (() => void) => {
    this.lookers.add(look);
    return () => this.lookers.delete(look);
  };
  /** Hears what becomes of the entries of a queue, or of all. */
  hear(queue: string | null, heard: Heard): () => void {
    const hearer = { queue, heard };
    this.hearers.add(hearer);
    return () => this.hearers.delete(hearer);
  }

  /** Keeps an entry and has it sent; one of the same id that still waits is replaced. */
  put(entry: Entry): void {
    this.keep(entry);
    void this.send();
  }

  /** Asks once more for one that was refused. */
  tryAgain(id: string): void {
    const entry = this.entries.find((e) => e.id === id);
    if (entry) this.put({ ...entry, refused: null, notBeforeMs: 0 });
  }

  letGo(id: string): void {
    this.unsaved.set(id, null);
    this.show(this.entries.filter((e) => e.id !== id));
    void this.around.shelf.remove(id).finally(() => {
      if (this.unsaved.get(id) === null) this.unsaved.delete(id);
      this.around.tell();
    });
  }

  /** Takes in what other tabs and earlier visits have kept. */
  async load(): Promise<void> {
    const kept = new Map((await this.around.shelf.all()).map((e) => [e.id, e]));
    for (const [id, own] of this.unsaved)
      if (own) kept.set(id, own);
      else kept.delete(id);
    this.show([...kept.values()].sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : 0)));
  }

  /** Sends what waits, until nothing does or the server is away. */
  async send(): Promise<void> {
    if (this.sending) {
      this.sendAgain = true;
      return;
    }
    this.sending = true;
    clearTimeout(this.timer);
    let isAway = false;
    try {
      await this.around.alone(async () => {
        await this.load();
        for (let next = this.nextDue(); next && !isAway; next = this.nextDue()) isAway = !(await this.sendOne(next));
      });
    } finally {
      this.sending = false;
    }
    const soonest = Math.min(...this.waiting().map((e) => e.notBeforeMs));
    if (this.sendAgain && !isAway) {
      this.sendAgain = false;
      await this.send();
    } else if (Number.isFinite(soonest)) {
      this.sendAgain = false;
      this.timer = setTimeout(() => void this.send(), isAway ? RETRY_MS : Math.max(10, soonest - this.around.nowMs()));
    }
  }

  private waiting(): Entry[] {
    return this.entries.filter((e) => e.refused === null);
  }
  private nextDue(): Entry | undefined {
    const nowMs = this.around.nowMs();
    const held = new Set<string>();
    // The first of its queue goes first, also where it is still being typed.
    return this.waiting().find((e) => {
      if (held.has(e.queue)) return false;
      held.add(e.queue);
      return e.notBeforeMs <= nowMs;
    });
  }

  /** Whether the server could be asked. */
  private async sendOne(entry: Entry): Promise<boolean> {
    try {
      const answer = await this.around.send(entry);
      this.settle(entry);
      this.tellHearers(entry.queue, (h) => h.sent?.(entry, answer));
      return true;
    } catch (error) {
      if (!(error instanceof ApiFailure) || !isRefusedForGood(error)) {
        this.tellHearers(entry.queue, (h) => h.away?.());
        return false;
      }
      this.settle(entry);
      if (entry.quietCodes.includes(error.code)) return true;
      // Under an id of its own: what is typed after it must not take its place.
      this.keep({ ...entry, id: this.around.newId(), refused: { code: error.code, reason: error.message } });
      this.tellHearers(entry.queue, (h) => h.refused?.(entry, error.message));
      return true;
    }
  }
  /** What was sent is done with, unless it was typed on meanwhile. */
  private settle(entry: Entry): void {
    if (this.entries.find((e) => e.id === entry.id)?.order === entry.order) this.letGo(entry.id);
  }

  private keep(entry: Entry): void {
    this.unsaved.set(entry.id, entry);
    const others = this.entries.filter((e) => e.id !== entry.id);
    this.show([...others, entry].sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : 0)));
    void this.around.shelf.put(entry).finally(() => {
      if (this.unsaved.get(entry.id) === entry) this.unsaved.delete(entry.id);
      this.around.tell();
    });
  }
  private show(entries: readonly Entry[]): void {
    if (entries.length === this.entries.length && entries.every((e, i) => e === this.entries[i])) return;
    this.entries = entries;
    for (const look of this.lookers) look();
  }
  private tellHearers(queue: string, say: (heard: Heard) => void): void {
    for (const h of [...this.hearers]) if (h.queue === null || h.queue === queue) say(h.heard);
  }
}
