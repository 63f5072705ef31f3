import { SaxesParser } from 'saxes';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/** One element of a drawing after everything that could do harm was refused. */
export interface SvgElement {
  readonly tag: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly SvgElement[];
  /** text directly inside, kept for <style> and <title> only */
  readonly text: string;
}

export const MAX_SVG_CHARS = 2_000_000;
const MAX_ELEMENTS = 20_000;
const MAX_DEPTH = 64;
const SVG_NS = 'http://www.w3.org/2000/svg';

const refuse = (code: string, text: string, facts: Record<string, string | number> = {}): never => {
  throw new BadInput(code, text, facts);
};

/** References may only point inside the drawing; a picture carried inside it is harmless (and skipped later). */
function checkReference(value: string, where: string): void {
  const v = value.trim();
  if (v === '' || v.startsWith('#') || /^data:image\/(png|jpeg|gif|webp)[;,]/i.test(v)) return;
  refuse('external-reference', msg`The drawing refers to something outside itself at ${where}: embed it or delete it, then save again.`, {
    where,
  });
}

export function checkStyleText(css: string, where: string): void {
  // Escapes could hide a keyword from the checks below, and no drawing program needs them here.
  if (/\\/.test(css)) refuse('external-reference', msg`The style at ${where} uses escapes: save the drawing with plain styles.`, { where });
  if (/@import/i.test(css))
    refuse('external-reference', msg`The style at ${where} imports another file: save the drawing with its styles inside.`, { where });
  for (const m of css.matchAll(/url\(\s*(['"]?)([^'")]*)\1\s*\)/gi)) checkReference(m[2] as string, where);
}

/** Parses a drawing strictly; throws {@link BadInput} for anything malformed or hostile. */
export function parseSvg(text: string): SvgElement {
  if (text.length > MAX_SVG_CHARS) {
    refuse(
      'too-large',
      msg`The drawing is ${(text.length / 1e6).toFixed(1)} million characters, the limit is ${MAX_SVG_CHARS / 1e6}: simplify it or remove
        embedded pictures.`,
    );
  }
  interface Open {
    tag: string;
    svg: boolean;
    attributes: Record<string, string>;
    children: SvgElement[];
    text: string;
  }
  const stack: Open[] = [];
  let root: SvgElement | undefined;
  let count = 0;
  const parser = new SaxesParser({ xmlns: true, position: true });
  parser.on('error', (e) =>
    refuse(
      'malformed',
      msg`The drawing is not well-formed SVG (${e.message.replace(/\.$/, '')}): export it again from the drawing program.`,
    ),
  );
  parser.on('doctype', (doctype) => {
    if (doctype.includes('[') || /ENTITY/i.test(doctype))
      refuse('entities', msg`The drawing declares entities of its own: save it as plain SVG and bring it again.`);
  });
  parser.on('opentag', (tag) => {
    count += 1;
    if (count > MAX_ELEMENTS) refuse('too-large', msg`The drawing has more than ${MAX_ELEMENTS} elements: simplify it.`);
    if (stack.length >= MAX_DEPTH) refuse('too-deep', msg`The drawing nests groups more than ${MAX_DEPTH} deep: ungroup it once.`);
    const svg = tag.uri === SVG_NS || tag.uri === '';
    const name = tag.local;
    const where = `<${name}> in line ${parser.line}`;
    if (/^(script|handler|listener)$/i.test(name))
      refuse('script', msg`The drawing contains a script (${where}): remove it and bring the drawing again.`, { where });
    const attributes: Record<string, string> = {};
    for (const [key, attribute] of Object.entries(tag.attributes)) {
      if (attribute.prefix === 'xmlns' || key === 'xmlns') continue;
      const local = attribute.local;
      if (/^on/i.test(local) && attribute.uri === '')
        refuse('script', msg`The drawing runs a script on an event (${local} on ${where}): remove it and bring the drawing again.`, {
          where,
        });
      if (svg && (local === 'href' || local === 'src')) checkReference(attribute.value, where);
      if (svg && /url\(/i.test(attribute.value)) checkStyleText(attribute.value, where);
      attributes[local] = attribute.value;
    }
    stack.push({ tag: name, svg, attributes, children: [], text: '' });
  });
  const addText = (chunk: string) => {
    const top = stack.at(-1);
    if (top && (top.tag === 'style' || top.tag === 'title')) top.text += chunk;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.on('closetag', () => {
    const { svg, ...element } = stack.pop() as Open;
    if (element.tag === 'style') checkStyleText(element.text, '<style>');
    // Elements of other vocabularies (metadata of drawing programs) mean nothing here.
    if (!svg) return;
    const parent = stack.at(-1);
    if (parent) parent.children.push(element);
    else root = element;
  });
  parser.write(text).close();
  if (root?.tag !== 'svg') refuse('not-svg', msg`The file is not an SVG drawing: choose a file that ends in .svg.`);
  return root as SvgElement;
}
