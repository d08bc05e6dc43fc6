import type { ComponentProps } from 'react';
import { box, joined } from './box';

const LINE = 'border-edge text-[0.95rem] aria-invalid:border-error';

export const Input = box(
  'input',
  `input ${LINE} read-only:border-dashed read-only:text-soft placeholder:text-soft placeholder:opacity-100`,
);

/** As wide as its longest choice, unless it is told otherwise. */
export function Select({ className = 'w-auto', ...rest }: ComponentProps<'select'>) {
  return <select className={joined(`select max-w-full ${LINE}`, className)} {...rest} />;
}

export const TextArea = box(
  'textarea',
  `textarea w-full ${LINE} placeholder:text-soft placeholder:opacity-100`,
);

/** A box to tick, or one of several to choose. */
export function Checkbox({ className, ...rest }: Omit<ComponentProps<'input'>, 'type'>) {
  return (
    <input type="checkbox" className={joined('checkbox checkbox-sm border-edge', className)} {...rest} />
  );
}

export function Radio({ className, ...rest }: Omit<ComponentProps<'input'>, 'type'>) {
  return <input type="radio" className={joined('radio radio-sm border-edge', className)} {...rest} />;
}

/** A tick or a choice with its words. */
export const Check = box(
  'label',
  'flex min-h-[26px] cursor-pointer flex-wrap items-center gap-2 has-[>input[type=checkbox]]:flex-nowrap',
);
