import type { Rng } from '../time/rng.js';
import type { Model } from './model.js';
import { components } from './network.js';

/**
 * Share of regroupings in which two groups change places; of the others those that lay a group down by itself; and of those that lay it
 * along with another the share that puts a task right behind its like, not before it.
 */
const EXCHANGE = 0.6;
const ALONE = 0.3;
const BEHIND = 0.8;

/**
 * Orders in which a group that maximum lags bind together (a flood with its wet work) is moved whole: it changes places with another
 * that shares a family, task by task in their order; or it is worked along with the other, each of its tasks beside one of the other's of
 * the same family, so that both share their changeovers; or it is laid down by itself elsewhere. Moved task by task, most of such a
 * change would look worse until all of it is made.
 */
export class Regrouping {
  /** groups with the others they share a family with */
  private readonly partners: readonly { readonly group: readonly number[]; readonly others: readonly (readonly number[])[] }[];
  private readonly family: readonly number[];
  /** 1 for tasks of the group that moves, 2 for those it joins */
  private readonly side: Uint8Array;

  constructor(m: Model, frozen: ReadonlySet<number>) {
    const groups = components(m).filter((g) => g.length > 1 && !g.some((v) => frozen.has(v)));
    const families = groups.map((g) => new Set(g.map((v) => m.family[v]).filter((f) => f >= 0)));
    this.partners = groups.map((group, i) => ({
      group,
      others: groups.filter((_, j) => j !== i && [...families[j]].some((f) => families[i].has(f))),
    }));
    this.family = m.family;
    this.side = new Uint8Array(m.n);
  }

  get isPossible(): boolean {
    return this.partners.length > 0;
  }

  /**
   * Writes an order like `was` with one group moved.
   *
   * @param reach - places a group laid down by itself may move at most
   * @returns the tasks that moved, in their order
   */
  write(was: Int32Array, order: Int32Array, placeOf: Int32Array, reach: number, rng: Rng): readonly number[] {
    const { group, others } = this.partners[Math.floor(rng() * this.partners.length)];
    const byPlace = (a: number, b: number) => placeOf[a] - placeOf[b];
    const own = [...group].sort(byPlace);
    if (others.length > 0 && rng() < EXCHANGE) {
      const other = [...others[Math.floor(rng() * others.length)]].sort(byPlace);
      this.exchange(was, order, own, other);
      return [...own, ...other];
    }
    for (const v of own) this.side[v] = 1;
    if (others.length === 0 || rng() < ALONE) {
      const far = Math.floor(rng() ** 2 * reach);
      const at = placeOf[own[0]] + (rng() < 0.5 ? -far : far);
      this.layWhole(was, order, own, Math.max(0, Math.min(was.length - own.length, at)));
    } else this.layAlong(was, order, own, others[Math.floor(rng() * others.length)], rng() < BEHIND);
    for (const v of own) this.side[v] = 0;
    return own;
  }

  /** Each task of a group in the place of one of the other's; what the longer has more of comes after the last place of the shorter. */
  private exchange(was: Int32Array, order: Int32Array, own: readonly number[], other: readonly number[]): void {
    const { side } = this;
    for (const v of own) side[v] = 1;
    for (const v of other) side[v] = 2;
    const shorter = Math.min(own.length, other.length);
    let write = 0;
    const laid = [0, 0];
    const layNext = (which: 0 | 1, group: readonly number[]) => {
      if (laid[which] < group.length) order[write++] = group[laid[which]++];
      if (laid[which] === shorter) while (laid[which] < group.length) order[write++] = group[laid[which]++];
    };
    for (const v of was) {
      if (side[v] === 0) order[write++] = v;
      else if (side[v] === 1) layNext(1, other);
      else layNext(0, own);
    }
    for (const v of own) side[v] = 0;
    for (const v of other) side[v] = 0;
  }

  private layWhole(was: Int32Array, order: Int32Array, own: readonly number[], at: number): void {
    let write = 0;
    for (let k = 0; k < was.length; k++) {
      if (this.side[was[k]] === 1) continue;
      if (write === at) for (const v of own) order[write++] = v;
      order[write++] = was[k];
    }
    if (write < was.length) for (const v of own) order[write++] = v;
  }

  private layAlong(was: Int32Array, order: Int32Array, own: readonly number[], other: readonly number[], behind: boolean): void {
    const { side, family } = this;
    for (const v of other) side[v] = 2;
    let write = 0;
    let next = 0;
    let left = other.length;
    const layLikes = (of: number) => {
      while (next < own.length && family[own[next]] === family[of]) order[write++] = own[next++];
    };
    for (let k = 0; k < was.length; k++) {
      const v = was[k];
      if (side[v] === 1) continue;
      const joined = side[v] === 2;
      if (joined && !behind) layLikes(v);
      order[write++] = v;
      if (!joined) continue;
      if (behind) layLikes(v);
      left -= 1;
      // What found no like comes after the last of them.
      if (left === 0) while (next < own.length) order[write++] = own[next++];
    }
    for (const v of other) side[v] = 0;
  }
}
