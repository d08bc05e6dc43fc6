import type { ComponentProps, ReactElement } from 'react';
import { Focusable, Tooltip, TooltipTrigger } from 'react-aria-components';

interface Props {
  words: string;
  /** Something that can have the focus: whoever uses keys reads the words then. */
  children: ReactElement<ComponentProps<'button'>, string>;
}

/** Words about a control that has no room for them, while the pointer rests on it or it has the focus. */
export function Hint({ words, children }: Props) {
  return (
    <TooltipTrigger delay={500}>
      <Focusable>{children}</Focusable>
      <Tooltip
        offset={6}
        className="max-w-80 rounded-field bg-night px-2.5 py-1.5 text-[0.86rem] text-white shadow-lg wrap-anywhere"
      >
        {words}
      </Tooltip>
    </TooltipTrigger>
  );
}
