import { parseProblem } from '../../scheduling/parse-problem.js';
import { solve } from '../../scheduling/solve.js';
import { type Command, numberOption, parse, print, readJson } from '../command.js';

export const solveCommand: Command = {
  name: 'solve',
  usage: 'solve PROBLEM.json [--seconds N] [--seed N]',
  summary: 'a schedule with minimum and maximum lags, closed hours and changeovers, or why none exists',
  help: `Reads kestfog-problem/1: {"format","resources":[{"id","capacity","closed":[[from,to]],"changeover"}],
"tasks":[{"id","duration","uses":{resource: amount},"usesOneOf":[{"uses","duration"}],"family","release","due"}],
"links":[{"from","to","anchor":"end"|"start","min","max","soft"}],"holds":[{"resource","from","to","amount"}],
"objective":"makespan"|"tardiness"| a list of soft, tardiness, makespan, changes, first counts most; "horizon"}, whole seconds.
"options":[{"id","excludes":[id]}] may each be taken or left out; a task, link or hold with "if":{option: true|false} is there only so.
A link with "soft" may break its max at that much a second. A hold is kept from the start of one task to the end of another.
Prints kestfog-solution/1: {"makespan","start":{task: second},"proven","lowerBound"}, and where asked for "tardiness",
"softCost" and "broken", "changes", "assigned":{task: which of usesOneOf, from 0},
"taken":[option]; "proven" is a list where the objective is one.
Or {"infeasible":true,"because":{"kind","links","tasks"},"message"} with exit 2, the smallest set that clashes.
--seconds N bounds the search (default 5), --seed N makes it repeatable.`,
  async run(args) {
    const { values, files } = parse(args, { seconds: { type: 'string', default: '5' }, seed: { type: 'string', default: '1' } }, 1);
    const seconds = numberOption(values, 'seconds', 0.01, 86_400, 'seconds');
    const seed = numberOption(values, 'seed', 0, 2 ** 31, '');
    const problem = parseProblem(await readJson(files[0] as string));
    const began = performance.now();
    const outcome = solve(problem, {
      passes: Number.POSITIVE_INFINITY,
      seed,
      timeUsed: () => (performance.now() - began) / 1000 / seconds,
    });
    print(outcome);
    if ('start' in outcome) return 0;
    process.stderr.write(`${outcome.message}\n`);
    return 2;
  },
};
