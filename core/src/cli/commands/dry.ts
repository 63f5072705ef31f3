import type { Air } from '../../drying/air.js';
import { airBeforeFan, airInDehydrator } from '../../drying/fan.js';
import { timesInAir } from '../../drying/forecast.js';
import { dryingOutlook } from '../../drying/outlook.js';
import { type DryingState, surfaceStates } from '../../drying/state.js';
import { margins } from '../../drying/uncertainty.js';
import { BadInput } from '../../units/bad-input.js';
import { type Command, choiceOption, numberOption, parse, print } from '../command.js';

const HELPS = ['none', 'fan', 'dehydrator'] as const;
const SURFACES = ['cookie', 'parchment'] as const;

export const dry: Command = {
  name: 'dry',
  usage:
    'dry [--seconds S] [--depth-mm MM] [--temp-c C] [--humidity PCT] [--air M/S] [--help-by none|fan|dehydrator] [--margin bold|normal|careful] [--on cookie|parchment]',
  summary: 'minutes until icing is thickening, skinned, crusted, set, firm, dry',
  help: `Options (defaults are the reference): --seconds 15 (1.5–120), --depth-mm 2.5 (0.3–10), --temp-c 22 (5–45),
--humidity 50 (% relative, 0–100), --air 0.1 (m/s at the tray, 0–5), --on cookie|parchment, --margin normal.
--help-by fan takes --fan-m, the distance in m (default 0.5); --help-by dehydrator takes --dehydrator-c, its temperature (35),
with the room's own vapour carried in.
Prints {"surfaceTempC","fluxGPerM2H","statesMin","p10","p50","p90","plannedMin","why"}: statesMin are medians, p10 to p90
the spread of cookies and kitchens, plannedMin what a plan waits at the margin; minutes, or null where it never comes.
A reason is {"code":"humid","limitHumidityPct"} (the air takes too little water; up to that humidity it would work) or
{"code":"tooSlow","limitMin":4320,"limitHumidityPct"} (longer than 72 h).`,
  async run(args) {
    const { values } = parse(
      args,
      {
        seconds: { type: 'string', default: '15' },
        'depth-mm': { type: 'string', default: '2.5' },
        'temp-c': { type: 'string', default: '22' },
        humidity: { type: 'string', default: '50' },
        air: { type: 'string', default: '0.1' },
        'help-by': { type: 'string', default: 'none' },
        'fan-m': { type: 'string' },
        'dehydrator-c': { type: 'string' },
        margin: { type: 'string', default: 'normal' },
        on: { type: 'string', default: 'cookie' },
      },
      0,
    );
    const region = {
      seconds: numberOption(values, 'seconds', 1.5, 120, 'seconds'),
      depthMm: numberOption(values, 'depth-mm', 0.3, 10, 'mm'),
      on: choiceOption(values, 'on', SURFACES),
    };
    const room: Air = {
      tempC: numberOption(values, 'temp-c', 5, 45, '°C'),
      humidityFrac: numberOption(values, 'humidity', 0, 100, '%') / 100,
      airMPerS: numberOption(values, 'air', 0, 5, 'm/s'),
    };
    const help = choiceOption(values, 'help-by', HELPS);
    for (const [option, needs] of [
      ['fan-m', 'fan'],
      ['dehydrator-c', 'dehydrator'],
    ] as const)
      if (values[option] !== undefined && help !== needs)
        throw new BadInput(
          'option',
          `--${option} says how the ${needs} stands, and there is none: add --help-by ${needs}, or leave it out.`,
        );
    const fanM = numberOption({ 'fan-m': '0.5', ...values }, 'fan-m', 0.1, 20, 'm');
    const dehydratorC = numberOption({ 'dehydrator-c': '35', ...values }, 'dehydrator-c', 20, 80, '°C');
    const air = help === 'fan' ? airBeforeFan(room, fanM) : help === 'dehydrator' ? airInDehydrator(room, dehydratorC) : room;
    const o = dryingOutlook(region, air);
    const times = timesInAir(region, air, choiceOption(values, 'margin', margins));
    const states = surfaceStates.slice(1) as DryingState[];
    const round = (n: number, digits: number) => Math.round(n * 10 ** digits) / 10 ** digits;
    const minutes = (pick: (s: DryingState) => number | null) =>
      Object.fromEntries(states.map((s) => [s, pick(s) === null ? null : round((pick(s) as number) / 60, 2)]));
    print({
      surfaceTempC: round(o.surfaceTempC, 2),
      fluxGPerM2H: round(o.fluxGPerM2H, 2),
      statesMin: minutes((s) => o.secondsTo[s]),
      p10: minutes((s) => times[s].p10),
      p50: minutes((s) => times[s].p50),
      p90: minutes((s) => times[s].p90),
      plannedMin: minutes((s) => times[s].planned),
      ...(states.some((s) => o.why[s]) ? { why: Object.fromEntries(states.filter((s) => o.why[s]).map((s) => [s, o.why[s]])) } : {}),
    });
    return 0;
  },
};
