import { dryingOutlook } from '../../drying/outlook.js';
import { type DryingState, surfaceStates } from '../../drying/state.js';
import { type Command, numberOption, parse, print } from '../command.js';

export const dry: Command = {
  name: 'dry',
  usage: 'dry [--seconds S] [--depth-mm MM] [--temp-c C] [--humidity PCT] [--air M/S]',
  summary: 'median minutes until icing is thickening, skinned, crusted, set, firm, dry',
  help: `Options (defaults are the reference): --seconds 15 (1.5–120), --depth-mm 2.5 (0.3–10), --temp-c 22 (5–45),
--humidity 50 (% relative, 0–100), --air 0.1 (m/s at the tray, 0–5).
Prints {"surfaceTempC","fluxGPerM2H","statesMin":{state: minutes or null},"why":{state: reason}}; a reason is
{"code":"humid","limitHumidityPct"} (the air takes too little water; up to that humidity it would work) or
{"code":"tooSlow","limitMin":4320} (longer than 72 h).`,
  async run(args) {
    const { values } = parse(
      args,
      {
        seconds: { type: 'string', default: '15' },
        'depth-mm': { type: 'string', default: '2.5' },
        'temp-c': { type: 'string', default: '22' },
        humidity: { type: 'string', default: '50' },
        air: { type: 'string', default: '0.1' },
      },
      0,
    );
    const region = {
      seconds: numberOption(values, 'seconds', 1.5, 120, 'seconds'),
      depthMm: numberOption(values, 'depth-mm', 0.3, 10, 'mm'),
      on: 'cookie' as const,
    };
    const air = {
      tempC: numberOption(values, 'temp-c', 5, 45, '°C'),
      humidityFrac: numberOption(values, 'humidity', 0, 100, '%') / 100,
      airMPerS: numberOption(values, 'air', 0, 5, 'm/s'),
    };
    const o = dryingOutlook(region, air);
    const states = surfaceStates.slice(1) as DryingState[];
    const round = (n: number, digits: number) => Math.round(n * 10 ** digits) / 10 ** digits;
    print({
      surfaceTempC: round(o.surfaceTempC, 2),
      fluxGPerM2H: round(o.fluxGPerM2H, 2),
      statesMin: Object.fromEntries(states.map((s) => [s, o.secondsTo[s] === null ? null : round((o.secondsTo[s] as number) / 60, 2)])),
      ...(states.some((s) => o.why[s]) ? { why: Object.fromEntries(states.filter((s) => o.why[s]).map((s) => [s, o.why[s]])) } : {}),
    });
    return 0;
  },
};
