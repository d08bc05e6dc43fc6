export interface Somebody {
  key: string;
  name: string;
  /** Whether Yoru knows them already. */
  known: boolean;
}

const ADDRESS = /^[^\s@]+@[^\s@.]+(\.[^\s@.]+)+$/;

/** Whoever has this address and is not known yet; none where it is no address. */
export function somebodyNew(address: string): Somebody | undefined {
  return ADDRESS.test(address) ? { key: address.toLowerCase(), name: '', known: false } : undefined;
}
