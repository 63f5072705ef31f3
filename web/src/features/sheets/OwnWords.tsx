import type { Kitchen } from '@kestfog/core/wire';
import { useKeepKitchen } from '../../api/queries.js';
import { useKeptForm } from '../../ui/use-kept-form.js';

interface Props {
  readonly what: string;
  readonly field: 'bakedOf' | 'taxLine';
  readonly most: number;
  readonly kitchen: Kitchen;
}
/** Words of the kitchen's own that stand on a sheet: kept for every order as soon as the field is left. */
export function OwnWords({ what, field, most, kitchen }: Props) {
  const keep = useKeepKitchen();
  const { form } = useKeptForm({ name: `kitchen.${field}`, begin: () => ({ text: kitchen[field] }) });
  return (
    <label className="grid gap-1">
      <span className="text-lg">{what}</span>
      <textarea
        className="textarea w-full"
        maxLength={most}
        {...form.register('text', {
          onBlur: () => {
            const text = form.getValues('text').trim();
            if (text !== kitchen[field]) keep.mutate({ [field]: text });
          },
        })}
      />
      {keep.isError && (
        <span role="alert" className="text-error font-medium">
          {keep.error.message}
        </span>
      )}
    </label>
  );
}
