import type { Rate, Slip, SlipKind, VisitAccount } from '@kestfog/core/notebook';
import { defectById } from '@kestfog/core/steps';
import { percent } from '../../text/amounts.js';
import { span } from '../../text/time.js';

const SLIPS: Readonly<Record<SlipKind, string>> = {
  longer: 'it took longer than planned',
  'not-ready': 'it was found not to be there yet',
  drying: 'what it waits for came later itself',
  pause: 'a pause',
  hands: 'nobody was at it',
};
/** "12 min: it took longer than planned" */
export const slipText = ({ kind, seconds }: Slip): string => `${span(seconds)}: ${SLIPS[kind]}`;

const SAID: Readonly<Record<VisitAccount['said'], string>> = {
  seen: '',
  guessed: 'only its end was said',
  inferred: 'nobody said so: a later step was seen',
  skipped: 'given up',
  open: 'not done',
};
export const saidText = (said: VisitAccount['said']): string => SAID[said];

export const defectSeen = (id: Parameters<typeof defectById>[0]): string => defectById(id).seen;

const likely = (r: Rate) => `${percent(r.share)}, most likely ${Math.round(100 * r.least)} to ${percent(r.most)}`;
/** "3 of 40: 8 %, most likely 4 to 15 %" */
export const rateText = (r: Rate): string => (r.all === 0 ? 'nothing known yet' : `${r.of} of ${r.all}: ${likely(r)}`);
/** "82 %, most likely 77 to 86 %, by 40 bodies of icing": a share that is reckoned and not counted */
export const reckonedText = (r: Rate): string =>
  r.all === 0 ? 'nothing known yet' : `${likely(r)}, by ${r.all} ${r.all === 1 ? 'body' : 'bodies'} of icing`;
/** "late by 12 min", "early by 1 h", "to the minute" */
export const lateText = (seconds: number): string =>
  Math.abs(seconds) < 60 ? 'to the minute' : `${span(Math.abs(seconds))} ${seconds > 0 ? 'later' : 'earlier'} than planned`;
