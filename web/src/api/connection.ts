import { useSyncExternalStore } from 'react';

/** Whether the server answers, and whether it still knows who is signed in; `unproved` = they are to prove that it is them. */
export type Standing = 'well' | 'lost' | 'signed-out' | 'unproved';

let standing: Standing = 'well';
const listeners = new Set<() => void>();

function become(next: Standing) {
  if (next !== standing) {
    standing = next;
    listeners.forEach((listener) => listener());
  }
}

export const connection = {
  answered() {
    if (standing === 'lost') become('well');
  },
  lost() {
    if (standing === 'well') become('lost');
  },
  sessionEnded() {
    become('signed-out');
  },
  proofWanted() {
    if (standing === 'well') become('unproved');
  },
  signedIn() {
    become('well');
  },
};

export function useConnection(): Standing {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => standing,
  );
}
