import { inkOf, type PaperMark, type PaperPage } from '@kestfog/core/paper';
import { memo } from 'react';

const ringData = (ring: readonly { readonly x: number; readonly y: number }[], closed: boolean) =>
  `M${ring.map((p) => `${p.x.toFixed(3)} ${p.y.toFixed(3)}`).join('L')}${closed ? 'Z' : ''}`;

/** One page as it is printed: the same marks the PDF has, at the same places. */
export const PageView = memo(function PageView({ page, label }: { readonly page: PaperPage; readonly label: string }) {
  return (
    <svg
      viewBox={`0 0 ${page.widthMm} ${page.heightMm}`}
      className="w-full bg-white shadow-md border border-base-300"
      role="img"
      aria-label={label}
    >
      {page.marks.map((m, i) => (
        // Marks have no names of their own, and a page is made anew as a whole.
        <Mark key={i} mark={m} />
      ))}
    </svg>
  );
});

function Mark({ mark: m }: { readonly mark: PaperMark }) {
  if (m.kind === 'words')
    return (
      <text
        x={m.xMm}
        y={m.yMm}
        fontSize={m.sizeMm}
        fontWeight={m.bold ? 700 : 400}
        textAnchor={m.align ?? 'start'}
        fill={inkOf(m.tone ?? 'black')}
        style={{ fontKerning: 'none', fontVariantLigatures: 'none' }}
      >
        {m.text}
      </text>
    );
  return (
    <path
      d={m.rings.map((r) => ringData(r, m.closed)).join('')}
      fill={m.fill ? inkOf(m.fill) : 'none'}
      fillRule="evenodd"
      {...(m.lineMm > 0 ? { stroke: inkOf(m.tone), strokeWidth: m.lineMm, strokeLinejoin: 'round' as const } : {})}
      {...(m.dashMm ? { strokeDasharray: m.dashMm.join(' ') } : {})}
    />
  );
}
