import { colourName } from '@kestfog/core/design';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepKitchen, useKitchen } from '../api/queries.js';
import { useColourName } from '../app/colour-names.js';

/** The name of a colour, which can be given another for the whole kitchen. */
export function ColourName({ colour, className = '' }: { readonly colour: string; readonly className?: string }) {
  const nameOf = useColourName();
  const own = useKitchen().data?.colourNames ?? {};
  const keep = useKeepKitchen();
  const [typed, setTyped] = useState<string | null>(null);
  const name = nameOf(colour);
  if (typed === null)
    return (
      <button
        type="button"
        className={`link link-hover text-left ${className}`}
        aria-label={msg`${name}: call it otherwise`}
        onClick={() => setTyped(name)}
      >
        {name}
      </button>
    );
  // Emptied, it has its usual name again.
  const done = () => {
    const { [colour]: _, ...others } = own;
    const said = typed.trim();
    setTyped(null);
    if (said !== name) keep.mutate({ colourNames: said === '' || said === colourName(colour) ? others : { ...others, [colour]: said } });
  };
  return (
    <input
      className="input w-44"
      aria-label={msg`name of the colour ${name}`}
      maxLength={40}
      value={typed}
      // biome-ignore lint/a11y/noAutofocus: it takes the place of the name that was touched
      autoFocus
      onChange={(e) => setTyped(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => {
        if (e.key === 'Enter') done();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
