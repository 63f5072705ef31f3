import { type CssNode, generate, parse, walk } from 'css-tree';
import { formatHex, parse as parseColour } from 'culori';
import type { SvgElement } from './svg-tree.js';

/** The few properties that decide what a path is. */
export interface Style {
  readonly fill: string;
  readonly stroke: string;
  readonly strokeWidth: string;
  readonly fillRule: 'nonzero' | 'evenodd';
  readonly hidden: boolean;
  /** CSS `color`, for currentColor */
  readonly color: string;
}

export const INITIAL_STYLE: Style = { fill: 'black', stroke: 'none', strokeWidth: '1', fillRule: 'nonzero', hidden: false, color: 'black' };

const PROPERTIES = ['fill', 'stroke', 'stroke-width', 'fill-rule', 'display', 'visibility', 'color', 'stop-color', 'stop-opacity'] as const;
type Property = (typeof PROPERTIES)[number];
type Declarations = Partial<Record<Property, string>>;

export interface Rule {
  readonly matches: (element: SvgElement) => boolean;
  readonly specificity: number;
  readonly declarations: Declarations;
}

function declarationsOf(node: CssNode): Declarations {
  const out: Declarations = {};
  walk(node, {
    visit: 'Declaration',
    enter(d) {
      if ((PROPERTIES as readonly string[]).includes(d.property)) out[d.property as Property] = generate(d.value).trim();
    },
  });
  return out;
}

/** Rules of a <style> element: type, class and id selectors, alone or joined ("path.cls-1"), as drawing programs write them. */
export function readStyleSheet(css: string): Rule[] {
  const rules: Rule[] = [];
  walk(parse(css, { parseValue: true }), {
    visit: 'Rule',
    enter(rule) {
      if (rule.prelude.type !== 'SelectorList') return;
      const declarations = declarationsOf(rule.block);
      rule.prelude.children.forEach((selector) => {
        const text = generate(selector);
        const m = /^([a-zA-Z*][\w-]*)?((?:[.#][\w-]+)*)$/.exec(text);
        if (!m || text === '') return;
        const tag = m[1] === '*' ? undefined : m[1];
        const marks = (m[2] ?? '').match(/[.#][\w-]+/g) ?? [];
        rules.push({
          declarations,
          specificity: (tag ? 1 : 0) + marks.reduce((s, x) => s + (x.startsWith('#') ? 100 : 10), 0),
          matches: (e) =>
            (!tag || e.tag === tag) &&
            marks.every((x) =>
              x.startsWith('#') ? e.attributes['id'] === x.slice(1) : (e.attributes['class'] ?? '').split(/\s+/).includes(x.slice(1)),
            ),
        });
      });
    },
  });
  return rules.sort((a, b) => a.specificity - b.specificity);
}

/** What is declared of an element itself: its attributes, then the sheet's rules, then its own `style`. */
export function declaredOf(element: SvgElement, sheet: readonly Rule[]): Declarations {
  const d: Declarations = {};
  for (const p of PROPERTIES) {
    const v = element.attributes[p];
    if (v !== undefined) d[p] = v.trim();
  }
  for (const rule of sheet) if (rule.matches(element)) Object.assign(d, rule.declarations);
  const own = element.attributes['style'];
  if (own) Object.assign(d, declarationsOf(parse(own, { context: 'declarationList' })));
  return d;
}

/** Style of an element: inherited, then what is declared of itself. */
export function styleOf(element: SvgElement, inherited: Style, sheet: readonly Rule[]): Style {
  const d = declaredOf(element, sheet);
  const pick = (v: string | undefined, from: string) => (v === undefined || v === 'inherit' ? from : v);
  return {
    fill: pick(d.fill, inherited.fill),
    stroke: pick(d.stroke, inherited.stroke),
    strokeWidth: pick(d['stroke-width'], inherited.strokeWidth),
    fillRule: pick(d['fill-rule'], inherited.fillRule) === 'evenodd' ? 'evenodd' : 'nonzero',
    hidden: inherited.hidden || d.display === 'none' || d.visibility === 'hidden',
    color: pick(d.color, inherited.color),
  };
}

/** #rrggbb of a paint; null for none and for wholly transparent; `mixed` answers for what icing cannot be, a gradient or a pattern. */
export function paintHex(paint: string, style: Style, mixed: (id: string) => string | null): string | null {
  if (paint === 'none' || paint === 'transparent') return null;
  const reference = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)$/.exec(paint);
  if (reference) return mixed(reference[1] as string) ?? (reference[2] ? paintHex(reference[2], style, mixed) : '#808080');
  if (paint.startsWith('url(')) return '#808080';
  const colour = parseColour(paint.toLowerCase() === 'currentcolor' ? style.color : paint);
  if (!colour) return '#000000';
  if (colour.alpha === 0) return null;
  return formatHex(colour);
}
