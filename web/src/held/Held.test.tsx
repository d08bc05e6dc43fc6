// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { bodiesOf, renderFor, stubServer } from '../ui/stubbed';
import { Held } from './Held';

function waiting(order: string, name: string): Schemas['HeldCase'] {
  const line = { system: 'practice-shop', at: '2026-11-21T09:00:00Z' };
  return {
    about: `order ${order}`,
    why: 'GUEST',
    person: `${name.toLowerCase()}@post.example`,
    name,
    since: line.at,
    known: false,
    reports: [
      { ...line, title: `Order ${order} placed`, text: 'First Hive €90.00' },
      { ...line, title: `Order ${order} paid`, text: '' },
    ],
  };
}

function held(cases: Schemas['HeldCase'][]) {
  return stubServer({
    'GET /api/held': () => Response.json({ count: cases.length, cases }),
    'GET /api/held/consequence': () => Response.json([]),
    'POST /api/held/release': () => Response.json({ decided: 1, before: 0 }),
    'POST /api/held/leave-out': () => Response.json({ decided: 1, before: 0 }),
  });
}

describe('what is held', () => {
  it('tells each order once, with what is new in each report', async () => {
    held([waiting('2041', 'Ada')]);
    renderFor(<Held />);
    const row = within(await screen.findByRole('list', { name: 'Held' }));
    expect(row.getByText(/Order 2041 placed: First Hive €90.00 · 21 Nov 2026 · paid/)).toBeInTheDocument();
  });

  it('is let in for those who were picked, and for nobody else', async () => {
    const asked = held([waiting('2041', 'Ada'), waiting('2042', 'Ben'), waiting('2043', 'Cleo')]);
    renderFor(<Held />);
    const letIn = await screen.findByRole('button', { name: /Let in/ });
    expect(letIn).toBeDisabled();
    const boxes = screen.getAllByRole('checkbox');
    for (const box of [boxes[1], boxes[3]]) if (box !== undefined) await userEvent.click(box);
    await userEvent.click(screen.getByRole('button', { name: /Let .*in/ }));
    await vi.waitFor(() =>
      expect(bodiesOf(asked, '/api/held/release')).toEqual([{ about: ['order 2041', 'order 2043'] }]),
    );
    expect(bodiesOf(asked, '/api/held/leave-out')).toEqual([]);
  });

  it('is left out only by whoever says so twice', async () => {
    const asked = held([waiting('2041', 'Ada'), waiting('2042', 'Ben')]);
    renderFor(<Held />);
    await userEvent.click(await screen.findByRole('checkbox', { name: '0 of 2' }));
    await userEvent.click(screen.getByRole('button', { name: 'Leave out …' }));
    expect(screen.getByRole('status')).toHaveTextContent('These 2 never become facts');
    expect(bodiesOf(asked, '/api/held/leave-out')).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Leave out 2' }));
    await vi.waitFor(() =>
      expect(bodiesOf(asked, '/api/held/leave-out')).toEqual([{ about: ['order 2041', 'order 2042'] }]),
    );
  });

  it('is only looked at by those who may not decide', async () => {
    held([waiting('2041', 'Ada')]);
    renderFor(<Held />, 'READER');
    expect(await screen.findByText('ada@post.example', { exact: false })).toBeInTheDocument();
    expect(screen.queryByRole('checkbox')).not.toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /Let in/ })).not.toBeInTheDocument();
  });

  it('says so where nothing is', async () => {
    held([]);
    renderFor(<Held />);
    expect(await screen.findByText('Nothing is held.')).toBeInTheDocument();
  });
});
