import { UNSTABLE_ToastQueue as ToastQueue } from 'react-aria-components';

/** What was done and has left no trace on the screen where it was done. */
export const said = new ToastQueue<string>({ maxVisibleToasts: 3 });

const LONG_ENOUGH_TO_READ_MS = 6_000;

/** Says in passing that something is done. What went wrong is never said so: that stays where it happened. */
export function say(words: string): void {
  said.add(words, { timeout: LONG_ENOUGH_TO_READ_MS });
}
