import { all, type Things } from '../mapping/things';
import type { Draft } from '../mapping/draft';
import type { Followup, Sold, Target } from './model';

/** A follow-up to start from, and the things that it needs and that are not there yet. */
export interface ReadyMade {
  title: string;
  words: string;
  make: () => { followup: Omit<Followup, 'id'>; tags: { id: string; title: string }[] };
}

/** What a new school can start from, with what it sells and opens already put in where it can be known. */
export function readyMade(things: Things, draft: Draft): ReadyMade[] {
  const products = all(things, draft, 'product') as { id: string; categories?: string[] }[];
  const category = mostOf(products.flatMap((product) => product.categories ?? []));
  const sold: Sold = category === undefined ? {} : { categories: [category] };
  const courses = all(things, draft, 'course') as { id: string; categories?: string[] }[];
  const ofCourses = [...new Set(courses.flatMap((course) => course.categories ?? []))];
  const anyCourse: Target[] = ofCourses.map((one) => ({ category: one }));
  const level = all(things, draft, 'level')[0]?.id;
  const area = all(things, draft, 'area')[0]?.id;
  const member: Target[] = level === undefined ? [] : [{ level }];
  return [
    {
      title: 'First course',
      words: 'Who buys a course for the first time is marked and welcomed.',
      make: () => ({
        tags: [{ id: 'first-timer', title: 'First timer' }],
        followup: {
          title: 'First course',
          when: { paid: sold },
          once: 'person',
          only: [{ bought: { of: sold, atMost: 0 } }],
          steps: [
            { give: { to: [{ tag: 'first-timer' }], length: 'P1Y' } },
            {
              write: {
                subject: 'Welcome, {{person.name}}',
                text: 'Hello {{person.name}},\n\ngood that you are here. This is where everything is: {{signIn}}\n\nWrite to us whenever you are stuck.',
              },
            },
          ],
        },
      }),
    },
    {
      title: 'It is open',
      words: 'The letter that says what has opened, in your own words; it takes the place of the usual one.',
      make: () => ({
        tags: [],
        followup: {
          title: 'It is open',
          when: { opened: anyCourse },
          once: 'always',
          steps: [
            {
              write: {
                subject: '{{thing.title}} is open for you',
                text: 'Hello {{person.name}},\n\n**{{thing.title}}** is open for you now. Here is the way in: {{signIn}}\n\nSign in as {{person.address}}.',
              },
            },
          ],
        },
      }),
    },
    {
      title: 'Welcome back',
      words: 'A member who comes back after a time is not greeted as if they were new.',
      make: () => ({
        tags: [],
        followup: {
          title: 'Welcome back',
          when: { opened: member },
          once: 'always',
          // it is open at this moment, so nobody can be asked whether they had it: the field remembers
          steps: [
            {
              if: [{ field: { name: 'membership', is: 'began' } }],
              then: [
                {
                  write: {
                    subject: 'Welcome back, {{person.name}}',
                    text: 'Hello {{person.name}},\n\nyou are a member again. All that was yours is there as you left it: {{signIn}}',
                  },
                },
              ],
              otherwise: [{ set: { field: 'membership', value: 'began' } }],
            },
          ],
        },
      }),
    },
    {
      title: 'Community area of a course',
      words: 'Members get the area at once; others are marked, and invited now and then.',
      make: () => ({
        tags: [{ id: 'could-join', title: 'Could join' }],
        followup: {
          title: 'Community area of a course',
          when: { paid: sold },
          each: 'line',
          steps: [
            {
              if: [{ has: member }],
              then: [
                { give: { to: area === undefined ? [] : [{ area }] } },
                { take: { from: [{ tag: 'could-join' }] } },
              ],
              otherwise: [
                { give: { to: [{ tag: 'could-join' }] } },
                { wait: 'P5D' },
                {
                  write: {
                    subject: 'You could join us',
                    text: 'Hello {{person.name}},\n\nwith {{thing.title}} comes a place in our community, if you want it.',
                  },
                },
              ],
            },
          ],
        },
      }),
    },
    {
      title: 'Before it ends',
      words: 'Two weeks before a course ends, whoever has it hears of it.',
      make: () => ({
        tags: [],
        followup: {
          title: 'Before it ends',
          when: { ending: { of: anyCourse, before: 'P14D' } },
          steps: [
            {
              write: {
                subject: '{{thing.title}} is yours until {{until}}',
                text: 'Hello {{person.name}},\n\n{{thing.title}} ends on {{until}}. Until then: {{signIn}}',
              },
            },
          ],
        },
      }),
    },
    {
      title: 'After a refund',
      words: 'What a purchase put on is taken off, and the refund is marked.',
      make: () => ({
        tags: [{ id: 'refunded', title: 'Refunded' }],
        followup: {
          title: 'After a refund',
          when: { refunded: {} },
          once: 'order',
          steps: [
            { give: { to: [{ tag: 'refunded' }] } },
            { tell: { text: '{{person.name}} was paid back (order {{order}})' } },
          ],
        },
      }),
    },
    {
      title: 'Finished',
      words: 'Who finishes a course is congratulated, with a discount code of their own for the next.',
      make: () => ({
        tags: [],
        followup: {
          title: 'Finished',
          when: { completed: courses.slice(0, 1).map((course) => course.id) },
          steps: [
            {
              write: {
                subject: 'You have finished {{thing.title}}',
                text: 'Hello {{person.name}},\n\nwell done. For your next course, this takes something off: **{{code}}**',
                code: { percent: 15, expires: 'P60D', uses: 1 },
              },
            },
          ],
        },
      }),
    },
    {
      title: 'A large sale',
      words: 'The team hears of a sale above an amount.',
      make: () => ({
        tags: [],
        followup: {
          title: 'A large sale',
          when: { paid: {} },
          once: 'order',
          only: [{ amount: { atLeast: '300.00' } }],
          steps: [{ tell: { text: '{{person.name}} paid for order {{order}}' } }],
        },
      }),
    },
    {
      title: 'Empty',
      words: 'To be said part by part.',
      make: () => ({
        tags: [],
        followup: {
          title: 'New follow-up',
          when: { paid: sold },
          steps: [{ tell: { text: '{{person.name}} paid for order {{order}}' } }],
        },
      }),
    },
  ];
}

function mostOf(words: string[]): string | undefined {
  const many = new Map<string, number>();
  for (const word of words) many.set(word, (many.get(word) ?? 0) + 1);
  return [...many].toSorted(([, one], [, other]) => other - one)[0]?.[0];
}
