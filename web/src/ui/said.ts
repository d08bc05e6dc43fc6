const LONG_ENOUGH_TO_READ_MS = 6_000;

/** Says in passing that something is done. What went wrong is never said so: that stays where it happened. */
export function say(words: string): void {
  // fetched with what shows it, which is seldom on the first screen
  void import('./Toasts').then(({ said }) => said.add(words, { timeout: LONG_ENOUGH_TO_READ_MS }));
}
