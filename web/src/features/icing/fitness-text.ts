import type { JobFitness } from '@kestfog/core';

const JOB: Readonly<Record<JobFitness['job'], string>> = { flood: 'flooding', outline: 'outlining', marks: 'wet marks', lines: 'piping' };

const VERDICT: Readonly<Record<JobFitness['verdict'], (j: JobFitness) => string>> = {
  fine: (j) => `fine for ${JOB[j.job]} ${j.parts.join(', ')}`,
  craters: (j) => `likely to crater in ${j.parts.join(', ')}: ${j.betterS} s or warm air`,
  'too-loose': (j) => `too loose for ${JOB[j.job]} ${j.parts.join(', ')}: ${j.betterS} s`,
  'too-stiff': (j) => `too stiff for ${JOB[j.job]} ${j.parts.join(', ')}: ${j.betterS} s`,
};

/** "12 s: fine for flooding top band; likely to crater in small pane: 20 s or warm air" */
export function fitnessText(countedS: number, jobs: readonly JobFitness[]): { text: string; fits: boolean } {
  return { text: `${countedS} s: ${jobs.map((j) => VERDICT[j.verdict](j)).join('; ')}`, fits: jobs.every((j) => j.verdict === 'fine') };
}
