// @vitest-environment jsdom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { NO_DRAFT } from '../mapping/draft';
import type { Things } from '../mapping/things';
import type { Followup } from './model';
import { RowsTable } from './RowsTable';
import { Sentence } from './Sentence';
import { namesIn } from './words';

afterEach(() => {
  cleanup();
  changed.mockClear();
});

const THINGS = {
  school: { zone: 'Europe/Dublin', currency: 'EUR' },
  courses: [{ id: 'first-hive', title: 'First Hive', categories: ['Starter'] }],
  products: [
    { id: 'FIRST', title: 'First Hive', categories: ['Courses'] },
    { id: 'HONEY', title: 'Honey Harvest', categories: ['Courses'] },
    { id: 'WINTER', title: 'Winter Care', categories: ['Courses'] },
  ],
  levels: [{ id: 'keeper', title: 'Keeper' }],
  tags: [{ id: 'new', title: 'New here' }],
} as unknown as Things;

const KNOWN = {
  things: THINGS,
  draft: NO_DRAFT,
  names: namesIn(THINGS, NO_DRAFT),
  systems: [],
  lacking: { codes: false, fields: false, letters: false },
  columns: [],
};

const FIRST: Followup = {
  id: 'first',
  title: 'First course',
  when: { paid: { categories: ['Courses'] } },
  steps: [
    {
      if: [{ has: { level: 'keeper' } }],
      then: [{ give: { to: [{ tag: 'new' }] } }],
      otherwise: [{ wait: 'P5D' }],
    },
    { tell: { text: 'done' } },
  ],
};

const changed = vi.fn<(followup: Followup) => void>();

/** As it was changed last. */
function now(): Followup {
  return changed.mock.lastCall?.[0] ?? FIRST;
}

function Editing({ rows = false, followup = FIRST }: { rows?: boolean; followup?: Followup }) {
  const [held, setHeld] = useState(followup);
  const props = {
    followup: held,
    known: KNOWN,
    mayChange: true,
    onChange: (next: Followup) => {
      changed(next);
      setHeld(next);
    },
  };
  return rows ? <RowsTable {...props} /> : <Sentence {...props} />;
}

describe('the sentence', () => {
  it('reads as one, with branches that join again', () => {
    render(<Editing />);
    const whole = screen.getByLabelText('What it does').textContent;
    expect(whole).toContain('When somebody has paid for any of Courses, for the whole order, once per order');
    expect(whole).toContain('if they have the level Keeper');
    expect(whole).toContain('give the tag New here');
    expect(whole).toContain('wait 5 days');
    expect(whole).toContain('in both cases the team is told “done”');
  });

  it('is edited where it stands, and Escape leads back to the part', async () => {
    const user = userEvent.setup();
    render(<Editing />);
    await user.click(screen.getByRole('button', { name: /^How often/ }));
    await user.click(screen.getByLabelText('the first time only'));
    expect(now().once).toBe('person');
    await user.keyboard('{Escape}');
    expect(screen.getByRole('button', { name: /^How often/ })).toHaveFocus();
    expect(screen.queryByLabelText('the first time only')).toBeNull();
    await user.click(screen.getByRole('button', { name: /^How often/ }));
    await user.click(screen.getByLabelText('once per order'));
    expect(now().once).toBeUndefined(); // as it is usually: nothing is written down
  });

  it('asks for a condition, and turns it round', async () => {
    const user = userEvent.setup();
    render(<Editing />);
    await user.click(screen.getByRole('button', { name: /^For whom/ }));
    await user.click(screen.getByRole('button', { name: 'Add a condition' }));
    await user.selectOptions(screen.getByLabelText('What is asked'), 'bought');
    expect(now().only).toEqual([{ bought: { of: {}, atMost: 0 } }]);
    await user.selectOptions(screen.getByLabelText('Whether'), 'not');
    expect(now().only).toEqual([{ not: { bought: { of: {}, atMost: 0 } } }]);
    await user.click(screen.getByRole('button', { name: 'Take this out' }));
    expect(now().only).toBeUndefined();
  });

  it('takes another step by its key, and puts placeholders in where one types', async () => {
    const user = userEvent.setup();
    render(<Editing />);
    await user.keyboard('a');
    const [add] = screen.getAllByLabelText('Add a step').filter((one) => one === document.activeElement);
    expect(add).toBeDefined();
    await user.selectOptions(add as HTMLElement, 'tell');
    expect(now().steps).toHaveLength(3);
    const text = screen.getByLabelText('Text');
    await user.clear(text);
    await user.type(text, 'Look: ');
    await user.click(screen.getByRole('button', { name: 'their name' }));
    expect(now().steps[2]).toEqual({ tell: { text: 'Look: {{person.name}}' } });
  });
});

describe('one for many', () => {
  const MANY: Followup = {
    ...FIRST,
    each: 'line',
    steps: [{ tell: { text: '{{row.who}} in {{row.area}}' } }],
    rows: [{ for: { product: 'FIRST' }, values: { who: 'Ann', area: 'hall' } }],
  };

  it('is pasted from a spreadsheet, by name', async () => {
    const user = userEvent.setup();
    render(<Editing rows followup={MANY} />);
    screen.getByRole('rowheader', { name: 'First Hive' }).focus();
    await user.paste('First Hive\tBrona\thall\nHoney Harvest\tBrona\thall\nWinter Care\tCian\nGhost\tx\ty\n');
    expect(now().rows).toEqual([
      { for: { product: 'FIRST' }, values: { who: 'Brona', area: 'hall' } },
      { for: { product: 'HONEY' }, values: { who: 'Brona', area: 'hall' } },
      { for: { product: 'WINTER' }, values: { who: 'Cian', area: '' } },
    ]);
    expect(screen.getByRole('status')).toHaveTextContent('Not found, and left out: Ghost.');
    expect(screen.getByText(/3 rows · 1 lacks a value · one differs/)).toBeVisible();
    expect(screen.getByLabelText('area of Winter Care')).toHaveValue('');
  });

  it('is filled down', async () => {
    const user = userEvent.setup();
    const two = {
      ...MANY,
      rows: [...(MANY.rows ?? []), { for: { product: 'HONEY' }, values: { who: '', area: '' } }],
    };
    render(<Editing rows followup={two} />);
    const table = within(screen.getByLabelText('One for many'));
    await user.click(table.getByLabelText('area of First Hive'));
    await user.keyboard('{Control>}d{/Control}');
    expect(now().rows?.[1]?.values).toEqual({ who: '', area: 'hall' });
  });

  it('needs lines where it waits for an order', () => {
    render(<Editing rows />);
    expect(screen.getByText(/have it run for each line of an order/)).toBeVisible();
  });
});
