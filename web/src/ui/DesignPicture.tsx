import type { DrawingRef } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useDrawing } from '../api/queries.js';
import { Cookie } from './Cookie.js';

/** A design's picture by its reference: fetched once, then kept; a grey place of its size until it is there. */
export function DesignPicture({
  of,
  label,
  className,
  pxPerMm,
}: {
  readonly of: DrawingRef;
  readonly label: string;
  readonly className: string;
  readonly pxPerMm?: number;
}) {
  const { data, isError } = useDrawing(of);
  if (!data)
    return (
      <span
        role="img"
        aria-label={isError ? msg`${label}: no picture` : label}
        className={`block min-h-16 min-w-16 rounded-box bg-base-200 ${className}`}
      />
    );
  return <Cookie design={data} look="dry" className={className} label={label} {...(pxPerMm === undefined ? {} : { pxPerMm })} />;
}
