import type { Plan } from '../../formats/plan.js';
import { chanceOf } from '../../planning/chance.js';
import { BY_THE_BOOK, believedKitchen, type Kitchen, slower } from '../../rehearsal/kitchen.js';
import { proofOf, type Works } from '../../rehearsal/proof.js';
import type { Rng } from '../../time/rng.js';
import { BadInput } from '../../units/bad-input.js';
import { type Command, choiceOption, numberOption, parse, print } from '../command.js';
import { plannedFrom } from '../planned.js';

/** How icing behaves, by what the option says; one as likely as any by what the plan believes where nothing is said. */
const kitchens = ['believed', 'damp', 'fast', 'book'] as const;
const KITCHEN: Readonly<Record<(typeof kitchens)[number], (plan: Plan) => (rng: Rng) => Kitchen>> = {
  believed: (plan) => (rng) => believedKitchen(plan.factors, rng),
  damp: () => () => slower(4 / 3),
  fast: () => () => slower(3 / 4),
  book: () => () => BY_THE_BOOK,
};

export const rehearse: Command = {
  name: 'rehearse',
  usage: 'rehearse ORDER.json|PLAN.json [--evenings 1000] [--seed 1] [--kitchen believed|damp|fast|book] [--replan] [--seconds N]',
  summary: 'a plan worked evening after evening on simulated icing: how often it is packed in time, and each window held',
  help: `Works the plan at the bench, cookie by cookie, each evening at a pace of its own in a kitchen that only the simulation knows: as likely as
any by what the plan believes, a damp one (a third slower), a fast one (a quarter quicker), or by the book. Nothing is begun before its
planned moment nor before it is ready, which hands are taken to see ("works": "sees"), as the chance takes them to. With --replan
("replans") a finger looks when it is due, what is found wet is said, and the bench plans again. An order is
planned first, within --seconds (10). Prints {"evenings","seed","kitchen","works","onTime","saved","endS":{"median","inTen"},
"windows":[{"taskId","trayId","title","held","chance"}],"chance":{"onTime"}}: shares of the evenings, beside the chance the plan gives;
"onTime" is null where nothing is due. The same seed gives the same evenings.`,
  async run(args) {
    const text = { type: 'string' } as const;
    const { values, files } = parse(
      args,
      {
        evenings: { ...text, default: '1000' },
        seed: { ...text, default: '1' },
        kitchen: { ...text, default: 'believed' },
        replan: { type: 'boolean' },
        seconds: { ...text, default: '10' },
      },
      1,
    );
    const evenings = Math.round(numberOption(values, 'evenings', 1, 100_000, ''));
    const seed = Math.round(numberOption(values, 'seed', 1, 1e9, ''));
    const kitchen = choiceOption(values, 'kitchen', kitchens);
    const plan = await plannedFrom(files[0] as string, numberOption(values, 'seconds', 0.1, 3600, 'seconds'));
    if (plan.epoch === null)
      throw new BadInput(
        'no-clock',
        'The plan counts seconds from a start without a date: give the order times of the clock, or an "epoch".',
      );
    const works: Works = values['replan'] === undefined ? 'sees' : 'replans';
    const proof = proofOf(plan, { evenings, seed, kitchen: KITCHEN[kitchen](plan), works });
    const chance = chanceOf(plan, { seed });
    const share = (x: number) => Math.round(x * 1000) / 1000;
    print({
      evenings,
      seed,
      kitchen,
      works,
      onTime: proof.onTime === null ? null : share(proof.onTime),
      saved: share(proof.saved),
      endS: { median: Math.round(proof.endS.median), inTen: Math.round(proof.endS.inTen) },
      windows: proof.windows.map(({ taskId, held }) => {
        const task = plan.tasks.find((t) => t.id === taskId);
        const missed = chance.windows.filter((w) => w.taskId === taskId).map((w) => w.missed);
        return {
          taskId,
          trayId: task?.trayId,
          title: task?.title,
          held: share(held),
          chance: missed.length === 0 ? null : share(1 - Math.max(...missed)),
        };
      }),
      chance: { onTime: chance.onTime === null ? null : share(chance.onTime) },
    });
    return 0;
  },
};
