import type { Design } from '@kestfog/core/design';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { cookieFrame } from '../../../ui/cookie-frame.js';
import { FileButton, PICTURES } from '../../../ui/FileButton.js';
import { msgNodes } from '../../../ui/msg-nodes.js';
import { readPicture, wrongWith } from '../picture-file.js';

/** A picture to draw after: it lies over the cookie, faded, and is kept nowhere. */
export interface Beneath {
  readonly url: string;
  /** height over width */
  readonly ratio: number;
  /** its width as a share of the cookie's, per cent */
  readonly widthPct: number;
  readonly mirrored: boolean;
}

export function BeneathControls({
  beneath,
  onBeneath,
  onSay,
}: {
  readonly beneath: Beneath | null;
  readonly onBeneath: (b: Beneath | null) => void;
  readonly onSay: (text: string) => void;
}) {
  const [busy, setBusy] = useState(false);
  const bring = async (file: File) => {
    setBusy(true);
    try {
      const wrong = await wrongWith(file);
      if (wrong) return onSay(wrong);
      const { url, width, height } = await readPicture(file);
      onBeneath({ url, ratio: height / width, widthPct: 100, mirrored: false });
    } catch {
      onSay(msg`${file.name} cannot be read: save it as PNG or JPEG.`);
    } finally {
      setBusy(false);
    }
  };
  if (!beneath)
    return (
      <FileButton
        label={busy ? msg`reading …` : msg`lay a picture beneath`}
        accept={PICTURES}
        className="btn-sm min-h-11"
        onFile={(file) => void bring(file)}
      />
    );
  return (
    <div className="flex flex-wrap items-center gap-3 text-lg">
      <label className="flex items-center gap-2">
        {msgNodes`picture beneath, ${beneath.widthPct} % of its width`}
        <input
          type="range"
          className="range w-40"
          min={30}
          max={200}
          value={beneath.widthPct}
          onChange={(e) => onBeneath({ ...beneath, widthPct: Number(e.target.value) })}
        />
      </label>
      <label className="flex items-center gap-2 min-h-11">
        <input
          type="checkbox"
          className="checkbox"
          checked={beneath.mirrored}
          onChange={(e) => onBeneath({ ...beneath, mirrored: e.target.checked })}
        />
        {msg`mirrored`}
      </label>
      <button type="button" className="btn" onClick={() => onBeneath(null)}>
        {msg`Take the picture off`}
      </button>
    </div>
  );
}

/** The picture itself, in the cookie's own millimetres, about its middle. */
export function BeneathPicture({ design, beneath }: { readonly design: Design; readonly beneath: Beneath }) {
  const { box, middle, viewBox } = cookieFrame(design);
  const width = ((box.maxX - box.minX) * beneath.widthPct) / 100;
  return (
    <svg aria-hidden="true" className="absolute inset-0 w-full h-full pointer-events-none opacity-45" viewBox={viewBox}>
      <image
        data-beneath
        href={beneath.url}
        x={middle.x - width / 2}
        y={middle.y - (width * beneath.ratio) / 2}
        width={width}
        height={width * beneath.ratio}
        {...(beneath.mirrored ? { transform: `translate(${2 * middle.x} 0) scale(-1 1)` } : {})}
      />
    </svg>
  );
}
