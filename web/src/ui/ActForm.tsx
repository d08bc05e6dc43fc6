import type { ComponentProps, KeyboardEvent, ReactNode } from 'react';
import { Button } from './Button';

interface Props extends Omit<ComponentProps<'form'>, 'onSubmit' | 'onKeyDown'> {
  onConfirm: () => void;
}

/** A form that does something which others notice: Enter in a field never confirms it, Ctrl and Enter do. */
export function ActForm({ onConfirm, ...rest }: Props) {
  const onKeyDown = (event: KeyboardEvent<HTMLFormElement>) => {
    if (event.key !== 'Enter') return;
    if (event.ctrlKey || event.metaKey) {
      event.preventDefault();
      event.currentTarget.requestSubmit();
    } else if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) {
      event.preventDefault();
    }
  };
  return (
    // the keys are heard for whatever field inside has the focus
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onConfirm();
      }}
      onKeyDown={onKeyDown}
      {...rest}
    />
  );
}

/** The button that confirms an act, with the keys that do the same. */
export function ConfirmButton({ disabled, children }: { disabled: boolean; children: ReactNode }) {
  return (
    <Button kind="main" type="submit" disabled={disabled} aria-keyshortcuts="Control+Enter">
      {children}
      <kbd
        className="hidden rounded-[3px] border border-current/50 px-1 font-code text-[0.62rem] font-normal sm:inline"
        aria-hidden="true"
      >
        Ctrl ↵
      </kbd>
    </Button>
  );
}
