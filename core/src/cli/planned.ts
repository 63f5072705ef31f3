import { basename, dirname, resolve } from 'node:path';
import type { Design } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { type OrderFile, parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { openPlan } from '../formats/plan-format.js';
import { planOrder } from '../planning/plan-order.js';
import { readJson, readText } from './command.js';

/** An order's drawings, from the files beside it. */
export async function designsBeside(file: string, order: OrderFile): Promise<Design[]> {
  const designs = [];
  for (const d of order.designs) {
    const path = resolve(file === '-' ? '.' : dirname(file), d.file);
    designs.push(readDesign(await readText(path), basename(path).replace(/\.svg$/i, '')));
  }
  return designs;
}

/** A plan from its file, or made of the order in it, within so many seconds. */
export async function plannedFrom(file: string, seconds: number): Promise<Plan> {
  const json = await readJson(file);
  const format = typeof json === 'object' && json !== null && 'format' in json ? String(json.format) : '';
  if (format.startsWith('kestfog-plan/')) return openPlan(json);
  const order = parseOrder(json);
  const designs = await designsBeside(file, order);
  const began = performance.now();
  return planOrder({ order, designs, timeUsed: () => (performance.now() - began) / 1000 / seconds });
}
