import { useEffect, useId, useRef, type ReactNode } from 'react';

interface Props {
  label: string;
  type?: 'text' | 'email' | 'password' | 'number';
  autoComplete?: string;
  value: string;
  onChange: (value: string) => void;
  hint?: ReactNode;
  placeholder?: string;
  required?: boolean;
  maxLength?: number;
  /** Where typing begins. */
  first?: boolean;
}

/** A labelled line to type into. */
export function Field({
  label,
  type = 'text',
  autoComplete = 'off',
  value,
  onChange,
  hint,
  placeholder,
  required = false,
  maxLength,
  first = false,
}: Props) {
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
        required={required}
        placeholder={placeholder}
        maxLength={maxLength}
        autoComplete={autoComplete}
        value={value}
        aria-describedby={hint === undefined ? undefined : `${id}-hint`}
        onChange={(event) => onChange(event.target.value)}
      />
      {hint !== undefined && (
        <div id={`${id}-hint`} className="soft">
          {hint}
        </div>
      )}
    </div>
  );
}
