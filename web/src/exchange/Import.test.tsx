// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { bodiesOf, renderFor, stubServer, type Asked } from '../ui/stubbed';
import { Import } from './Import';

type Shown = Schemas['ShownImport'];

const TABLE: Shown = {
  id: 7,
  kind: 'ENROLMENTS',
  name: 'past.csv',
  columns: ['Mail', 'Class', 'Since'],
  sample: [
    ['ada@post.example', 'First Hive', '2025-03-01'],
    ['ben@post.example', 'Winter Care', ''],
  ],
  fields: [
    { field: 'PERSON', title: 'person, address', required: true },
    { field: 'COURSE', title: 'course, id or name', required: true },
    { field: 'FROM', title: 'from', required: true },
  ],
  matching: { columns: { PERSON: 'Mail', COURSE: 'Class' }, dates: 'ISO' },
  state: 'MATCHING',
  madeAt: '2026-11-24T12:00:00Z',
  madeBy: 'Signe Holm',
  total: 2,
  left: 2,
  taken: 0,
  known: 0,
  faulty: 0,
};

/** Whether a column says from when decides what comes of it. */
function preview(asked: Asked): Response {
  const columns = (asked.body as Schemas['ImportMatching']).columns;
  const complete = columns.FROM !== undefined;
  return Response.json({
    missing: complete ? [] : ['FROM'],
    entries: 2,
    taken: complete ? 1 : 0,
    known: 0,
    faulty: complete ? 1 : 0,
    rows: complete
      ? [
          { row: 3, person: 'ben@post.example', fate: 'FAULTY', said: 'does not say from when' },
          { row: 2, person: 'ada@post.example', fate: 'NEW', said: '' },
        ]
      : [],
  } satisfies Schemas['ImportPreview']);
}

function table(shown: Partial<Shown> = {}) {
  const asked = stubServer({
    'GET /api/imports/7': () => Response.json({ ...TABLE, ...shown }),
    'PUT /api/imports/7/matching': preview,
    'POST /api/imports/7/start': () => Response.json({ ...TABLE, state: 'RUNNING' }),
    'POST /api/imports/7/stop': () => Response.json({ ...TABLE, state: 'STOPPED' }),
  });
  renderFor(<Import id={7} onClose={vi.fn()} />);
  return asked;
}

describe('a table of the past', () => {
  it('cannot be brought in before what is needed has a column, then says the fate of each row', async () => {
    const asked = table();
    expect(await screen.findByText(/needed are not matched yet/)).toBeInTheDocument();
    expect(screen.getByRole('button', { name: /Bring/ })).toBeDisabled();
    await userEvent.selectOptions(screen.getByLabelText('Column of: from'), 'Since');
    const row = (text: string) =>
      within(screen.getByText(text, { selector: 'td' }).closest('tr') as HTMLElement);
    expect(await screen.findByText(/1 not taken because/)).toBeInTheDocument();
    expect(row('ben@post.example').getByText('is not taken: does not say from when')).toBeInTheDocument();
    expect(row('ada@post.example').getByText('is brought in')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Bring 1 row in' }));
    await vi.waitFor(() => expect(asked.some((one) => one.path.endsWith('/start'))).toBe(true));
    expect(bodiesOf(asked, '/api/imports/7/matching').at(-1)).toEqual({
      columns: { PERSON: 'Mail', COURSE: 'Class', FROM: 'Since' },
      dates: 'ISO',
    });
  });

  it('shows what stands in a column beside what it is taken for', async () => {
    table();
    const course = (await screen.findByLabelText('Column of: course, id or name')).closest('tr');
    expect(course).toHaveTextContent('First Hive · Winter Care');
    expect(screen.getByLabelText('Column of: from').closest('tr')).not.toHaveTextContent('2025');
  });

  it('is stopped and goes on, and has its faulty rows as a file', async () => {
    const asked = table({ state: 'RUNNING', left: 1, taken: 0, faulty: 1 });
    expect(await screen.findByText(/: 1 of 2 rows/)).toHaveTextContent('going on');
    expect(screen.getByRole('link', { name: '1 row to mend' })).toHaveAttribute(
      'href',
      '/api/imports/7/faulty.csv',
    );
    expect(screen.queryByRole('button', { name: 'Throw the table away' })).not.toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Stop it here' }));
    await vi.waitFor(() => expect(asked.some((one) => one.path.endsWith('/stop'))).toBe(true));
  });
});
