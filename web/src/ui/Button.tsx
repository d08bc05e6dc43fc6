import type { ComponentProps } from 'react';
import { joined } from './box';

interface Look {
  /** `main` is what the screen is for, at most one of them; `grave` takes something away. */
  kind?: 'plain' | 'main' | 'grave' | undefined;
  small?: boolean | undefined;
}

const KINDS = {
  plain: 'border-base-content/28 bg-base-100 hover:bg-base-200',
  main: 'btn-primary',
  grave: 'btn-error',
};

/** The look of a button, for a link that leads on like one. */
export function buttonLook({ kind = 'plain', small = false }: Look = {}): string {
  const size = small ? 'btn-sm text-[0.86rem]' : 'text-[0.93rem]';
  return `btn whitespace-nowrap no-underline disabled:border-line disabled:bg-base-200 disabled:text-soft ${size} ${KINDS[kind]}`;
}

/** In a form one that does something of its own does not send it. */
function typeOf({ onClick }: ComponentProps<'button'>): 'button' | 'submit' {
  return onClick === undefined ? 'submit' : 'button';
}

export function Button({ kind, small, className, ...rest }: Look & ComponentProps<'button'>) {
  return <button type={typeOf(rest)} className={joined(buttonLook({ kind, small }), className)} {...rest} />;
}

const LINKED =
  'link font-medium underline-offset-2 disabled:cursor-default disabled:text-soft disabled:no-underline';

/** An act inside a sentence or a row. */
export function TextButton({ className, ...rest }: ComponentProps<'button'>) {
  return <button type={typeOf(rest)} className={joined(LINKED, className)} {...rest} />;
}
