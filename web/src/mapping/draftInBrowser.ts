import * as z from 'zod';
import { forget, keep as keepIn, readKept } from '../ui/kept';
import { isEmpty, NO_DRAFT, type Draft } from './draft';

/** A draft as this browser has it. */
export interface InBrowser {
  draft: Draft;
  /** Of the draft on the server that it was made from. */
  revision: number;
  /** Whether the server does not have it yet. */
  ahead: boolean;
}

/** What is kept of a draft: the way back is not. */
export type Written = Pick<Draft, 'base' | 'changes' | 'things' | 'document'>;

export function written({ base, changes, things, document }: Draft): Written {
  return { base, changes, things, document };
}

const CHANGES = z.record(z.string(), z.object({ to: z.unknown(), was: z.unknown() }));

const WRITTEN = z.object({
  base: z.number(),
  changes: CHANGES,
  things: CHANGES,
  document: z.string().optional(),
});

const KEPT = WRITTEN.extend({ revision: z.number().optional(), ahead: z.boolean().optional() });

/** What was written down somewhere, by whatever; terms and things are looked over by the server. */
export function readDraft(found: unknown): Draft {
  const read = WRITTEN.safeParse(found);
  return read.success ? { ...NO_DRAFT, ...(read.data as Partial<Draft>) } : NO_DRAFT;
}

export function readInBrowser(place: string): InBrowser {
  const found = readKept(place, KEPT);
  if (found === undefined) return { draft: NO_DRAFT, revision: 0, ahead: false };
  const { revision = 0, ahead = true, ...draft } = found;
  return { draft: readDraft(draft), revision, ahead };
}

export function keepInBrowser(place: string, { draft, revision, ahead }: InBrowser) {
  if (isEmpty(draft) && !ahead && revision === 0) forget(place);
  else keepIn(place, { ...written(draft), revision, ahead });
}

/** Whether two drafts say the same, whatever the way to them was. */
export function isSameDraft(one: Draft, other: Draft): boolean {
  if (isEmpty(one) && isEmpty(other)) return true;
  return JSON.stringify(written(one)) === JSON.stringify(written(other));
}

/**
 * What is to be done about the draft here and the one on the server: `save` it there, `take` what is there, or `ask`, where
 * both were changed.
 */
export function meeting(
  here: InBrowser,
  there: { revision: number; draft: Draft },
): 'none' | 'save' | 'take' | 'ask' {
  if (isSameDraft(here.draft, there.draft))
    return here.revision === there.revision && !here.ahead ? 'none' : 'take';
  if (!here.ahead) return 'take';
  return here.revision === there.revision || isEmpty(there.draft) ? 'save' : 'ask';
}
