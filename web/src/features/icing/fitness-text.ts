import type { JobFitness } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';
import type { Counting } from '../../app/counting.js';

const JOB: Readonly<Record<JobFitness['job'], string>> = {
  flood: msg`flooding`,
  outline: msg`outlining`,
  marks: msg`wet marks`,
  lines: msg`piping`,
  glue: msg`glueing`,
};

const VERDICT: Readonly<Record<JobFitness['verdict'], (j: JobFitness, count: string) => string>> = {
  fine: (j) => msg`fine for ${JOB[j.job]} ${j.parts.join(', ')}`,
  craters: (j, count) => msg`likely to crater in ${j.parts.join(', ')}: ${count} or warm air`,
  lumps: (j, count) => msg`thicker than what ${j.parts.join(', ')} are dragged through, so they come along in lumps: ${count}`,
  'too-loose': (j, count) => msg`too loose for ${JOB[j.job]} ${j.parts.join(', ')}: ${count}`,
  'too-stiff': (j, count) => msg`too stiff for ${JOB[j.job]} ${j.parts.join(', ')}: ${count}`,
};

/** "12 s: fine for flooding top band; likely to crater in small pane: 20 s or warm air" */
export function fitnessText(countedS: number, jobs: readonly JobFitness[], counting: Counting): { text: string; fits: boolean } {
  const words = jobs.map((j) => VERDICT[j.verdict](j, j.betterS === null ? '' : counting.text(j.betterS)));
  return { text: `${counting.text(countedS)}: ${words.join('; ')}`, fits: jobs.every((j) => j.verdict === 'fine') };
}
