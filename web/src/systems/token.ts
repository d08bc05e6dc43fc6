import type { Kind } from './words';

/** What lets Yoru into a system of this kind: of a token what is pasted around it is taken off, a password is whatever was typed. */
export function credential(kind: Kind, typed: string): string {
  return kind === 'MAILBOX' ? typed : bare(typed);
}

/** A token as it is pasted, often with what stood around it: "Bearer abc", "'abc'". */
export function bare(pasted: string): string {
  const without = pasted
    .trim()
    .replace(/^(authorization:\s*)?bearer\s+/i, '')
    .replace(/^(["'“”‘’`<])(.*)(["'“”‘’`>])$/s, '$2')
    .trim();
  // the one may stand inside the other
  return without === pasted ? without : bare(without);
}
