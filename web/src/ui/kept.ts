import type { ZodType } from 'zod';

/** What this browser keeps under a key, if it is still what it should be. */
export function readKept<T>(key: string, shape: ZodType<T>): T | undefined {
  const text = localStorage.getItem(key);
  if (text === null) return undefined;
  try {
    return shape.safeParse(JSON.parse(text)).data;
  } catch {
    return undefined; // written by something else
  }
}

export function keep(key: string, value: unknown) {
  localStorage.setItem(key, JSON.stringify(value));
}

export function forget(key: string) {
  localStorage.removeItem(key);
}
