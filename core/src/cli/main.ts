import { BadInput, NoAnswer } from '../units/bad-input.js';
import { refusalText } from '../wording/refusal.js';
import type { Command } from './command.js';

/** Each is fetched when it is asked for: who wants to know how icing dries does not wait for the writer of PDF. */
const commands: Readonly<Record<string, () => Promise<Command>>> = {
  steps: async () => (await import('./commands/steps.js')).steps,
  plan: async () => (await import('./commands/plan.js')).plan,
  solve: async () => (await import('./commands/solve.js')).solveCommand,
  dry: async () => (await import('./commands/dry.js')).dry,
  thin: async () => (await import('./commands/thin.js')).thin,
  amounts: async () => (await import('./commands/amounts.js')).amounts,
  replay: async () => (await import('./commands/replay.js')).replay,
  learn: async () => (await import('./commands/replay.js')).learn,
  rehearse: async () => (await import('./commands/rehearse.js')).rehearse,
  wet: async () => (await import('./commands/wet.js')).wet,
  picture: async () => (await import('./commands/picture.js')).picture,
  sheet: async () => (await import('./commands/sheet.js')).sheet,
  calendar: async () => (await import('./commands/calendar.js')).calendar,
  table: async () => (await import('./commands/table.js')).table,
};

const overview = (all: readonly Command[]): string => `kestfog: the order of work for decorated cookies, computed

${all.map((c) => `  kestfog ${c.usage}\n      ${c.summary}`).join('\n')}

JSON in, JSON out, where nothing else is said. Exit 0 with an answer, 2 where the input is valid and no answer exists,
3 where the input cannot be used (one line on standard error names the place and the cure).
"kestfog COMMAND --help" says more.
`;

/** Runs the command line; returns the exit code. Answers go to standard output, refusals to standard error. */
export async function main(args: readonly string[]): Promise<number> {
  const [name, ...rest] = args;
  if (name === undefined || name === '--help' || name === '-h' || name === 'help') {
    process.stdout.write(overview(await Promise.all(Object.values(commands).map((load) => load()))));
    return name === undefined ? 3 : 0;
  }
  const load = Object.hasOwn(commands, name) ? commands[name] : undefined;
  if (!load) {
    process.stderr.write(`"${name}" is not a command: use one of ${Object.keys(commands).join(', ')}.\n`);
    return 3;
  }
  const command = await load();
  if (rest.includes('--help') || rest.includes('-h')) {
    process.stdout.write(`kestfog ${command.usage}\n\n${command.help}\n`);
    return 0;
  }
  try {
    return await command.run(rest);
  } catch (error) {
    if (error instanceof BadInput) return refuse(refusalText(error), 3);
    if (error instanceof NoAnswer) return refuse(refusalText(error), 2);
    throw error;
  }
}

function refuse(message: string, code: number): number {
  process.stderr.write(`${message.replace(/\s*\n\s*/g, ' ')}\n`);
  return code;
}
