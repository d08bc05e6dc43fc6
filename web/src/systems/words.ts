import type { Schemas } from '../api/client';
import { counted } from '../ui/words';

export type Kind = Schemas['KindShown']['kind'];
export type Ability = Schemas['GapShown']['ability'];
export type SystemShown = Schemas['SystemShown'];

export const KIND_NAMES = [
  'SHOP',
  'CLASSROOM',
  'COMMUNITY',
  'CONTACTS',
  'MAILBOX',
  'LISTENER',
  'FOLDER',
] as const satisfies Kind[];

/** What a system of the kind is, and what it is for. */
export const KINDS: Record<Kind, { name: string; does: string; address: string; placeholder: string }> = {
  SHOP: {
    name: 'Shop',
    does: 'sells, and reports what happened there as signed events',
    address: 'Its address, or any page of it',
    placeholder: 'shop.example.org',
  },
  CLASSROOM: {
    name: 'Classroom',
    does: 'teaches, and is told who may be in which course',
    address: 'Its address, or any page of it',
    placeholder: 'learn.example.org',
  },
  COMMUNITY: {
    name: 'Community',
    does: 'has groups and areas, and is told who is in them, over SCIM 2.0',
    address: 'Where its SCIM interface begins',
    placeholder: 'community.example.org/scim/v2',
  },
  CONTACTS: {
    name: 'Contacts',
    does: 'keeps tags and lists of people; what is changed there is reported back',
    address: 'Its address, or any page of it',
    placeholder: 'contacts.example.org',
  },
  MAILBOX: {
    name: 'Mailbox',
    does: 'carries letters to people, over SMTP, and may report who leaves a list',
    address: 'Its mail server',
    placeholder: 'smtp.example.org:587',
  },
  LISTENER: {
    name: 'Listener',
    does: 'is told what Yoru did and learnt, as signed events',
    address: 'Where events are sent, the whole address',
    placeholder: 'https://example.org/events',
  },
  FOLDER: {
    name: 'Folder',
    does: 'gets CSV files, for a system that has no interface',
    address: "The folder's name",
    placeholder: 'old-classroom',
  },
};

export const ABILITIES: Record<Ability, string> = {
  ACCOUNTS: 'accounts',
  ENROLMENT: 'courses',
  SECTIONS: 'sections of courses',
  GROUPS: 'groups',
  AREAS: 'areas',
  DOWNLOADS: 'downloads',
  LISTS: 'lists',
  TAGS: 'tags',
  FIELDS: 'fields',
  MESSAGES: 'letters',
  CATALOGUE: 'shows its catalogue',
  LISTING: 'tells who has what',
  EVENTS: 'events',
  CODES: 'makes discount codes',
  DOORS: 'says at its doors what it is told',
  AFTER: 'says after buying what it is told',
  CHARGING: 'methods of payment on file',
};

export const STATES: Record<SystemShown['state'], string> = {
  OFF: 'off',
  TRYING: 'being tried',
  ON: 'on',
};

export const DIFFERENCES = ['EXTRA', 'MISSING', 'DIFFERENT'] as const;
export type DifferenceKind = (typeof DIFFERENCES)[number];

export function outOfStep(system: SystemShown): number {
  return DIFFERENCES.reduce((sum, kind) => sum + (system.outOfStep[kind]?.many ?? 0), 0);
}

type Tone = 'good' | 'bad' | 'warn' | 'soft';

/** How a system is, in a word or two, and whether that is good. */
export function standing(
  system: Pick<SystemShown, 'state' | 'failing' | 'waiting' | 'catalogueFault'>,
  differences: number,
): [Tone, string] {
  if (system.state === 'OFF') return ['soft', 'off'];
  if (system.failing > 0) return ['bad', `${system.failing} not answered`];
  if (system.catalogueFault !== undefined) return ['bad', 'does not answer'];
  if (system.state === 'TRYING') return ['warn', 'being tried'];
  if (differences > 0) return ['warn', `${differences} out of step`];
  if (system.waiting > 0) return ['soft', `${system.waiting} on the way`];
  return ['good', 'well'];
}

const LISTED = {
  PRODUCT: ['product', 'products'],
  COURSE: ['course', 'courses'],
  GROUP: ['group', 'groups'],
  AREA: ['area', 'areas'],
  DOWNLOAD: ['download', 'downloads'],
  LIST: ['list', 'lists'],
  TAG: ['tag', 'tags'],
} as const;

export type Lists = Partial<Record<keyof typeof LISTED, number>>;

/** "18 courses, 5 downloads": what there is in a system. */
export function listed(lists: Lists): string {
  return Object.entries(LISTED)
    .map(([kind, [one, many]]) => [lists[kind as keyof typeof LISTED] ?? 0, one, many] as const)
    .filter(([count]) => count > 0)
    .map(([count, one, many]) => counted(count, one, many))
    .join(', ');
}
