import type { PaceKind } from '@kestfog/core/calibration';
import type { PaceEffect } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';
import { span } from './time.js';

/** A kind of motion as one says it of somebody. */
export const motionWord: Readonly<Record<PaceKind, string>> = {
  prepare: msg`preparing`,
  dam: msg`outlining`,
  flood: msg`flooding`,
  mark: msg`wet work`,
  detail: msg`details`,
  pack: msg`packing`,
  handling: msg`handling`,
};

/** "12 % longer", "as assumed" */
export function takesText(takes: number): string {
  const percent = Math.round((takes - 1) * 100);
  return percent === 0 ? msg`as assumed` : percent > 0 ? msg`${percent} % longer` : msg`${-percent} % less`;
}

/** What learned paces change in a plan, in one sentence. */
export function paceEffectText({ own, moreS }: PaceEffect): string {
  const people = [...new Set(own.map((o) => o.who))].map((who) => {
    const kinds = own.filter((o) => o.who === who).sort((a, b) => Math.abs(Math.log(b.takes)) - Math.abs(Math.log(a.takes)));
    return `${who}: ${kinds
      .slice(0, 3)
      .map((k) => `${motionWord[k.kind]} ${takesText(k.takes)}`)
      .join(', ')}`;
  });
  const work =
    Math.abs(moreS) < 60
      ? msg`about as much work as assumed`
      : msg`${span(Math.abs(moreS))} ${moreS > 0 ? msg`more` : msg`less`} work than assumed`;
  return msg`Planned at the pace these hands were seen to have (${people.join('; ')}): ${work}.`;
}
