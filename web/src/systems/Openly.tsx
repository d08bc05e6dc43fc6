import type { ComponentProps } from 'react';
import { problemOf } from '../api/client';
import { Check, Checkbox } from '../ui/kit';

/** Whether somebody has to be asked: the server has said so, or letters go through a server that may not encrypt. */
export function asksOpenly(address: string, error: unknown): boolean {
  return address.trim().startsWith('smtp:') || (error !== null && problemOf(error).openly === true);
}

/** What goes out unencrypted goes out only because somebody has said that it may. */
export function Openly(ticked: ComponentProps<typeof Checkbox>) {
  return (
    <Check>
      <Checkbox {...ticked} />
      what goes there may be read on its way: it need not be encrypted
    </Check>
  );
}
