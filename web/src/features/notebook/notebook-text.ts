import type { Rate, Slip, SlipKind, VisitAccount } from '@kestfog/core/notebook';
import { defectById } from '@kestfog/core/steps';
import { msg, plural } from '@kestfog/core/words';
import { percent } from '../../text/amounts.js';
import { span } from '../../text/time.js';

const SLIPS: Readonly<Record<SlipKind, string>> = {
  longer: msg`it took longer than planned`,
  'not-ready': msg`it was found not to be there yet`,
  drying: msg`what it waits for came later itself`,
  pause: msg`a pause`,
  hands: msg`nobody was at it`,
};
/** "12 min: it took longer than planned" */
export const slipText = ({ kind, seconds }: Slip): string => `${span(seconds)}: ${SLIPS[kind]}`;

const SAID: Readonly<Record<VisitAccount['said'], string>> = {
  seen: '',
  guessed: msg`only its end was said`,
  inferred: msg`nobody said so: a later step was seen`,
  skipped: msg`given up`,
  open: msg`not done`,
};
export const saidText = (said: VisitAccount['said']): string => SAID[said];

export const defectSeen = (id: Parameters<typeof defectById>[0]): string => defectById(id).seen;

const likely = (r: Rate) => msg`${percent(r.share)}, most likely ${Math.round(100 * r.least)} to ${percent(r.most)}`;
/** "3 of 40: 8 %, most likely 4 to 15 %" */
export const rateText = (r: Rate): string => (r.all === 0 ? msg`nothing known yet` : msg`${r.of} of ${r.all}: ${likely(r)}`);
/** "82 %, most likely 77 to 86 %, by 40 bodies of icing": a share that is reckoned and not counted */
export const reckonedText = (r: Rate): string =>
  r.all === 0 ? msg`nothing known yet` : msg`${likely(r)}, by ${r.all} ${plural(r.all, 'body', 'bodies')} of icing`;
/** "late by 12 min", "early by 1 h", "to the minute" */
export const lateText = (seconds: number): string =>
  Math.abs(seconds) < 60 ? msg`to the minute` : msg`${span(Math.abs(seconds))} ${seconds > 0 ? msg`later` : msg`earlier`} than planned`;
