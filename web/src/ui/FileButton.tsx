import { buttonLook } from './Button';

interface Props {
  label: string;
  accept: string;
  disabled: boolean;
  onFile: (file: File) => unknown;
}

/** A button that asks for a file. */
export function FileButton({ label, accept, disabled, onFile }: Props) {
  return (
    <label className={buttonLook({ small: true })}>
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        disabled={disabled}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file !== undefined) onFile(file);
        }}
      />
    </label>
  );
}
