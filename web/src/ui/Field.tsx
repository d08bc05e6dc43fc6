import { useId, type ComponentProps, type ReactNode } from 'react';
import { useFault } from './faults';
import { Input } from './inputs';

interface FrameProps {
  label: string;
  hint?: ReactNode;
  /** What is wrong with what is in it. */
  fault?: string | undefined;
  className?: string | undefined;
  /** The field itself, which takes what ties it to its label and its words. */
  children: (tied: { id: string; 'aria-describedby'?: string; 'aria-invalid'?: true }) => ReactNode;
}

/** Something to fill in, with its label above it, and below it what is to be known or what is wrong. */
export function FieldFrame({ label, hint, fault, className = '', children }: FrameProps) {
  const id = useId();
  const said = [fault !== undefined && `${id}-fault`, hint !== undefined && `${id}-hint`].filter(Boolean);
  return (
    <div className={`flex w-full flex-col gap-1 ${className}`}>
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      {children({
        id,
        ...(said.length > 0 && { 'aria-describedby': said.join(' ') }),
        ...(fault !== undefined && { 'aria-invalid': true as const }),
      })}
      {fault !== undefined && (
        <p id={`${id}-fault`} role="alert" className="text-[0.9rem] text-error">
          {fault}
        </p>
      )}
      {hint !== undefined && (
        <div id={`${id}-hint`} className="text-[0.9rem] text-soft">
          {hint}
        </div>
      )}
    </div>
  );
}

interface Props extends Omit<ComponentProps<'input'>, 'className' | 'autoFocus'> {
  label: string;
  hint?: ReactNode;
  fault?: string | undefined;
  onValue?: (value: string) => void;
  /** Where typing begins. */
  first?: boolean;
}

/** A labelled line to type into. */
export function Field({
  label,
  hint,
  fault: ownFault,
  onValue,
  onChange,
  first = false,
  autoComplete = 'off',
  ...rest
}: Props) {
  const fault = useFault(rest.name) ?? ownFault;
  return (
    <FieldFrame label={label} hint={hint} fault={fault}>
      {(tied) => (
        <Input
          className="w-full"
          autoComplete={autoComplete}
          onChange={(event) => {
            onValue?.(event.target.value);
            return onChange?.(event);
          }}
          {...(first && { autoFocus: true })}
          {...rest}
          {...tied}
        />
      )}
    </FieldFrame>
  );
}
