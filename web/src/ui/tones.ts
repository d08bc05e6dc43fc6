/** What a colour means. It never stands alone: a word says the same. */
export type Tone = 'good' | 'bad' | 'warn' | 'soft' | 'lamp' | 'violet';

/** Of text. */
export const INK: Record<Tone, string> = {
  good: 'text-success',
  bad: 'text-error',
  warn: 'text-warning',
  lamp: 'text-warning',
  soft: 'text-soft',
  violet: 'text-secondary',
};

/** Of text that may have no tone. */
export function ink(tone: Tone | undefined): string {
  return tone === undefined ? '' : INK[tone];
}

/** Of a dot or a bar. */
export const DOT: Record<Tone, string> = {
  good: 'bg-success',
  bad: 'bg-error',
  warn: 'bg-warning',
  lamp: 'bg-lamp',
  soft: 'bg-[#aaa79c]',
  violet: 'bg-secondary',
};

/** Of a ground with text on it. */
export const GROUND: Record<Tone, string> = {
  good: 'bg-always text-always-ink',
  bad: 'bg-removed text-removed-ink',
  warn: 'bg-period text-period-ink',
  lamp: 'bg-period text-period-ink',
  soft: 'bg-gone text-gone-ink',
  violet: 'bg-held text-[#1d1e3a]',
};
