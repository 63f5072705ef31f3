interface Props {
  readonly label: string;
  /** kinds of files, as an input of type file takes them */
  readonly accept: string;
  readonly className?: string;
  readonly onFile: (file: File) => void;
}

export const PICTURES = 'image/png,image/jpeg,image/webp';
export const DRAWINGS = '.svg,image/svg+xml';

/** A button that asks for a file; the same one may be chosen again. */
export function FileButton({ label, accept, className = '', onFile }: Props) {
  return (
    <label className={`btn cursor-pointer ${className}`}>
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </label>
  );
}
