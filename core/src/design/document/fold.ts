import type { Point } from '../../geometry/point.js';
import { areaMm2, boundingBox, centroid, contains, type Shape } from '../../geometry/shape.js';
import { type Design, type DesignNote, type PipedLine, recoloured, type Section, type WetMark } from '../design.js';
import { dividedShape } from '../divide.js';
import { patternById, strokesOf } from '../patterns/index.js';
import { alongside, densify, sectionsUnder } from '../placing.js';
import { readDesign } from '../read-design.js';
import { type DesignDocument, type DesignEdit, standingEdits } from './document.js';

/** Seconds a pattern's spread is reckoned with where the school decides the icing. */
const USUAL_MARK_S = 15;

/**
 * The design a document stands for: its drawing, read with what was said of its parts, then everything done to it in
 * order. An edit of something that is not there any more does nothing, and is noted.
 */
export function foldDesign(doc: DesignDocument): Design {
  const { standing } = standingEdits(doc.edits);
  const said: Record<string, Record<string, string>> = {};
  for (const e of standing) if (e.type === 'say') said[e.part] = { ...said[e.part], ...e.said };
  const started = readDesign(doc.svg, doc.name, said);
  let design = started;
  const gone: DesignNote[] = [];
  for (const edit of standing) {
    const place = 'sectionId' in edit ? edit.sectionId : 'part' in edit ? edit.part : edit.type;
    const next = applied(design, edit);
    if (next) design = next;
    else gone.push({ code: 'skipped', place, text: `"${place}" is not there any more, so what was done to it was left out.` });
  }
  return { ...saidOfMade(design, said), notes: [...started.notes, ...gone] };
}

/** null where the edit speaks of something that is not there. */
function applied(d: Design, e: DesignEdit): Design | null {
  switch (e.type) {
    case 'rename':
      return { ...d, name: e.name };
    case 'resize': {
      const box = boundingBox(d.cookie.flat());
      return scaled(d, e.widthMm / (box.maxX - box.minX));
    }
    case 'recolour':
      return recoloured(d, [e]);
    case 'transfer':
      return { ...d, transfer: e.on };
    case 'remove':
      return removed(d, e.part);
    case 'move':
      return moved(d, e.part, e.before);
    case 'pattern':
      return patterned(d, e);
    case 'divide':
      return divided(d, e);
    case 'detail': {
      const line = { id: e.id, name: e.name, technique: e.technique, points: e.points, closed: e.closed, colour: e.colour, widthMm: e.widthMm };
      const around = e.area ? [...densify(e.points, true), centroid([e.points])] : alongside(densify(e.points, e.closed), e.widthMm / 2);
      return { ...d, lines: [...d.lines, { ...line, ...(e.area ? { area: true } : {}), restsOn: sectionsUnder(d.sections, around) }] };
    }
    case 'first': {
      const known = (id: string) => d.sections.some((s) => s.id === id);
      if (!known(e.first) || !known(e.next) || e.first === e.next) return null;
      return { ...d, before: [...(d.before ?? []).filter(([a, b]) => !isPair(a, b, e.first, e.next)), [e.first, e.next]] };
    }
    case 'either':
      return { ...d, before: (d.before ?? []).filter(([a, b]) => !isPair(a, b, e.a, e.b)) };
    case 'say':
    case 'undo':
    case 'redo':
      return d;
  }
}

const isPair = (a: string, b: string, x: string, y: string) => (a === x && b === y) || (a === y && b === x);

function scaled(d: Design, f: number): Design {
  const point = (p: Point): Point => ({ x: p.x * f, y: p.y * f });
  const shape = (s: Shape): Shape => s.map((ring) => ring.map(point));
  const stroke = <T extends PipedLine | WetMark>(x: T): T => ({ ...x, points: x.points.map(point), widthMm: x.widthMm * f });
  return {
    ...d,
    cookie: shape(d.cookie),
    sections: d.sections.map((s) => ({ ...s, shape: shape(s.shape) })),
    lines: d.lines.map(stroke),
    marks: d.marks.map(stroke),
  };
}

function removed(d: Design, part: string): Design | null {
  const ids = new Set([part]);
  // A pattern is one part: its strokes bear its name.
  for (const m of d.marks) if (m.id.startsWith(`${part}.`)) ids.add(m.id);
  if (![...d.sections, ...d.lines, ...d.marks].some((x) => ids.has(x.id))) return null;
  const sections = d.sections
    .filter((s) => !ids.has(s.id))
    .map(
      (s): Section => ({
        ...s,
        layerOn: s.layerOn.filter((id) => !ids.has(id)),
        ...(s.flushWith ? { flushWith: s.flushWith.filter((id) => !ids.has(id)) } : {}),
      }),
    );
  // A cookie keeps at least one section: without any it is not decorated at all.
  if (sections.length === 0) return null;
  return {
    ...d,
    sections,
    lines: d.lines.filter((l) => !ids.has(l.id)).map((l) => ({ ...l, restsOn: l.restsOn.filter((id) => !ids.has(id)) })),
    marks: d.marks.filter((m) => !ids.has(m.id) && !ids.has(m.sectionId)),
  };
}

function moved(d: Design, part: string, before: string | null): Design | null {
  const within = <T extends { readonly id: string }>(list: readonly T[]): T[] | null => {
    const own = list.filter((x) => x.id === part || x.id.startsWith(`${part}.`));
    if (own.length === 0) return null;
    const rest = list.filter((x) => !own.includes(x));
    const at = before === null ? rest.length : rest.findIndex((x) => x.id === before || x.id.startsWith(`${before}.`));
    return at < 0 ? null : [...rest.slice(0, at), ...own, ...rest.slice(at)];
  };
  const marks = within(d.marks);
  if (marks) return { ...d, marks };
  const lines = within(d.lines);
  return lines ? { ...d, lines } : null;
}

function patterned(d: Design, e: Extract<DesignEdit, { type: 'pattern' }>): Design | null {
  const section = d.sections.find((s) => s.id === e.sectionId);
  if (!section) return null;
  const { label } = patternById(e.pattern);
  const strokes = strokesOf(e.pattern, section.shape, e.ask, e.seconds ?? USUAL_MARK_S);
  const marks = strokes.map(
    (s, i): WetMark => ({
      id: `${e.id}.${i + 1}`,
      name: label,
      technique: s.technique,
      sectionId: section.id,
      points: s.points,
      closed: s.closed,
      colour: e.colours[Math.min(s.colour, e.colours.length - 1)] as string,
      widthMm: s.technique === 'wet-drop' ? 0 : s.sizeMm,
      ...(e.seconds === null ? {} : { seconds: e.seconds }),
    }),
  );
  return { ...d, marks: [...d.marks, ...marks] };
}

function divided(d: Design, e: Extract<DesignEdit, { type: 'divide' }>): Design | null {
  const section = d.sections.find((s) => s.id === e.sectionId);
  if (!section) return null;
  const shapes = dividedShape(section.shape, e.division);
  if (shapes.length < 2) return null;
  const { flushWith: _flushWith, ...plain } = section;
  const pieces = shapes.map(
    (shape, i): Section => ({
      ...plain,
      id: `${section.id}.${i + 1}`,
      name: `${section.name} ${i + 1}`,
      shape,
      colour: e.colours[i % e.colours.length] ?? section.colour,
    }),
  );
  const sections = d.sections.flatMap((s): Section[] => {
    if (s.id === section.id) return pieces;
    if (!s.layerOn.includes(section.id)) return [s];
    const under = pieces.filter((p) => s.shape.flat().some((q) => contains(p.shape, q)) || p.shape.flat().some((q) => contains(s.shape, q)));
    return [{ ...s, layerOn: [...s.layerOn.filter((id) => id !== section.id), ...under.map((p) => p.id)] }];
  });
  const largest = [...pieces].sort((a, b) => areaMm2(b.shape) - areaMm2(a.shape))[0] as Section;
  return {
    ...d,
    sections,
    marks: d.marks.map((m) => (m.sectionId === section.id ? { ...m, sectionId: sectionsUnder(pieces, densify(m.points, m.closed))[0] ?? largest.id } : m)),
    lines: d.lines.map((l) =>
      l.restsOn.includes(section.id)
        ? {
            ...l,
            restsOn: [
              ...l.restsOn.filter((id) => id !== section.id),
              ...sectionsUnder(pieces, l.area ? [...l.points, centroid([l.points])] : densify(l.points, l.closed)),
            ],
          }
        : l,
    ),
  };
}

/** What was said of parts that edits made, which the reader of the drawing never saw. */
function saidOfMade(d: Design, said: Readonly<Record<string, Readonly<Record<string, string>>>>): Design {
  const of = (id: string) => said[id] ?? said[id.replace(/\.\d+$/, '')];
  const common = <T extends { readonly id: string; readonly name: string; readonly colour: string; readonly seconds?: number }>(x: T): T => {
    const s = of(x.id);
    if (!s) return x;
    const seconds = Number(s['seconds']);
    return {
      ...x,
      ...(s['name'] ? { name: s['name'] } : {}),
      ...(s['colour'] ? { colour: s['colour'] } : {}),
      ...(s['seconds'] && seconds >= 1.5 && seconds <= 120 ? { seconds } : {}),
    };
  };
  return {
    ...d,
    sections: d.sections.map((x) => {
      const depthMm = Number(of(x.id)?.['depth-mm']);
      const section = common(x);
      return depthMm >= 0.3 && depthMm <= 10 ? { ...section, depthMm } : section;
    }),
    lines: d.lines.map(common),
    marks: d.marks.map(common),
  };
}
