/** A few figures in large type, each with what it is and a word more: label, value, more. */
export function Facts({
  facts,
  className,
}: {
  readonly facts: readonly (readonly [string, string, string])[];
  readonly className: string;
}) {
  return (
    <dl className={`grid gap-y-4 ${className}`}>
      {facts.map(([label, value, more]) => (
        <div key={label}>
          <dt className="opacity-80">{label}</dt>
          <dd className="text-3xl clock font-medium">{value}</dd>
          <dd className="text-base opacity-80">{more}</dd>
        </div>
      ))}
    </dl>
  );
}
