import type { PaperPage, Tone } from './page.js';

const TONES: Readonly<Record<string, string>> = { black: '#000000', grey: '#737373', faint: '#b8b8b8' };
const ink = (tone: Tone): string => TONES[tone] ?? tone;
const escaped = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const r = (v: number): string => String(Math.round(v * 1000) / 1000);

/** A page as an SVG of its true size, for the screen; `family` is the font its words are set in. */
export function pageSvg(page: PaperPage, family: string): string {
  const marks = page.marks.map((m) => {
    if (m.kind === 'words')
      return `<text x="${r(m.xMm)}" y="${r(m.yMm)}" font-size="${r(m.sizeMm)}"${m.bold ? ' font-weight="700"' : ''}${m.align && m.align !== 'start' ? ` text-anchor="${m.align}"` : ''} fill="${ink(m.tone ?? 'black')}" xml:space="preserve">${escaped(m.text)}</text>`;
    const d = m.rings.map((ring) => `M${ring.map((p) => `${r(p.x)} ${r(p.y)}`).join('L')}${m.closed ? 'Z' : ''}`).join('');
    const edge = m.lineMm > 0 ? ` stroke="${ink(m.tone)}" stroke-width="${r(m.lineMm)}" stroke-linejoin="round"` : '';
    return `<path d="${d}" fill="${m.fill ? ink(m.fill) : 'none'}" fill-rule="evenodd"${edge}${m.dashMm ? ` stroke-dasharray="${m.dashMm.map(r).join(' ')}"` : ''}/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${r(page.widthMm)}mm" height="${r(page.heightMm)}mm" viewBox="0 0 ${r(page.widthMm)} ${r(page.heightMm)}" font-family="${escaped(family)}"><rect width="100%" height="100%" fill="#ffffff"/>${marks.join('')}</svg>`;
}
