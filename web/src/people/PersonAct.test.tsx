// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { bodiesOf, renderFor, stubServer } from '../ui/stubbed';
import { PersonAct, type PersonDeed } from './PersonAct';

const ADA = {
  id: 4,
  key: 'Member-77',
  name: 'Ada Byron',
  joinedInto: { id: 5, key: 'ada@post.example', name: 'Ada B.' },
} as unknown as Schemas['PersonShown'];

function about(deed: PersonDeed) {
  const asked = stubServer({
    'POST /api/desk/consequence': () =>
      Response.json({
        refusals: [],
        doubts: [],
        nothing: [],
        seatsGone: 0,
        people: [],
      } satisfies Schemas['ActConsequence']),
    'POST /api/desk/acts': () => Response.json({ again: false } satisfies Schemas['Done']),
  });
  const onEnd = vi.fn();
  renderFor(<PersonAct person={ADA} deed={deed} onEnd={onEnd} />);
  return { asked, onEnd };
}

async function confirmed(name: string): Promise<void> {
  const button = screen.getByRole<HTMLButtonElement>('button', { name });
  await vi.waitFor(() => expect(button).toBeEnabled());
  await userEvent.click(button);
}

describe('an act about a person', () => {
  it('erases only whom one writes out', async () => {
    const { asked, onEnd } = about({ kind: 'ERASE' });
    const line = screen.getByLabelText('Write Member-77');
    await userEvent.type(line, 'member-7');
    expect(screen.getByRole('button', { name: 'Erase for good' })).toBeDisabled();
    expect(bodiesOf(asked, '/api/desk/consequence')).toEqual([]);
    await userEvent.type(line, '7 ');
    await confirmed('Erase for good');
    await vi.waitFor(() => expect(onEnd).toHaveBeenCalledOnce());
    expect(bodiesOf(asked, '/api/desk/acts')).toMatchObject([
      { act: { kind: 'ERASE', person: 'Member-77' } },
    ]);
  });

  it('parts from the one they were joined with', async () => {
    const { asked } = about({ kind: 'PART' });
    expect(screen.getByRole('heading', { name: 'Part from Ada B.' })).toBeInTheDocument();
    await confirmed('Part them');
    await vi.waitFor(() =>
      expect(bodiesOf(asked, '/api/desk/acts')).toMatchObject([
        { act: { kind: 'PART', person: 'Member-77' } },
      ]),
    );
  });

  it.each([
    ['level/keeper', { kind: 'END_LEVEL', thing: 'keeper' }],
    ['tag/bees/friend', { kind: 'REMOVE_TAG', thing: 'bees/friend' }],
  ] as const)('takes back what a system told: %s', async (id, act) => {
    const { asked } = about({ kind: 'END_OUTSIDE', id, title: 'it' });
    await confirmed('Take it back');
    await vi.waitFor(() => expect(bodiesOf(asked, '/api/desk/acts')).toMatchObject([{ act }]));
  });

  it('is left by whoever leaves it, and nothing is done', async () => {
    const { asked, onEnd } = about({ kind: 'END_GRANT', id: 'g-1', title: 'First Hive' });
    await userEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(onEnd).toHaveBeenCalledOnce();
    expect(bodiesOf(asked, '/api/desk/acts')).toEqual([]);
  });
});
