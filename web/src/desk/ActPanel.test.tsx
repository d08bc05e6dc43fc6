// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { bodiesOf, problem, renderFor, stubServer, type Asked } from '../ui/stubbed';
import { ActPanel } from './ActPanel';
import type { Sheet } from './useAct';

type Change = Schemas['ShownChange'];

function consequence(changes: Change[], more: Partial<Schemas['ActConsequence']> = {}) {
  return Response.json({
    refusals: [],
    nothing: [],
    seatsGone: 0,
    people: [{ key: 'ada@post.example', name: 'Ada', isNew: false, changes }],
    ...more,
  });
}

const OPENS: Change = {
  kind: 'GAINS',
  now: true,
  target: 'course/first-hive',
  title: 'First Hive',
  sort: 'course',
  renews: false,
};

/** A form with one line; empty = it is not filled in. */
function Ending({ onDone }: { onDone: () => void }) {
  const [thing, setThing] = useState('');
  const sheet: Sheet | undefined =
    thing === '' ? undefined : { kind: 'ADD_TAG', person: 'ada@post.example', thing };
  return (
    <ActPanel title="A tag" confirm="Put it on" sheet={sheet} onDone={onDone} onCancel={onDone}>
      <input aria-label="Which" value={thing} onChange={(event) => setThing(event.target.value)} />
    </ActPanel>
  );
}

const confirm = () => screen.getByRole<HTMLButtonElement>('button', { name: /Put it on|Doing it/ });
const keysOf = (asked: Asked[]) =>
  bodiesOf(asked, '/api/desk/acts').map((body) => (body as { key: string }).key);

describe('an act in the margin', () => {
  const onDone = vi.fn();
  beforeEach(() => onDone.mockReset());

  it('says what would follow of what was typed last, and only then can be confirmed', async () => {
    const asked = stubServer({ 'POST /api/desk/consequence': () => consequence([OPENS]) });
    renderFor(<Ending onDone={onDone} />);
    expect(confirm()).toBeDisabled();
    expect(screen.getByText('Fill this in, and it is said here.')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Which'), 'keeper');
    expect(confirm()).toBeDisabled();
    expect(await screen.findByText('First Hive')).toBeInTheDocument();
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    const sheets = bodiesOf(asked, '/api/desk/consequence') as Sheet[];
    expect(sheets.at(-1)?.thing).toBe('keeper');
    expect(sheets.length, 'not for every letter').toBeLessThan('keeper'.length);
    await userEvent.type(screen.getByLabelText('Which'), 's');
    expect(confirm(), 'what is shown is not about this any more').toBeDisabled();
    expect(bodiesOf(asked, '/api/desk/acts'), 'nothing is done before').toEqual([]);
  });

  it('is done once by two clicks, and again only as another act', async () => {
    let answer: (response: Response) => void = () => undefined;
    const asked = stubServer({
      'POST /api/desk/consequence': () => consequence([OPENS]),
      'POST /api/desk/acts': () => new Promise<Response>((resolve) => (answer = resolve)),
    });
    renderFor(<Ending onDone={onDone} />);
    await userEvent.type(screen.getByLabelText('Which'), 'keeper');
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    await userEvent.dblClick(confirm());
    answer(Response.json({ again: false }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    await userEvent.click(confirm());
    expect(keysOf(asked), 'the same is not done a second time').toHaveLength(1);
    await userEvent.type(screen.getByLabelText('Which'), '2');
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    await userEvent.click(confirm());
    await vi.waitFor(() => expect(new Set(keysOf(asked)).size).toBe(2));
  });

  it('is tried again under the same key where the answer was lost, and keeps what was typed', async () => {
    let lost = true;
    const asked = stubServer({
      'POST /api/desk/consequence': () => consequence([OPENS]),
      'POST /api/desk/acts': () => {
        if (lost) throw new TypeError('Failed to fetch');
        return Response.json({ again: true });
      },
    });
    renderFor(<Ending onDone={onDone} />);
    await userEvent.type(screen.getByLabelText('Which'), 'keeper');
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    await userEvent.click(confirm());
    expect(await screen.findByRole('alert')).toHaveTextContent('does not answer');
    expect(screen.getByLabelText('Which')).toHaveValue('keeper');
    expect(onDone).not.toHaveBeenCalled();
    lost = false;
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    await userEvent.click(confirm());
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    const [first, second] = keysOf(asked);
    expect(second).toBe(first);
  });

  it('says every reason why it cannot be done, and cannot be confirmed', async () => {
    stubServer({
      'POST /api/desk/consequence': () =>
        consequence([], {
          refusals: [
            { field: 'thing', problem: 'There is no such tag.' },
            { field: '', problem: 'They are being erased.' },
          ],
        }),
    });
    renderFor(<Ending onDone={onDone} />);
    await userEvent.type(screen.getByLabelText('Which'), 'x');
    expect(await screen.findByText('There is no such tag.')).toBeInTheDocument();
    expect(screen.getByText('They are being erased.')).toBeInTheDocument();
    expect(screen.queryByText('Nothing opens or closes')).not.toBeInTheDocument();
    expect(confirm()).toBeDisabled();
  });

  it('is refused by the server with its reason', async () => {
    stubServer({
      'POST /api/desk/consequence': () => consequence([OPENS]),
      'POST /api/desk/acts': () => problem(409, 'This was done already', 'Something else was done so.'),
    });
    renderFor(<Ending onDone={onDone} />);
    await userEvent.type(screen.getByLabelText('Which'), 'keeper');
    await vi.waitFor(() => expect(confirm()).toBeEnabled());
    await userEvent.click(confirm());
    expect(await screen.findByRole('alert')).toHaveTextContent('Something else was done so.');
    expect(onDone).not.toHaveBeenCalled();
  });
});
