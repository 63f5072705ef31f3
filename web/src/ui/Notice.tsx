import type { ReactNode } from 'react';

/** What went wrong or is missing, in one sentence, with the way on. */
export function Notice({
  title,
  children,
  tone = 'calm',
}: {
  readonly title: string;
  readonly children?: ReactNode;
  readonly tone?: 'calm' | 'closing';
}) {
  return (
    <div
      role={tone === 'closing' ? 'alert' : 'status'}
      className={`border-l-4 pl-4 py-2 max-w-3xl ${tone === 'closing' ? 'border-error' : 'border-base-300'}`}
    >
      <p className="text-xl font-medium">{title}</p>
      {children && <div className="mt-1 text-lg opacity-85">{children}</div>}
    </div>
  );
}

export function Loading({ what }: { readonly what: string }) {
  return (
    <p role="status" className="text-lg opacity-75 py-8">
      <span className="loading loading-dots mr-3 align-middle" aria-hidden="true" />
      {what}
    </p>
  );
}
