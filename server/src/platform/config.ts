/** Everything the environment decides, read once. */
export interface Config {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  readonly simulatedClock: boolean;
  /** first moment of a simulated clock */
  readonly clockStart: Date | null;
  readonly demo: 'once' | 'none' | 'reset';
}

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const databaseUrl = env['DATABASE_URL'];
  if (!databaseUrl) throw new Error('DATABASE_URL is not set: start Kestfog with "npm start".');
  const demo = env['KESTFOG_DEMO'] ?? 'once';
  if (demo !== 'once' && demo !== 'none' && demo !== 'reset') throw new Error(`KESTFOG_DEMO must be once, none or reset, not "${demo}".`);
  const start = env['KESTFOG_CLOCK_START'];
  return {
    databaseUrl,
    host: env['HOST'] ?? '127.0.0.1',
    port: Number(env['PORT'] ?? 3000),
    simulatedClock: env['KESTFOG_CLOCK'] === 'simulated',
    clockStart: start ? new Date(start) : null,
    demo,
  };
}
export const CONFIG = Symbol('config');
