import { useEffect, useId, useRef } from 'react';

interface Props {
  label: string;
  type: 'text' | 'email' | 'password';
  autoComplete: string;
  value: string;
  onChange: (value: string) => void;
  hint?: string;
  /** Where typing begins. */
  first?: boolean;
}

export function Field({ label, type, autoComplete, value, onChange, hint, first = false }: Props) {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (first) input.current?.focus();
  }, [first]);
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <input
        ref={input}
        id={id}
        className="input"
        type={type}
        required
        autoComplete={autoComplete}
        value={value}
        aria-describedby={hint === undefined ? undefined : `${id}-hint`}
        onChange={(event) => onChange(event.target.value)}
      />
      {hint !== undefined && (
        <p id={`${id}-hint`} className="soft">
          {hint}
        </p>
      )}
    </div>
  );
}
