import { userUnits } from './svg-length.js';
import type { SvgElement } from './svg-tree.js';

/** Path data of a path or basic shape (SVG 2, chapter "Basic Shapes"); null for elements that draw nothing we pipe. */
export function pathDataOf(element: SvgElement): string | null {
  const a = element.attributes;
  const n = (name: string, fallback = 0) => userUnits(a[name], fallback);
  switch (element.tag) {
    case 'path':
      return a['d'] ?? '';
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (w <= 0 || h <= 0) return '';
      const rx = Math.min(w / 2, n('rx', n('ry')));
      const ry = Math.min(h / 2, n('ry', n('rx')));
      if (rx <= 0 || ry <= 0) return `M${x} ${y}h${w}v${h}h${-w}Z`;
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}Z`;
    }
    case 'circle':
    case 'ellipse': {
      const rx = element.tag === 'circle' ? n('r') : n('rx');
      const ry = element.tag === 'circle' ? n('r') : n('ry');
      if (rx <= 0 || ry <= 0) return '';
      return `M${n('cx') - rx} ${n('cy')}a${rx} ${ry} 0 1 1 ${2 * rx} 0a${rx} ${ry} 0 1 1 ${-2 * rx} 0Z`;
    }
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
    case 'polygon': {
      const values = (a['points'] ?? '').match(/[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi) ?? [];
      if (values.length < 4) return '';
      return `M${values.slice(0, values.length - (values.length % 2)).join(' ')}${element.tag === 'polygon' ? 'Z' : ''}`;
    }
    default:
      return null;
  }
}
