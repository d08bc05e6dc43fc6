import type { useMay } from '../session/may';

type May = ReturnType<typeof useMay>;

export interface Section {
  to:
    | '/today'
    | '/mapping'
    | '/followups'
    | '/rehearse'
    | '/orders'
    | '/people'
    | '/systems'
    | '/journal'
    | '/exchange'
    | '/policies'
    | '/school'
    | '/team';
  words: string;
  /** Who sees it; without it, everybody. */
  may?: keyof May;
  /** Pages that belong to it, under addresses of their own. */
  with?: string[];
}

/** In the order of the work. */
export const SECTIONS: Section[] = [
  { to: '/today', words: 'Today', with: ['/held'] },
  { to: '/mapping', words: 'Mapping', may: 'setUp' },
  { to: '/followups', words: 'Follow-ups' },
  { to: '/orders', words: 'Orders', with: ['/quotes'] },
  { to: '/people', words: 'People' },
  { to: '/rehearse', words: 'Rehearse', may: 'setUp' },
  { to: '/systems', words: 'Systems', may: 'setUp' },
  { to: '/journal', words: 'Journal' },
];

/** What is seldom needed. */
export const ASIDE: Section[] = [
  { to: '/exchange', words: 'In and out' },
  { to: '/policies', words: 'Policies', may: 'setUp' },
  { to: '/team', words: 'Team', may: 'decideWho', with: ['/school'] },
];

/** What stands beside one of those, and not in the band. */
export const BEHIND: Section[] = [{ to: '/school', words: 'School', may: 'decideWho' }];

export function seen(sections: Section[], may: May): Section[] {
  return sections.filter((section) => section.may === undefined || may[section.may]);
}
