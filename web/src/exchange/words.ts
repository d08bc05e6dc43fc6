import type { Schemas } from '../api/client';

export type ImportKind = Schemas['ShownImport']['kind'];

const CSV = 'text/csv,.csv';

export const KINDS: { kind: ImportKind; title: string; text: string; accept: string }[] = [
  { kind: 'PEOPLE', title: 'People', text: 'addresses and names; nothing opens', accept: CSV },
  {
    kind: 'ORDERS',
    title: 'Orders of the past',
    text: 'a row for each line; they open what the mapping says, from when they were placed',
    accept: CSV,
  },
  {
    kind: 'MEMBERSHIPS',
    title: 'Memberships',
    text: 'who had which level from when to when',
    accept: CSV,
  },
  {
    kind: 'ENROLMENTS',
    title: 'Enrolments',
    text: 'who was let into which course; CSV, or a roster as OneRoster 1.1 CSV in a ZIP',
    accept: `${CSV},.zip,application/zip`,
  },
];

export const STATES: Record<Schemas['ShownImport']['state'], string> = {
  MATCHING: 'its columns are being matched',
  RUNNING: 'going on',
  DONE: 'done',
  STOPPED: 'stopped',
};
