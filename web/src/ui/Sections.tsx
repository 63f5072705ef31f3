import { msg } from '@kestfog/core/words';
/** The parts of a long page, to jump to. */
export function Sections({ parts }: { readonly parts: readonly (readonly [id: string, label: string])[] }) {
  return (
    <nav aria-label={msg`Parts of this page`} className="no-print flex flex-wrap gap-x-6 text-lg border-y border-base-300">
      {parts.map(([id, label]) => (
        <a key={id} href={`#${id}`} className="link-hover py-2">
          {label}
        </a>
      ))}
    </nav>
  );
}
