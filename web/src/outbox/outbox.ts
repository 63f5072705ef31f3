import { ApiFailure } from '../api/client.js';

/** Something typed or tapped that the server has not said yes to. */
export interface Entry {
  readonly id: string;
  /** of one that was refused: the id it waited under */
  readonly name?: string;
  /** entries of one queue are sent in their order; queues do not wait for each other */
  readonly queue: string;
  /** taps at the bench, edits of a design, and everything else that is typed */
  readonly kind: 'tap' | 'design' | 'write';
  /** what it is, in words, for whoever looks it through */
  readonly what: string;
  /** the page it belongs to */
  readonly place: string;
  /** sorts entries of all tabs */
  readonly order: string;
  /** not sent before: what is still being typed is sent once it rests */
  readonly notBeforeMs: number;
  readonly request: { readonly method: 'POST' | 'PUT' | 'DELETE'; readonly path: string; readonly body: unknown };
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
  /** runs `work` while no other tab sends what goes the same way */
  readonly alone: (way: Way, work: () => Promise<void>) => Promise<void>;
  /** tells the other tabs that something changed */
  readonly tell: () => void;
  readonly nowMs: () => number;
  readonly newId: () => string;
}
export interface Heard {
  readonly sent?: (entry: Entry, answer: unknown) => void;
  readonly refused?: (entry: Entry, reason: string) => unknown;
  /** the server could not be asked; it is asked again */
  readonly away?: () => void;
}

/**
 * What became of what was just typed: taken with this answer (undefined where another tab sent it), refused, or kept until it can be sent.
 */
export type Asked =
  | { readonly as: 'taken'; readonly answer: unknown }
  | { readonly as: 'refused'; readonly why: ApiFailure }
  | { readonly as: 'waiting' };

/** A tap at the bench does not wait behind a large drawing. */
const WAYS = ['taps', 'rest'] as const;
export type Way = (typeof WAYS)[number];
const wayOf = (e: Entry): Way => (e.kind === 'tap' ? 'taps' : 'rest');
interface Sending {
  busy: boolean;
  again: boolean;
  timer: ReturnType<typeof setTimeout> | undefined;
}

const RETRY_MS = 2_000;

/** The server will never take it, however often it is sent; a device that has to be let in again, or a busy server, will. */
const isRefusedForGood = ({ status }: ApiFailure): boolean =>
  status === 400 || status === 404 || status === 409 || status === 413 || status === 422;

/**
 * Everything that waits for the server, whichever place of the page it comes from: kept on the device before it is sent, sent in order by
 * one tab at a time, and let go only when the server has said yes. What it refuses is kept with the reason until somebody has looked.
 */
export class Outbox {
  private entries: readonly Entry[] = [];
  /** what this tab has put or removed and the shelf does not have yet */
  private readonly unsaved = new Map<string, Entry | null>();
  /** how often something was put or taken away here */
  private changes = 0;
  private readonly lookers = new Set<() => void>();
  private readonly hearers = new Set<{ readonly queue: string | null; readonly heard: Heard }>();
  private readonly ways: Readonly<Record<Way, Sending>> = {
    taps: { busy: false, again: false, timer: undefined },
    rest: { busy: false, again: false, timer: undefined },
  };
  /** who stands before the screen and wants to know, by the order of the entry */
  private readonly askers = new Map<string, (asked: Asked) => void>();

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

  /** Keeps what waited elsewhere, but for what waits here under the same name, and has it sent in its order. */
  takeIn(entries: readonly Entry[]): void {
    const here = new Set(this.entries.map((e) => e.id));
    for (const entry of entries) if (!here.has(entry.id)) this.keep(entry);
    void this.send();
  }

  /** As `put`, and tells what becomes of it. What is refused to somebody's face is not kept besides: the form has it still. */
  ask(entry: Entry): Promise<Asked> {
    return new Promise((tell) => {
      this.askers.set(entry.order, tell);
      this.put(entry);
    });
  }

  /** Asks once more for one that was refused. */
  tryAgain(id: string): void {
    const entry = this.entries.find((e) => e.id === id);
    if (entry) this.put({ ...entry, refused: null, notBeforeMs: 0 });
  }

  /** Sends one that was refused with another body, under the name it waited under before. */
  sendInstead(id: string, body: unknown): void {
    const entry = this.entries.find((e) => e.id === id);
    if (!entry) return;
    this.letGo(id);
    this.put({ ...entry, id: entry.name ?? id, request: { ...entry.request, body }, refused: null, notBeforeMs: 0 });
  }

  letGo(id: string): void {
    this.changes += 1;
    this.unsaved.set(id, null);
    this.show(this.entries.filter((e) => e.id !== id));
    void this.around.shelf.remove(id).finally(() => {
      if (this.unsaved.get(id) === null) this.unsaved.delete(id);
      this.around.tell();
    });
  }

  /** Takes in what other tabs and earlier visits have kept. */
  async load(): Promise<void> {
    let kept: Map<string, Entry>;
    let before: number;
    do {
      before = this.changes;
      kept = new Map((await this.around.shelf.all()).map((e) => [e.id, e]));
      // What was put or taken away meanwhile may be missing in what was read: it is read again.
    } while (before !== this.changes);
    for (const [id, own] of this.unsaved)
      if (own) kept.set(id, own);
      else kept.delete(id);
    this.show([...kept.values()].sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : 0)));
    this.answerSentElsewhere();
  }

  /** Sends what waits, until nothing does or the server is away. */
  async send(): Promise<void> {
    await Promise.all(WAYS.map((way) => this.sendAlong(way)));
  }

  private async sendAlong(way: Way): Promise<void> {
    const sending = this.ways[way];
    if (sending.busy) {
      sending.again = true;
      return;
    }
    sending.busy = true;
    clearTimeout(sending.timer);
    let isAway = false;
    try {
      await this.around.alone(way, async () => {
        await this.load();
        for (let next = this.nextDue(way); next && !isAway; next = this.nextDue(way)) isAway = !(await this.sendOne(next));
      });
    } finally {
      sending.busy = false;
    }
    if (isAway) this.answer(this.waiting(way), { as: 'waiting' });
    const soonest = Math.min(...this.waiting(way).map((e) => e.notBeforeMs));
    if (sending.again && !isAway) {
      sending.again = false;
      await this.sendAlong(way);
    } else if (Number.isFinite(soonest)) {
      sending.again = false;
      sending.timer = setTimeout(() => void this.sendAlong(way), isAway ? RETRY_MS : Math.max(10, soonest - this.around.nowMs()));
    }
  }

  private waiting(way: Way): Entry[] {
    return this.entries.filter((e) => e.refused === null && wayOf(e) === way);
  }
  private nextDue(way: Way): Entry | undefined {
    const nowMs = this.around.nowMs();
    const held = new Set<string>();
    // The first of its queue goes first, also where it is still being typed.
    return this.waiting(way).find((e) => {
      if (held.has(e.queue)) return false;
      held.add(e.queue);
      return e.notBeforeMs <= nowMs;
    });
  }

  /** Whether the server could be asked. */
  private async sendOne(entry: Entry): Promise<boolean> {
    try {
      const answer = await this.around.send(entry);
      // Whoever shows it as the server has it now does so before it is let go: else it would vanish for a moment.
      this.tellHearers(entry.queue, (h) => h.sent?.(entry, answer));
      this.settle(entry);
      this.answer([entry], { as: 'taken', answer });
      return true;
    } catch (error) {
      if (!(error instanceof ApiFailure) || !isRefusedForGood(error)) {
        this.tellHearers(entry.queue, (h) => h.away?.());
        return false;
      }
      this.settle(entry);
      if (entry.quietCodes.includes(error.code)) {
        this.answer([entry], { as: 'taken', answer: undefined });
        return true;
      }
      if (this.answer([entry], { as: 'refused', why: error })) return true;
      // Under an id of its own: what is typed after it must not take its place.
      this.keep({ ...entry, id: this.around.newId(), name: entry.id, refused: { code: error.code, reason: error.message } });
      this.tellHearers(entry.queue, (h) => h.refused?.(entry, error.message));
      return true;
    }
  }
  private answer(entries: readonly Entry[], asked: Asked): boolean {
    const told = entries.filter(({ order }) => {
      this.askers.get(order)?.(asked);
      return this.askers.delete(order);
    });
    return told.length > 0;
  }
  /** What is gone from here without an answer was sent by another tab, or has given way to what was typed after it. */
  private answerSentElsewhere(): void {
    for (const [order, tell] of [...this.askers]) {
      const entry = this.entries.find((e) => e.order === order);
      if (entry && entry.refused === null) continue;
      this.askers.delete(order);
      tell(
        entry?.refused
          ? { as: 'refused', why: new ApiFailure(409, entry.refused.code, entry.refused.reason) }
          : { as: 'taken', answer: undefined },
      );
    }
  }
  /** What was sent is done with, unless it was typed on meanwhile. */
  private settle(entry: Entry): void {
    if (this.entries.find((e) => e.id === entry.id)?.order === entry.order) this.letGo(entry.id);
  }

  private keep(entry: Entry): void {
    this.changes += 1;
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
