import { BadInput, NoAnswer } from '../units/bad-input.js';
import { refusalText } from '../wording/refusal.js';
import type { Command } from './command.js';
import { amounts } from './commands/amounts.js';
import { calendar } from './commands/calendar.js';
import { dry } from './commands/dry.js';
import { picture } from './commands/picture.js';
import { plan } from './commands/plan.js';
import { rehearse } from './commands/rehearse.js';
import { learn, replay } from './commands/replay.js';
import { sheet } from './commands/sheet.js';
import { solveCommand } from './commands/solve.js';
import { steps } from './commands/steps.js';
import { table } from './commands/table.js';
import { thin } from './commands/thin.js';
import { wet } from './commands/wet.js';

const commands: readonly Command[] = [
  steps,
  plan,
  solveCommand,
  dry,
  thin,
  amounts,
  replay,
  learn,
  rehearse,
  wet,
  picture,
  sheet,
  calendar,
  table,
];

const overview = `kestfog: the order of work for decorated cookies, computed

${commands.map((c) => `  kestfog ${c.usage}\n      ${c.summary}`).join('\n')}

JSON in, JSON out, where nothing else is said. Exit 0 with an answer, 2 where the input is valid and no answer exists,
3 where the input cannot be used (one line on standard error names the place and the cure).
"kestfog COMMAND --help" says more.
`;

/** Runs the command line; returns the exit code. Answers go to standard output, refusals to standard error. */
export async function main(args: readonly string[]): Promise<number> {
  const [name, ...rest] = args;
  if (name === undefined || name === '--help' || name === '-h' || name === 'help') {
    process.stdout.write(overview);
    return name === undefined ? 3 : 0;
  }
  const command = commands.find((c) => c.name === name);
  if (!command) {
    process.stderr.write(`"${name}" is not a command: use one of ${commands.map((c) => c.name).join(', ')}.\n`);
    return 3;
  }
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
