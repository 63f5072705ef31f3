import { benchTouches } from '../../bench/bench-touches.js';
import { learnedFrom, otherModel, replayReport } from '../../bench/replay-report.js';
import { openRun, withPlan } from '../../bench/run-format.js';
import { visitPaces } from '../../bench/visit-paces.js';
import type { VisitPace } from '../../calibration/pace.js';
import { BadInput } from '../../units/bad-input.js';
import { type Command, parse, print, readJson } from '../command.js';

const runOf = async (file: string) => withPlan(openRun(await readJson(file)));

export const replay: Command = {
  name: 'replay',
  usage: 'replay RUN.json [--at ISO]',
  summary: 'a run as it stood: every body of icing, every wait and window, and what was learned',
  help: `Reads kestfog-run/4 with its plan, as the bench exports it: {"format":"kestfog-run/4","plan":kestfog-plan,"events":[…]}.
--at is a moment (ISO 8601 with an offset); events said of later moments are left out. Without it, the run's last word.
Prints {"atS","otherModel","tasksDone","tasks","bodies":[{"lotId","cookie","stepId","leftAtS","lostKgPerM2","state","stateLeast",
"stateMost","looked":[{"atS","state","found"}],"inferred"}],"waits":[{"taskId","title","readyS","openUntilS","after"}],"windows":[{"taskId","label","cookie","closesS"}],
"touches":[…],"learned":{"factors","evidence"}}, seconds since the plan's second 0. stateLeast and stateMost hold eight in ten.
"otherModel" says so where the run was planned with another model than the one it is looked at with. "factors" are mean and
spread of the logarithm of what multiplies a state's water; "evidence" counts the bodies behind them.`,
  async run(args) {
    const { values, files } = parse(args, { at: { type: 'string' } }, 1);
    const atMs = values['at'] === undefined ? undefined : momentOf(values['at']);
    print(replayReport(await runOf(files[0] as string), atMs));
    return 0;
  },
};

export const learn: Command = {
  name: 'learn',
  usage: 'learn RUN.json…',
  summary: 'what several runs teach together about this kitchen’s drying',
  help: `Reads one or more kestfog-run/4 with their plans, as the bench exports them; each counts as a day of its own.
Prints {"runs","otherModels","touches","visits","learned":{"pace":{who:{kind:{"takes","sigma","visits"}}},
"factors":{state:{"mean","sigma"}},"evidence":{state:{"found","silent"}}}}: mean and spread of
the logarithm of what multiplies a state's water, and how many bodies were found by a finger or worked on without a word.
"takes" is how many times the assumed seconds somebody takes for a kind of motion, interruptions cut off. "otherModels" names the files that were planned with another model than the one they are learned from here.`,
  async run(args) {
    const { files } = parse(args, {}, 'some');
    const runs = [];
    const otherModels = [];
    const visits: VisitPace[] = [];
    for (const file of files) {
      const { plan, events } = await runOf(file);
      const other = otherModel(plan);
      if (other) otherModels.push({ file, ...other });
      runs.push(benchTouches(plan, events));
      visits.push(...visitPaces(plan, events, file));
    }
    print({ runs: runs.length, otherModels, touches: runs.flat().length, visits: visits.length, learned: learnedFrom(runs, visits) });
    return 0;
  },
};

/** A moment in ms. Throws a BadInput where it has no offset: the same clock stands elsewhere at another time. */
function momentOf(text: string): number {
  const ms = /(Z|[+-]\d\d:?\d\d)$/.test(text) ? Date.parse(text) : Number.NaN;
  if (Number.isNaN(ms)) throw new BadInput('usage', `--at must be a moment with its offset, such as 2026-06-05T16:00:00Z, not "${text}".`);
  return ms;
}
